// A release with every kind of content, paint and mask.
#pragma once

#include "support/pictures.h"

namespace glyptos::test {

// Ids of its pictures: a photo, one that is see-through, one of a pattern, of a mask, and of a pattern in a
// mask.
inline constexpr const char* kPhoto = "aaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaa";
inline constexpr const char* kGlow = "bbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbb";
inline constexpr const char* kWeave = "cccccccccccccccccccccccccccccccc";
inline constexpr const char* kVeil = "dddddddddddddddddddddddddddddddd";
inline constexpr const char* kStroke = "eeeeeeeeeeeeeeeeeeeeeeeeeeeeeeee";

/// Two screen pieces of 700 × 520, whose panels are "front". On the first one layers of every kind lie,
/// plain, blended, masked, clipped and in both kinds of group, and an echo of the second. Inks follow the
/// swatch "tide" once in every place where there is one.
ReleasePtr releaseOfEveryKind(HeldPictures& pictures);

/// How many places of it have an ink that follows "tide".
inline constexpr int kInksOfEveryKind = 21;

} // namespace glyptos::test
