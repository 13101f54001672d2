#include "render/tiles/mask_tiles.h"

#include "raster/blur.h"
#include "release/placing.h"
#include "render/tiles/layer_tiles.h"
#include "render/tiles/painted_tiles.h"
#include "render/tiles/shape_tiles.h"

#include <cmath>

namespace glyptos {
namespace {

/// Luminance of the encoded colour (ITU-R BT.709 weights) times alpha; of premultiplied values just the sum.
Buffer<float> luminance(const Tile& tile, const IntRect& region) {
    Buffer<float> out(size_t(region.w) * size_t(region.h));
    std::fill(out.begin(), out.end(), 0.0f);
    if (tile.empty) return out;
    for (int y = 0; y < region.h; ++y)
        for (int x = 0; x < region.w; ++x)
            out[size_t(y) * size_t(region.w) + size_t(x)] =
                (0.2126f * tile.row(0, y)[x] + 0.7152f * tile.row(1, y)[x] + 0.0722f * tile.row(2, y)[x]) /
                65535;
    return out;
}

/// The mask before its softening, its inversion and its strength.
Buffer<float> plain(const Mask& mask, const Affine& toOutput, const IntRect& region,
                    const PatternPicture& picture) {
    const Affine map = toOutput * maskToPanel(mask, picture.width, picture.height);
    if (const auto* p = std::get_if<PictureContent>(&mask.form)) {
        const Rect shown{p->crop.x * picture.width, p->crop.y * picture.height, p->crop.w * picture.width,
                         p->crop.h * picture.height};
        return luminance(pictureTile({*picture.picture, picture.width, picture.height, map, shown}, region),
                         region);
    }
    if (const auto* gradient = std::get_if<Gradient>(&mask.form))
        return luminance(paintTile(*gradient, map, region), region);
    if (const auto* painted = std::get_if<PaintedMask>(&mask.form)) {
        Buffer<float> out = paintedValues(*painted->tiles, map, region);
        if (painted->shows)
            for (float& v : out) v = 1 - v;
        return out;
    }
    return shapeCoverage(std::get<ShapeContent>(mask.form), map, region);
}

/// Softened by a Gaussian of `sigma` output pixels. A wide one is made on a coarser grid, whose places do not
/// depend on the region, and enlarged between its samples.
Buffer<float> softened(const Mask& mask, const Affine& toOutput, const IntRect& region,
                       const PatternPicture& picture, double sigma) {
    constexpr double kWidest = 8; // coarse pixels
    int factor = 1;
    while (sigma / factor > kWidest) factor *= 2;
    const double coarseSigma = sigma / factor;
    const int reach = static_cast<int>(std::ceil(3 * coarseSigma)) + 2;
    const auto down = [&](int v) { return static_cast<int>(std::floor(double(v) / factor)); };
    IntRect coarse{down(region.x) - reach, down(region.y) - reach, 0, 0};
    coarse.w = down(region.right()) + reach + 1 - coarse.x;
    coarse.h = down(region.bottom()) + reach + 1 - coarse.y;
    const double k = 1.0 / factor;
    const Buffer<float> soft = gaussianBlur(plain(mask, Affine::scaling(k, k) * toOutput, coarse, picture),
                                            coarse.w, coarse.h, coarseSigma);
    Buffer<float> out(size_t(region.w) * size_t(region.h));
    for (int y = 0; y < region.h; ++y) {
        const double sy = (region.y + y + 0.5) * k - 0.5 - coarse.y;
        const auto top = size_t(sy);
        const auto fy = float(sy - double(top));
        for (int x = 0; x < region.w; ++x) {
            const double sx = (region.x + x + 0.5) * k - 0.5 - coarse.x;
            const auto left = size_t(sx);
            const auto fx = float(sx - double(left));
            const float* at = soft.data() + top * size_t(coarse.w) + left;
            const float upper = at[0] + (at[1] - at[0]) * fx,
                        lower = at[coarse.w] + (at[coarse.w + 1] - at[coarse.w]) * fx;
            out[size_t(y) * size_t(region.w) + size_t(x)] = upper + (lower - upper) * fy;
        }
    }
    return out;
}

} // namespace

Affine maskToPanel(const Mask& mask, int pictureWidth, int pictureHeight) {
    const Affine map = placementMap(mask.placement);
    if (!std::holds_alternative<PictureContent>(mask.form)) return map;
    return map * Affine::translation(-pictureWidth / 2.0, -pictureHeight / 2.0);
}

namespace {
double softness(const Mask& mask, const Affine& toOutput) {
    return mask.feather / 2 * std::sqrt(std::abs(toOutput.determinant()));
}
} // namespace

IntRect maskReach(const Mask& mask, const Affine& toOutput, const IntRect& region) {
    // Three standard deviations, and what the coarser grid of a wide one adds.
    const int by = static_cast<int>(std::ceil(5 * softness(mask, toOutput))) + 8;
    return paintedReach(toOutput * placementMap(mask.placement),
                        {region.x - by, region.y - by, region.w + 2 * by, region.h + 2 * by});
}

Tile maskTile(const Mask& mask, const Affine& toOutput, const IntRect& region,
              const PatternPicture& picture) {
    Tile out(region.w, region.h, 1);
    const bool missing = std::holds_alternative<PictureContent>(mask.form) && !picture.picture;
    Buffer<float> share;
    if (!missing) {
        const double sigma = softness(mask, toOutput);
        share = sigma > 0.2 ? softened(mask, toOutput, region, picture, sigma)
                            : plain(mask, toOutput, region, picture);
    }
    for (int y = 0; y < region.h; ++y)
        for (int x = 0; x < region.w; ++x) {
            float v = missing ? 1 : share[size_t(y) * size_t(region.w) + size_t(x)];
            if (mask.inverted && !missing) v = 1 - v;
            v = 1 - float(mask.strength) * (1 - v);
            out.row(0, y)[x] = nearestSample(std::clamp(v, 0.0f, 1.0f) * 65535);
        }
    out.settle();
    return out;
}

} // namespace glyptos
