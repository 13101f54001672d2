// Internal to type: going along a contour by length.
#pragma once

#include "raster/contour.h"

#include <vector>

namespace glyptos {

/// A contour, flattened to a thousandth of its own size.
class PathWay {
  public:
    explicit PathWay(const Contour& contour);
    double length() const { return reached_.empty() ? 0 : reached_.back(); }
    struct Spot {
        Vec2 point;
        double degrees = 0; ///< of the way there, clockwise from the right
    };
    /// `at` from 0 to `length()`.
    Spot at(double along) const;
    /// How far along it comes nearest to a point.
    double nearest(Vec2 point) const;

  private:
    std::vector<Vec2> points_;
    std::vector<double> reached_; ///< length up to each point
};

/// The other way round.
Contour reversed(Contour contour);

} // namespace glyptos
