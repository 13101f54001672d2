#include "release/paths/contour_nodes.h"

namespace glyptos {
namespace {

constexpr int kPlaces = 64; // looked at on each curve

const PathNode& after(const Contour& contour, size_t node) {
    return contour.nodes[(node + 1) % contour.nodes.size()];
}

} // namespace

Vec2 pointOn(const Contour& contour, const ContourPlace& place) {
    const PathNode &a = contour.nodes[place.node], &b = after(contour, place.node);
    const Vec2 c1 = a.at + a.after, c2 = b.at + b.before;
    const double t = place.t, u = 1 - t;
    return a.at * (u * u * u) + c1 * (3 * u * u * t) + c2 * (3 * u * t * t) + b.at * (t * t * t);
}

std::optional<std::pair<ContourPlace, double>> nearestPlace(const Contour& contour, const Affine& map,
                                                            Vec2 point) {
    std::optional<std::pair<ContourPlace, double>> best;
    const size_t curves = contour.nodes.size() - (contour.closed || contour.nodes.empty() ? 0 : 1);
    for (size_t n = 0; n < curves; ++n)
        for (int k = 1; k < kPlaces; ++k) {
            const ContourPlace place{n, double(k) / kPlaces};
            const double off = (map.map(pointOn(contour, place)) - point).length();
            if (!best || off < best->second) best = {place, off};
        }
    return best;
}

Contour withNodeAt(Contour contour, const ContourPlace& place) {
    PathNode& a = contour.nodes[place.node];
    PathNode& b = contour.nodes[(place.node + 1) % contour.nodes.size()];
    const auto mix = [&](Vec2 p, Vec2 q) { return p + (q - p) * place.t; };
    const Vec2 c1 = a.at + a.after, c2 = b.at + b.before;
    const Vec2 p = mix(a.at, c1), q = mix(c1, c2), r = mix(c2, b.at), s = mix(p, q), u = mix(q, r),
               at = mix(s, u);
    a.after = p - a.at;
    b.before = r - b.at;
    contour.nodes.insert(contour.nodes.begin() + ptrdiff_t(place.node) + 1, PathNode{at, s - at, u - at});
    return contour;
}

Contour withSmoothed(Contour contour, size_t node) {
    const size_t n = contour.nodes.size();
    const Vec2 along = after(contour, node).at - contour.nodes[(node + n - 1) % n].at;
    PathNode& p = contour.nodes[node];
    const bool corner = p.before.length() < 1e-9 && p.after.length() < 1e-9;
    p.after = corner ? along * (1.0 / 6) : Vec2{};
    p.before = corner ? along * (-1.0 / 6) : Vec2{};
    return contour;
}

} // namespace glyptos
