#include "raster/picture.h"

#include "raster/halve.h"
#include "raster/mean.h"

#include <algorithm>
#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>

namespace glyptos {
namespace {

template <class T>
void halveRow(const T* upper, const T* lower, int sourceWidth, T* out) {
    const int whole = sourceWidth / 2;
    for (int x = 0; x < whole; ++x)
        for (int c = 0; c < 4; ++c) {
            const uint32_t sum =
                uint32_t(upper[8 * x + c]) + upper[8 * x + 4 + c] + lower[8 * x + c] + lower[8 * x + 4 + c];
            out[4 * x + c] = static_cast<T>((sum + 2) / 4);
        }
    if (sourceWidth % 2)
        for (int c = 0; c < 4; ++c)
            out[4 * whole + c] =
                static_cast<T>((uint32_t(upper[8 * whole + c]) + lower[8 * whole + c] + 1) / 2);
}

template <class T>
void halveStraightRow(const T* upper, const T* lower, int sourceWidth, T* out) {
    int first = 0;
    if constexpr (std::is_same_v<T, uint8_t>) {
        first = sourceWidth / 2;
        glyptos::halveRow(upper, lower, out, size_t(first));
    }
    for (int x = first; x < (sourceWidth + 1) / 2; ++x) {
        const ptrdiff_t left = ptrdiff_t(8) * x, right = 2 * x + 1 < sourceWidth ? left + 4 : left;
        meanOf<T>({upper + left, upper + right, lower + left, lower + right}, out + ptrdiff_t(4) * x);
    }
}

template <class T>
Picture halved(const Picture& source) {
    Picture out = Picture::create<T>((source.width + 1) / 2, (source.height + 1) / 2);
    out.opaque = source.opaque;
    tbb::parallel_for(tbb::blocked_range<int>(0, out.height, 64), [&](const tbb::blocked_range<int>& rows) {
        for (int y = rows.begin(); y < rows.end(); ++y)
            (source.opaque ? halveRow<T>
                           : halveStraightRow<T>)(source.row<T>(2 * y),
                                                  source.row<T>(std::min(2 * y + 1, source.height - 1)),
                                                  source.width, out.row<T>(y));
    });
    return out;
}

} // namespace

Pyramid::Pyramid(Picture base)
    : width_(base.width)
    , height_(base.height) {
    levels_.push_back(std::make_shared<const Picture>(std::move(base)));
    while (levels_.back()->width > 1 || levels_.back()->height > 1)
        levels_.push_back(std::make_shared<const Picture>(
            levels_.back()->is16() ? halved<uint16_t>(*levels_.back()) : halved<uint8_t>(*levels_.back())));
}

double alphaAt(const Pyramid& pyramid, double x, double y) {
    constexpr int kFine = 512;
    int level = pyramid.firstLevel();
    while (level + 1 < pyramid.levels() &&
           std::max(pyramid.level(level).width, pyramid.level(level).height) > kFine)
        ++level;
    const Picture& p = pyramid.level(level);
    const int px = std::clamp(int(x * p.width), 0, p.width - 1),
              py = std::clamp(int(y * p.height), 0, p.height - 1);
    return p.is16() ? p.row<uint16_t>(py)[4 * px + 3] / 65535.0 : p.row<uint8_t>(py)[4 * px + 3] / 255.0;
}

size_t Pyramid::bytes() const {
    size_t sum = 0;
    for (const auto& p : levels_) sum += p ? p->bytes() : 0;
    return sum;
}

Pyramid Pyramid::mapped(const std::function<Picture(const Picture&)>& map) const {
    Pyramid out = *this;
    for (auto& level : out.levels_)
        if (level) level = std::make_shared<const Picture>(map(*level));
    return out;
}

Pyramid Pyramid::from(int first) const {
    Pyramid out = *this;
    out.first_ = std::clamp(first, first_, levels() - 1);
    for (int k = 0; k < out.first_; ++k) out.levels_[size_t(k)] = nullptr;
    return out;
}

} // namespace glyptos
