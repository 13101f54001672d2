#include "app/widgets/brush_miniature.h"

#include "raster/brush/dab_drawing.h"
#include "raster/brush/way_dabs.h"

#include <cmath>

namespace glyptos {
namespace {

/// A pen that presses most in the middle.
std::vector<PenSample> bend(double width, double height) {
    constexpr int kPoints = 60;
    std::vector<PenSample> out;
    for (int i = 0; i <= kPoints; ++i) {
        const double t = double(i) / kPoints;
        out.push_back({{width * (0.1 + 0.8 * t), height * (0.5 - 0.2 * std::sin(2 * std::numbers::pi * t))},
                       0.35 + 0.65 * std::sin(std::numbers::pi * t)});
    }
    return out;
}

} // namespace

QImage brushMiniature(const NamedBrush& named, QSize px, const QColor& colour, std::vector<StampLook> looks) {
    Brush brush = named.brush;
    const double height = px.height();
    // What spreads is drawn smaller, so that all of it is seen.
    const double most = height * 0.62 / (1 + 1.4 * brush.spread);
    brush.diameter = std::clamp(brush.diameter * height / 90, std::min(1.5, most), most);
    brush.opacity = std::max(brush.opacity, 0.6), brush.flow = std::max(brush.flow, 0.25);
    brush.taperIn = std::min(brush.taperIn, 6.0), brush.taperOut = std::min(brush.taperOut, 6.0);
    if (brush.tip == TipKind::Stamp && looks.empty())
        for (const Stamp& stamp : named.stamps)
            if (stamp.source.empty()) looks.push_back(stampOf(outlineOf(stamp.outline)));
    if (brush.tip == TipKind::Stamp && looks.empty()) brush.tip = TipKind::Round;
    DabWalk walk(brush, 0);
    for (const PenSample& sample : bend(px.width(), height)) walk.moveTo(sample);
    walk.finish();
    const std::array<float, 3> ink{float(colour.redF()), float(colour.greenF()), float(colour.blueF())};
    const TipLook look = tipLook(brush, ink, std::move(looks));
    const size_t size = size_t(px.width()) * size_t(px.height());
    std::vector<float> values(size * (look.coloured ? 4 : 1));
    drawDabs(look, walk.dabs(), {{0, 0, px.width(), px.height()}, values.data(), look.coloured});
    QImage out(px, QImage::Format_ARGB32_Premultiplied);
    for (int y = 0; y < px.height(); ++y) {
        auto* row = reinterpret_cast<QRgb*>(out.scanLine(y));
        for (int x = 0; x < px.width(); ++x) {
            const size_t i = size_t(y) * size_t(px.width()) + size_t(x);
            const float a = values[i] * float(brush.opacity);
            const auto channel = [&](size_t c) {
                const float v =
                    look.coloured ? values[(c + 1) * size + i] * float(brush.opacity) : ink[c] * a;
                return int(std::lround(std::clamp(v, 0.0f, 1.0f) * 255));
            };
            row[x] =
                qRgba(channel(0), channel(1), channel(2), int(std::lround(std::clamp(a, 0.0f, 1.0f) * 255)));
        }
    }
    return out;
}

} // namespace glyptos
