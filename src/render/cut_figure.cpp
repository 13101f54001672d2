#include "render/cut_figure.h"

#include "release/painted.h"
#include "render/painting.h"
#include "vision/cutout/figure_colours.h"

#include <algorithm>

namespace glyptos {

CutFigure cutFigure(const Pyramid& picture, const AlphaMap& alpha) {
    const Picture figure = figureWithColours(picture, alpha);
    PixelTiles edges(kPaintPixels);
    edges.change({0, 0, alpha.width, alpha.height}, [&](const PixelPart& part) {
        for (int y = part.area.y; y < part.area.bottom(); ++y)
            for (int x = part.area.x; x < part.area.right(); ++x) {
                const uint8_t a = alpha.at(x, y);
                if (a == 0 || a == 255) continue;
                uint8_t* to = part.row(y) + ptrdiff_t(4) * (x - part.area.x);
                std::copy_n(figure.row<uint8_t>(y) + ptrdiff_t(4) * x, 3, to);
                to[3] = 255;
            }
    });
    CutFigure out{tilesOf(alpha, 0, 0), nullptr};
    if (!edges.empty()) out.edges = std::make_shared<const PixelTiles>(std::move(edges));
    return out;
}

Result<CutFigure> cutFigure(const Pyramid& picture, const CutoutHints& hints, const CutoutOptions& options) {
    const auto alpha = figureAlpha(picture, hints, options);
    if (!alpha) return tl::unexpected(alpha.error());
    if (isCancelled(options.cancel)) return cancelled();
    return cutFigure(picture, *alpha);
}

} // namespace glyptos
