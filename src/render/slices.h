// A layer cut into slices along lines: copies of it in a group, each masked by its part and moved off the
// cuts.
#pragma once

#include "release/edits/edits.h"

namespace glyptos {

/// A line to cut along, panel units. Beyond its ends the cut goes straight on.
using CutLine = std::vector<Vec2>;

struct SliceStyle {
    double gap = 0;        ///< between the parts at each cut, panel units, at least 0
    double shade = 0;      ///< 0…1: how dark the parts grow towards the cuts
    double shadeWidth = 1; ///< panel units, more than 0
};

/// The parts of an area that lie on one and the same side of each line, and their way off the cuts in units
/// of a gap. A line that misses the area parts nothing.
struct CutPart {
    std::vector<Contour>
        outline; ///< closed, straight; the first ones' insides less the others', even and odd
    Vec2 away;
};
std::vector<CutPart> partsBetween(const Rect& area, const std::vector<CutLine>& lines);

/// The layer, which covers `bounds` on its panel, as a group of slices, first to last as the lines pass them.
/// Each is a group of its own whose mask is the part's outline, with nodes to drag; its shade is a layer in
/// it. Fails when no line crosses it.
[[nodiscard]] Result<Made> withSlices(const ReleasePtr& release, const PanelRef& panel,
                                      const std::string& layer, const Rect& bounds,
                                      const std::vector<CutLine>& lines, const SliceStyle& style);

} // namespace glyptos
