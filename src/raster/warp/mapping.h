// From where something lies in its own frame to where it is seen, in stages: placed, kneaded, bent, tilted.
#pragma once

#include "raster/path.h"
#include "raster/warp/bend_grid.h"
#include "raster/warp/homography.h"
#include "raster/warp/knead_field.h"

#include <memory>
#include <variant>

namespace glyptos {

/// A box of the frame bent as a surface over the same box says.
struct BendStage {
    std::shared_ptr<const BendSurface> surface;
    Rect box;
};

/// A box of the frame kneaded. Where strokes have shifted nothing, and outside, all stays as it is.
struct KneadStage {
    std::shared_ptr<const KneadField> field;
    Rect box;
    double step() const { return box.w / field->across; } ///< of the lattice, in units of the frame
};

/// A value; stages are shared.
class Mapping {
  public:
    using Stage = std::variant<Affine, Homography, BendStage, KneadStage>;

    Mapping() = default;
    Mapping(const Affine& map) // NOLINT(google-explicit-constructor): every affine map is one
        : stages_{map} {}
    explicit Mapping(Stage stage)
        : stages_{std::move(stage)} {}

    /// The one affine map that it is; nothing when it is more than that.
    std::optional<Affine> affine() const;
    /// Innermost first.
    const std::vector<Stage>& stages() const { return stages_; }
    /// `outer * inner` applies `inner` first. Affine maps and tilts that meet become one.
    friend Mapping operator*(const Mapping& outer, const Mapping& inner);

    /// Where a place of the frame is seen; nothing where it is not.
    std::optional<Vec2> map(Vec2 p) const;
    /// Round everything that is seen of `r`, somewhat too large at times; empty when nothing is.
    Rect mapBounds(const Rect& r) const;

  private:
    std::vector<Stage> stages_; ///< none: the identity
};

/// What is seen within `area` of the result, stage by stage: first what of the last stage's result it is,
/// last what of the frame; each somewhat too large. Shorter than that when nothing is seen there.
std::vector<Rect> reachesOf(const Mapping& mapping, const Rect& area);

/// How much larger than the frame it is seen at most, about, for things within `box`; kneading left out.
double largestScale(const Mapping& mapping, const Rect& box);

/// A mapping the other way, for many places near each other.
class BackMapping {
  public:
    /// Prepared for results within `area`.
    BackMapping(const Mapping& mapping, const Rect& area);
    /// False when nothing of the frame is seen there.
    bool isThere() const { return there_; }
    /// What is seen at a place of the result; nothing where nothing is. `near`: kept from one place to the
    /// next, so that the next is found sooner.
    struct Near {
        std::vector<std::optional<Vec2>> uv;
    };
    std::optional<Vec2> map(Vec2 p, Near& near) const;
    /// The same before the innermost knead, where the borders of what is kneaded are; and what that knead
    /// then adds.
    std::optional<Vec2> mapBeforeKnead(Vec2 p, Near& near) const;
    Vec2 kneaded(Vec2 p) const;
    bool endsWithKnead() const { return inner_.has_value(); }
    PulledIn pulledIn() const { return inner_ ? inner_->pulledIn : PulledIn::EdgeColour; }
    /// Of the result: as far as the mapping is surely smooth, px; at least 1.
    double smoothOver() const { return smoothOver_; }
    /// The part of the frame from which anything within the area comes, somewhat too large.
    const Rect& reach() const { return reach_; }

  private:
    struct Kneading {
        KneadWindow window;
        Rect box;
        double step;
        PulledIn pulledIn;
        Vec2 map(Vec2 p) const;
    };
    struct Bending {
        std::shared_ptr<const BendSurface> surface;
        Rect box;
    };
    using Step = std::variant<Affine, Homography, Bending, Kneading>;
    std::optional<Vec2> through(Vec2 p, Near& near) const;

    std::vector<Step> steps_; ///< outermost first, without the innermost knead
    std::optional<Kneading> inner_;
    bool there_ = true;
    double smoothOver_ = 1e9;
    Rect reach_;
};

/// The path as it is seen: curves and long lines are cut finer until they lie within `tolerance` of what they
/// are mapped to.
Path mapped(const Path& path, const Mapping& mapping, double tolerance);

} // namespace glyptos
