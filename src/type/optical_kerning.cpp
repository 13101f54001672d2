#include "type/optical_kerning.h"

#include "type/glyph_outline.h"
#include "type/outline_scan.h"

#include <algorithm>
#include <hb.h>
#include <limits>

namespace glyptos {
namespace {

constexpr double kLowest = -0.25, kHighest = 0.95; // em: descenders to ascenders
constexpr double kNothing = std::numeric_limits<double>::infinity();

double heightOf(int level) {
    return kLowest + (kHighest - kLowest) * (level + 0.5) / GlyphEdges::kLevels;
}

GlyphEdges measured(const Face& face, uint32_t glyph) {
    GlyphEdges out;
    out.left.fill(kNothing), out.right.fill(-kNothing);
    out.advance = hb_font_get_glyph_h_advance(face.font(), glyph) / face.unitsPerEm();
    const OutlineScan scan(glyphOutline(face, glyph));
    for (int i = 0; i < GlyphEdges::kLevels && !scan.empty(); ++i) {
        const auto runs = scan.across(-heightOf(i));
        if (runs.empty()) continue;
        out.left[size_t(i)] = runs.front().from, out.right[size_t(i)] = runs.back().to;
        out.any = true;
    }
    return out;
}

/// Of the heights at which both have something; nothing when there is none.
std::optional<double> nearestGap(const GlyphEdges& a, const GlyphEdges& b) {
    std::optional<double> out;
    for (size_t i = 0; i < GlyphEdges::kLevels; ++i)
        if (a.right[i] > -kNothing && b.left[i] < kNothing) {
            const double gap = a.advance - a.right[i] + b.left[i];
            out = std::min(out.value_or(gap), gap);
        }
    return out;
}

} // namespace

double meanGap(const GlyphEdges& a, const GlyphEdges& b) {
    if (!a.any || !b.any) return 0;
    const double rightmost = *std::max_element(a.right.begin(), a.right.end());
    const double leftmost = *std::min_element(b.left.begin(), b.left.end());
    double sum = 0;
    int n = 0;
    for (size_t i = 0; i < GlyphEdges::kLevels; ++i) {
        const bool hasA = a.right[i] > -kNothing, hasB = b.left[i] < kNothing;
        if (!hasA && !hasB) continue;
        const double depthA = std::min(rightmost - a.right[i], kDeepestGap);
        const double depthB = std::min(b.left[i] - leftmost, kDeepestGap);
        sum += a.advance - rightmost + leftmost + depthA + depthB;
        ++n;
    }
    return sum / n;
}

const GlyphEdges& OpticalKerning::edges(const Face& face, uint32_t glyph) {
    const auto [known, isNew] = edges_.try_emplace({&face, glyph});
    if (isNew) known->second = measured(face, glyph);
    return known->second;
}

double OpticalKerning::usualGap(const Face& face) {
    const auto [known, isNew] = usual_.try_emplace(&face, 0.0);
    if (!isNew) return known->second;
    double sum = 0;
    int n = 0;
    for (const char c : {'n', 'o', 'H', 'O'}) {
        hb_codepoint_t glyph = 0;
        if (!hb_font_get_nominal_glyph(face.font(), hb_codepoint_t(c), &glyph)) continue;
        const GlyphEdges& one = edges(face, glyph);
        if (one.any) sum += meanGap(one, one), ++n;
    }
    if (n > 0) known->second = sum / n;
    return known->second;
}

double OpticalKerning::space(const Face& face, uint32_t left, uint32_t right) {
    const GlyphEdges &a = edges(face, left), &b = edges(face, right);
    const double usual = usualGap(face);
    if (!a.any || !b.any || usual == 0) return 0;
    const double even = usual - meanGap(a, b);
    const auto nearest = nearestGap(a, b);
    return nearest ? std::max(even, kNearestGap - *nearest) : even;
}

} // namespace glyptos
