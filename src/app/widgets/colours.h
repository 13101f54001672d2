// Between colours of the release and those of the window.
#pragma once

#include "color/color.h"

#include <QColor>
#include <QImage>

namespace glyptos {

inline QColor toQt(const Rgba& c) {
    return QColor::fromRgbF(c.r, c.g, c.b, c.a);
}
inline Rgba fromQt(const QColor& c) {
    return {c.redF(), c.greenF(), c.blueF(), c.alphaF()};
}

/// The mean light of what of an area lies in an image; see-through pixels count as much as they cover.
QColor meanColour(const QImage& image, const QRect& area);

} // namespace glyptos
