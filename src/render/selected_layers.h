// What a selection becomes: a mask, a layer of its own, a fill, a shape.
#pragma once

#include "release/edits/edits.h"
#include "render/painting.h"

namespace glyptos {

/// A selection, and what making something of it draws on.
struct Selected {
    ReleasePtr release;
    PanelRef panel;
    Selection selection;
    PictureProvider& pictures;
};

/// The layer shown inside the selection alone, or outside of it alone; a mask that it has is kept to as well.
[[nodiscard]] ReleasePtr withMaskOf(const Selected& what, const std::string& layer, bool inside);
/// The selection added to where the layer shows, or taken from it, whatever its mask was.
[[nodiscard]] ReleasePtr withMaskMeeting(const Selected& what, const std::string& layer, Combine how);
/// A copy of the layer in front of it that shows the selection alone; `cut`: the layer itself shows the rest.
[[nodiscard]] Made withPart(const Selected& what, const std::string& layer, bool cut);
/// A fill of the selection in front of a layer.
[[nodiscard]] Made withFillOf(const Selected& what, const std::string& above, const Ink& ink);
/// The layer masked by the selection as a shape whose nodes can be dragged; soft edges become plain ones.
[[nodiscard]] ReleasePtr withShapeMaskOf(const Selected& what, const std::string& layer);

} // namespace glyptos
