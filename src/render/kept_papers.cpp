#include "render/kept_papers.h"

#include "raster/level_lines.h"
#include "release/paths/fit_contour.h"
#include "treat/drawn/paper_cuts.h"

namespace glyptos {
namespace {

constexpr double kTolerancePx = 0.5;

/// A closed contour of the piece along a line of px.
Contour closedContour(std::vector<Vec2> line, const Affine& toPiece) {
    line.push_back(line.front());
    Contour out = fittedContour(line, kTolerancePx);
    if (out.nodes.size() > 1) {
        out.nodes.front().before = out.nodes.back().before;
        out.nodes.pop_back();
    }
    out.closed = true;
    for (PathNode& node : out.nodes)
        node = {toPiece.map(node.at), toPiece.mapVector(node.before), toPiece.mapVector(node.after)};
    return out;
}

/// In a frame of its own, about its middle.
Layer layerOf(std::vector<Contour> contours, const Rgba& colour, const std::string& name) {
    const Rect bounds = outlineOf(contours).bounds();
    for (Contour& contour : contours)
        for (PathNode& node : contour.nodes) node.at = node.at - bounds.centre();
    ShapeContent shape;
    shape.kind = ShapeKind::Free;
    shape.width = std::max(bounds.w, 1e-3), shape.height = std::max(bounds.h, 1e-3);
    shape.contours = std::move(contours);
    shape.fill = Ink(colour.r, colour.g, colour.b, 1);
    Layer out;
    out.name = name;
    out.content = std::move(shape);
    out.placement.position = bounds.centre();
    return out;
}

} // namespace

std::vector<Layer> papersOf(const Planes& before, const Figures& cutPaper, const Place& place) {
    const auto toPiece = place.toOutput.inverse();
    if (!toPiece) return {};
    const Affine fromPx = *toPiece * Affine::translation(before.area.x, before.area.y);
    const Plane light = paperLight(before, cutPaper, place);
    const std::vector<Rgba> colours = paperColours(cutPaper);
    std::vector<float> levels{-1};
    for (const float level : paperLevels(cutPaper)) levels.push_back(level);
    std::vector<Layer> out;
    for (size_t k = levels.size(); k-- > 0;) {
        Plane field(light.area);
        for (size_t i = 0; i < field.values.size(); ++i)
            field.values.data()[i] =
                std::min(light.values.data()[i] - levels[k], before.c[3].values.data()[i] - 0.5f);
        std::vector<Contour> contours;
        for (auto& line : levelLines(field.values.data(), field.stride, field.area.w, field.area.h, 0))
            if (line.size() > 3) contours.push_back(closedContour(std::move(line), fromPx));
        if (!contours.empty())
            out.push_back(layerOf(std::move(contours), colours[k], "Paper " + std::to_string(k + 1)));
    }
    return out;
}

} // namespace glyptos
