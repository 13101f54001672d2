// Where things hang on the wall.
#pragma once

#include "release/edits/edits.h"
#include "render/layer_geometry.h"

#include <string>
#include <vector>

namespace glyptos {

/// Bounds of what is pinned, front to back.
std::vector<Rect> pinnedAreas(const Release& release, ParagraphCache& paragraphs);
/// All of them with a margin; empty when nothing is pinned.
Rect wallArea(const Release& release, ParagraphCache& paragraphs);

/// Those things, or all when there are none, in rows without gaps of more than `gap` px, by their order from
/// the back; a group goes as one.
[[nodiscard]] ReleasePtr withRows(const ReleasePtr& release, const std::vector<std::string>& layers,
                                  double gap, ParagraphCache& paragraphs);

/// The thing put in front of the others, moved so that its middle is where nothing is covered.
[[nodiscard]] Made withPinned(const ReleasePtr& release, Layer layer, ParagraphCache& paragraphs);

} // namespace glyptos
