// Masks as JSON, both ways (docs/file-format.md).
#pragma once

#include "base/json_entry.h"
#include "file/release_json/release_json.h"
#include "release/release.h"

namespace glyptos {

Json toJson(const Mask& mask);
/// Whether a named picture is there is left to the caller.
Mask readMask(const Entry& entry, const TileSource& tiles);

} // namespace glyptos
