// A stroke of a brush, small.
#pragma once

#include "file/brushes.h"
#include "raster/brush/tip_look.h"

#include <QColor>
#include <QImage>

namespace glyptos {

/// Along a bend from left to right, drawn by the brush itself as thick as fits. Outlines among its stamps are
/// drawn; `looks`: what to draw instead, as of pictures; where there are neither, it shows round dots.
QImage brushMiniature(const NamedBrush& brush, QSize px, const QColor& colour,
                      std::vector<StampLook> looks = {});

} // namespace glyptos
