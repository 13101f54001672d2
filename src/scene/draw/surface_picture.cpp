#include "scene/draw/surface_picture.h"

#include <algorithm>

namespace glyptos {
namespace {

/// Means of two by two; of an odd side the last stands alone.
SurfacePicture::Level halved(const SurfacePicture::Level& from) {
    SurfacePicture::Level out{std::max(1, from.width / 2), std::max(1, from.height / 2), {}};
    out.bytes = Buffer<uint8_t>(size_t(out.width) * size_t(out.height) * 4);
    for (int y = 0; y < out.height; ++y)
        for (int x = 0; x < out.width; ++x) {
            const int x1 = std::min(2 * x + 1, from.width - 1), y1 = std::min(2 * y + 1, from.height - 1);
            const auto at = [&](int px, int py) {
                return from.bytes.data() + (size_t(py) * size_t(from.width) + size_t(px)) * 4;
            };
            const uint8_t *a = at(2 * x, 2 * y), *b = at(x1, 2 * y), *c = at(2 * x, y1), *d = at(x1, y1);
            uint8_t* to = out.bytes.data() + (size_t(y) * size_t(out.width) + size_t(x)) * 4;
            for (int k = 0; k < 4; ++k) to[k] = uint8_t((a[k] + b[k] + c[k] + d[k] + 2) / 4);
        }
    return out;
}

} // namespace

SurfacePicture::SurfacePicture(Buffer<uint8_t> bytes, int width, int height) {
    for (size_t i = 3; i < bytes.size(); i += 4) whole_ = whole_ && bytes[i] == 255;
    levels_.push_back({width, height, std::move(bytes)});
    while (levels_.back().width > 1 || levels_.back().height > 1) levels_.push_back(halved(levels_.back()));
}

} // namespace glyptos
