#include "raster/cropped.h"

#include <algorithm>

namespace glyptos {
namespace {

template <class T>
Picture partIn(const Picture& picture, const IntRect& area) {
    Picture out = Picture::create<T>(area.w, area.h);
    out.opaque = picture.opaque;
    for (int y = 0; y < area.h; ++y)
        std::copy_n(picture.row<T>(area.y + y) + ptrdiff_t(4) * area.x, size_t(area.w) * 4, out.row<T>(y));
    return out;
}

} // namespace

Picture croppedTo(const Picture& picture, const IntRect& area) {
    return picture.is16() ? partIn<uint16_t>(picture, area) : partIn<uint8_t>(picture, area);
}

} // namespace glyptos
