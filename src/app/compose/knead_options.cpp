#include "app/compose/knead_options.h"

#include "app/figures/layer_section.h"
#include "app/hands/knead_hand.h"
#include "app/widgets/form_rows.h"

#include <QHBoxLayout>

namespace glyptos {

KneadOptions::KneadOptions(ComposeBench& bench, QWidget* parent)
    : QWidget(parent)
    , bench_(bench) {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(6);
    const auto hand = [this] { return static_cast<KneadHand*>(&bench_.handOf(Hand::Knead)); };
    row->addWidget(way_ = new QComboBox);
    way_->setAccessibleName(tr("Knead by"));
    way_->addItems({tr("pushing"), tr("spinning right"), tr("spinning left"), tr("gathering"),
                    tr("spreading"), tr("smoothing"), tr("restoring")});
    connect(way_, &QComboBox::activated, this,
            [this](int i) { set([=](HandSettings& s) { s.knead.way = static_cast<KneadWay>(i); }); });
    size_ = new NumberField(tr("Size of the brush"));
    strength_ = new NumberField(tr("Strength of a stroke"), {QStringLiteral("%"), 0, 5, 1, 100});
    all_ = new NumberField(tr("Strength of all kneading"), {QStringLiteral("%"), 0, 5, 0, 150});
    connect(size_, &NumberField::edited, this,
            [this](double v) { set([=](HandSettings& s) { s.brush.diameter = v; }); });
    connect(strength_, &NumberField::edited, this,
            [this](double v) { set([=](HandSettings& s) { s.knead.strength = v / 100; }); });
    connect(all_, &NumberField::edited, this,
            [hand](double v, bool settled) { hand()->setStrength(v / 100, settled); });
    const auto add = [&](const QString& text, NumberField* field, int width) {
        field->setFixedWidth(width);
        row->addWidget(new FieldLabel(text, field));
        row->addWidget(field);
    };
    add(tr("size"), size_, 68);
    add(tr("strength"), strength_, 56);
    row->addWidget(edges_ = new QComboBox);
    edges_->setAccessibleName(tr("Edges of the layer"));
    edges_->addItems({tr("edges held"), tr("edges let go")});
    connect(edges_, &QComboBox::activated, this,
            [this](int i) { set([=](HandSettings& s) { s.knead.holdEdges = i == 0; }); });
    row->addWidget(pulledIn_ = new QComboBox);
    pulledIn_->setAccessibleName(tr("Behind an edge that was pulled in"));
    pulledIn_->addItems({tr("edge's colour"), tr("mirrored"), tr("nothing")});
    pulledIn_->setToolTip(tr("What is seen behind an edge of the picture that was pulled in"));
    connect(pulledIn_, &QComboBox::activated, this,
            [hand](int i) { hand()->setPulledIn(static_cast<PulledIn>(i)); });
    add(tr("all of it"), all_, 60);
    row->addWidget(unknead_ = wordButton(tr("Unknead"), tr("Takes all kneading off the layer in hand")));
    connect(unknead_, &QToolButton::clicked, this, [hand] { hand()->unknead(); });
    connect(&bench_, &ComposeBench::handChanged, this, &KneadOptions::refresh);
    refresh();
}

void KneadOptions::set(const std::function<void(HandSettings&)>& change) {
    HandSettings next = bench_.settings();
    change(next);
    bench_.setSettings(next);
}

void KneadOptions::refresh() {
    if (!bench_.panel()) return;
    const KneadSettings& knead = bench_.settings().knead;
    way_->setCurrentIndex(int(knead.way));
    edges_->setCurrentIndex(knead.holdEdges ? 0 : 1);
    size_->setUnit(lengthUnitOf(bench_.document()->piece().get()));
    size_->setValue(bench_.tip(1).diameter);
    strength_->setValue(knead.strength * 100);
    const auto field = static_cast<const KneadHand&>(bench_.handOf(Hand::Knead)).field();
    pulledIn_->setVisible(!knead.holdEdges || (field && field->pulledIn != PulledIn::EdgeColour));
    pulledIn_->setEnabled(bool(field)), all_->setEnabled(bool(field)), unknead_->setEnabled(bool(field));
    pulledIn_->setCurrentIndex(field ? int(field->pulledIn) : 0);
    all_->setValue(field ? field->strength * 100 : 100);
}

} // namespace glyptos
