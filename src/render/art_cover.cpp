#include "render/art_cover.h"

#include "base/text.h"

#include <algorithm>

namespace glyptos {
namespace {

constexpr double kPxPerMm = 4, kPxPerScreenPx = 0.125;
constexpr double kTolerancePx = 0.1; // rounding of the coverage, not a gap

struct AlphaPlane {
    int width, height;
    std::vector<float> alpha;
    float at(int x, int y) const { return alpha[size_t(y) * size_t(width) + size_t(x)]; }
};

AlphaPlane alphaOf(Renderer& renderer, const Scene& scene, const IntRect& area) {
    AlphaPlane out{area.w, area.h, std::vector<float>(size_t(area.w) * size_t(area.h))};
    renderer.render(scene, area, [&](int y, int x, const RowPlanes& row, size_t n) {
        std::copy_n(row.c[3], n, out.alpha.data() + size_t(y - area.y) * size_t(area.w) + size_t(x - area.x));
    });
    return out;
}

/// Longest run of paper from one edge inwards, in pixels, over all lines across that edge. Lines without any
/// art are lines along a strip of paper at one of the edges beside this one, and count there. Art that is
/// see-through all along a line is measured against its own strength.
template <class At>
double paperFrom(int lines, int depth, At at) {
    double worst = 0;
    for (int line = 0; line < lines; ++line) {
        double most = 0;
        for (int d = 0; d < depth; ++d) most = std::max(most, double(at(line, d)));
        if (most < 0.01) continue;
        double run = 0;
        for (int d = 0; d < depth; ++d) {
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
    const Scene scene = panelScene(release, ref, {scale, true, {-area.x * scale, -area.y * scale}});
    const AlphaPlane a = alphaOf(renderer, scene, scene.bounds());
    if (a.alpha.empty()) return out;
    out.any = std::any_of(a.alpha.begin(), a.alpha.end(), [](float v) { return v > 0; });
    if (!out.any) return out;
    const auto add = [&](const char* edge, double px) {
        if (px > kTolerancePx) out.shorts.push_back({edge, px / scale});
    };
    add("left", paperFrom(a.height, a.width, [&](int y, int d) { return a.at(d, y); }));
    add("top", paperFrom(a.width, a.height, [&](int x, int d) { return a.at(x, d); }));
    add("right", paperFrom(a.height, a.width, [&](int y, int d) { return a.at(a.width - 1 - d, y); }));
    add("bottom", paperFrom(a.width, a.height, [&](int x, int d) { return a.at(x, a.height - 1 - d); }));
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

} // namespace glyptos
