// From the way of a pointer to dabs. What comes out depends on the way alone, not on how many moves it was
// told in.
#pragma once

#include "raster/brush/brush.h"
#include "raster/brush/dab.h"

#include <optional>

namespace glyptos {

/// Where a pointer is, and how a pen is held there.
struct PenSample {
    Vec2 at;
    double pressure = 1; ///< 0…1
    double tilt = 0;     ///< 0 upright … 1 lying
    double leans = 0;    ///< degrees clockwise from the right: to where it leans
    double turn = 0;     ///< degrees clockwise about its own axis
};

class DabWalk {
  public:
    /// `steadyLength`, units: the tip follows the pointer as a low pass along the way, e-fold on that length.
    DabWalk(const Brush& brush, double steadyLength);

    /// The first puts the pointer down. Samples that are no numbers are left out, and all of a brush of no
    /// size.
    void moveTo(const PenSample& sample);
    /// The pointer rests: dabs of a brush that builds up.
    void dwell(double seconds);
    /// The pointer is up: the tip catches up with it, and the far end gets its size.
    void finish();

    const Dabs& dabs() const { return dabs_; }
    /// Dabs before that index are as they were when it was last called.
    size_t takeFirstChanged();
    /// Where the tip is; nothing before the pointer is down.
    std::optional<Vec2> tip() const;

  private:
    /// Straight on, over a way that is short where it is bent; `heading`: degrees, at its end.
    void walkTo(Vec2 to, const PenSample& how, double heading);
    /// False where it would be too small to be seen.
    bool put(Vec2 at, const PenSample& how, double turn);
    void drawAlong(Vec2 at, const PenSample& how);
    double diameterFor(const PenSample& how) const;
    double chance(int which) const;

    Brush brush_;
    double steady_;
    Dabs dabs_;
    size_t firstChanged_ = 0;
    bool sweeps_; ///< one area drawn along, instead of prints
    std::optional<PenSample> last_;
    Vec2 tip_, drawn_; ///< of the swept area: its end so far
    double heading_ = 0, along_ = 0, towardsNext_ = 0, held_ = 0;
    bool waits_ = false; ///< for the direction that the first dab has
    uint32_t count_ = 0;
};

} // namespace glyptos
