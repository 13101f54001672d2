#include "release/placing.h"

#include "base/units.h"

#include <algorithm>
#include <functional>

namespace glyptos {
namespace {

Layer eachInside(Layer layer, const std::function<Layer(Layer)>& change) {
    for (LayerPtr& child : std::get<GroupContent>(layer.content).layers)
        child = std::make_shared<const Layer>(change(*child));
    return layer;
}

bool isGroup(const Layer& layer) {
    return layer.as<GroupContent>();
}

} // namespace

Layer moved(Layer layer, Vec2 by) {
    if (isGroup(layer))
        return eachInside(std::move(layer), [&](Layer child) { return moved(std::move(child), by); });
    layer.placement.position = layer.placement.position + by;
    return layer;
}

Layer scaled(Layer layer, Vec2 about, double factor) {
    if (isGroup(layer))
        return eachInside(std::move(layer),
                          [&](Layer child) { return scaled(std::move(child), about, factor); });
    Placement& p = layer.placement;
    p.position = about + (p.position - about) * factor;
    p.scaleX *= factor;
    p.scaleY *= factor;
    if (auto* text = std::get_if<TextContent>(&layer.content)) {
        p.scaleX = p.scaleY = 1;
        text->spec.size *= factor;
        text->spec.measure *= factor;
    }
    return layer;
}

Layer turned(Layer layer, Vec2 about, double degrees) {
    if (isGroup(layer))
        return eachInside(std::move(layer),
                          [&](Layer child) { return turned(std::move(child), about, degrees); });
    Placement& p = layer.placement;
    p.position = about + Affine::rotation(degrees).mapVector(p.position - about);
    p.turn = std::remainder(p.turn + degrees, 360.0);
    return layer;
}

Layer flipped(Layer layer, bool upDown) {
    if (isGroup(layer))
        return eachInside(std::move(layer), [&](Layer child) { return flipped(std::move(child), upDown); });
    bool& flip = upDown ? layer.placement.flipY : layer.placement.flipX;
    flip = !flip;
    return layer;
}

Placement covering(const Rect& area, const Source& source, const Rect& crop) {
    const double k = std::max(area.w / (source.width * crop.w), area.h / (source.height * crop.h));
    Placement p;
    p.scaleX = p.scaleY = k;
    const Vec2 cropMiddle{(crop.centre().x - 0.5) * source.width * k,
                          (crop.centre().y - 0.5) * source.height * k};
    p.position = area.centre() - cropMiddle;
    return p;
}

Placement within(const Rect& area, const Source& source, double share, Vec2 centre) {
    Placement p;
    p.scaleX = p.scaleY = share * std::min(area.w / source.width, area.h / source.height);
    p.position = centre;
    return p;
}

Layer cropped(Layer layer, const Rect& crop) {
    if (auto* picture = std::get_if<PictureContent>(&layer.content)) picture->crop = crop;
    return layer;
}

double effectivePpi(const Placement& p) {
    return kMmPerInch / std::max(p.scaleX, p.scaleY);
}

} // namespace glyptos
