// Internal to mending: for every patch that reaches into the hole the patch of the known that is most like
// it.
//
// C. Barnes et al., "PatchMatch: a randomized correspondence algorithm for structural image editing" (2009).
// A patch may be lighter or darker than what it stands for, as in S. Darabi et al., "Image melding" (2012).
#pragma once

#include "vision/mend/work_picture.h"

#include <array>

namespace glyptos::mending {

struct Match {
    int32_t source = -1; ///< place of the middle of the patch that is copied
    int32_t cost = 0;    ///< squared difference of all samples
};

/// The matches of all patches in `area`, row by row; those that need none have no source.
struct MatchField {
    IntRect area;
    std::vector<Match> matches;
    Match& at(int x, int y) { return matches[size_t(y - area.y) * size_t(area.w) + size_t(x - area.x)]; }
    const Match& at(int x, int y) const {
        return matches[size_t(y - area.y) * size_t(area.w) + size_t(x - area.x)];
    }
};

/// Patches of one picture compared, their means known.
class Patches {
  public:
    explicit Patches(const WorkPicture& picture);
    /// Anew where the pixels of `area` have changed.
    void update(const IntRect& area);
    /// Squared difference of all samples after the best change of light, or `bound` and more.
    int32_t cost(size_t target, size_t source, int32_t bound) const;
    /// What is added to the samples of the source.
    std::array<float, 4> light(size_t target, size_t source) const;

  private:
    const WorkPicture& picture_;
    std::vector<int16_t> means_;
};

/// What a field is searched in.
struct SearchGround {
    const WorkPicture& picture;
    const Patches& patches;
    const std::vector<uint8_t>& whole;   ///< wholePatches()
    const std::vector<int32_t>& sources; ///< the places where that is so
    uint32_t seed = 1;
};

/// A field for all patches that reach into the hole, matched by chance.
MatchField chanceField(const SearchGround& ground);
/// The field of the level above, its matches twice as far apart.
MatchField enlargedField(const MatchField& coarse, int coarseWidth, const SearchGround& ground);
/// Costs anew, and the better match wherever a neighbour's or a search closer and closer round its own place
/// finds one. Rounds alternate their direction. The same on any number of cores.
void improve(MatchField& field, const SearchGround& ground, int rounds);

/// The hole filled with the mean of what the matches of the patches round each pixel say there, better
/// matches counting more (Y. Wexler et al., "Space-time completion of video", 2007).
void takeMean(WorkPicture& picture, const MatchField& field, const Patches& patches);

} // namespace glyptos::mending
