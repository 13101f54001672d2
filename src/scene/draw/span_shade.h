// Internal to draw: the colours of the few pixels of a span, from what is printed there and the light on it.
#pragma once

#include "scene/draw/span_cover.h"
#include "scene/draw/surface_picture.h"

namespace glyptos {

/// Where a facet's surface and light lie along a span. Shares are those of its right (s) and down (t) edges.
struct SpanLook {
    float s = 0, t = 0, alongS = 0, alongT = 0; ///< at the middle of the first pixel, and from pixel to pixel

    const SurfacePicture::Level* levels[2] = {}; ///< sizes to read; the first missing: `colour` all over
    float between = 0;                           ///< 0…1 from the first size to the second
    float onPicture[6] = {};    ///< x = [0] s + [1] t + [2], y = [3] s + [4] t + [5], shares of the picture
    int reads = 1;              ///< along what is seen at a slant
    float stepX = 0, stepY = 0; ///< of the picture, from read to read
    float colour[3] = {};       ///< sRGB blue, green, red, 0…255
    float everywhere = 1;       ///< light that comes from everywhere, linear
    float lamp = 0;             ///< and from the lamp, where nothing is between
    float place[3] = {};        ///< in the lamp's map
    float placeAlongS[3] = {}, placeAlongT[3] = {};
    const float* depths = nullptr; ///< of that map
    int mapSide = 0;               ///< its outermost cells are free
};

/// sRGB-encoded bytes in a 32-bit word as B, G, R and 255.
struct SpanColours {
    alignas(64) uint32_t pixel[kSpanPixels];
    alignas(64) float there[kSpanPixels]; ///< 0…255: how much of the surface is there
};

/// Pictures are read between their pixels and sizes in sRGB; light adds up in linear light. Within half a
/// step of 255 of a scalar reading.
void shadeSpan(const SpanLook& look, SpanColours& out);

/// The samples of a span that are covered take its colours and nearness.
void putSpan(const SpanCover& covered, const SpanColours& colours, float* nearness, uint32_t* samples);
/// The same for what is seen through: it leaves what is there nearer than what comes behind it. `share` of
/// 256 of its colour is laid over what there is.
void tintSpan(const SpanCover& covered, const SpanColours& colours, uint32_t share, uint32_t* samples);
/// Means of the four samples of each pixel, premultiplied, of whole spans; 4 · kSpanPixels bytes a span.
void meansOfSpans(const uint32_t* samples, size_t spans, uint32_t* pixels);

} // namespace glyptos
