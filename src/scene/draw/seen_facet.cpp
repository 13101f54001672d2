#include "scene/draw/seen_facet.h"

#include "scene/draw/rasterize.h"

namespace glyptos {

bool setPlanes(const Vec3& right, const Vec3& down, const Vec3& corner, EvenlyChanging (&q)[3]) {
    const Vec3 rows[] = {down.cross(corner), corner.cross(right), right.cross(down)};
    const double det = right.dot(rows[0]);
    if (!std::isfinite(det) || std::abs(det) < 1e-12) return false;
    for (int i = 0; i < 3; ++i) q[i] = {rows[i].z / det, rows[i].x / det, rows[i].y / det};
    return true;
}

std::optional<SeenFacet> seenFacet(const Facet& facet, const Eye& eye) {
    SeenFacet out;
    out.facet = &facet;
    out.corner = eye.turn.mapVector(facet.corner - eye.middle);
    out.right = eye.turn.mapVector(facet.right), out.down = eye.turn.mapVector(facet.down);
    const Vec3 toEye = Vec3{0, 0, eye.distance} - out.corner;
    if (out.right.cross(out.down).dot(toEye) <= 0) return std::nullopt;
    const auto homogeneous = [&](const Vec3& v, double w) {
        return Vec3{v.x * eye.focal, v.y * eye.focal, w - v.z};
    };
    if (!setPlanes(homogeneous(out.right, 0), homogeneous(out.down, 0), homogeneous(out.corner, eye.distance),
                   out.q))
        return std::nullopt;
    const double nearest = eye.distance / 1000;
    for (const Vec3& p :
         {out.corner, out.corner + out.right, out.corner + out.down, out.corner + out.right + out.down}) {
        const double w = eye.distance - p.z;
        if (w < nearest) return std::nullopt;
        out.bounds = out.bounds.united({p.x * eye.focal / w, p.y * eye.focal / w, 1e-9, 1e-9});
    }
    return out;
}

std::optional<Vec2> seenAt(const Vec3& point, const Eye& eye) {
    const Vec3 p = eye.turn.mapVector(point - eye.middle);
    const double w = eye.distance - p.z;
    if (w <= 0) return std::nullopt;
    return Vec2{p.x * eye.focal / w, p.y * eye.focal / w};
}

} // namespace glyptos
