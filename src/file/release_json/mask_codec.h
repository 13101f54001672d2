// Masks as JSON, both ways (docs/file-format.md).
#pragma once

#include "base/json_entry.h"
#include "release/release.h"

namespace glyptos {

Json toJson(const Mask& mask);
/// Whether a named picture is there is left to the caller.
Mask readMask(const Entry& entry);

} // namespace glyptos
