#include "app/widgets/colours.h"

#include "base/srgb_curve.h"
#include "color/oklab.h"

namespace glyptos {
QColor meanColour(const QImage& image, const QRect& area) {
    const QRect inside = area.intersected(image.rect());
    double r = 0, g = 0, b = 0, a = 0;
    for (int y = inside.top(); y <= inside.bottom(); ++y)
        for (int x = inside.left(); x <= inside.right(); ++x) {
            const Rgba c = fromQt(image.pixelColor(x, y));
            r += double(linearFromEncoded(c.r) * c.a), g += double(linearFromEncoded(c.g) * c.a);
            b += double(linearFromEncoded(c.b) * c.a), a += double(c.a);
        }
    if (a <= 0) return inside.isEmpty() ? QColor() : QColor(0, 0, 0, 0);
    const double n = inside.width() * inside.height();
    return QColor::fromRgbF(float(encodedSrgb(r / a)), float(encodedSrgb(g / a)), float(encodedSrgb(b / a)),
                            float(a / n));
}

} // namespace glyptos
