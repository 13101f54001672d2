#include "app/widgets/colours.h"

#include "color/oklab.h"

#include <cmath>

namespace glyptos {
namespace {

double encoded(double linear) {
    return linear <= 0.0031308 ? 12.92 * linear : 1.055 * std::pow(linear, 1 / 2.4) - 0.055;
}

} // namespace

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
    return QColor::fromRgbF(float(encoded(r / a)), float(encoded(g / a)), float(encoded(b / a)),
                            float(a / n));
}

} // namespace glyptos
