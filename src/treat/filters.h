// What many treatments are made of: Gaussians, halving and doubling of planes.
#pragma once

#include "treat/kind.h"
#include "treat/planes.h"

namespace glyptos {

/// `in` smoothed by a Gaussian of `sigma` px, cut off at three sigma, over `area`; in.area must hold
/// area grown by gaussianReach(sigma). Meant for sigma up to 6: the cost grows with it.
Plane gaussian(const Plane& in, const IntRect& area, double sigma);
int gaussianReach(double sigma);

/// The mean of each 2 × 2 block, over half of `in.area`, whose edges must be even.
Plane halved(const Plane& in);
/// Twice as fine, over `area`, which must lie within in.area doubled and shrunk by 2: each sample is 9/16,
/// 3/16, 3/16, 1/16 of the nearest four, again and again the surface of a quadratic B-spline (G. Chaikin,
/// 1974).
Plane doubled(const Plane& in, const IntRect& area);

/// How a Gaussian of any width is had: from the layer halved `level` times, smoothed there by `sigma` px of
/// that level. Halving and doubling smooth by (4^level - 1) / 12 and / 4 px² of their own, which is taken
/// off.
struct WideGaussian {
    int level = 0;
    double sigma = 0;
    /// What it reads: `reach` px of that level round the region.
    Need need() const;
};
WideGaussian wideGaussian(double sigmaPx);
/// `input`: what need() asked for. Over `area`, in px of level 0.
Plane smoothed(const Plane& input, const WideGaussian& how, const IntRect& area);
Planes smoothed(const Planes& input, const WideGaussian& how, const IntRect& area);

/// `coarse`, which is halved `level` times, over `area` in px of level 0: doubled so often. It must reach
/// three samples beyond what it shows of that.
Plane resized(const Plane& coarse, int level, const IntRect& area);

/// The region of a level that a region of px sees: from its first to its last pixel there.
IntRect atLevel(const IntRect& area, int level);

/// `in` over `area`, its nearest values beyond it.
Plane extended(const Plane& in, const IntRect& area);
/// Halved, with two more pixels on each side, so that its outermost ones are those beyond the edge alone; its
/// edges need not be even. On all cores.
Plane halvedBeyond(const Plane& in);
/// A row of red, green, blue and alpha between premultiplied and straight; of nothing, black.
void toStraightRow(float* const (&c)[4], size_t n);
void toPremultipliedRow(float* const (&c)[4], size_t n);

/// Makes what lies beyond `inside` and is see-through as if the nearest pixel inside went on there.
void goOnBeyond(const IntRect& inside, Planes& planes);

/// All of a picture in memory smoothed at once, on all cores: for pictures that are treated whole. Beyond the
/// edge is the nearest pixel.
Planes smoothedWhole(const Planes& in, double sigmaPx);

} // namespace glyptos
