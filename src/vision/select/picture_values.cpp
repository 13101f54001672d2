#include "vision/select/picture_values.h"

#include "vision/reduced.h"

#include <cmath>
#include <tbb/parallel_for.h>

namespace glyptos {
namespace {

template <class Value>
AlphaMap valuesOf(const Picture& picture, const Value& value) {
    AlphaMap out(picture.width, picture.height);
    tbb::parallel_for(0, picture.height, [&](int y) {
        for (int x = 0; x < picture.width; ++x)
            out.at(x, y) = static_cast<uint8_t>(std::lround(255 * value(straightAt(picture, x, y))));
    });
    return out;
}

} // namespace

AlphaMap lightOf(const Picture& picture) {
    return valuesOf(picture, [](const Rgba& c) { return lumaOf(c) * c.a; });
}

AlphaMap coverOf(const Picture& picture) {
    return valuesOf(picture, [](const Rgba& c) { return c.a; });
}

} // namespace glyptos
