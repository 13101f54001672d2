#include "app/bench/shape_painting.h"

#include "app/bench/dieline_painter.h"

#include <QPainter>

namespace glyptos {
QPainterPath painterPath(const Contour& contour, const Affine& map) {
    QPainterPath out;
    const auto& nodes = contour.nodes;
    if (nodes.empty()) return out;
    out.setFillRule(Qt::WindingFill);
    out.moveTo(toQt(map.map(nodes[0].at)));
    const size_t count = nodes.size() - (contour.closed ? 0 : 1);
    for (size_t i = 0; i < count; ++i) {
        const PathNode &a = nodes[i], &b = nodes[(i + 1) % nodes.size()];
        out.cubicTo(toQt(map.map(a.at + a.after)), toQt(map.map(b.at + b.before)), toQt(map.map(b.at)));
    }
    return out;
}

QPixmap shapePixmap(const ShapeContent& shape, int side, const QColor& colour, double ratio) {
    QPixmap pixmap(int(side * ratio), int(side * ratio));
    pixmap.setDevicePixelRatio(ratio);
    pixmap.fill(Qt::transparent);
    const double k = (side - 2) / std::max({shape.width, shape.height, 1e-9});
    QPainterPath path;
    path.setFillRule(Qt::WindingFill);
    for (const Contour& contour : shape.contours)
        path.addPath(
            painterPath(contour, Affine::translation(side / 2.0, side / 2.0) * Affine::scaling(k, k)));
    QPainter painter(&pixmap);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.fillPath(path, colour);
    return pixmap;
}

} // namespace glyptos
