// The project file, *.glyptos: a zip with release.json and the original pictures (docs/file-format.md).
#pragma once

#include "base/error.h"
#include "file/disk/file_stamp.h"
#include "file/zip_archive.h"
#include "release/release.h"

#include <filesystem>
#include <functional>
#include <vector>

namespace glyptos {

using FormList = std::vector<std::shared_ptr<const Form>>;

/// Forms shipped with Glyptos.
Result<FormList> shippedForms();

/// Memory keeps the bytes of the pictures of a release when they are not more than that in all. Otherwise
/// they stay in its file until they are needed.
inline constexpr size_t kMostHeldPictures = size_t(128) << 20;

/// Saves all of the release but sources that nothing in it shows, atomically.
[[nodiscard]] Result<void> saveProject(const Release& release, const std::filesystem::path& file,
                                       const ZipWriting& writing = {});

/// Where a release was written, and what there is to say about it.
struct Saved {
    std::filesystem::path file;
    std::optional<FileStamp> stamp;
    std::string note; ///< a sentence, or nothing
};
/// The same, but never over what somebody else has written: where `file` is not the one that was `known`,
/// that stays, and the release goes into another file beside it. Without a known one it takes the place of
/// whatever is there.
[[nodiscard]] Result<Saved> saveApart(const Release& release, const std::filesystem::path& file,
                                      const std::optional<FileStamp>& known, const ZipWriting& writing = {});

/// Opens a project. Any failure is one sentence that says what is wrong with which file. A picture that is
/// not read at once is checked when it is.
[[nodiscard]] Result<ReleasePtr> openProject(const std::filesystem::path& file, const FormList& forms,
                                             size_t mostHeldPictures = kMostHeldPictures);

} // namespace glyptos
