#include "app/hands/pick_options.h"

#include "app/widgets/colours.h"
#include "app/widgets/form_rows.h"
#include "color/colour_words.h"
#include "release/edits/palette_edits.h"

#include <QHBoxLayout>
#include <array>

namespace glyptos {
namespace {

constexpr std::array kSides{1, 5, 15, 41};

} // namespace

PickOptions::PickOptions(ComposeBench& bench, QWidget* parent)
    : QWidget(parent)
    , bench_(bench) {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(8);
    row->addWidget(roleLabel(tr("It averages"), "soft"));
    row->addWidget(side_ = new QComboBox);
    side_->setAccessibleName(tr("Averaged over"));
    for (const int side : kSides)
        side_->addItem(side == 1 ? tr("one pixel") : tr("%1 × %1 pixels").arg(side));
    connect(side_, &QComboBox::activated, this, [this](int i) { bench_.setSampleSide(kSides[size_t(i)]); });
    row->addWidget(keep_ = wordButton(tr("Keep it in the palette"),
                                      tr("Puts the picked colour into the release's palette")));
    keep_->setEnabled(false);
    connect(keep_, &QToolButton::clicked, this, &PickOptions::keep);
    connect(&bench_, &ComposeBench::colourPicked, this, [this](const QColor& colour) {
        picked_ = colour;
        keep_->setEnabled(true);
    });
}

void PickOptions::keep() {
    const Rgba colour = fromQt(picked_);
    bench_.document()->edit(tr("%1 into the palette").arg(picked_.name()),
                            withSwatches(bench_.document()->release(), {{nameOf(colour), colour}}));
}

} // namespace glyptos
