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
    /// Depths of its cells, row by row; those at its edge are free.
    const float* depths() const { return depths_.data(); }

    static constexpr int kSide = 512;

  private:
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
    void drawRow(const Caster& caster, int y, int first, int last, Vec2 start);

    Vec3 x_, y_, from_, middle_;
    double scale_ = 1; ///< cells a unit
    std::vector<float> depths_;
};

} // namespace glyptos
