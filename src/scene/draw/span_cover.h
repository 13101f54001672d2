// Internal to draw: which samples of a few pixels a facet covers.
#pragma once

#include <cstdint>

namespace glyptos {

inline constexpr int kSpanPixels = 8, kPixelSamples = 4, kSpanLanes = kSpanPixels * kPixelSamples;

/// How much of a surface must be there for each sample of a pixel to be on it, of 255.
inline constexpr float kThere[kPixelSamples] = {255 * 0.125F, 255 * 0.625F, 255 * 0.375F, 255 * 0.875F};

/// Samples of a span lie together: the first of each pixel, then the second of each, …
/// Where they are, from the middle of the first pixel.
struct SampleLanes {
    alignas(64) float x[kSpanLanes], y[kSpanLanes];
};

/// Shares times nearness, and nearness, at the middle of the first pixel, and how they change.
struct SpanPlanes {
    float from[3], alongX[3], alongY[3];
};

struct SpanCover {
    alignas(64) float nearness[kSpanLanes];
    alignas(64) int32_t on[kSpanLanes]; ///< 0, or all bits
};

/// Samples within the facet that are nearer than what `nearest` says. False where there are none.
bool coverSpan(const SpanPlanes& planes, const SampleLanes& lanes, const float* nearest, SpanCover& out);

} // namespace glyptos
