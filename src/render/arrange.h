// Aligning layers and spreading them evenly, by the bounds of their frames.
#pragma once

#include "render/layer_geometry.h"

namespace glyptos {

/// Left, middle and right move layers across; top, centre and bottom down.
enum class AlignEdge : unsigned char { Left, Middle, Right, Top, Centre, Bottom };

/// Layers of one panel, by their ids.
struct PanelLayers {
    PanelRef panel;
    std::vector<std::string> layers;
};

/// Bounds of all of those layers on their panel; empty when there are none.
Rect boundsOf(const Release& release, const PanelLayers& of, ParagraphCache& paragraphs);

/// Each layer moved so that the named edge or middle of its bounds is that of `to`. Locked layers and fills
/// stay.
[[nodiscard]] ReleasePtr withAligned(const ReleasePtr& release, const PanelLayers& which, AlignEdge edge,
                                     const Rect& to, ParagraphCache& paragraphs);

/// The layers moved so that the gaps between them are equal and the outermost touch the edges of `over`; in
/// the order in which their middles lie. Fewer than three layers stay unless `over` is not their own bounds.
[[nodiscard]] ReleasePtr withSpread(const ReleasePtr& release, const PanelLayers& which, bool across,
                                    const Rect& over, ParagraphCache& paragraphs);

} // namespace glyptos
