// Where else the bytes of a picture are than in the journal.
#pragma once

#include "base/json_entry.h"
#include "file/disk/file_stamp.h"
#include "release/release.h"

#include <functional>

namespace glyptos {

/// A file that holds the picture's bytes, or a release that has it as an entry, as it was when that was seen.
struct PictureSpot {
    std::filesystem::path file;
    bool inRelease = false;
    FileStamp stamp;
};

/// The spot of a picture; nothing when its bytes are nowhere but in memory.
using PictureSpots = std::function<std::optional<PictureSpot>(const Source& source)>;

/// Whether the file is still as it was seen.
bool isAsSeen(const PictureSpot& spot);
/// The bytes in that file, whether it has been changed or not, when they are those of the picture. Fails with
/// the end of a sentence.
[[nodiscard]] Result<PictureBytes::Held> readSpot(const PictureSpot& spot, const Source& source);

Json toJson(const FileStamp& stamp);
FileStamp readStamp(const Entry& entry);

} // namespace glyptos
