// What the commands that work on one picture read and write.
#pragma once

#include "base/geometry.h"
#include "base/json_entry.h"
#include "file/disk/atomic_file.h"
#include "file/pictures/picture_reader.h"
#include "raster/picture.h"

namespace glyptos::cli {

/// Its upright pixels in the working space.
[[nodiscard]] Result<Picture> readPicture(const std::string& file);
/// In the picture's depth.
[[nodiscard]] Result<void> writePng(const std::string& file, const Picture& picture);
/// A list of [x, y].
std::vector<Vec2> readPoints(const Entry& list);
/// What could not be used of a JSON file, and why.
[[nodiscard]] tl::unexpected<Error> unusable(const std::string& what, const std::string& file,
                                             const Error& error);

/// What `read` makes of a JSON file. `what` is what the file holds: "hints".
template <class Read>
auto readJsonFile(const std::string& file, const char* what, Read read)
    -> Result<std::invoke_result_t<Read, const Entry&>> {
    const auto bytes = readFile(file);
    if (!bytes) return tl::unexpected(bytes.error());
    auto out = guarded({reinterpret_cast<const char*>(bytes->data()), bytes->size()}, what, read);
    if (!out) return unusable(what, file, out.error());
    return out;
}

} // namespace glyptos::cli
