#include "release/track_times.h"

#include "release/fields.h"

#include <algorithm>

namespace glyptos {

std::vector<SideTime> sideTimes(const std::vector<Track>& tracks) {
    std::vector<SideTime> out;
    for (const Track& t : tracks) {
        auto side = std::find_if(out.begin(), out.end(), [&](const SideTime& s) { return s.side == t.side; });
        if (side == out.end()) side = out.insert(out.end(), {t.side});
        side->seconds += t.seconds;
        ++side->tracks;
        side->unknown += t.seconds == 0;
    }
    return out;
}

int totalSeconds(const std::vector<Track>& tracks) {
    int out = 0;
    for (const Track& t : tracks) out += t.seconds;
    return out;
}

std::vector<std::string> timeCautions(const std::vector<Track>& tracks) {
    std::vector<std::string> out;
    for (const SideTime& s : sideTimes(tracks))
        if (s.tooLong())
            out.push_back("Side " + s.side + " is " + durationText(s.seconds) + " long; over " +
                          durationText(kLongestSide) + " a 12-inch side has to be cut quieter.");
    if (const int total = totalSeconds(tracks); total > kLongestDisc)
        out.push_back("All tracks together are " + durationText(total) + " long; a compact disc holds " +
                      durationText(kLongestDisc) + ".");
    return out;
}

} // namespace glyptos
