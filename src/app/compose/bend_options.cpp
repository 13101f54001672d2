#include "app/compose/bend_options.h"

#include "app/figures/layer_section.h"
#include "app/hands/bend_hand.h"
#include "app/widgets/form_rows.h"

#include <QHBoxLayout>

namespace glyptos {
namespace {

/// A field behind its label, both in `all`.
void addField(QLayout* row, const QString& text, NumberField* field, int width, std::vector<QWidget*>& all) {
    field->setFixedWidth(width);
    auto* label = new FieldLabel(text, field);
    row->addWidget(label);
    row->addWidget(field);
    all.insert(all.end(), {label, field});
}

} // namespace

BendOptions::BendOptions(ComposeBench& bench, QWidget* parent)
    : QWidget(parent)
    , bench_(bench) {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(6);
    row->addWidget(by_ = new QComboBox);
    by_->setAccessibleName(tr("Bend by"));
    by_->addItems({tr("its corners, in perspective"), tr("points of a grid")});
    connect(by_, &QComboBox::activated, this,
            [this](int i) { set([=](BendSettings& s) { s.by = static_cast<BendBy>(i); }); });
    makeGrid(row);
    makeTilt(row);
    QToolButton* straighten = wordButton(tr("Straighten"), tr("Takes tilt and bend off the layer in hand"));
    row->addWidget(straighten);
    connect(straighten, &QToolButton::clicked, this, [this] { hand().straighten(); });
    connect(&bench_, &ComposeBench::handChanged, this, &BendOptions::refresh);
    refresh();
}

BendHand& BendOptions::hand() const {
    return static_cast<BendHand&>(bench_.handOf(Hand::Bend));
}

void BendOptions::makeGrid(QLayout* row) {
    const FieldUnit cells{{}, 0, 1, 1, kMostBendCells};
    columns_ = new NumberField(tr("Columns"), cells);
    rows_ = new NumberField(tr("Rows"), cells);
    connect(columns_, &NumberField::edited, this,
            [this](double v) { hand().setCells(int(v), hand().rows()); });
    connect(rows_, &NumberField::edited, this,
            [this](double v) { hand().setCells(hand().columns(), int(v)); });
    addField(row, tr("columns"), columns_, 40, ofGrid_);
    addField(row, tr("rows"), rows_, 40, ofGrid_);
    row->addWidget(ready_ = new QComboBox);
    ready_->setAccessibleName(tr("Ready bend"));
    ready_->addItems({tr("an arc"), tr("a wave"), tr("a bulge"), tr("a flag"), tr("a fish-eye")});
    ready_->setToolTip(tr("Bends the layer in hand so; its points can be dragged on from there"));
    amount_ = new NumberField(tr("How much of the ready bend"), {QStringLiteral("%"), 0, 5, -100, 100});
    const auto bend = [this](bool settled) {
        hand().bendReady(static_cast<ReadyBend>(ready_->currentIndex()), bench_.settings().bend.amount,
                         settled);
    };
    connect(ready_, &QComboBox::activated, this, [bend](int) { bend(true); });
    connect(amount_, &NumberField::edited, this, [this, bend](double v, bool settled) {
        set([=](BendSettings& s) { s.amount = v / 100; });
        bend(settled);
    });
    ofGrid_.push_back(ready_);
    addField(row, tr("by"), amount_, 56, ofGrid_);
}

void BendOptions::makeTilt(QLayout* row) {
    around_ = new NumberField(tr("Turned to the side"), {QStringLiteral("°"), 0, 5, -89, 89});
    over_ = new NumberField(tr("Laid back"), {QStringLiteral("°"), 0, 5, -89, 89});
    eye_ = new NumberField(tr("Distance of the eye, in its widths"), {QStringLiteral("×"), 1, 0.1, 0.3, 100});
    const auto tilt = [this](double BendSettings::*figure, double v, bool settled) {
        set([=](BendSettings& s) { s.*figure = v; });
        hand().tiltByAngles(settled);
    };
    connect(around_, &NumberField::edited, this,
            [tilt](double v, bool settled) { tilt(&BendSettings::around, v, settled); });
    connect(over_, &NumberField::edited, this,
            [tilt](double v, bool settled) { tilt(&BendSettings::over, v, settled); });
    connect(eye_, &NumberField::edited, this,
            [tilt](double v, bool settled) { tilt(&BendSettings::eye, v, settled); });
    addField(row, tr("to the side"), around_, 52, ofCorners_);
    addField(row, tr("laid back"), over_, 52, ofCorners_);
    addField(row, tr("eye at"), eye_, 52, ofCorners_);
}

void BendOptions::set(const std::function<void(BendSettings&)>& change) {
    HandSettings next = bench_.settings();
    change(next.bend);
    bench_.setSettings(next);
}

void BendOptions::refresh() {
    if (!bench_.panel()) return;
    const BendSettings& s = bench_.settings().bend;
    by_->setCurrentIndex(int(s.by));
    for (QWidget* w : ofGrid_) w->setVisible(s.by == BendBy::Grid);
    for (QWidget* w : ofCorners_) w->setVisible(s.by == BendBy::Corners);
    columns_->setValue(hand().columns());
    rows_->setValue(hand().rows());
    amount_->setValue(s.amount * 100);
    around_->setValue(s.around);
    over_->setValue(s.over);
    eye_->setValue(s.eye);
}

} // namespace glyptos
