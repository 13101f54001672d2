#include "render/fit/art_cover.h"

#include "base/text.h"

#include <algorithm>
#include <cmath>

namespace glyptos {
namespace {

constexpr double kPxPerMm = 4, kPxPerScreenPx = 0.125;
constexpr double kTolerancePx = 0.1; // rounding of the coverage, not a gap
constexpr float kPrints = 0.99f;     // share of a pixel; the edge of an outline is no gap

struct AlphaPlane {
    int width, height;
    std::vector<float> alpha;
    float at(std::pair<int, int> p) const {
        return alpha[size_t(p.second) * size_t(width) + size_t(p.first)];
    }
};

AlphaPlane alphaOf(Renderer& renderer, const Scene& scene, const IntRect& area) {
    AlphaPlane out{area.w, area.h, std::vector<float>(size_t(area.w) * size_t(area.h))};
    renderer.render(scene, area, [&](int y, int x, const RowPlanes& row, size_t n) {
        std::copy_n(row.c[3], n, out.alpha.data() + size_t(y - area.y) * size_t(area.w) + size_t(x - area.x));
    });
    return out;
}

/// Where art prints; nothing when that is everywhere.
AlphaPlane printsOf(const Panel& panel, const Affine& toOutput, const IntRect& area) {
    AlphaPlane out{area.w, area.h, {}};
    if (!panel.prints) return out;
    const Buffer<float> cover =
        coverage(*panel.prints, Affine::translation(-area.x, -area.y) * toOutput, area.w, area.h);
    out.alpha.assign(cover.data(), cover.data() + cover.size());
    return out;
}

/// Longest run of paper from one edge inwards, in pixels, over all lines across that edge. Lines without any
/// art are lines along a strip of paper at one of the edges beside this one, and count there. Art that is
/// see-through all along a line is measured against its own strength. Where nothing prints no art need be.
template <class At, class Prints>
double paperFrom(int lines, int depth, At at, Prints prints) {
    double worst = 0;
    for (int line = 0; line < lines; ++line) {
        double most = 0;
        for (int d = 0; d < depth; ++d) most = std::max(most, double(at(line, d)));
        if (most < 0.01) continue;
        double run = 0;
        for (int d = 0; d < depth; ++d) {
            if (!prints(line, d)) continue;
            const double paper = 1 - at(line, d) / most;
            run += paper;
            if (paper < 0.98) break;
        }
        worst = std::max(worst, run);
    }
    return worst;
}

} // namespace

ArtCover judgeArt(Renderer& renderer, const ReleasePtr& release, const PanelRef& ref) {
    ArtCover out;
    const PiecePtr piece = release->piece(ref.piece);
    const Panel* panel = piece ? piece->flat->panel(ref.panel) : nullptr;
    if (!panel) return out;
    const double scale = piece->flat->unit == Unit::Mm ? kPxPerMm : kPxPerScreenPx;
    const Rect area = panel->withBleed();
    const Scene scene =
        panelScene(release, ref, {scale, true, {-area.x * scale, -area.y * scale}, {}, false});
    const AlphaPlane a = alphaOf(renderer, scene, scene.bounds());
    if (a.alpha.empty()) return out;
    out.any = std::any_of(a.alpha.begin(), a.alpha.end(), [](float v) { return v > 0; });
    if (!out.any) return out;
    const AlphaPlane prints = printsOf(*panel, scene.panels[0].toOutput, scene.bounds());
    const auto add = [&](const char* edge, int lines, int depth, auto pixel) {
        const double px = paperFrom(
            lines, depth, [&](int line, int d) { return a.at(pixel(line, d)); },
            [&](int line, int d) { return prints.alpha.empty() || prints.at(pixel(line, d)) > kPrints; });
        if (px > kTolerancePx) out.shorts.push_back({edge, px / scale});
    };
    using Pixel = std::pair<int, int>;
    add("left", a.height, a.width, [](int y, int d) { return Pixel(d, y); });
    add("top", a.width, a.height, [](int x, int d) { return Pixel(x, d); });
    add("right", a.height, a.width, [&](int y, int d) { return Pixel(a.width - 1 - d, y); });
    add("bottom", a.width, a.height, [&](int x, int d) { return Pixel(x, a.height - 1 - d); });
    return out;
}

std::string ArtCover::sentence(const Panel& panel, Unit unit) const {
    if (!any) return "no art yet";
    if (shorts.empty())
        return panel.withBleed() == panel.trim() ? "art covers the panel" : "art covers the bleed";
    std::string text = "art short by ";
    for (size_t i = 0; i < shorts.size(); ++i)
        text += (i ? ", " : "") + shortNumber(shorts[i].by, unit == Unit::Mm ? 1 : 0) +
                (unit == Unit::Mm ? " mm at " : " px at ") + shorts[i].edge;
    return text;
}

std::optional<Rgba> edgeColour(Renderer& renderer, const ReleasePtr& release, const PanelRef& ref,
                               const std::vector<ShortEdge>& edges) {
    const PiecePtr piece = release->piece(ref.piece);
    const Panel* panel = piece ? piece->flat->panel(ref.panel) : nullptr;
    if (!panel) return std::nullopt;
    const double scale = piece->flat->unit == Unit::Mm ? kPxPerMm : kPxPerScreenPx;
    const Scene scene = panelScene(release, ref, {scale, true});
    const IntRect area = scene.bounds();
    constexpr int kFrom = 2, kTo = 8; // px inwards from where the art ends
    const auto bgra = renderer.renderBgra8(scene, area);
    double sums[4] = {};
    const auto take = [&](int x, int y) {
        if (x < 0 || y < 0 || x >= area.w || y >= area.h) return;
        const uint8_t* p = bgra.data() + 4 * (size_t(y) * size_t(area.w) + size_t(x));
        if (p[3] < 250) return;
        for (int c = 0; c < 4; ++c) sums[c] += p[c];
    };
    for (const ShortEdge& edge : edges) {
        const int depth = int(std::ceil(edge.by * scale));
        for (int d = depth + kFrom; d < depth + kTo; ++d) {
            if (edge.edge == "left" || edge.edge == "right")
                for (int y = 0; y < area.h; ++y) take(edge.edge == "left" ? d : area.w - 1 - d, y);
            else
                for (int x = 0; x < area.w; ++x) take(x, edge.edge == "top" ? d : area.h - 1 - d);
        }
    }
    if (sums[3] <= 0) return std::nullopt;
    return Rgba{float(sums[2] / sums[3]), float(sums[1] / sums[3]), float(sums[0] / sums[3]), 1};
}

} // namespace glyptos
