// Facets in space drawn without a graphics processor: a depth buffer with four samples a pixel.
#pragma once

#include "scene/draw/facet.h"

#include <atomic>
#include <span>

namespace glyptos {

struct DrawSize {
    int width = 0, height = 0;
    /// 1 while something moves, when pictures are read in one size; n, at most 8: n × n times as many
    /// samples.
    int finer = 1;
};

/// Premultiplied BGRA bytes, transparent where nothing is; rows of 4 · width bytes without gaps. Pictures are
/// read between their pixels and sizes, with up to four reads along what is seen at a slant. What a facet
/// hides from the lamp is lit from everywhere alone. What is seen through is laid over what lies behind it,
/// in the order of the middles of its facets. On all cores. Stops early once `*cancel` is true.
Buffer<uint8_t> drawFacets(std::span<const Facet> facets, const Eye& eye, const Lamp& lamp,
                           const DrawSize& size, const std::atomic<bool>* cancel = nullptr);

/// Where a point is seen, px from the middle of the picture; nothing when it is not in front of the eye.
std::optional<Vec2> seenAt(const Vec3& point, const Eye& eye);

} // namespace glyptos
