// Art that runs over several panels, goes back to one, or is copied to another.
#pragma once

#include "release/edits/edits.h"

namespace glyptos {

/// The piece with a wrap over those panels (ids; what is upright on the first is so on it), and the wrap's
/// id; one that lies over the same panels is found again. In every take each of the panels gets an echo of
/// it, in place, behind all but its ground. Fails, and says why, for fewer than two panels, panels that are
/// not there, or not on one sheet.
[[nodiscard]] Result<Made> withWrap(const ReleasePtr& release, const std::string& piece,
                                    const std::vector<std::string>& panels);

/// The layers of that panel moved to the wrap over it and `others`, where they keep their place on the flat
/// and their ids. What is seen of them on that panel stays in its place in the stack. The id is the wrap's.
[[nodiscard]] Result<Made> withRunOver(const ReleasePtr& release, const PanelRef& panel,
                                       const std::vector<std::string>& layers,
                                       const std::vector<std::string>& others);

/// The layers of a wrap moved to one of its panels, in front of what runs over it there.
[[nodiscard]] ReleasePtr withKeptTo(const ReleasePtr& release, const PanelRef& wrap,
                                    const std::vector<std::string>& layers, const std::string& panel);

/// The piece without the wrap, its art and the echoes of it.
[[nodiscard]] ReleasePtr withoutWrap(const ReleasePtr& release, const std::string& piece,
                                     const std::string& wrap);

/// Copies of the layers at the front of another panel, re-framed where that has other measures (refit.h);
/// mirrored left to right if wished, words and codes in the mirrored place but legible. The id is that of
/// the front-most copy.
[[nodiscard]] Made withCopiesOn(const ReleasePtr& release, const PanelRef& from,
                                const std::vector<std::string>& layers, const PanelRef& to, bool mirrored);

} // namespace glyptos
