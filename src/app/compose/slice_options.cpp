#include "app/compose/slice_options.h"

#include "app/figures/layer_section.h"
#include "app/widgets/form_rows.h"

#include <QHBoxLayout>

namespace glyptos {

SliceOptions::SliceOptions(ComposeBench& bench, QWidget* parent)
    : QWidget(parent)
    , bench_(bench) {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(6);
    row->addWidget(drawn_ = new QComboBox);
    drawn_->setAccessibleName(tr("Lines to cut along"));
    drawn_->addItems({tr("straight lines"), tr("lines drawn freely")});
    connect(drawn_, &QComboBox::activated, this,
            [this](int i) { set([=](SliceSettings& s) { s.drawn = i == 1; }); });
    gap_ = new NumberField(tr("Gap between the slices"));
    shade_ = new NumberField(tr("Shade along the cuts"), {QStringLiteral("%"), 0, 5, 0, 100});
    width_ = new NumberField(tr("Width of the shade"));
    connect(gap_, &NumberField::edited, this,
            [this](double v) { set([=](SliceSettings& s) { s.gap = v; }); });
    connect(shade_, &NumberField::edited, this,
            [this](double v) { set([=](SliceSettings& s) { s.shade = v / 100; }); });
    connect(width_, &NumberField::edited, this,
            [this](double v) { set([=](SliceSettings& s) { s.shadeWidth = v; }); });
    for (const auto& [text, field] :
         {std::pair{tr("gap"), gap_}, {tr("shade"), shade_}, {tr("shade's width"), width_}}) {
        field->setFixedWidth(68);
        row->addWidget(new FieldLabel(text, field));
        row->addWidget(field);
    }
    QToolButton* slice = wordButton(tr("Slice"), tr("Cuts the layer in hand along the lines (Enter)"));
    row->addWidget(slice);
    connect(slice, &QToolButton::clicked, this, &SliceOptions::sliceAsked);
    connect(&bench_, &ComposeBench::handChanged, this, &SliceOptions::refresh);
    refresh();
}

void SliceOptions::set(const std::function<void(SliceSettings&)>& change) {
    HandSettings next = bench_.settings();
    change(next.slice);
    bench_.setSettings(next);
}

void SliceOptions::refresh() {
    if (!bench_.panel()) return;
    FieldUnit unit = lengthUnitOf(bench_.document()->piece().get());
    const SliceStyle style = bench_.sliceStyle();
    drawn_->setCurrentIndex(bench_.settings().slice.drawn ? 1 : 0);
    constexpr double kThinnest = 0.001; // a shade of no width is none
    unit.least = 0;
    gap_->setUnit(unit);
    unit.least = kThinnest;
    width_->setUnit(unit);
    gap_->setValue(style.gap);
    shade_->setValue(style.shade * 100);
    width_->setValue(style.shadeWidth);
}

} // namespace glyptos
