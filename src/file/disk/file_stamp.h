// Whether a file is still the one that was read or written: others may have changed, moved or removed it.
#pragma once

#include <cstdint>
#include <filesystem>
#include <optional>

namespace glyptos {

struct FileStamp {
    uint64_t device = 0, inode = 0, size = 0;
    int64_t modifiedNs = 0; ///< since 1970
    bool operator==(const FileStamp&) const = default;
};

/// Of the file that a path leads to; nothing when there is none.
std::optional<FileStamp> stampOf(const std::filesystem::path& file);

/// A file beside `file` that is not there yet: "Tide 2.glyptos" for "Tide.glyptos", or a higher number.
std::filesystem::path freeBeside(const std::filesystem::path& file);

} // namespace glyptos
