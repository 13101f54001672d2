#include "scene/fold/board_pictures.h"

#include <algorithm>

namespace glyptos {
namespace {

constexpr double kMostPixels = 24e6; // of all boards together
constexpr uint8_t kPaper = 250;

/// How much of each pixel is board: `outline` without its holes, mapped to the picture.
Buffer<float> boardCover(const Outline& outline, const std::vector<Outline>& holes, const Affine& map, int w,
                         int h) {
    return coverage(without(outline, holes), map, w, h);
}

SurfacePicture pictureOf(const Buffer<uint8_t>& rgb, const Buffer<float>& cover, int w, int h) {
    const size_t n = size_t(w) * size_t(h);
    Buffer<uint8_t> out(4 * n);
    for (size_t i = 0; i < n; ++i) {
        for (size_t c = 0; c < 3; ++c) out[4 * i + c] = rgb.size() > 0 ? rgb[3 * i + 2 - c] : kPaper;
        out[4 * i + 3] = uint8_t(std::lround(std::clamp(cover[i], 0.0f, 1.0f) * 255));
    }
    return {std::move(out), w, h};
}

struct PictureSize {
    int w, h;
};
PictureSize sizeOf(double width, double height, double pxPerUnit) {
    return {std::max(1, int(std::lround(width * pxPerUnit))),
            std::max(1, int(std::lround(height * pxPerUnit)))};
}

/// A panel on white paper, cut to its outline.
BoardPictures::Side printed(Renderer& renderer, const ReleasePtr& release, const std::string& piece,
                            const Panel& panel, double pxPerUnit, const std::atomic<bool>* cancel) {
    const auto [w, h] = sizeOf(panel.width, panel.height, pxPerUnit);
    const Scene scene = panelScene(release, {piece, panel.id}, {pxPerUnit, true});
    const Buffer<uint8_t> rgb = renderer.renderRgb8OnWhite(scene, {0, 0, w, h}, cancel);
    const Affine map = Affine::scaling(w / panel.width, h / panel.height);
    return std::make_shared<const SurfacePicture>(
        pictureOf(rgb, boardCover(panel.outline, panel.cutouts, map, w, h), w, h));
}

/// Paper in the shape of the board; nothing where that is its whole box. Seen from behind it is mirrored.
BoardPictures::Side blank(const Board& board, bool behind, double pxPerUnit) {
    if (board.outline.isPlain() && board.holes.empty()) return nullptr;
    const Rect box = board.outline.box;
    const auto [w, h] = sizeOf(box.w, box.h, pxPerUnit);
    Affine map = Affine::scaling(w / box.w, h / box.h) * Affine::translation(-box.x, -box.y);
    if (behind) map = Affine{-1, 0, 0, 1, double(w), 0} * map;
    return std::make_shared<const SurfacePicture>(
        pictureOf({}, boardCover(board.outline, board.holes, map, w, h), w, h));
}

} // namespace

BoardPictures boardPictures(Renderer& renderer, const ReleasePtr& release, const std::string& piece,
                            const Folding& folding, double pxPerUnit, const std::atomic<bool>* cancel) {
    BoardPictures out;
    const PiecePtr shown = release->piece(piece);
    if (!shown) return out;
    double area = 0;
    for (const Board& board : folding.boards()) area += 2 * board.outline.box.w * board.outline.box.h;
    const double scale = std::min(pxPerUnit, std::sqrt(kMostPixels / std::max(area, 1e-9)));
    for (const Board& board : folding.boards()) {
        const auto side = [&](const std::optional<PrintedSide>& print, bool behind) {
            if (board.outline.box.empty()) return BoardPictures::Side();
            return print ? printed(renderer, release, piece, shown->flat->panels[print->panel], scale, cancel)
                         : blank(board, behind, scale);
        };
        out.boards.push_back({side(board.face, false), side(board.back, true)});
    }
    return out;
}

} // namespace glyptos
