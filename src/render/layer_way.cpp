#include "render/layer_way.h"

#include "release/fields.h"
#include "release/paths/fit_contour.h"
#include "release/paths/outline_contours.h"
#include "release/placing.h"

namespace glyptos {
namespace {

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
