// The demo's words: styles that all pieces share, the track list on the sleeve's back with a seal beside it,
// and a take of the cover whose title stands behind the keeper.
#pragma once

#include "base/error.h"
#include "release/release.h"

namespace glyptos::demo {

/// The release with styles that its words follow, the track list as a table, and the seal.
[[nodiscard]] Result<ReleasePtr> withLetterwork(const ReleasePtr& release);

/// A take more of the cover: the title behind the head and the hair of the keeper, who has been cut out.
[[nodiscard]] Result<ReleasePtr> withTitleBehind(const ReleasePtr& release);

} // namespace glyptos::demo
