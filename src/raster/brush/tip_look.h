// What dabs of a brush look like, made ready to be drawn.
#pragma once

#include "base/geometry.h"
#include "raster/brush/brush.h"
#include "raster/path.h"
#include "raster/picture.h"

#include <memory>
#include <optional>
#include <vector>

namespace glyptos {

/// Cover of a tip, 0…1, over the square from -1 to 1 of its frame, and its halves.
struct TipTexture {
    static constexpr int kSide = 512;
    std::vector<std::vector<float>> levels; ///< kSide² values, then a quarter as many, …
    /// Between the pixels of a level, beyond its edge the edge; `level` must be there.
    float at(float u, float v, size_t level) const;
    /// The level whose pixels are at most as wide as one px of a tip of that radius, px.
    size_t levelFor(double radius) const;
    /// Whether its own pixels are wider than a px of a tip of that radius.
    static bool isLargerThan(double radius) { return kSide < 2 * radius; }
};

/// Grain (its square goes on mirrored), spatter, dry or ink; nothing for the others. Made from noise with
/// fixed seeds; the same every time.
std::shared_ptr<const TipTexture> textureOf(TipKind kind);

/// One stamp: all of the picture in the tip's frame, its longer side as long as that. Of outlines only the
/// alpha counts, and the colour is the brush's.
struct StampLook {
    PyramidPtr picture;
    bool tinted = false;
};
/// An outline as a stamp: it fills the frame.
StampLook stampOf(const Path& outline);

struct TipLook {
    TipKind tip = TipKind::Round;
    float hardness = 0.7f, flow = 1;
    bool closed = true; ///< dabs make a line, so that a thin one is fainter in one direction only
    std::shared_ptr<const TipTexture> texture;
    /// From px to the frame of a grain, which lies still under the dabs.
    std::optional<Affine> grain;
    std::vector<StampLook> stamps; ///< none is drawn where there should be some and are none
    std::array<float, 3> colour{}; ///< straight, sRGB-encoded; for dabs that differ in colour
    bool coloured = false;         ///< dabs lie over each other, each in its colour
    bool layered = false;          ///< dabs of one colour lie over each other as well: drops fall by chance
};

/// In px of what is painted on, as the brush is.
TipLook tipLook(const Brush& brush, const std::array<float, 3>& colour, std::vector<StampLook> stamps = {});
/// The same on something that `map` leads to.
TipLook mapped(TipLook look, const Affine& map);

} // namespace glyptos
