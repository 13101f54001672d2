// Takes made with treatments and grades.
#pragma once

#include "base/error.h"
#include "release/release.h"

namespace glyptos::demo {

/// Of the cover: the keeper adrift in fog with ghosted letters, and a night of three looks at part strength.
/// Of the sleeve: brass letters on tarred canvas under a lamp. Of the podcast tile: two inks out of register,
/// and the harbour as printed in dots.
[[nodiscard]] Result<ReleasePtr> withTreatwork(const ReleasePtr& release);

} // namespace glyptos::demo
