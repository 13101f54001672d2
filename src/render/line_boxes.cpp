#include "render/line_boxes.h"

#include "release/fields.h"
#include "release/shape.h"

#include <algorithm>

namespace glyptos {
namespace {

/// Bounds of every contour of an outline.
std::vector<Rect> contourBounds(const Path& path) {
    std::vector<Rect> out;
    size_t at = 0;
    for (const Path::Verb verb : path.verbs()) {
        const size_t points = verb == Path::Verb::Cubic ? 3 : verb == Path::Verb::Quad ? 2 : 1;
        if (verb == Path::Verb::Move || out.empty())
            out.push_back({path.points()[at].x, path.points()[at].y, 0, 0});
        Rect& bounds = out.back();
        for (size_t i = 0; i < points; ++i) {
            const Vec2 p = path.points()[at + i];
            const double right = std::max(bounds.right(), p.x), bottom = std::max(bounds.bottom(), p.y);
            bounds.x = std::min(bounds.x, p.x), bounds.y = std::min(bounds.y, p.y);
            bounds.w = right - bounds.x, bounds.h = bottom - bounds.y;
        }
        at += points;
    }
    return out;
}

/// Each line as wide as its own ink, and as tall as the tallest and deepest of all.
std::vector<Rect> linesOf(const Paragraph& words) {
    struct Line {
        double left = 1e300, right = -1e300;
    };
    std::vector<Line> lines(words.baselines.size());
    double above = 0, below = 0;
    for (const Rect& ink : contourBounds(words.outline)) {
        // A letter stands on the first baseline at or below its middle; one that hangs, on the one above it.
        const auto next = std::find_if(words.baselines.begin(), words.baselines.end(),
                                       [&](double b) { return b >= ink.centre().y; });
        const size_t i = std::min(size_t(next - words.baselines.begin()), lines.size() - 1);
        lines[i].left = std::min(lines[i].left, ink.x),
        lines[i].right = std::max(lines[i].right, ink.right());
        above = std::max(above, words.baselines[i] - ink.y);
        below = std::max(below, ink.bottom() - words.baselines[i]);
    }
    std::vector<Rect> out;
    for (size_t i = 0; i < lines.size(); ++i)
        if (lines[i].right > lines[i].left)
            out.push_back(
                {lines[i].left, words.baselines[i] - above, lines[i].right - lines[i].left, above + below});
    return out;
}

Rect boundsOf(const Layer& layer, const Release& release, ParagraphCache& paragraphs) {
    if (const auto* group = layer.as<GroupContent>()) {
        Rect all;
        for (const LayerPtr& inside : group->layers)
            if (inside->on) all = all.united(boundsOf(*inside, release, paragraphs));
        return all;
    }
    if (layer.as<FillContent>() || layer.as<GradeContent>()) return {};
    return frameOf(layer, release, {}, paragraphs).bounds();
}

} // namespace

LineBoxes lineBoxesOf(const Layer& layer, const Release& release, ParagraphCache& paragraphs) {
    if (!layer.warp && (layer.as<TextContent>() || layer.as<ShapeContent>())) {
        const Affine toPanel = placedOnPanel(layer, release);
        if (const auto* text = layer.as<TextContent>()) {
            const auto words = paragraphs.get(resolvedText(*text, release));
            return {toPanel, words->baselines.empty() ? std::vector<Rect>{} : linesOf(*words)};
        }
        return {toPanel, {extentOf(*layer.as<ShapeContent>())}};
    }
    const Rect all = boundsOf(layer, release, paragraphs);
    return {{}, all.empty() ? std::vector<Rect>{} : std::vector<Rect>{all}};
}

} // namespace glyptos
