// Outlines of the release as painter paths.
#pragma once

#include "release/shape.h"

#include <QPainterPath>
#include <QPixmap>

namespace glyptos {

QPainterPath painterPath(const Contour& contour, const Affine& map);
/// The shape's outline, filled with a colour, as large as fits into a square of `side` px.
QPixmap shapePixmap(const ShapeContent& shape, int side, const QColor& colour, double ratio);

} // namespace glyptos
