// The guided filter: a picture smoothed except where a guide has edges.
#pragma once

#include "treat/filters.h"

namespace glyptos {

/// The surroundings that Gaussians of one width see, of a picture at the level of that width.
class Surroundings {
  public:
    /// What it reads round a region.
    static Need need(const WideGaussian& how);
    /// `in`: what need() asked for; it must stay.
    Surroundings(const Planes& in, const WideGaussian& how);

    const Planes& picture() const { return in_; }
    const WideGaussian& how() const { return how_; }
    /// Where means are known, and where means of those are.
    const IntRect& middle() const { return middle_; }
    const IntRect& inner() const { return inner_; }
    Plane mean(const Plane& values) const { return gaussian(values, middle_, how_.sigma); }
    /// The mean of alpha.
    const Plane& weight() const { return weight_; }

  private:
    const Planes& in_;
    WideGaussian how_;
    IntRect middle_, inner_;
    Plane weight_;
};

/// For one guide, slopes and offsets by which a channel follows it: channel ≈ slope · guide + offset · alpha
/// in the means of Gaussian surroundings, smoothed once more (K. He et al., "Guided Image Filtering", 2010;
/// halved as in "Fast Guided Filter", 2015). Slopes are cov / (var + ε). Channels and guide are premultiplied
/// and count by their alpha, so that what is see-through has no say.
class Guided {
  public:
    Guided(const Surroundings& around, const Plane& guide, float epsilon);

    struct Line {
        Plane slope, offset;
    };
    /// Of a channel, over `area` in px of level 0. Quicker for the guide itself.
    Line of(const Plane& channel, const IntRect& area) const;

  private:
    Plane product(const Plane& a, const Plane& b) const;

    const Surroundings& around_;
    const Plane& guide_;
    float epsilon_;
    Plane mean_, square_;
};

} // namespace glyptos
