#include "vision/mend/mend.h"

#include "raster/cropped.h"
#include "vision/mend/completion.h"
#include "vision/mend/hole_parts.h"
#include "vision/mend/seam_light.h"
#include "vision/mend/turned.h"

#include <algorithm>
#include <cmath>
#include <tbb/parallel_for.h>

namespace glyptos {
namespace {

using namespace mending;

/// Premultiplied samples of the picture's own depth.
using Filled = std::array<float, 4>;

constexpr float kHalf = 0.5f;

template <class T>
constexpr float kMost = std::is_same_v<T, uint8_t> ? 255 : 65535;

template <class T>
Filled copiedFrom(const Picture& picture, int x, int y, const std::array<float, 4>& light) {
    const T* p = picture.row<T>(y) + ptrdiff_t(4) * x;
    const float alpha = float(p[3]) / kMost<T>, scale = kMost<T> / kFull;
    return {float(p[0]) * alpha + light[0] * scale, float(p[1]) * alpha + light[1] * scale,
            float(p[2]) * alpha + light[2] * scale, float(p[3]) + light[3] * scale};
}

/// The filled pixel over what was there, by how much of it the hole covers.
template <class T>
void write(const Filled& filled, uint8_t covered, T* pixel) {
    const float before = float(pixel[3]) / kMost<T>, share = float(covered) / 255;
    const auto mixed = [&](float fill, float there) { return there + (fill - there) * share; };
    const float alpha = std::clamp(mixed(filled[3], float(pixel[3])), 0.0f, kMost<T>) / kMost<T>;
    for (size_t c = 0; c < 3; ++c) {
        const float premultiplied = mixed(filled[c], float(pixel[c]) * before);
        const float straight = alpha > 0 ? premultiplied / alpha : 0;
        pixel[c] = static_cast<T>(std::clamp(straight, 0.0f, kMost<T>) + kHalf);
    }
    pixel[3] = static_cast<T>(alpha * kMost<T> + kHalf);
}

/// Where the part's own area lies in its WorkPicture.
IntRect ownArea(const HolePart& part) {
    return {part.area.x - part.around.x, part.area.y - part.around.y, part.area.w, part.area.h};
}

/// Copies from the samples that `before`, what lies about the part, really has. `sources`: of `inside`, row
/// by row.
template <class T>
void writeCopied(Picture& picture, const AlphaMap& hole, const HolePart& part, const Picture& before,
                 const IntRect& inside, const std::vector<PixelSource>& sources) {
    const IntRect own = ownArea(part);
    tbb::parallel_for(own.y, own.bottom(), [&](int y) {
        for (int x = own.x; x < own.right(); ++x) {
            const PixelSource& s = sources[size_t(y - inside.y) * size_t(inside.w) + size_t(x - inside.x)];
            if (s.place < 0) continue;
            const int px = part.around.x + x, py = part.around.y + y;
            write(copiedFrom<T>(before, s.place % before.width, s.place / before.width, s.light),
                  hole.at(px, py), picture.row<T>(py) + ptrdiff_t(4) * px);
        }
    });
}

/// Where nothing could be copied.
template <class T>
void writeSmooth(Picture& picture, const AlphaMap& hole, const HolePart& part, const WorkPicture& work) {
    const IntRect own = ownArea(part);
    for (int y = own.y; y < own.bottom(); ++y)
        for (int x = own.x; x < own.right(); ++x) {
            if (!work.hole[work.place(x, y)]) continue;
            Filled filled{};
            for (size_t c = 0; c < 4; ++c)
                filled[c] = float(work.pixel(work.place(x, y))[c]) * kMost<T> / kFull;
            const int px = part.around.x + x, py = part.around.y + y;
            write(filled, hole.at(px, py), picture.row<T>(py) + ptrdiff_t(4) * px);
        }
}

template <class T>
Result<Picture> mendedIn(const Picture& picture, const AlphaMap& hole, const MendOptions& options) {
    Picture out = croppedTo(picture, {0, 0, picture.width, picture.height});
    const std::vector<HolePart> parts = holeParts(hole);
    AlphaMap left = hole;
    double all = 0, done = 0;
    for (const HolePart& part : parts) all += double(part.area.w) * part.area.h;
    for (const HolePart& part : parts) {
        if (isCancelled(options.cancel)) return cancelled();
        WorkPicture work = workPicture(out, left, part.around);
        Picture before = croppedTo(out, part.around);
        std::vector<Shift> turned;
        if (const std::vector<Arc> arcs = arcsThrough(work); !arcs.empty()) {
            WithTurned wide = withTurned(before, work, arcs);
            before = std::move(wide.picture), work = std::move(wide.work), turned = std::move(wide.shifts);
        }
        const auto field = complete(work, turned, options.cancel);
        if (isCancelled(options.cancel)) return cancelled();
        if (field && !field->area.empty()) {
            const IntRect inside = holeArea(work);
            std::vector<PixelSource> sources = pixelSources(work, *field, Patches(work), inside);
            fitLight(work, inside, sources);
            writeCopied<T>(out, hole, part, before, inside, sources);
        } else {
            fillSmoothly(work);
            writeSmooth<T>(out, hole, part, work);
        }
        for (int y = part.area.y; y < part.area.bottom(); ++y)
            std::fill_n(&left.at(part.area.x, y), part.area.w, uint8_t(0));
        done += double(part.area.w) * part.area.h;
        if (options.progress) options.progress(done / all);
    }
    return out;
}

template <class T>
Picture patchedIn(const Picture& picture, const AlphaMap& hole, int dx, int dy) {
    Picture out = croppedTo(picture, {0, 0, picture.width, picture.height});
    const IntRect area = coveredArea(hole), there{area.x + dx, area.y + dy, area.w, area.h};
    const IntRect all{0, 0, picture.width, picture.height};
    const int left = std::min(area.x, there.x), top = std::min(area.y, there.y);
    const IntRect both{left - 1, top - 1, std::max(area.right(), there.right()) - left + 2,
                       std::max(area.bottom(), there.bottom()) - top + 2};
    const HolePart part{area, both.intersected(all)};
    const WorkPicture work = workPicture(picture, hole, part.around);
    const IntRect own = ownArea(part);
    std::vector<PixelSource> sources(size_t(own.w) * size_t(own.h));
    for (int y = own.y; y < own.bottom(); ++y)
        for (int x = own.x; x < own.right(); ++x) {
            const int sx = x + dx, sy = y + dy;
            const bool inside = sx >= 0 && sy >= 0 && sx < work.width && sy < work.height;
            if (inside && work.hole[work.place(x, y)])
                sources[size_t(y - own.y) * size_t(own.w) + size_t(x - own.x)].place =
                    int32_t(work.place(sx, sy));
        }
    fitLight(work, own, sources);
    writeCopied<T>(out, hole, part, croppedTo(picture, part.around), own, sources);
    return out;
}

/// What is wrong with the request, if anything.
Result<void> checked(const Picture& picture, const AlphaMap& hole) {
    if (hole.width != picture.width || hole.height != picture.height)
        return fail(Fault::Usage,
                    "The mask has another size than the picture; nothing was changed. Use one of " +
                        std::to_string(picture.width) + " × " + std::to_string(picture.height) + " px.");
    if (coveredArea(hole).empty())
        return fail(Fault::NotFound, "The mask is empty, so there is nothing to mend; nothing was changed.");
    return {};
}

} // namespace

Result<Picture> mended(const Picture& picture, const AlphaMap& hole, const MendOptions& options) {
    if (auto fine = checked(picture, hole); !fine) return tl::unexpected(fine.error());
    if (std::find(hole.values.begin(), hole.values.end(), 0) == hole.values.end())
        return fail(Fault::NotFound,
                    "The mask covers all of the picture, so nothing is left to mend it from; "
                    "nothing was changed.");
    return picture.is16() ? mendedIn<uint16_t>(picture, hole, options)
                          : mendedIn<uint8_t>(picture, hole, options);
}

Result<Picture> patched(const Picture& picture, const AlphaMap& hole, int dx, int dy) {
    if (auto fine = checked(picture, hole); !fine) return tl::unexpected(fine.error());
    return picture.is16() ? patchedIn<uint16_t>(picture, hole, dx, dy)
                          : patchedIn<uint8_t>(picture, hole, dx, dy);
}

} // namespace glyptos
