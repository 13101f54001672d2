// A region of an output in floats: what treatments read and write.
#pragma once

#include "base/geometry.h"
#include "raster/buffer.h"

#include <algorithm>
#include <cstring>

namespace glyptos {

/// One plane of floats over `area`; rows `stride` apart. Rows are named by their output row.
struct Plane {
    IntRect area;
    size_t stride = 0;
    Buffer<float> values;

    Plane() = default;
    explicit Plane(const IntRect& a)
        : area(a)
        , stride(roundUpLanes(size_t(a.w)))
        , values(Buffer<float>::passing(stride * size_t(a.h))) {}
    /// The value of column area.x.
    float* row(int y) { return values.data() + size_t(y - area.y) * stride; }
    const float* row(int y) const { return values.data() + size_t(y - area.y) * stride; }
    float at(int x, int y) const { return row(y)[x - area.x]; }
};

/// Red, green, blue, premultiplied and sRGB-encoded, and alpha, 0…1.
struct Planes { // NOLINT(bugprone-reserved-identifier): of a loop that the compiler writes
    IntRect area;
    Plane c[4];

    Planes() = default;
    explicit Planes(const IntRect& a)
        : area(a)
        , c{Plane(a), Plane(a), Plane(a), Plane(a)} {}
    float* row(int channel, int y) { return c[channel].row(y); }
    const float* row(int channel, int y) const { return c[channel].row(y); }
    void clear() {
        for (Plane& plane : c) std::memset(plane.values.data(), 0, plane.values.size() * sizeof(float));
    }
};

/// A part of them, which must lie within.
inline Planes cutOut(const Planes& from, const IntRect& area) {
    Planes out(area);
    for (int c = 0; c < 4; ++c)
        for (int y = area.y; y < area.bottom(); ++y)
            std::copy_n(from.row(c, y) + (area.x - from.area.x), area.w, out.row(c, y));
    return out;
}
inline Planes copyOf(const Planes& planes) {
    return cutOut(planes, planes.area);
}

} // namespace glyptos
