#include "release/placing.h"

#include "base/units.h"
#include "release/limits.h"
#include "release/warp.h"
#include "type/text_edits.h"

#include <algorithm>
#include <functional>
#include <numbers>

namespace glyptos {
namespace {

constexpr double kDegree = std::numbers::pi / 180;

/// One that is placed by what is in it; a warped one has a placement of its own.
bool isGroup(const Layer& layer) {
    return layer.as<GroupContent>() && !layer.warp;
}

Layer eachInside(Layer layer, const std::function<Layer(Layer)>& change) {
    for (LayerPtr& child : std::get<GroupContent>(layer.content).layers)
        child = std::make_shared<const Layer>(change(*child));
    return layer;
}

void changeMask(Layer& layer, const std::function<void(Mask&)>& change) {
    if (!layer.mask || !layer.mask->linked) return;
    Mask mask = *layer.mask;
    change(mask);
    layer.mask = std::make_shared<const Mask>(std::move(mask));
}

void changeTreatments(Layer& layer, const std::function<Treatments(Treatments)>& change) {
    if (layer.treatments) layer.treatments = std::make_shared<const Treatments>(change(*layer.treatments));
}

void mapPlacement(Placement& placement, const Affine& onPanel) {
    if (const auto next = placementOf(onPanel * placementMap(placement), placement)) placement = *next;
}

/// What a placement's scales say goes into the shape's own size.
void takeScale(Layer& layer) {
    auto* shape = std::get_if<ShapeContent>(&layer.content);
    if (!shape) return;
    *shape = stretched(std::move(*shape), layer.placement.scaleX, layer.placement.scaleY);
    layer.placement.scaleX = layer.placement.scaleY = 1;
}

std::optional<Placement> decomposed(const Affine& map, const Placement& like) {
    Placement out = like;
    out.position = {map.e, map.f};
    const Vec2 across = Vec2{map.a, map.b} * (like.flipX ? -1 : 1);
    Vec2 down = Vec2{map.c, map.d} * (like.flipY ? -1 : 1);
    out.scaleX = across.length();
    if (!(out.scaleX > 1e-12)) return std::nullopt;
    out.turn = std::atan2(across.y, across.x) / kDegree;
    down = Affine::rotation(-out.turn).mapVector(down);
    if (down.y < 0) {
        out.flipY = !like.flipY;
        down = down * -1;
    }
    out.scaleY = down.y;
    if (!(out.scaleY > 1e-12)) return std::nullopt;
    out.skew = std::atan2(down.x, down.y) / kDegree;
    if (std::abs(out.skew) < 1e-9) out.skew = 0;
    if (std::abs(out.turn - like.turn) < 1e-9) out.turn = like.turn;
    return out;
}

/// Where the middle of the crop lies from the middle of the picture, pixels.
Vec2 cropMiddle(const Rect& crop, const Source& source) {
    return {(crop.centre().x - 0.5) * source.width, (crop.centre().y - 0.5) * source.height};
}

double boundedSize(double size) {
    return std::clamp(size, kSmallestScale, kLargestSide);
}

/// Lengths as a release file may hold them.
TextSpec bounded(TextSpec spec) {
    const auto side = [](double& length) { length = std::clamp(length, 0.0, kFarthestPlace); };
    spec = withLetters(std::move(spec), [](LetterStyle& l) { l.size = boundedSize(l.size); });
    if (auto* area = std::get_if<InArea>(&spec.frame)) side(area->width), side(area->height);
    if (auto* circle = std::get_if<RoundCircle>(&spec.frame)) side(circle->radius);
    if (auto* table = std::get_if<InTable>(&spec.frame))
        for (double* length : {&table->width, &table->height, &table->gap, &table->gutter, &table->grid})
            side(*length);
    return spec;
}

} // namespace

Affine placementMap(const Placement& p) {
    const Affine lean{1, 0, std::tan(p.skew * kDegree), 1, 0, 0};
    const Affine turn = Affine::rotation(p.turn);
    return Affine::translation(p.position.x, p.position.y) * (p.skew == 0 ? turn : turn * lean) *
           Affine::scaling(p.flipX ? -p.scaleX : p.scaleX, p.flipY ? -p.scaleY : p.scaleY);
}

std::optional<Placement> placementOf(const Affine& map, const Placement& like) {
    const auto plain = decomposed(map, like);
    if (!plain || plain->flipY == like.flipY) return plain;
    // Mirrored: across or down, whichever leaves the turn more as it was.
    Placement mirrored = like;
    mirrored.flipX = !like.flipX;
    const auto across = decomposed(map, mirrored);
    const auto off = [&](const Placement& p) { return std::abs(std::remainder(p.turn - like.turn, 360.0)); };
    return across && off(*across) < off(*plain) ? across : plain;
}

Layer transformed(Layer layer, const Affine& onPanel) {
    if (isGroup(layer)) {
        layer =
            eachInside(std::move(layer), [&](Layer child) { return transformed(std::move(child), onPanel); });
    } else if (!isFrameless(layer)) {
        mapPlacement(layer.placement, onPanel);
        takeScale(layer);
    }
    changeMask(layer, [&](Mask& mask) { mapPlacement(mask.placement, onPanel); });
    changeTreatments(layer, [&](Treatments all) { return mapped(std::move(all), onPanel); });
    return layer;
}

Layer moved(Layer layer, Vec2 by) {
    if (isGroup(layer))
        layer = eachInside(std::move(layer), [&](Layer child) { return moved(std::move(child), by); });
    else if (!isFrameless(layer))
        layer.placement.position = layer.placement.position + by;
    changeMask(layer, [&](Mask& mask) { mask.placement.position = mask.placement.position + by; });
    changeTreatments(layer,
                     [&](Treatments all) { return mapped(std::move(all), Affine::translation(by.x, by.y)); });
    return layer;
}

Layer scaled(Layer layer, Vec2 about, double factor) {
    const auto scalePlacement = [&](Placement& p) {
        p.position = about + (p.position - about) * factor;
        p.scaleX *= factor;
        p.scaleY *= factor;
    };
    changeMask(layer, [&](Mask& mask) {
        scalePlacement(mask.placement);
        mask.feather = std::min(mask.feather * factor, kLargestSide);
    });
    changeTreatments(layer, [&](Treatments all) {
        const Affine map = Affine::translation(about.x, about.y) * Affine::scaling(factor, factor) *
                           Affine::translation(-about.x, -about.y);
        return mapped(scaled(std::move(all), factor), map);
    });
    if (isGroup(layer))
        return eachInside(std::move(layer),
                          [&](Layer child) { return scaled(std::move(child), about, factor); });
    if (isFrameless(layer)) return layer;
    Placement& p = layer.placement;
    const double oldX = p.scaleX, oldY = p.scaleY;
    scalePlacement(p);
    if (auto* text = std::get_if<TextContent>(&layer.content)) {
        p.scaleX = oldX, p.scaleY = oldY;
        text->spec = bounded(scaled(std::move(text->spec), factor));
        if (text->tracks)
            for (TrackLetters* letters : lettersOf(*text->tracks))
                if (letters->letters) letters->letters->size = boundedSize(letters->letters->size * factor);
    }
    if (auto* shape = std::get_if<ShapeContent>(&layer.content)) {
        shape->corner = std::min(shape->corner * factor, kLargestSide);
        if (shape->stroke) shape->stroke->width = std::min(shape->stroke->width * factor, kLargestSide);
        takeScale(layer);
    }
    return layer;
}

Layer stretchedAlong(Layer layer, Vec2 about, double turn, double kx, double ky) {
    const Affine map = Affine::translation(about.x, about.y) * Affine::rotation(turn) *
                       Affine::scaling(kx, ky) * Affine::rotation(-turn) *
                       Affine::translation(-about.x, -about.y);
    return transformed(std::move(layer), map);
}

Layer turned(Layer layer, Vec2 about, double degrees) {
    const auto turnPlacement = [&](Placement& p) {
        p.position = about + Affine::rotation(degrees).mapVector(p.position - about);
        p.turn = std::remainder(p.turn + degrees, 360.0);
    };
    changeMask(layer, [&](Mask& mask) { turnPlacement(mask.placement); });
    if (isGroup(layer))
        return eachInside(std::move(layer),
                          [&](Layer child) { return turned(std::move(child), about, degrees); });
    if (!isFrameless(layer)) turnPlacement(layer.placement);
    return layer;
}

Layer flipped(Layer layer, bool upDown) {
    if (isGroup(layer))
        return eachInside(std::move(layer), [&](Layer child) { return flipped(std::move(child), upDown); });
    const auto before = placementMap(layer.placement).inverse();
    bool& flip = upDown ? layer.placement.flipY : layer.placement.flipX;
    flip = !flip;
    if (before && !isFrameless(layer)) {
        const Affine onPanel = placementMap(layer.placement) * *before;
        changeMask(layer, [&](Mask& mask) { mapPlacement(mask.placement, onPanel); });
    }
    return layer;
}

Layer withWarp(Layer layer, std::shared_ptr<const Warp> warp) {
    if (isFrameless(layer)) return layer;
    if (warp && warp->empty()) warp = nullptr;
    if (layer.as<GroupContent>() && bool(layer.warp) != bool(warp)) {
        if (warp) {
            layer.placement = {};
            layer.placement.position = warp->box.centre();
        } else {
            const Vec2 middle = layer.warp->box.centre();
            const Affine placed = placementMap(layer.placement) * Affine::translation(-middle.x, -middle.y);
            layer = eachInside(std::move(layer),
                               [&](Layer child) { return transformed(std::move(child), placed); });
            layer.placement = {};
        }
    }
    layer.warp = std::move(warp);
    return layer;
}

Placement covering(const Rect& area, const Source& source, const Rect& crop) {
    const double k = std::max(area.w / (source.width * crop.w), area.h / (source.height * crop.h));
    Placement p;
    p.scaleX = p.scaleY = k;
    p.position = area.centre() - cropMiddle(crop, source) * k;
    return p;
}

Placement within(const Rect& area, const Source& source, double share, Vec2 centre) {
    Placement p;
    p.scaleX = p.scaleY = share * std::min(area.w / source.width, area.h / source.height);
    p.position = centre;
    return p;
}

Reference referenceOver(const Rect& area, const Source& source) {
    Reference reference;
    reference.source = source.id;
    reference.placement = covering(area, source);
    return reference;
}

Layer cropped(Layer layer, const Rect& crop) {
    if (auto* picture = std::get_if<PictureContent>(&layer.content)) picture->crop = crop;
    return layer;
}

Layer slid(Layer layer, Vec2 by, const Source& source) {
    auto* picture = std::get_if<PictureContent>(&layer.content);
    const auto back = placementMap(layer.placement).inverse();
    if (!picture || !back) return layer;
    const Vec2 pixels = back->mapVector(by);
    Rect& crop = picture->crop;
    const Vec2 before = cropMiddle(crop, source);
    crop.x = std::clamp(crop.x - pixels.x / source.width, 0.0, std::max(0.0, 1 - crop.w));
    crop.y = std::clamp(crop.y - pixels.y / source.height, 0.0, std::max(0.0, 1 - crop.h));
    layer.placement.position =
        layer.placement.position + placementMap(layer.placement).mapVector(before - cropMiddle(crop, source));
    return layer;
}

Layer laidOver(Layer layer, const Rect& area, const Source& source) {
    auto* picture = std::get_if<PictureContent>(&layer.content);
    if (!picture) return layer;
    const bool flipX = layer.placement.flipX, flipY = layer.placement.flipY;
    layer.placement = covering(area, source);
    layer.placement.flipX = flipX, layer.placement.flipY = flipY;
    const double w = area.w / (source.width * layer.placement.scaleX),
                 h = area.h / (source.height * layer.placement.scaleY);
    picture->crop = {(1 - w) / 2, (1 - h) / 2, w, h};
    return layer;
}

Layer withPicture(Layer layer, const Source& old, const Source& source) {
    auto* picture = std::get_if<PictureContent>(&layer.content);
    if (!picture) return layer;
    const Rect crop = picture->crop;
    Placement& p = layer.placement;
    const Vec2 middle = placementMap(p).map(cropMiddle(crop, old));
    const double w = crop.w * old.width * p.scaleX, h = crop.h * old.height * p.scaleY;
    const double k = std::max(w / source.width, h / source.height);
    const double shareX = w / (k * source.width), shareY = h / (k * source.height);
    if (layer.warp && layer.warp->box.w > 0) {
        // It is warped as what was there: the new picture lies where the old one lay in its frame.
        Warp warp = *layer.warp;
        const double kx = p.scaleX / k, ky = p.scaleY / k;
        const Vec2 before = Vec2{old.width / 2.0, old.height / 2.0} + cropMiddle(crop, old),
                   now{source.width / 2.0, source.height / 2.0};
        warp.box = {now.x + (warp.box.x - before.x) * kx, now.y + (warp.box.y - before.y) * ky,
                    warp.box.w * kx, warp.box.h * ky};
        layer.warp = std::make_shared<const Warp>(std::move(warp));
    }
    picture->source = source.id;
    picture->crop = {(1 - shareX) / 2, (1 - shareY) / 2, shareX, shareY};
    p.scaleX = p.scaleY = k;
    p.position = middle;
    return layer;
}

double effectivePpi(const Placement& p) {
    return kMmPerInch / std::max(p.scaleX, p.scaleY);
}

} // namespace glyptos
