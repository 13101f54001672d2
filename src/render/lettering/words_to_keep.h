// What of a release's words a file keeps, so that it looks the same where their faces are not at hand.
#pragma once

#include "render/layer_geometry.h"

namespace glyptos {

/// Every text of the release, as it is set now, that gets a face which is neither shipped nor in the release
/// itself; and as it was kept where it would get others now. Not what a stand-in draws that nothing is kept
/// of. Nothing when there is none.
KeptWordsList wordsToKeep(const Release& release, const FontLibrary& fonts, ParagraphCache& paragraphs);

} // namespace glyptos
