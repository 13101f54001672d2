// What is done to a release, as it waits to be written down.
#pragma once

#include "file/journal/acts.h"

#include <deque>
#include <variant>

namespace glyptos {

/// `merged`: it takes the place of the step before.
struct StepDone {
    std::string name;
    ReleasePtr release;
    bool merged = false;
};
struct WentTo {
    size_t step = 0;
};
/// What the release shows now, as a PNG.
struct MiniatureMade {
    std::vector<uint8_t> png;
};
struct SaveDone {
    ReleasePtr release;
    SavedAs as;
};
/// A release is about to take the place of that file.
struct SaveBegun {
    std::filesystem::path file;
    ReleasePtr release;
};
/// The artist lets it go without saving.
struct LeftUnsaved {};

using Deed = std::variant<StepDone, WentTo, MiniatureMade, SaveDone, SaveBegun, LeftUnsaved>;
using Deeds = std::deque<Deed>;

/// A history, what of it needs no saving, and where that is.
struct JournalState {
    History history;
    ReleasePtr saved; ///< nothing when that is none of the steps
    std::optional<SavedAs> as{};
    bool isLeft = false;
    std::vector<uint8_t> miniature{};

    void take(const Deed& deed);
};

/// "Title · Artist", or the one that there is.
std::string titleOf(const Release& release);

} // namespace glyptos
