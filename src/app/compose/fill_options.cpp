#include "app/compose/fill_options.h"

#include "app/figures/layer_section.h"
#include "app/hands/fill_hand.h"
#include "app/widgets/form_rows.h"

#include <QHBoxLayout>
#include <QMenu>

namespace glyptos {

FillOptions::FillOptions(ComposeBench& bench, QWidget* parent)
    : QWidget(parent)
    , bench_(bench) {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(6);
    row->addWidget(what_ = new QComboBox);
    what_->setAccessibleName(tr("Fill by"));
    what_->addItems({tr("runs of colour"), tr("areas between lines")});
    connect(what_, &QComboBox::activated, this,
            [this](int i) { set([=](FillSettings& s) { s.between = i == 1; }); });
    row->addWidget(colour_ = new ColourButton(tr("Colour of the areas")));
    colour_->setFixedWidth(34);
    connect(colour_, &ColourButton::chosen, this,
            [this](const Ink& ink) { set([=](FillSettings& s) { s.paint = ink; }); });
    auto* inside = new QWidget;
    auto* column = new QVBoxLayout(inside);
    column->addWidget(paint_ = new PaintEditor(tr("Paint of the areas")));
    inside->setFixedWidth(300);
    QToolButton* more =
        opening(tr("Paint ▾"), tr("A colour, a gradient, a pattern: what areas are filled with"), inside);
    connect(more->menu(), &QMenu::aboutToShow, this, [this] {
        if (bench_.panel())
            paint_->show(bench_.settings().fill.paint, bench_.panel()->withBleed(),
                         lengthUnitOf(bench_.document()->piece().get()), *bench_.document()->release());
    });
    connect(paint_, &PaintEditor::edited, this,
            [this](const Paint& paint) { set([&](FillSettings& s) { s.paint = paint; }); });
    row->addWidget(more);
    gap_ = new NumberField(tr("Gaps that are closed"));
    gap_->setToolTip(tr("Gaps in the lines up to that width do not let a fill through"));
    speck_ = new NumberField(tr("Specks that are no lines"));
    tolerance_ = new NumberField(tr("Faintest line"), {QStringLiteral("%"), 0, 5, 1, 99});
    tolerance_->setToolTip(tr("How far from the ground's colour a line begins"));
    connect(gap_, &NumberField::edited, this, [this](double v) { set([=](FillSettings& s) { s.gap = v; }); });
    connect(speck_, &NumberField::edited, this,
            [this](double v) { set([=](FillSettings& s) { s.speck = v; }); });
    connect(tolerance_, &NumberField::edited, this,
            [this](double v) { set([=](FillSettings& s) { s.tolerance = v / 100; }); });
    ofAreas_ = {colour_, more};
    for (const auto& [text, field] :
         {std::pair{tr("gaps"), gap_}, {tr("specks"), speck_}, {tr("faintest"), tolerance_}}) {
        field->setFixedWidth(58);
        auto* label = new FieldLabel(text, field);
        row->addWidget(label);
        row->addWidget(field);
        ofAreas_.insert(ofAreas_.end(), {label, field});
    }
    QToolButton* lift =
        wordButton(tr("Lift the paper"), tr("Leaves the lines of the scan in hand, on a layer of their own"));
    connect(lift, &QToolButton::clicked, this, [this] { hand().areas().liftPaper(); });
    row->addWidget(lift);
    ofAreas_.push_back(lift);
    connect(&bench_, &ComposeBench::handChanged, this, &FillOptions::refresh);
    refresh();
}

FillHand& FillOptions::hand() const {
    return static_cast<FillHand&>(bench_.handOf(Hand::Fill));
}

void FillOptions::set(const std::function<void(FillSettings&)>& change) {
    HandSettings next = bench_.settings();
    change(next.fill);
    bench_.setSettings(next);
}

void FillOptions::refresh() {
    if (!bench_.panel()) return;
    const FillSettings& s = bench_.settings().fill;
    what_->setCurrentIndex(s.between ? 1 : 0);
    for (QWidget* widget : ofAreas_) widget->setVisible(s.between);
    if (const auto* ink = std::get_if<Ink>(&s.paint))
        colour_->setColour(*ink, bench_.document()->release()->palette);
    FieldUnit unit = lengthUnitOf(bench_.document()->piece().get());
    unit.least = 0;
    gap_->setUnit(unit), speck_->setUnit(unit);
    gap_->setValue(hand().areas().gapPx() * bench_.paintPixel());
    speck_->setValue(hand().areas().speckPx() * bench_.paintPixel());
    tolerance_->setValue(s.tolerance * 100);
}

} // namespace glyptos
