// From files to entries: read, told apart, looked at once, and described.
#pragma once

#include "crate/crate.h"

#include <QImage>
#include <atomic>
#include <functional>

namespace glyptos {

/// What examining one file gives.
struct Examined {
    CrateEntry entry;
    QImage thumbnail; ///< at most kThumbnailSide px a side
};

/// Reads a file. Its name becomes the title when it has none; a texture, scan or element is told by a word of
/// its folders or its name, a drawing is an element, anything else a photo. Fails with one sentence.
Result<Examined> examineFile(const std::filesystem::path& file);
/// The same for bytes at hand.
Result<Examined> examineBytes(const std::vector<uint8_t>& bytes, const std::string& name);

struct AddReport {
    int added = 0;                     ///< new sources
    int already = 0;                   ///< files whose bytes are in the crate, from there or from elsewhere
    std::vector<std::string> troubles; ///< a sentence each
};

/// Called from time to time with how many of how many files have been looked at.
using AddProgress = std::function<void(size_t done, size_t all)>;

/// Adds files, and what is in folders (not those whose name begins with a dot), with all cores. Files that
/// the crate knows and that have not changed are not read again. What was added before a cancel stays.
[[nodiscard]] Result<AddReport> addFiles(Crate& crate, const std::vector<std::filesystem::path>& paths,
                                         const AddProgress& progress = {},
                                         const std::atomic<bool>* cancel = nullptr);

/// Adds a picture without a file, such as a pasted one, to those that the crate keeps itself. `facts`
/// replaces what the file says where it says anything. The id of the source.
[[nodiscard]] Result<std::string> addBytes(Crate& crate, const std::vector<uint8_t>& bytes,
                                           const std::string& name, const SourceFacts& facts);

/// A small picture of what was decoded.
QImage thumbnailOf(const Pyramid& picture);

} // namespace glyptos
