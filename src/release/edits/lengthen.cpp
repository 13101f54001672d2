#include "release/edits/lengthen.h"

#include "release/placing.h"

#include <array>
#include <cmath>

namespace glyptos {
namespace {

constexpr double kOverlap = 0.5; // px of the picture by which copies reach under what they go on from

/// An edge of a picture in its own frame (pixels from its middle): x or y at `at`, outwards.
struct Side {
    bool across = true; ///< left or right
    double at = 0;
    double outward = 1;
};

std::array<Side, 4> sidesOf(const Rect& crop, const Source& source) {
    const double w = source.width, h = source.height;
    return {Side{true, (crop.x - 0.5) * w, -1}, Side{true, (crop.right() - 0.5) * w, 1},
            Side{false, (crop.y - 0.5) * h, -1}, Side{false, (crop.bottom() - 0.5) * h, 1}};
}

/// The side of the picture that faces a direction of the panel.
Side facing(const Placement& placement, const Rect& crop, const Source& source, Vec2 direction) {
    const Affine map = placementMap(placement);
    Side best;
    double most = -2;
    for (const Side& side : sidesOf(crop, source)) {
        const Vec2 way = map.mapVector(side.across ? Vec2{side.outward, 0} : Vec2{0, side.outward});
        const double along = (way.x * direction.x + way.y * direction.y) / std::max(way.length(), 1e-12);
        if (along > most) most = along, best = side;
    }
    return best;
}

Affine mirrorAt(const Side& side) {
    const double at = 2 * (side.at - side.outward * kOverlap);
    return side.across ? Affine{-1, 0, 0, 1, at, 0} : Affine{1, 0, 0, -1, 0, at};
}

Layer mirrored(const Layer& layer, const Side& side) {
    Layer out = layer;
    out.mask = nullptr;
    if (const auto placed = placementOf(placementMap(layer.placement) * mirrorAt(side), layer.placement))
        out.placement = *placed;
    return out;
}

/// Its outermost row or column alone, drawn out to `length` pixels.
Layer smeared(const Layer& layer, const Side& side, const Source& source, double length) {
    constexpr double kRow = 1; // px
    Layer out = layer;
    out.mask = nullptr;
    Rect& crop = std::get<PictureContent>(out.content).crop;
    const double inner = side.at - side.outward * kRow; // where the row begins
    const double share = kRow / (side.across ? source.width : source.height);
    if (side.across)
        crop = {side.outward > 0 ? crop.right() - share : crop.x, crop.y, share, crop.h};
    else
        crop = {crop.x, side.outward > 0 ? crop.bottom() - share : crop.y, crop.w, share};
    const double k = (length + kRow) / kRow, shift = inner * (1 - k);
    const Affine stretch = side.across ? Affine{k, 0, 0, 1, shift, 0} : Affine{1, 0, 0, k, 0, shift};
    if (const auto placed = placementOf(placementMap(layer.placement) * stretch, layer.placement))
        out.placement = *placed;
    return out;
}

} // namespace

Made withLengthened(const ReleasePtr& release, const PanelRef& panel, const std::string& id,
                    const ShortBy& by, Lengthening how, const std::string& name) {
    const LayerPtr layer = findLayer(stackOf(*release, panel), id);
    const auto* picture = layer ? layer->as<PictureContent>() : nullptr;
    const SourcePtr source = picture ? release->source(picture->source) : nullptr;
    if (!source || layer->warp) return {release, {}};
    std::vector<Layer> all{*layer}; // each edge goes on from what is there, so that corners are filled too
    const std::pair<double, Vec2> edges[] = {
        {by.left, {-1, 0}}, {by.right, {1, 0}}, {by.top, {0, -1}}, {by.bottom, {0, 1}}};
    for (const auto& [length, direction] : edges) {
        if (length <= 0) continue;
        for (size_t i = 0, count = all.size(); i < count; ++i) {
            const Layer& from = all[i];
            const Rect crop = from.as<PictureContent>()->crop;
            const Side side = facing(from.placement, crop, *source, direction);
            const double px = length / (side.across ? from.placement.scaleX : from.placement.scaleY);
            constexpr double kMore = 2; // px, so that nothing shows at the very edge
            all.push_back(how == Lengthening::Mirrored ? mirrored(from, side)
                                                       : smeared(from, side, *source, px + kMore));
        }
    }
    if (all.size() < 2) return {release, {}};
    Layer group;
    group.name = name;
    GroupContent content;
    for (size_t i = 1; i < all.size(); ++i) {
        Layer& copy = all[i];
        copy.id.clear(), copy.name = layer->name, copy.clipped = false;
        content.layers.push_back(std::make_shared<const Layer>(std::move(copy)));
    }
    group.content = std::move(content);
    group.clipped = layer->clipped;
    // Directly behind the picture.
    Made made = withLayer(release, panel, std::move(group), id);
    const Stack& stack = stackOf(*made.release, panel);
    for (size_t i = 0; i + 1 < stack.size(); ++i)
        if (stack[i]->id == made.id && stack[i + 1]->id == id)
            return {withMovedLayer(made.release, panel, made.id, {}, i + 2), made.id};
    return made;
}

} // namespace glyptos
