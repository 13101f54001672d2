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
    Vec3 placeOf(const Vec3& seen) const { return mapVector(seen - middle_) + Vec3{kSide / 2, kSide / 2, 0}; }
    Vec3 mapVector(const Vec3& v) const { return {v.dot(x_) * scale_, v.dot(y_) * scale_, v.dot(from_)}; }
    /// Units by which a surface may lie behind itself between cells, `tangent` being how steep the light is
    /// on it.
    double slackFor(double tangent) const { return (0.6 + 2 * tangent) / scale_; }
    /// 0…1 of the light that arrives there, between cells.
    float light(const Vec3& place) const;

  private:
    static constexpr int kSide = 512;
    void draw(const Facet& facet, const Eye& eye);
    float lit(int x, int y, double depth) const {
        return x < 0 || y < 0 || x >= kSide || y >= kSide || depth >= depths_[size_t(y) * kSide + size_t(x)];
    }

    Vec3 x_, y_, from_, middle_;
    double scale_ = 1; ///< cells a unit
    std::vector<float> depths_;
};

} // namespace glyptos
