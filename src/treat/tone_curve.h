// A curve of tones through points that are dragged.
#pragma once

#include "base/geometry.h"

#include <vector>

namespace glyptos {

/// Points within 0…1, in rising order of x, no two at one x; before the first and behind the last the curve
/// is level. Two points make a line. None: the identity.
using ToneCurve = std::vector<Vec2>;

inline constexpr size_t kMostCurvePoints = 64;

bool isIdentity(const ToneCurve& curve);
/// Whether the points are so.
bool isCurve(const ToneCurve& curve);

/// A curve made ready. Between points it is a cubic of Hermite whose slopes keep it rising where its points
/// rise: F. N. Fritsch, R. E. Carlson, "Monotone Piecewise Cubic Interpolation" (1980), with the weighted
/// harmonic mean of F. N. Fritsch, J. Butland (1984) for the slopes.
class ToneFunction {
  public:
    explicit ToneFunction(const ToneCurve& curve);
    double operator()(double x) const;

  private:
    ToneCurve points_;
    std::vector<double> slopes_;
};

} // namespace glyptos
