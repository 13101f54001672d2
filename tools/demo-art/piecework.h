// The rest of the family: everything that is pressed, folded, stuck and posted for the release.
#pragma once

#include "base/error.h"
#include "release/release.h"

namespace glyptos::demo {

/// The release with a gatefold, inner sleeve, labels, booklet, tray card, disc face, cassette card, shell
/// label, obi and social pictures more, in the colours and styles that it has.
[[nodiscard]] Result<ReleasePtr> withPiecework(const ReleasePtr& release);

} // namespace glyptos::demo
