// Files that are either wholly written or not there.
#pragma once

#include "base/error.h"

#include <cstdint>
#include <filesystem>
#include <functional>
#include <span>

namespace glyptos {

/// Calls `write` with the path of a new file beside `target`, flushes that file to the disk and renames it
/// over `target`. On any failure the new file is removed and `target` is as it was; the message says why and
/// that nothing was lost.
Result<void> replaceFile(const std::filesystem::path& target,
                         const std::function<Result<void>(const std::filesystem::path&)>& write);

/// The same for bytes at hand.
[[nodiscard]] Result<void> writeFile(const std::filesystem::path& target, std::span<const uint8_t> bytes);

} // namespace glyptos
