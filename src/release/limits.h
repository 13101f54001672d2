// How large things in a release can be. What is made keeps to them, and files are read by them.
#pragma once

namespace glyptos {

/// Width, height and corner radius of a shape, and the feather of a mask, in units of the panel.
inline constexpr double kLargestSide = 1e7;
/// Places, sizes and scales in a file, so that nothing that is worked out from them leaves what can be
/// counted. Far beyond what can be set by hand: nothing that was made here is refused.
inline constexpr double kFarthestPlace = 1e15, kLargestScale = 1e15, kSmallestScale = 1e-15, kMostTurn = 1e15;
/// What may be typed or pasted into one text layer, in UTF-16 units; a file may hold more.
inline constexpr int kMostCharacters = 100'000;

} // namespace glyptos
