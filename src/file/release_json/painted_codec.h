// Painted pixels as JSON, both ways (docs/file-format.md): where each tile lies, and the name of its pixels.
#pragma once

#include "base/json_entry.h"
#include "file/release_json/release_json.h"
#include "release/painted.h"

namespace glyptos {

Json toJson(const PixelTiles& tiles);
Json toJson(const CutoutHints& hints);
CutoutHints readHints(const Entry& entry);
/// Fails as an entry does when a tile cannot be had or is named twice.
PixelTilesPtr readTiles(const Entry& entry, const PixelFormat& format, const TileSource& source);

} // namespace glyptos
