// How long sides and discs are, and whether they hold that much.
#pragma once

#include "release/release.h"

#include <string>
#include <vector>

namespace glyptos {

inline constexpr int kLongestSide = 22 * 60;      ///< seconds that a 12-inch side holds at a good level
inline constexpr int kLongestDisc = 79 * 60 + 57; ///< seconds that a compact disc holds

struct SideTime {
    std::string side; ///< empty: tracks without one
    int seconds = 0;
    int tracks = 0, unknown = 0; ///< of those without a known length
    bool tooLong() const { return !side.empty() && seconds > kLongestSide; }
};

/// Sides in the order in which they first come.
std::vector<SideTime> sideTimes(const std::vector<Track>& tracks);
int totalSeconds(const std::vector<Track>& tracks);
/// A sentence for each side and disc that holds too much; none when all is fine.
std::vector<std::string> timeCautions(const std::vector<Track>& tracks);

} // namespace glyptos
