// Pictures in: JPEG, PNG, TIFF, WebP, SVG and the first page of a PDF, told apart by their first bytes, never
// by their name.
//
// Everything that comes from a file is hostile: sizes are checked before memory is taken, decoders stop at
// the first damage, drawings may not refer outside themselves. Every failure is one sentence that names the
// file.
#pragma once

#include "base/error.h"
#include "raster/picture.h"
#include "release/release.h"

#include <filesystem>
#include <span>
#include <string>
#include <vector>

namespace glyptos {

inline constexpr int kMostPixelsASide = 65000;
inline constexpr long kMostPixels = 300'000'000;
inline constexpr size_t kMostFileBytes = size_t(2) << 30;

/// What the first bytes say.
struct PictureInfo {
    std::string format;        ///< "jpeg", "png", "tiff", "webp", "svg", "pdf"
    int width = 0, height = 0; ///< pixels, upright; drawings: their size at 96 ppi
    int pages = 1;             ///< of a TIFF or PDF; only the first one is read
};

/// Whether pictures of that format are drawn as finely as they are seen.
bool isDrawing(std::string_view format);

/// Sizes and format from the header alone. `name` is for messages.
[[nodiscard]] Result<PictureInfo> inspectPicture(std::span<const uint8_t> bytes, const std::string& name);

/// The same for a picture that is to be brought in: what a camera writes undeveloped is refused, though it
/// may hold a small picture that could be read.
[[nodiscard]] Result<PictureInfo> inspectNewPicture(std::span<const uint8_t> bytes, const std::string& name);

/// The picture, upright, in the working space. `reduce` 1, 2, 4 or 8 lets formats that can (JPEG) decode at
/// 1/reduce of the size; others ignore it. Drawings are rendered at `drawingScale` × their size. Profiles
/// embedded in the file are honoured; CMYK without one is taken to be `pressProfile`'s.
[[nodiscard]] Result<Picture> decodePicture(std::span<const uint8_t> bytes, const std::string& name,
                                            std::span<const uint8_t> pressProfile, int reduce = 1,
                                            double drawingScale = 1);

/// A picture brought in, and a first look at it.
struct Imported {
    SourcePtr source;
    std::shared_ptr<const Pyramid>
        look; ///< decoded at 1/kLookReduction of its size where the format can (JPEG)
};
inline constexpr int kLookReduction = 8;

/// A file as a source: read, inspected, and decoded once (coarsely where that finds all damage) to be sure of
/// it.
[[nodiscard]] Result<Imported> importPicture(const std::filesystem::path& file);
/// The same for bytes at hand.
[[nodiscard]] Result<Imported> importBytes(std::vector<uint8_t> bytes, const std::string& name);

/// What a picture goes by: the XXH3 128-bit hash of its bytes, in hexadecimal.
std::string contentId(std::span<const uint8_t> bytes);

/// All bytes of a file, at most kMostFileBytes.
[[nodiscard]] Result<std::vector<uint8_t>> readFile(const std::filesystem::path& file);

} // namespace glyptos
