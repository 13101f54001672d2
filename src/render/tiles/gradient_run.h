// Internal to render: the colours along a gradient, and their exact averages.
#pragma once

#include "release/paint.h"

#include <array>

namespace glyptos {

/// Premultiplied r, g, b, a.
using Colour4 = std::array<double, 4>;

class GradientRun {
  public:
    explicit GradientRun(const Gradient& gradient);

    /// Mean colour over the run from t - width/2 to t + width/2.
    Colour4 mean(double t, double width) const;

    /// Where such means lie on a straight line: `at0 + rise · t` from `least` to `most`.
    struct Straight {
        double least = 1, most = 0; ///< none where least > most
        Colour4 at0{}, rise{};
        bool holds(double t) const { return t >= least && t <= most; }
    };
    /// That round t; none of a run that goes round or on, and where a stop is near.
    Straight straightAt(double t, double width) const;

  private:
    struct Piece {
        double at, length;    ///< along the run
        Colour4 colour, rise; ///< at its start, and what it gains to its end
        Colour4 before;       ///< integral from 0 to its start
    };
    const Piece& pieceAt(double t) const;
    Colour4 within(double t) const;   ///< integral from 0 to t, t in 0…1
    Colour4 integral(double t) const; ///< from 0 to any t

    std::vector<Piece> pieces_;
    Colour4 whole_{}, first_{}, last_{};
    bool round_ = false;
    GradientSpread spread_;
};

} // namespace glyptos
