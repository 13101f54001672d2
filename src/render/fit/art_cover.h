// Does the art of a panel reach as far as it must?
#pragma once

#include "render/renderer.h"

#include <string>
#include <vector>

namespace glyptos {

/// One edge at which paper would show.
struct ShortEdge {
    std::string edge; ///< "left", "top", "right" or "bottom" of the upright panel
    double by = 0;    ///< panel units from where art must reach to where it ends, at its worst
};

struct ArtCover {
    bool any = false;              ///< there is some art
    std::vector<ShortEdge> shorts; ///< empty: the art covers the bleed, or the trim where an edge has none
    /// "art covers the bleed", "art short by 1.2 mm at left", "no art yet".
    std::string sentence(const Panel& panel, Unit unit) const;
};

/// Judges what is seen, so any mix of layers counts together: the panel with its bleed is rendered at 4
/// pixels a mm (1/8 of the size of screen pieces), and paper showing at the edges is measured, to a twentieth
/// of a pixel where the edge is straight.
ArtCover judgeArt(Renderer& renderer, const ReleasePtr& release, const PanelRef& panel);

/// The mean colour of the art where it ends at those edges, half a mm to two mm inwards; nothing where there
/// is none.
std::optional<Rgba> edgeColour(Renderer& renderer, const ReleasePtr& release, const PanelRef& panel,
                               const std::vector<ShortEdge>& edges);

} // namespace glyptos
