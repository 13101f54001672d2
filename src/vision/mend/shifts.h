// Internal to mending: a hole filled with few pieces of the picture, each moved as a whole.
//
// K. He, J. Sun, "Statistics of patch offsets for image completion" (2012): how far a picture's patches lie
// from those they resemble keeps to few distances, and what is hidden by the hole does so too. Which piece
// goes where is an energy of the seams between them, made small by expansion moves (Y. Boykov et al., "Fast
// approximate energy minimization via graph cuts", 2001).
#pragma once

#include "vision/mend/work_picture.h"

#include <atomic>

namespace glyptos::mending {

/// From a pixel to the one that is copied there.
struct Shift {
    int x = 0, y = 0;
    bool operator==(const Shift&) const = default;
};

/// The shifts at which most of what is known resembles itself, the commonest first, at most `most`.
std::vector<Shift> commonShifts(const WorkPicture& picture, const std::vector<uint8_t>& whole, size_t most);

/// Within the picture, and to what lies below its own rows.
struct Shifts {
    std::vector<Shift> own, beyond;
};

/// For every pixel of the hole the place that is copied there, −1 elsewhere: one of the shifts, such that the
/// pieces meet each other and the known. Empty when some part of the hole cannot be reached by any of them.
std::vector<int32_t> placedPieces(const WorkPicture& picture, const Shifts& shifts,
                                  const std::atomic<bool>* cancel);

} // namespace glyptos::mending
