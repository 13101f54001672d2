// A window that is edited by chance until it is killed, and notes what it has shown and when.
#pragma once

#include "release/release.h"

#include <QString>
#include <cstdint>
#include <vector>

namespace glyptos::test {

/// What was shown, by the hash of all of it.
struct NotedState {
    int64_t atMs = 0; ///< since 1970
    uint64_t hash = 0;
};

/// Of everything but the number of the next id.
uint64_t stateHash(const Release& release);

/// Opens a window on a new release and edits it for ever, seeded; each state is added to the file `log`
/// before anything else hears of it. Pictures for it, and files it saves in, lie in `folder`.
/// GLYPTOS_TEST_FLUSH_MS is how long its disk takes to flush.
int editAtRandom(unsigned seed, const QString& folder, const QString& log);
std::vector<NotedState> notedStates(const QString& log);

} // namespace glyptos::test
