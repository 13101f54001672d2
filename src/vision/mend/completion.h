// Internal to mending: the matches by which a hole is filled.
#pragma once

#include "vision/mend/patch_match.h"
#include "vision/mend/shifts.h"

#include <atomic>
#include <optional>

namespace glyptos::mending {

/// Fills the hole of `picture` in place and tells by which matches. Nothing when nowhere a whole patch is
/// known, or when it was cancelled: then the hole is as it was or half done. `beyond` are shifts to what lies
/// below the picture's own rows.
std::optional<MatchField> complete(WorkPicture& picture, const std::vector<Shift>& beyond,
                                   const std::atomic<bool>* cancel);

/// The hole filled with what is around it, ever smoother inwards: for where nothing can be copied.
void fillSmoothly(WorkPicture& picture);

} // namespace glyptos::mending
