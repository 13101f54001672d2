// Between colours of the release and those of the window.
#pragma once

#include "color/color.h"

#include <QColor>

namespace glyptos {

inline QColor toQt(const Rgba& c) {
    return QColor::fromRgbF(c.r, c.g, c.b, c.a);
}
inline Rgba fromQt(const QColor& c) {
    return {c.redF(), c.greenF(), c.blueF(), c.alphaF()};
}

} // namespace glyptos
