#include "vision/mend/turned.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <tbb/parallel_for.h>

namespace glyptos::mending {
namespace {

/// Round the hole, so that patches that reach beyond it find their likes too.
constexpr int kRoom = 2 * kSide;

/// How far copies are turned, in shares of what the hole covers of the circle: the known may be short.
constexpr std::array<double, 6> kTurns{-1.15, -0.7, -0.4, 0.4, 0.7, 1.15};

/// Weights of the four samples about a place (R. Keys, "Cubic convolution interpolation", 1981).
std::array<float, 4> weightsAt(float t) {
    return {((-0.5f * t + 1) * t - 0.5f) * t, (1.5f * t - 2.5f) * t * t + 1, ((-1.5f * t + 2) * t + 0.5f) * t,
            (0.5f * t - 0.5f) * t * t};
}

/// One pixel of the picture at a place between pixels. False where any that it is made of is not known.
template <class T>
bool sample(const Picture& picture, const WorkPicture& work, Vec2 at, T* out) {
    const double u = at.x - 0.5, v = at.y - 0.5;
    const int x = wholePixel(std::floor(u)), y = wholePixel(std::floor(v));
    if (x < 1 || y < 1 || x + 2 >= picture.width || y + 2 >= picture.height) return false;
    const auto wx = weightsAt(float(u - x)), wy = weightsAt(float(v - y));
    // Straight colours are weighed by their alpha.
    std::array<float, 4> sum{};
    for (int j = 0; j < 4; ++j)
        for (int i = 0; i < 4; ++i) {
            if (work.hole[work.place(x - 1 + i, y - 1 + j)]) return false;
            const T* p = picture.row<T>(y - 1 + j) + ptrdiff_t(4) * (x - 1 + i);
            const float w = wx[size_t(i)] * wy[size_t(j)], alpha = w * float(p[3]);
            for (size_t c = 0; c < 3; ++c) sum[c] += alpha * float(p[c]);
            sum[3] += alpha;
        }
    constexpr float kMost = std::is_same_v<T, uint8_t> ? 255 : 65535, kHalf = 0.5f;
    for (size_t c = 0; c < 3; ++c)
        out[c] = static_cast<T>(std::clamp(sum[3] > 0 ? sum[c] / sum[3] : 0, 0.0f, kMost) + kHalf);
    out[3] = static_cast<T>(std::clamp(sum[3], 0.0f, kMost) + kHalf);
    return true;
}

/// What of the whole a copy holds, and what it is turned by.
struct Copy {
    Affine toPicture;
    int top; ///< row of the whole
};

template <class T>
WithTurned extended(const Picture& picture, const WorkPicture& work, const IntRect& window,
                    const std::vector<Copy>& copies) {
    const int height = work.height + (window.h + kSide) * int(copies.size());
    WithTurned out{Picture::create<T>(work.width, height), WorkPicture(work.width, height), {}};
    out.picture.opaque = picture.opaque;
    std::fill_n(out.picture.row<T>(0), size_t(work.width) * size_t(height) * 4, T(0));
    std::copy_n(picture.row<T>(0), size_t(work.width) * size_t(work.height) * 4, out.picture.row<T>(0));
    AlphaMap unknown(work.width, height, 255);
    for (const Copy& copy : copies) {
        out.shifts.push_back({-window.x, copy.top - window.y});
        tbb::parallel_for(0, window.h, [&](int y) {
            for (int x = 0; x < window.w; ++x) {
                const Vec2 from = copy.toPicture.map({window.x + x + 0.5, window.y + y + 0.5});
                if (sample<T>(picture, work, from, out.picture.row<T>(copy.top + y) + ptrdiff_t(4) * x))
                    unknown.at(x, copy.top + y) = 0;
            }
        });
    }
    out.work = workPicture(out.picture, unknown, {0, 0, work.width, height});
    for (uint8_t& v : out.work.hole) v = v ? kNotThere : 0;
    std::copy(work.hole.begin(), work.hole.end(), out.work.hole.begin());
    std::copy(work.samples.begin(), work.samples.end(), out.work.samples.begin());
    out.work.own = work.height;
    return out;
}

} // namespace

WithTurned withTurned(const Picture& picture, const WorkPicture& work, const std::vector<Arc>& arcs) {
    const IntRect hole = holeArea(work);
    const IntRect window =
        IntRect{hole.x - kRoom, hole.y - kRoom, hole.w + 2 * kRoom, hole.h + 2 * kRoom}.intersected(
            {0, 0, work.width, work.height});
    std::vector<Copy> copies;
    for (const Arc& arc : arcs)
        for (const double turn : kTurns)
            copies.push_back(
                {Affine::translation(arc.centre.x, arc.centre.y) * Affine::rotation(turn * arc.spanned) *
                     Affine::translation(-arc.centre.x, -arc.centre.y),
                 work.height + kSide + (window.h + kSide) * int(copies.size())});
    return picture.is16() ? extended<uint16_t>(picture, work, window, copies)
                          : extended<uint8_t>(picture, work, window, copies);
}

} // namespace glyptos::mending
