#include "release/edits/framing.h"

#include <algorithm>
#include <cmath>

namespace glyptos {
namespace {

struct Fitted {
    double scale = 1; ///< panel units a pixel
    Vec2 reach;       ///< half of what of the area's frame lies along the picture's own axes, panel units
};

Fitted fitted(const Rect& area, const Source& source, const Framing& framing) {
    const double angle = framing.turn * std::numbers::pi / 180, c = std::abs(std::cos(angle)),
                 s = std::abs(std::sin(angle));
    Fitted out;
    out.reach = {(area.w * c + area.h * s) / 2, (area.w * s + area.h * c) / 2};
    if (framing.whole) {
        const double wide = source.width * c + source.height * s, high = source.width * s + source.height * c;
        out.scale = std::min(area.w / wide, area.h / high);
    } else {
        out.scale = std::max(2 * out.reach.x / source.width, 2 * out.reach.y / source.height) *
                    std::max(1.0, framing.zoom);
    }
    return out;
}

/// In pixels of the picture.
Vec2 middleOf(const Fitted& fit, const Source& source, const Framing& framing) {
    const Vec2 half{source.width / 2.0, source.height / 2.0};
    if (framing.whole) return half;
    const auto kept = [](double wanted, double reach, double size) {
        return std::clamp(wanted, std::min(reach, size / 2), std::max(size - reach, size / 2));
    };
    return {kept(framing.middle.x * source.width, fit.reach.x / fit.scale, source.width),
            kept(framing.middle.y * source.height, fit.reach.y / fit.scale, source.height)};
}

} // namespace

Placement framed(const Rect& area, const Source& source, const Framing& framing) {
    const Fitted fit = fitted(area, source, framing);
    Vec2 off = Vec2{source.width / 2.0, source.height / 2.0} - middleOf(fit, source, framing);
    if (framing.flip) off.x = -off.x;
    Placement out;
    out.scaleX = out.scaleY = fit.scale;
    out.turn = framing.turn;
    out.flipX = framing.flip;
    out.position = area.centre() + Affine::rotation(framing.turn).mapVector(off * fit.scale);
    return out;
}

Vec2 middleMet(const Rect& area, const Source& source, const Framing& framing) {
    const Vec2 px = middleOf(fitted(area, source, framing), source, framing);
    return {px.x / source.width, px.y / source.height};
}

} // namespace glyptos
