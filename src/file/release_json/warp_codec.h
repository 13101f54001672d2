// How a layer is kneaded, bent and tilted as JSON, both ways (docs/file-format.md).
#pragma once

#include "base/json_entry.h"
#include "file/release_json/release_json.h"
#include "release/warp.h"

namespace glyptos {

Json toJson(const Warp& warp);
/// Fails as an entry does when corners make no plane, a grid has not the points that it says, or a tile
/// cannot be had.
std::shared_ptr<const Warp> readWarp(const Entry& entry, const TileSource& tiles);

} // namespace glyptos
