#include "app/shape_choice.h"

#include "app/colours.h"
#include "app/form_rows.h"
#include "app/layer_words.h"
#include "app/theme.h"

#include <QHBoxLayout>

namespace glyptos {
namespace {

enum : int { kArrow = 100 };

} // namespace

ShapeChoice::ShapeChoice(ComposeBench& bench)
    : bench_(bench) {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    kind_ = new QComboBox;
    kind_->setAccessibleName(tr("Shape to draw"));
    for (const ShapeKind kind : {ShapeKind::Rectangle, ShapeKind::Ellipse, ShapeKind::Polygon,
                                 ShapeKind::Star, ShapeKind::Line, ShapeKind::Free}) {
        kind_->addItem(shapeWord(kind), int(kind));
        if (kind == ShapeKind::Line) kind_->addItem(tr("arrow"), kArrow);
    }
    row->addWidget(kind_);
    connect(kind_, &QComboBox::activated, this, &ShapeChoice::choose);
    choose();
}

/// New shapes are of paper with ink lines, which both stand out from most art.
void ShapeChoice::choose() {
    const int chosen = kind_->currentData().toInt();
    ShapeContent shape;
    shape.kind = chosen == kArrow ? ShapeKind::Line : static_cast<ShapeKind>(chosen);
    shape.fill = fromQt(Theme::day().paper);
    if (shape.kind == ShapeKind::Line) {
        const PiecePtr piece = bench_.document() ? bench_.document()->piece() : nullptr;
        shape.fill.reset();
        shape.stroke = StrokeStyle{};
        shape.stroke->paint = fromQt(Theme::day().paper);
        shape.stroke->width = piece && piece->flat->unit == Unit::Mm ? 1 : 12;
        if (chosen == kArrow) shape.stroke->endCap = LineCap::Arrow;
    }
    bench_.setShapeToDraw(shape);
}

} // namespace glyptos
