#include "app/widgets/brush_figures.h"

#include "app/widgets/form_rows.h"

#include <QHBoxLayout>

namespace glyptos {
namespace {

/// How a figure is shown: its unit, and how many of that make 1.
std::pair<FieldUnit, double> unitOf(const BrushFigure& figure) {
    const auto shown = [&](const QString& suffix, int decimals, double step, double by) {
        return std::pair{FieldUnit{suffix, decimals, step, figure.least * by, figure.most * by}, by};
    };
    if (figure.most == 1 || figure.value == &Brush::sizeAtEnd) return shown(QStringLiteral("%"), 0, 5, 100);
    if (figure.most == 180 || figure.most == 360) return shown(QStringLiteral("°"), 0, 5, 1);
    if (figure.value == &Brush::buildUp) return shown(BrushFigures::tr("/s"), 0, 5, 1);
    if (figure.value == &Brush::seed) return shown(QString(), 0, 1, 1);
    return shown(QStringLiteral("×"), 2, 0.1, 1); // times the diameter
}

} // namespace

BrushFigures::BrushFigures(bool ofLine, QWidget* parent)
    : QWidget(parent) {
    auto* columns = new QHBoxLayout(this);
    columns->setContentsMargins(ofLine ? 0 : 12, ofLine ? 0 : 10, ofLine ? 0 : 12, ofLine ? 0 : 10);
    columns->setSpacing(18);
    const auto column = [&] {
        auto* form = figuresForm();
        columns->addLayout(form);
        return form;
    };
    auto* first = column();
    first->addRow(tr("Tip"), tip_ = new QComboBox);
    tip_->setAccessibleName(tr("Tip of the brush"));
    tip_->addItems({tr("round"), tr("flat"), tr("grain"), tr("spatter"), tr("dry"), tr("ink"), tr("stamp")});
    connect(tip_, &QComboBox::activated, this, [this](int i) {
        brush_.tip = static_cast<TipKind>(i);
        Q_EMIT edited(brush_, true);
    });
    if (!ofLine) {
        first->addRow(tr("Blend"), blend_ = new QComboBox);
        blend_->setAccessibleName(tr("Blend of the brush"));
        for (const BlendModeInfo& mode : kBlendModes)
            blend_->addItem(QString::fromUtf8(mode.label.data(), qsizetype(mode.label.size())));
        connect(blend_, &QComboBox::activated, this, [this](int i) {
            brush_.blend = static_cast<BlendMode>(i);
            Q_EMIT edited(brush_, true);
        });
    }
    addFigures(first, {{&Brush::hardness, tr("Hardness")},
                       {&Brush::opacity, tr("Opacity")},
                       {&Brush::flow, tr("Flow")},
                       {&Brush::spacing, tr("Spacing")},
                       {&Brush::roundness, tr("Roundness")},
                       {&Brush::turn, tr("Turn")}});
    addFlags(first, {{&Brush::follows, tr("leans with the way")},
                     {&Brush::tinted, tr("stamps in its colour")},
                     {&Brush::byChance, tr("stamps by chance")}});
    auto* second = ofLine ? first : column();
    addFigures(second, {{&Brush::spread, tr("Spread")},
                        {&Brush::sizeJitter, tr("Size varies")},
                        {&Brush::turnJitter, tr("Turn varies")},
                        {&Brush::placeJitter, tr("Place varies")},
                        {&Brush::opacityJitter, tr("Opacity varies")},
                        {&Brush::hueJitter, tr("Hue varies")},
                        {&Brush::lightJitter, tr("Light varies")},
                        {&Brush::taperIn, tr("Taper in")},
                        {&Brush::taperOut, tr("Taper out")},
                        {&Brush::sizeAtEnd, tr("Size at end")},
                        {&Brush::seed, tr("Chance no.")}});
    if (ofLine) return;
    auto* third = column();
    addFigures(third, {{&Brush::steadying, tr("Steadying")}, {&Brush::buildUp, tr("Build-up")}});
    addFlags(third, {{&Brush::penSize, tr("pen presses size")},
                     {&Brush::penOpacity, tr("pen presses opacity")},
                     {&Brush::penTilt, tr("tip lies as the pen")},
                     {&Brush::penTurn, tr("tip turns with the pen")}});
}

void BrushFigures::addFigures(QFormLayout* form,
                              std::initializer_list<std::pair<double Brush::*, QString>> figures) {
    for (const auto& [value, label] : figures) {
        const auto figure = std::find_if(kBrushFigures.begin(), kBrushFigures.end(),
                                         [which = value](const BrushFigure& f) { return f.value == which; });
        const auto [unit, by] = unitOf(*figure);
        auto* field = new NumberField(label, unit);
        field->setFixedWidth(66);
        connect(field, &NumberField::edited, this, [this, which = value, k = by](double v, bool settled) {
            brush_.*which = v / k;
            Q_EMIT edited(brush_, settled);
        });
        form->addRow(new FieldLabel(label, field), field);
        figures_.push_back({value, field, by});
    }
}

void BrushFigures::addFlags(QFormLayout* form,
                            std::initializer_list<std::pair<bool Brush::*, QString>> flags) {
    for (const auto& [value, label] : flags) {
        auto* box = new QCheckBox(label);
        connect(box, &QCheckBox::clicked, this, [this, which = value](bool on) {
            brush_.*which = on;
            Q_EMIT edited(brush_, true);
        });
        form->addRow(box);
        flags_.emplace_back(value, box);
    }
}

void BrushFigures::setBrush(const Brush& brush) {
    brush_ = brush;
    tip_->setCurrentIndex(int(brush.tip));
    if (blend_) blend_->setCurrentIndex(int(brush.blend));
    for (const Shown& shown : figures_) shown.field->setValue(brush.*shown.value * shown.by);
    for (const auto& [value, box] : flags_) box->setChecked(brush.*value);
}

} // namespace glyptos
