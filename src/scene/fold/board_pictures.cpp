#include "scene/fold/board_pictures.h"

#include <algorithm>
#include <cmath>
#include <tuple>

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

std::pair<int, int> sizeOf(double width, double height, double pxPerUnit) {
    return {std::max(1, int(std::lround(width * pxPerUnit))),
            std::max(1, int(std::lround(height * pxPerUnit)))};
}

/// A panel as it is drawn, and how much of each pixel is within its outline.
struct DrawnPanel {
    Scene scene;
    Buffer<float> cover;
    int w = 0, h = 0;

    DrawnPanel(const ReleasePtr& release, const PanelRef& ref, const Panel& panel, double pxPerUnit)
        : scene(panelScene(release, ref, {pxPerUnit, true})) {
        std::tie(w, h) = sizeOf(panel.width, panel.height, pxPerUnit);
        cover = boardCover(panel.outline, panel.cutouts, Affine::scaling(w / panel.width, h / panel.height),
                           w, h);
    }
};

const Panel* panelOf(const Release& release, const PanelRef& ref) {
    const PiecePtr piece = release.piece(ref.piece);
    return piece ? piece->flat->panel(ref.panel) : nullptr;
}

double scaleFor(const Panel& panel, double pxPerUnit) {
    constexpr double kLargest = 4096;
    return std::min(pxPerUnit, kLargest / std::max(panel.width, panel.height));
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

BoardPictures::Side panelOnPaper(Renderer& renderer, const ReleasePtr& release, const PanelRef& ref,
                                 double pxPerUnit, const std::atomic<bool>* cancel) {
    const Panel* panel = panelOf(*release, ref);
    if (!panel) return nullptr;
    const DrawnPanel drawn(release, ref, *panel, scaleFor(*panel, pxPerUnit));
    const auto rgb = renderer.renderRgb8OnWhite(drawn.scene, {0, 0, drawn.w, drawn.h}, cancel);
    return std::make_shared<const SurfacePicture>(pictureOf(rgb, drawn.cover, drawn.w, drawn.h));
}

BoardPictures::Side panelWithoutPaper(Renderer& renderer, const ReleasePtr& release, const PanelRef& ref,
                                      double pxPerUnit, const std::atomic<bool>* cancel) {
    const Panel* panel = panelOf(*release, ref);
    if (!panel) return nullptr;
    const DrawnPanel drawn(release, ref, *panel, scaleFor(*panel, pxPerUnit));
    Buffer<uint8_t> bytes = renderer.renderStraightRgba8(drawn.scene, {0, 0, drawn.w, drawn.h}, cancel);
    for (size_t i = 0; i < drawn.cover.size(); ++i) {
        uint8_t* pixel = bytes.data() + 4 * i;
        std::swap(pixel[0], pixel[2]);
        pixel[3] = uint8_t(std::lround(pixel[3] * std::clamp(drawn.cover[i], 0.0F, 1.0F)));
    }
    return std::make_shared<const SurfacePicture>(std::move(bytes), drawn.w, drawn.h);
}

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
            if (!print) return blank(board, behind, scale);
            return panelOnPaper(renderer, release, {piece, shown->flat->panels[print->panel].id}, scale,
                                cancel);
        };
        out.boards.push_back({side(board.face, false), side(board.back, true)});
    }
    return out;
}

} // namespace glyptos
