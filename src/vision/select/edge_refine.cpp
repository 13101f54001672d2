#include "vision/select/edge_refine.h"

#include "vision/cutout/trimap.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace glyptos {
namespace {

tl::unexpected<Error> noEdge() {
    return fail(Fault::NotFound,
                "There is no edge between what shows and what does not, so nothing was changed. "
                "Mask a part first, or brush over its edge.");
}

bool isToldBothSides(const AlphaMap& trimap) {
    const auto has = [&](uint8_t v) {
        return std::find(trimap.values.begin(), trimap.values.end(), v) != trimap.values.end();
    };
    return has(0) && has(255);
}

} // namespace

Result<AlphaMap> refinedEdge(const Pyramid& picture, const AlphaMap& alpha, double band,
                             const CutoutOptions& options) {
    AlphaMap hard = alpha;
    for (uint8_t& v : hard.values) v = v >= 128 ? 255 : 0;
    const AlphaMap trimap = trimapAround(hard, band, band);
    if (!isToldBothSides(trimap)) return noEdge();
    return refinedAlpha(picture, trimap, options);
}

Result<AlphaMap> refinedWhere(const Pyramid& picture, const AlphaMap& alpha, const AlphaMap& brushed,
                              const CutoutOptions& options) {
    AlphaMap trimap = alpha;
    for (size_t i = 0; i < trimap.values.size(); ++i) {
        uint8_t& v = trimap.values[i];
        v = brushed.values[i] ? kUncertain : v >= 128 ? 255 : 0;
    }
    if (!isToldBothSides(trimap)) return noEdge();
    auto out = refinedAlpha(picture, trimap, options);
    if (!out) return out;
    for (size_t i = 0; i < out->values.size(); ++i)
        if (!brushed.values[i]) out->values[i] = alpha.values[i];
    return out;
}

AlphaMap firmed(const AlphaMap& alpha, double firmness, double outwards) {
    const double half = 127.5 * (1 - outwards), slope = 1 / std::max(1 - firmness, 1e-3);
    std::array<uint8_t, 256> table{};
    for (int v = 0; v < 256; ++v)
        table[size_t(v)] =
            static_cast<uint8_t>(std::lround(std::clamp(127.5 + (v - half) * slope, 0.0, 255.0)));
    // What is whole stays whole, and nothing stays nothing.
    table[0] = 0, table[255] = 255;
    AlphaMap out = alpha;
    for (uint8_t& v : out.values) v = table[v];
    return out;
}

} // namespace glyptos
