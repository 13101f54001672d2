// Small pictures of files, kept where all programs look for them: the freedesktop.org Thumbnail Managing
// Standard 0.9, size "large" (256 px).
#pragma once

#include "raster/picture.h"

#include <QImage>
#include <cstdint>
#include <filesystem>
#include <optional>

namespace glyptos {

inline constexpr int kThumbnailSide = 256;

/// The pixels as an image, of 8 bits a channel.
QImage imageOf(const Picture& picture);

/// $XDG_CACHE_HOME/thumbnails, or in ~/.cache.
std::filesystem::path thumbnailFolder();
/// Where the thumbnail of a file is or would be.
std::filesystem::path thumbnailFile(const std::filesystem::path& file);
/// Writes it for the file as it was at `modified` (seconds since 1970). False when it cannot be written,
/// which costs time later and nothing else.
bool writeThumbnail(const std::filesystem::path& file, int64_t modified, const QImage& small);
/// The thumbnail, if there is one of the file as it was then.
std::optional<QImage> readThumbnail(const std::filesystem::path& file, int64_t modified);

} // namespace glyptos
