// Pixels that lie in a file without a name, so that the system may take their memory back at any time.
#pragma once

#include "raster/picture.h"

#include <filesystem>
#include <optional>

namespace glyptos {

/// The same pyramid with its pixels in a file in that folder, which is gone with the last of its users.
/// Nothing when the disk is full or the folder cannot be written.
std::optional<Pyramid> onDisk(const Pyramid& pyramid, const std::filesystem::path& folder);

} // namespace glyptos
