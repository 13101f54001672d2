// A picture kneaded: a field that says for each of its places where what is seen there comes from.
//
// A stroke is a row of dabs, each of them a flow that moves what lies under it: v(x) = F((x + (x + v)) / 2),
// the implicit midpoint rule (E. Hairer, C. Lubich, G. Wanner, "Geometric Numerical Integration", 2006,
// II.1). It is its own inverse when the flow is turned round, and does not fold as long as a dab is short
// against its radius.
#pragma once

#include "raster/pixel_tiles.h"

#include <functional>
#include <optional>
#include <string_view>

namespace glyptos {

/// How far each node of a lattice is moved, in steps of that lattice.
inline constexpr PixelFormat kShiftPixels{2, 4};

/// What is seen where the edge of a picture that was let go has been pulled in.
enum class PulledIn : unsigned char { EdgeColour, Mirror, Nothing };

/// Positions are in steps of the lattice, whose node (0, 0) lies on the left-top corner of what is kneaded.
/// What is seen at x was at x + shift(x) · strength. A value: what is kneaded in one copy does not show in
/// another.
struct KneadField {
    int across = 192; ///< steps over the width of what is kneaded
    PixelTilesPtr shifts = std::make_shared<const PixelTiles>(kShiftPixels); ///< never missing
    double strength = 1;                                                     ///< 0…1.5
    PulledIn pulledIn = PulledIn::EdgeColour;
    bool empty() const { return shifts->empty(); }
    /// The shift at a place, strength counted in, in steps: cubic between the nodes (Keys, a = -1/2).
    Vec2 shiftAt(Vec2 at) const;
    /// At most so far is anything within `area` shifted, steps.
    double farthest(const Rect& area) const;
    bool operator==(const KneadField& o) const {
        return across == o.across && strength == o.strength && pulledIn == o.pulledIn &&
               (shifts == o.shifts || *shifts == *o.shifts);
    }
};

inline constexpr int kFinestKnead = 8192; ///< steps across, at most

enum class KneadWay : unsigned char { Push, Spin, SpinBack, Gather, Spread, Smooth, Restore };
inline constexpr std::array<std::string_view, 7> kKneadWayNames{"push",   "spin",   "spin-back", "gather",
                                                                "spread", "smooth", "restore"};

/// What a knead stroke is done with. Lengths in widths of what is kneaded.
struct KneadTip {
    KneadWay way = KneadWay::Push;
    double radius = 0.1;   ///< more than 0; nothing beyond it is moved
    double strength = 1;   ///< 0…1
    double height = 1;     ///< of what is kneaded
    bool holdEdges = true; ///< its edges stay where they are
    /// How much of a place may be moved, 0…1; missing: all of it. Where it falls off it does so over some
    /// steps of the lattice, or strokes against it are eased. Asked from several threads.
    std::function<float(Vec2)> freedom = {};
};

/// One stroke, move by move. Positions in widths of what is kneaded, from its left-top corner.
class KneadStroke {
  public:
    /// The lattice is made as fine as the tip asks for.
    KneadStroke(const KneadField& before, KneadTip tip);
    /// On to a point, dab by dab. The same way told in few or many moves gives the same within a thousandth
    /// of the radius.
    void moveTo(Vec2 at);
    /// Once more where it stands, for what goes on while the pointer is held still. A push does nothing
    /// there.
    void dwell();
    /// Up to where it was last told to go.
    void finish();
    const KneadField& field() const { return field_; }

  private:
    void dabs(Vec2 from, Vec2 to, int count);

    KneadField field_;
    KneadTip tip_;
    std::optional<Vec2> last_, asked_;
};

/// The field on a lattice twice as fine, which moves everything as before.
KneadField refined(const KneadField& field);

/// The shifts of some nodes, side by side: for many places near each other. Nothing is shifted outside of
/// them.
struct ShiftPatch {
    IntRect nodes;
    Buffer<float> values; ///< two a node, rows without gaps
    ShiftPatch() = default;
    ShiftPatch(const PixelTiles& shifts, const IntRect& area);
    float* node(int x, int y) {
        return values.data() + (size_t(y - nodes.y) * size_t(nodes.w) + size_t(x - nodes.x)) * 2;
    }
    const float* node(int x, int y) const { return const_cast<ShiftPatch*>(this)->node(x, y); }
    /// Between the nodes: the cubic of Keys, a = -1/2.
    Vec2 at(Vec2 place) const;
};

/// A window of the field, for many places: as shiftAt() within its area.
class KneadWindow {
  public:
    /// `area`: of the places that are asked for, steps of the lattice.
    KneadWindow(const KneadField& field, const Rect& area);
    bool moves() const { return !patch_.nodes.empty(); }
    Vec2 shift(Vec2 at) const { return patch_.at(at) * strength_; }

  private:
    ShiftPatch patch_;
    double strength_ = 1;
};

} // namespace glyptos
