// Space between two letters by what the eye sees: the area between them.
#pragma once

#include "type/font_library.h"

#include <array>

namespace glyptos {

/// The edges of a glyph at even heights from below the descenders to above the ascenders, em from its origin;
/// infinite where it has nothing.
struct GlyphEdges {
    static constexpr int kLevels = 32;
    std::array<double, kLevels> left{}, right{};
    double advance = 0;
    bool any = false;
};

inline constexpr double kDeepestGap = 0.18, kNearestGap = 0.02; ///< em

/// The mean distance between two glyphs over the heights that either takes up, em. Depths are counted up to
/// `kDeepestGap` from the letters' furthest edges, since the eye does not look into them further.
double meanGap(const GlyphEdges& left, const GlyphEdges& right);

/// Remembers the edges that it has measured. Faces must outlive it.
class OpticalKerning {
  public:
    /// Space to add between two glyphs, em, in place of the face's own kerning, so that their mean distance
    /// is that of the pairs that the face is spaced by (n n, o o, H H, O O); they never come nearer than
    /// `kNearestGap` to each other. 0 when either has no outline.
    double space(const Face& face, uint32_t left, uint32_t right);
    const GlyphEdges& edges(const Face& face, uint32_t glyph);

  private:
    double usualGap(const Face& face);
    std::map<std::pair<const Face*, uint32_t>, GlyphEdges> edges_;
    std::map<const Face*, double> usual_;
};

} // namespace glyptos
