#include "render/tiles/named_stack.h"

#include "render/tiles/key_hash.h"
#include "render/tiles/namer.h"

#include <algorithm>

namespace glyptos {
namespace {

/// Echoes drawn into one tile. A release that asks for more is meant to harm; the rest is left out.
constexpr int kMostEchoes = 2000;

} // namespace

std::vector<NamedLayer> Namer::name(const PanelView& view, const Mapping& toOutput) {
    opened_.push_back(view.place);
    auto out = name(view.stack, toOutput);
    opened_.pop_back();
    if (!view.prints || out.empty()) return out;
    NamedLayer cut;
    setGroup({std::move(out), GroupKind::Isolated}, cut);
    addMask(recipes_.within(view.prints, toOutput), cut);
    std::vector<NamedLayer> one;
    keep(std::move(cut), one);
    return one;
}

std::vector<NamedLayer> Namer::name(const Stack& stack, const Mapping& toOutput, size_t first) {
    std::vector<NamedLayer> out;
    for (size_t i = first; i < stack.size(); ++i) {
        const size_t base = clipBase(stack, i);
        if (stack[base]->on) keep(single({stack, i, base}, toOutput), out);
        i = base;
        if (!out.empty() && out.back().opaque) break;
    }
    return out;
}

void Namer::keep(NamedLayer layer, std::vector<NamedLayer>& out) {
    if (!isNothing(layer) || !infoOf(layer.blend).keepsBackdrop) out.push_back(std::move(layer));
}

NamedLayer Namer::single(const Run& run, const Mapping& toOutput) {
    const Layer& layer = run.layer();
    NamedLayer out;
    if (layer.opacity > 0) out = layer.as<GradeContent>() ? grade(run, toOutput) : whole(run, toOutput);
    settle(layer, out);
    return out;
}

NamedLayer Namer::whole(const Run& run, const Mapping& toOutput) {
    const TreatedSteps steps(run.layer());
    if (!steps.any()) return inner(run, shown(run, toOutput), toOutput);
    const auto affine = toOutput.affine();
    if (affine || steps.coloursAlone()) return upTo(run, steps, steps.count(), toOutput);
    return upright(run, steps, toOutput);
}

NamedLayer Namer::shown(const Run& run, const Mapping& toOutput) {
    if (run.beneath) return beneath(run, toOutput);
    const Layer& layer = run.layer();
    NamedLayer out =
        std::visit([&](const auto& content) { return rows(layer, content, toOutput); }, layer.content);
    auto* group = std::get_if<NamedGroup>(&out.rows);
    if (group && group->kind == GroupKind::Passing && (run.holdsMore() || TreatedSteps(layer).any())) {
        group->kind = GroupKind::Isolated;
        out.key = KeyHash(kGroup).add(group->kind).add(out.key).key();
    }
    return out;
}

NamedLayer Namer::inner(const Run& run, NamedLayer out, const Mapping& toOutput) {
    if (run.beneath) return out;
    const Layer& layer = run.layer();
    if (!isNothing(out) && layer.mask && layer.mask->on)
        addMask(recipes_.mask(*layer.mask, maskMapping(layer, toOutput)), out);
    return run.holdsMore() ? withClipped(run, std::move(out), toOutput) : out;
}

Mapping Namer::mapping(const Layer& layer, const Mapping& toOutput) const {
    return toOutput * (layer.warp ? seenOnPanel(layer, release_, parts_.paragraphs)
                                  : Mapping(placedOnPanel(layer, release_)));
}

Mapping Namer::maskMapping(const Layer& layer, const Mapping& toOutput) const {
    if (!layer.warp || !layer.mask->linked) return toOutput;
    const Frame frame = frameOf(layer, release_, {}, parts_.paragraphs);
    const auto back = frame.toPanel.inverse();
    return back ? toOutput * frame.mapping() * Mapping(*back) : toOutput;
}

void Namer::addMask(TileRecipe mask, NamedLayer& out) {
    out.key = KeyHash(kMasked).add(out.key).add(mask.key).key();
    out.mask = std::move(mask);
    out.opaque = false;
}

void Namer::settle(const Layer& layer, NamedLayer& out) const {
    out.blend = layer.blend;
    out.opacity = float(std::clamp(layer.opacity, 0.0, 1.0));
    out.opaque = out.opaque && layer.blend == BlendMode::Normal && layer.opacity >= 1;
    out.inHand = out.inHand || holds(layer);
}

bool Namer::holds(const Layer& layer) const {
    if (inHand_.empty()) return false;
    if (layer.id == inHand_) return true;
    const auto* group = layer.as<GroupContent>();
    return group && findLayer(group->layers, inHand_);
}

NamedLayer Namer::withClipped(const Run& run, NamedLayer first, const Mapping& toOutput) {
    NamedLayer out;
    if (isNothing(first)) return out;
    NamedGroup group{{}, GroupKind::Clip};
    for (size_t i = run.from; i < run.base; ++i)
        if (run.stack[i]->on) keep(single({run.stack, i, i}, toOutput), group.layers);
    for (const NamedLayer& inside : group.layers) out.inHand = out.inHand || inside.inHand;
    group.layers.push_back(std::move(first));
    setGroup(std::move(group), out);
    return out;
}

void Namer::setGroup(NamedGroup group, NamedLayer& out) {
    KeyHash hash(kGroup);
    hash.add(group.kind);
    for (const NamedLayer& layer : group.layers) hash.add(layer.key).add(layer.blend).add(layer.opacity);
    out.key = hash.key();
    if (group.layers.empty()) return;
    out.opaque =
        group.layers.back().opaque && std::none_of(group.layers.begin(), group.layers.end(),
                                                   [](const NamedLayer& l) { return cutsBackdrop(l.blend); });
    out.rows = std::move(group);
}

NamedLayer Namer::rows(const Layer& layer, const GroupContent& content, const Mapping& toOutput) {
    const bool passing = content.passing && layer.blend == BlendMode::Normal;
    NamedLayer out;
    const bool around = std::exchange(passing_, passing);
    setGroup({name(content.layers, layer.warp ? mapping(layer, toOutput) : toOutput),
              passing ? GroupKind::Passing : GroupKind::Isolated},
             out);
    passing_ = around;
    return out;
}

NamedLayer Namer::rows(const Layer& layer, const EchoContent& echo, const Mapping& toOutput) {
    NamedLayer out;
    if (!echoFrame(echo, release_) || ++echoes_ > kMostEchoes) return out;
    const Mapping map = mapping(layer, toOutput);
    NamedGroup group;
    for (const PanelView& inner : echoViews(echo, release_, {})) {
        if (std::find(opened_.begin(), opened_.end(), inner.place) != opened_.end()) continue;
        const Mapping there = map * Mapping(inner.toOutput);
        if (pixelsAround(there.mapBounds(inner.area)).intersected(region_).empty()) continue;
        NamedLayer panel;
        setGroup({name(inner, there), GroupKind::Isolated}, panel);
        if (isNothing(panel)) continue;
        if (auto edge = recipes_.edge(inner.area, there)) addMask(std::move(*edge), panel);
        group.layers.push_back(std::move(panel));
    }
    // Panels of a flat do not overlap; the first is drawn first.
    std::reverse(group.layers.begin(), group.layers.end());
    setGroup(std::move(group), out);
    return out;
}

NamedLayer Namer::rows(const Layer& layer, const PictureContent& content, const Mapping& toOutput) {
    return recipes_.picture(content, mapping(layer, toOutput));
}

NamedLayer Namer::rows(const Layer& layer, const TextContent& content, const Mapping& toOutput) {
    return recipes_.text(content, mapping(layer, toOutput));
}

NamedLayer Namer::rows(const Layer& layer, const CodeContent& code, const Mapping& toOutput) {
    return recipes_.code(code, mapping(layer, toOutput));
}

NamedLayer Namer::rows(const Layer&, const FillContent& fill, const Mapping& toOutput) {
    return recipes_.fill(fill, toOutput);
}

NamedLayer Namer::rows(const Layer& layer, const PaintedContent& painted, const Mapping& toOutput) {
    return recipes_.painted(painted, mapping(layer, toOutput));
}

NamedLayer Namer::rows(const Layer& layer, const ShapeContent& shape, const Mapping& toOutput) {
    return recipes_.shape(shape, mapping(layer, toOutput));
}

std::vector<NamedLayer> nameStack(const RenderParts& parts, const Scene& scene, const PanelView& view,
                                  const IntRect& region) {
    return Namer(parts, scene, region).name(view);
}

TileKey nameOf(const std::vector<NamedLayer>& layers, const IntRect& region, bool linear) {
    KeyHash hash(kComposite);
    hash.add(linear).add(region);
    for (const NamedLayer& layer : layers) hash.add(layer.key).add(layer.blend).add(layer.opacity);
    return hash.key();
}

} // namespace glyptos
