// Keeps the id of what an edit made, in the middle of an expression.
#pragma once

#include "release/edits/edits.h"

namespace glyptos::test {

/// The release of `made`; its id goes to `id`.
inline ReleasePtr noting(std::string& id, const Made& made) {
    id = made.id;
    return made.release;
}

} // namespace glyptos::test
