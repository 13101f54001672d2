// Internal to file: one decoder a format. Each yields straight samples as they stand in the file.
#pragma once

#include "base/error.h"
#include "color/profile.h"
#include "file/pictures/picture_reader.h"
#include "raster/buffer.h"

namespace glyptos::codecs {

/// Decoded samples before colour conversion and turning.
struct RawPicture {
    SampleSpace space = SampleSpace::Rgb;
    bool alpha = false; ///< one more sample behind the colour
    bool premultiplied = false;
    bool sixteen = false;
    int width = 0, height = 0; ///< as stored
    Buffer<uint8_t> samples;   ///< interleaved; 16-bit samples in the machine's order
    Bytes profile;             ///< embedded ICC profile, or empty
    int orientation = 1;       ///< Exif/TIFF 1…8

    int channels() const { return channelsOf(space) + (alpha ? 1 : 0); }
    size_t rowBytes() const { return size_t(width) * size_t(channels()) * (sixteen ? 2 : 1); }
    uint8_t* row(int y) { return samples.data() + size_t(y) * rowBytes(); }
    const uint8_t* row(int y) const { return samples.data() + size_t(y) * rowBytes(); }
    /// The system may have the memory of some rows back: they are not read any more.
    void letGo(int from, int to);
    void allocate() { samples = Buffer<uint8_t>(rowBytes() * size_t(height)); }
};

/// A decoder's complaint, without the file's name ("is cut short").
using Trouble = Error;

using Data = std::span<const uint8_t>;

[[nodiscard]] Result<PictureInfo> inspectJpeg(Data bytes);
[[nodiscard]] Result<RawPicture> decodeJpeg(Data bytes, int reduce);
[[nodiscard]] Result<PictureInfo> inspectPng(Data bytes);
[[nodiscard]] Result<RawPicture> decodePng(Data bytes);
[[nodiscard]] Result<PictureInfo> inspectTiff(Data bytes);
[[nodiscard]] Result<RawPicture> decodeTiff(Data bytes);
[[nodiscard]] Result<PictureInfo> inspectWebp(Data bytes);
[[nodiscard]] Result<RawPicture> decodeWebp(Data bytes);
[[nodiscard]] Result<PictureInfo> inspectSvg(Data bytes);
[[nodiscard]] Result<RawPicture> decodeSvg(Data bytes, double scale);

[[nodiscard]] Result<PictureInfo> inspectPdf(Data bytes);
[[nodiscard]] Result<RawPicture> decodePdf(Data bytes, double scale);

/// Whether a PNG has a chunk that would end behind the end of the file, before its pixels or anywhere.
/// Libraries take memory for the length that it says.
bool promisesMoreThanItHolds(Data bytes, bool beforePixels);
/// Exif orientation 1…8 of a JPEG, PNG or WebP file; 1 when there is none or it cannot be read.
int exifOrientation(Data bytes);

/// Fails when a side or the area is over the limits of picture_reader.h.
Result<void> checkSize(double width, double height);

inline auto cutShort() {
    return fail(Fault::Damaged, "is cut short or damaged");
}

} // namespace glyptos::codecs
