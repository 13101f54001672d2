// Internal to draw: how far the lamp's light reaches.
#pragma once

#include "scene/draw/seen_facet.h"

#include <span>

#include <vector>

namespace glyptos {

/// Depths along parallel rays of light, from facets as the camera sees them.
class LampMap {
  public:
    LampMap(std::span<const Facet> facets, const Eye& eye, const Vec3& from);

    /// A place in the map: x, y in its cells, z towards the lamp.
    Vec3 placeOf(const Vec3& seen) const { return mapVector(seen - middle_) + Vec3{kMiddle, kMiddle, 0}; }
    Vec3 mapVector(const Vec3& v) const { return {v.dot(x_) * scale_, v.dot(y_) * scale_, v.dot(from_)}; }
    /// Units by which a surface may lie behind itself between cells, `tangent` being how steep the light is
    /// on it.
    double slackFor(double tangent) const { return (0.6 + 2 * tangent) / scale_; }
    /// 0…1 of the light that arrives there, between cells.
    float light(const Vec3& place) const {
        const double x = place.x - 0.5, y = place.y - 0.5;
        const int ix = int(std::floor(x)), iy = int(std::floor(y));
        const auto fx = float(x - ix), fy = float(y - iy);
        const float above = lit(ix, iy, place.z) * (1 - fx) + lit(ix + 1, iy, place.z) * fx;
        const float below = lit(ix, iy + 1, place.z) * (1 - fx) + lit(ix + 1, iy + 1, place.z) * fx;
        return above * (1 - fy) + below * fy;
    }

  private:
    static constexpr int kSide = 512;
    static constexpr double kMiddle = kSide / 2.0;
    /// A facet that faces the lamp, in the map: shares of its edges are even in its cells.
    struct Caster {
        const Facet* facet = nullptr;
        Vec3 corner, right, down;
        EvenlyChanging q[3];
    };
    std::optional<Caster> casterOf(const Facet& facet, const Eye& eye) const;
    /// Its rows from `top` up to `bottom`.
    void draw(const Caster& caster, int top, int bottom);
    float lit(int x, int y, double depth) const {
        return x < 0 || y < 0 || x >= kSide || y >= kSide || depth >= depths_[size_t(y) * kSide + size_t(x)];
    }

    Vec3 x_, y_, from_, middle_;
    double scale_ = 1; ///< cells a unit
    std::vector<float> depths_;
};

} // namespace glyptos
