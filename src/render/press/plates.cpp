#include "render/press/plates.h"

#include "release/press/spot_inks.h"
#include "release/walks.h"

#include <functional>

namespace glyptos {
namespace {

/// What becomes of one layer; nothing: it is gone, and so is what shows inside of it.
using LayerMap = std::function<LayerPtr(const LayerPtr&)>;

Stack mapped(const Stack& stack, const LayerMap& map) {
    Stack out;
    bool baseGone = false;
    for (auto it = stack.rbegin(); it != stack.rend(); ++it) {
        const LayerPtr& layer = *it;
        if (!layer->on || (layer->clipped && baseGone)) continue;
        LayerPtr next = map(layer);
        if (!layer->clipped) baseGone = !next;
        if (next) out.insert(out.begin(), std::move(next));
    }
    return out;
}

/// The panels' stacks and those of the wraps over them.
Scene withLayers(Scene scene, const LayerMap& map) {
    if (scene.panels.empty()) return scene;
    for (PanelView& view : scene.panels) view.stack = mapped(view.stack, map);
    const PanelPlace& place = scene.panels.front().place;
    const PiecePtr old = scene.release->piece(place.piece);
    if (!old || old->wraps.empty()) return scene;
    auto piece = std::make_shared<Piece>(*old);
    for (auto& take : piece->takes) {
        if (take->id != place.take) continue;
        auto copy = std::make_shared<Take>(*take);
        for (const Wrap& wrap : piece->wraps)
            if (const auto found = copy->stacks.find(wrap.id); found != copy->stacks.end())
                found->second = mapped(found->second, map);
        take = std::move(copy);
    }
    auto release = std::make_shared<Release>(*scene.release);
    std::replace(release->pieces.begin(), release->pieces.end(), old, PiecePtr(piece));
    scene.release = std::move(release);
    return scene;
}

/// The layer's shape in one colour, plainly blended.
LayerPtr silhouette(const Layer& layer, const Rgba& colour) {
    Layer base = layer;
    base.clipped = false;
    base.blend = BlendMode::Normal;
    Layer over;
    over.id = layer.id + "-tint";
    over.clipped = true;
    over.content = FillContent{colour};
    Layer whole;
    whole.id = layer.id + "-shape";
    whole.clipped = layer.clipped;
    whole.content = GroupContent{
        {std::make_shared<const Layer>(std::move(over)), std::make_shared<const Layer>(std::move(base))}};
    return std::make_shared<const Layer>(std::move(whole));
}

bool holds(const Layer& layer, const std::function<bool(const Layer&)>& is) {
    const auto* group = layer.as<GroupContent>();
    return group && firstLayer(group->layers, is);
}

LayerPtr withInside(const Layer& layer, const LayerMap& map) {
    Layer out = layer;
    auto& group = std::get<GroupContent>(out.content);
    group.layers = mapped(group.layers, map);
    return std::make_shared<const Layer>(std::move(out));
}

bool isOwnWrap(const Layer& layer, const Scene& scene) {
    const auto* echo = layer.as<EchoContent>();
    const std::string& id = scene.panels.front().place.piece;
    const PiecePtr piece = scene.release->piece(id);
    return echo && echo->piece == id && piece && piece->wrap(echo->panel);
}

constexpr Rgba kInk{1, 1, 1, 1}, kNone{0, 0, 0, 1};

} // namespace

Scene inPressInks(Scene scene) {
    const ReleasePtr release = scene.release;
    const auto hasSpot = [&](const Layer& layer) { return spotOf(layer, *release) != nullptr; };
    const LayerMap map = [&](const LayerPtr& layer) -> LayerPtr {
        if (const Swatch* spot = spotOf(*layer, *release))
            return spot->plate == Plate::Over ? nullptr : silhouette(*layer, {1, 1, 1, 1});
        return holds(*layer, hasSpot) ? withInside(*layer, map) : layer;
    };
    return withLayers(std::move(scene), map);
}

Scene inSpotInk(Scene scene, const Swatch& spot) {
    if (scene.panels.empty()) return scene;
    const ReleasePtr release = scene.release;
    const Scene asked = scene; // panels to compare with while the other is changed
    const auto isIts = [&](const Layer& layer) {
        const Swatch* own = spotOf(layer, *release);
        return own && own->id == spot.id;
    };
    const LayerMap map = [&](const LayerPtr& layer) -> LayerPtr {
        if (isIts(*layer)) return silhouette(*layer, kInk);
        if (isOwnWrap(*layer, asked) || cutsBackdrop(layer->blend)) return layer;
        if (holds(*layer, isIts)) return withInside(*layer, map);
        const Swatch* other = spotOf(*layer, *release);
        const bool lets = spot.plate == Plate::Over || layer->blend != BlendMode::Normal ||
                          layer->as<GradeContent>() || (other && other->plate == Plate::Over);
        return lets ? nullptr : silhouette(*layer, kNone);
    };
    scene = withLayers(std::move(scene), map);
    auto plain = std::make_shared<Release>(*scene.release);
    plain->linearLight = false; // how much it covers is a share of the area
    scene.release = std::move(plain);
    return scene;
}

Scene sharpened(Scene scene, double amount, double unitsPerMm) {
    const TreatmentKind* kind = treatmentKind("sharpen");
    if (!kind || amount <= 0) return scene;
    Treatment treatment = newTreatment(*kind, unitsPerMm);
    treatment.figures.set(0, amount);
    Layer grade;
    grade.id = "sharpened for print";
    grade.content = GradeContent{};
    grade.treatments = std::make_shared<const Treatments>(Treatments{std::move(treatment)});
    const auto shared = std::make_shared<const Layer>(std::move(grade));
    for (PanelView& view : scene.panels) view.stack.insert(view.stack.begin(), shared);
    return scene;
}

} // namespace glyptos
