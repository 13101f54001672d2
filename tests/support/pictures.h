// Pictures and releases for tests, made on the spot.
#pragma once

#include "file/pictures/picture_reader.h"
#include "release/edits/edits.h"
#include "render/picture_provider.h"

#include <QTemporaryDir>
#include <QTest>
#include <functional>
#include <map>

namespace glyptos::test {

using Rgb = std::array<uint8_t, 3>;

/// Straight RGBA bytes of pixel (x, y).
using Shade = std::function<std::array<uint8_t, 4>(int x, int y)>;

/// Four quarters: red, green (top), blue, white (bottom).
std::array<uint8_t, 4> quarters(int x, int y, int width, int height);

std::vector<uint8_t> jpegOf(int width, int height, const Shade& shade, int quality = 95);
std::vector<uint8_t> pngOf(int width, int height, const Shade& shade);
std::vector<uint8_t> png16Of(int width, int height,
                             const std::function<std::array<uint16_t, 4>(int, int)>& shade);
std::vector<uint8_t> webpOf(int width, int height, const Shade& shade);
/// Chunky TIFF of 8-bit samples: 3 channels RGB or 4 channels CMYK, with an optional profile and orientation.
std::vector<uint8_t> tiffOf(int width, int height, int channels,
                            const std::function<uint8_t(int x, int y, int c)>& sample,
                            const std::vector<uint8_t>& profile = {}, int orientation = 1);
/// Chunky TIFF in tiles of `tile` × `tile`, or in rows when that is 0, of RGBA (straight alpha) as 8- or
/// 16-bit samples or as 32-bit floats; sample() gives 0…1.
std::vector<uint8_t> tiledTiffOf(int width, int height, int tile, int bits,
                                 const std::function<float(int x, int y, int c)>& sample);
/// CMYK JPEG with Adobe's marker (values stored inverted); inks 0…255.
std::vector<uint8_t> cmykJpegOf(int width, int height, std::array<uint8_t, 4> inks);
/// The JPEG with an Exif orientation put in.
std::vector<uint8_t> withOrientation(const std::vector<uint8_t>& jpeg, int orientation);

void write(const std::filesystem::path& file, const std::vector<uint8_t>& bytes);

/// Bytes of pixel (x, y) of an 8-bit picture.
std::array<int, 4> pixel(const Picture& picture, int x, int y);

/// Pictures at hand by source id.
class HeldPictures : public PictureProvider {
  public:
    PyramidPtr picture(const Source& source, double) override { return held[source.id]; }
    /// Adds a picture and its source to a release.
    ReleasePtr add(const ReleasePtr& release, const std::string& id, Picture picture);
    std::map<std::string, PyramidPtr> held;
};

/// A picture whose straight bytes are given by shade(x, y).
Picture pictureOf(int width, int height, const Shade& straight);

/// A release with one screen piece of width × height; its panel is "front".
ReleasePtr screenRelease(int width, int height);
PanelRef frontOf(const ReleasePtr& release);

/// The error's sentence, or an empty one.
template <class T>
QString sentence(const Result<T>& result) {
    return result ? QString() : QString::fromStdString(result.error().message);
}

} // namespace glyptos::test
