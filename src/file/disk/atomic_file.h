// Files that are either wholly written or not there.
#pragma once

#include "base/error.h"

#include <cstdint>
#include <filesystem>
#include <functional>
#include <span>
#include <string_view>

namespace glyptos {

/// Calls `write` with a new file, open for reading and writing, flushes it to the disk and puts it in the
/// place of `target`: of the file that it leads to, where it is a link. That file's permissions are kept, its
/// owner and access list where the system allows it. A folder, a device or a pipe is refused. On any failure,
/// or when the process is killed, `target` is as it was and nothing else is left; the message says why and
/// that nothing was lost.
Result<void> replaceFile(const std::filesystem::path& target, const std::function<Result<void>(int)>& write);

/// The same for bytes at hand.
[[nodiscard]] Result<void> writeFile(const std::filesystem::path& target, std::span<const uint8_t> bytes);

inline std::span<const uint8_t> bytesOf(std::string_view text) {
    return {reinterpret_cast<const uint8_t*>(text.data()), text.size()};
}

/// All bytes to an open file, from where it stands.
[[nodiscard]] Result<void> writeAll(int file, std::span<const uint8_t> bytes);

} // namespace glyptos
