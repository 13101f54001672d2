#include "render/layer_way.h"

#include "release/fields.h"
#include "release/paths/fit_contour.h"
#include "release/placing.h"

namespace glyptos {
namespace {

std::vector<Contour> contoursOf(const Path& path) {
    std::vector<Contour> out;
    const Vec2* p = path.points().data();
    for (const Path::Verb verb : path.verbs()) {
        if (verb == Path::Verb::Move) {
            out.push_back({{{*p++, {}, {}}}, true});
            continue;
        }
        auto& nodes = out.back().nodes;
        const Vec2 here = nodes.back().at;
        if (verb == Path::Verb::Line) {
            nodes.push_back({*p++, {}, {}});
        } else if (verb == Path::Verb::Quad) {
            nodes.back().after = (p[0] - here) * (2.0 / 3);
            nodes.push_back({p[1], (p[0] - p[1]) * (2.0 / 3), {}});
            p += 2;
        } else {
            nodes.back().after = p[0] - here;
            nodes.push_back({p[2], p[1] - p[2], {}});
            p += 3;
        }
    }
    // One that ends where it began has that node once.
    for (Contour& contour : out) {
        auto& nodes = contour.nodes;
        if (nodes.size() > 2 && (nodes.front().at - nodes.back().at).length() < 1e-9) {
            nodes.front().before = nodes.back().before;
            nodes.pop_back();
        }
    }
    return out;
}

double farthestCorner(const Rect& area, Vec2 from) {
    double out = 0;
    for (const Vec2 c : {Vec2{area.x, area.y},
                         {area.right(), area.y},
                         {area.x, area.bottom()},
                         {area.right(), area.bottom()}})
        out = std::max(out, (c - from).length());
    return out;
}

} // namespace

const Gradient* spiralOf(const Layer& layer) {
    const auto* fill = layer.as<FillContent>();
    const auto* shape = layer.as<ShapeContent>();
    const Paint* paint = fill ? &fill->paint : shape && shape->fill ? &*shape->fill : nullptr;
    const auto* run = paint ? std::get_if<Gradient>(paint) : nullptr;
    return run && run->kind == GradientKind::Spiral ? run : nullptr;
}

std::optional<Way> wayAlong(const Layer& layer, const Release& release, const Rect& panelArea,
                            ParagraphCache& paragraphs) {
    if (const Gradient* spiral = spiralOf(layer)) {
        const auto* shape = layer.as<ShapeContent>();
        const double reach =
            shape ? farthestCorner({-shape->width / 2, -shape->height / 2, shape->width, shape->height},
                                   spiral->from)
                  : farthestCorner(panelArea, spiral->from);
        const double fine = (spiral->to - spiral->from).length() / 400;
        const Contour turns = fittedContour(turnsOf(*spiral, reach), std::max(fine, 1e-9));
        if (shape) return Way{{turns}, layer.placement};
        return wayOf({turns});
    }
    if (const auto* shape = layer.as<ShapeContent>()) return Way{asFree(*shape).contours, layer.placement};
    if (const auto* text = layer.as<TextContent>()) {
        const auto paragraph = paragraphs.get(resolvedText(*text, release));
        if (paragraph->outline.empty()) return std::nullopt;
        Path onPanel;
        onPanel.append(paragraph->outline, textToPanel(layer.placement));
        return wayOf(contoursOf(onPanel));
    }
    if (isFrameless(layer)) return std::nullopt;
    const Frame frame = frameOf(layer, release, panelArea, paragraphs);
    if (frame.box.empty()) return std::nullopt;
    Contour round;
    for (const Vec2& c : frame.corners()) round.nodes.push_back({c, {}, {}});
    return wayOf({round});
}

} // namespace glyptos
