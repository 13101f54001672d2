#include "render/tiles/named_stack.h"

#include "render/layer_geometry.h"
#include "render/tiles/key_hash.h"
#include "render/tiles/layer_recipes.h"

#include <algorithm>
#include <cmath>

namespace glyptos {
namespace {

/// Echoes drawn into one tile. A release that asks for more is meant to harm; the rest is left out.
constexpr int kMostEchoes = 2000;

bool isNothing(const NamedLayer& layer) {
    return std::holds_alternative<Nothing>(layer.rows);
}

class Namer {
  public:
    Namer(const RenderParts& parts, const Scene& scene, const IntRect& region)
        : recipes_(parts, *scene.release, region, scene.moving ? Sampling::Draft : Sampling::Whole)
        , parts_(parts)
        , release_(*scene.release)
        , region_(region)
        , inHand_(scene.inHand) {}

    std::vector<NamedLayer> name(const PanelView& view) { return name(view, view.toOutput); }

  private:
    /// Layers of a panel, which `toOutput` leads from to output px.
    std::vector<NamedLayer> name(const PanelView& view, const Mapping& toOutput) {
        opened_.push_back(view.place);
        auto out = name(view.stack, toOutput);
        opened_.pop_back();
        return out;
    }

    std::vector<NamedLayer> name(const Stack& stack, const Mapping& toOutput) {
        std::vector<NamedLayer> out;
        for (size_t i = 0; i < stack.size(); ++i) {
            const size_t base = clipBase(stack, i);
            if (stack[base]->on)
                keep(base > i ? clipRun(stack, i, base, toOutput) : single(*stack[i], toOutput), out);
            i = base;
            if (!out.empty() && out.back().opaque) break;
        }
        return out;
    }

    /// What shows nothing and leaves the backdrop as it is can be left out.
    static void keep(NamedLayer layer, std::vector<NamedLayer>& out) {
        if (!isNothing(layer) || !infoOf(layer.blend).keepsBackdrop) out.push_back(std::move(layer));
    }

    NamedLayer single(const Layer& layer, const Mapping& toOutput) {
        NamedLayer out;
        if (layer.opacity > 0) out = content(layer, toOutput);
        settle(layer, out);
        return out;
    }

    /// What the layer shows within its mask, before it is blended.
    NamedLayer content(const Layer& layer, const Mapping& toOutput) {
        NamedLayer out =
            std::visit([&](const auto& content) { return rows(layer, content, toOutput); }, layer.content);
        if (!isNothing(out) && layer.mask && layer.mask->on)
            addMask(recipes_.mask(*layer.mask, maskMapping(layer, toOutput)), out);
        return out;
    }

    /// From the layer's own frame.
    Mapping mapping(const Layer& layer, const Mapping& toOutput) const {
        return toOutput * (layer.warp ? seenOnPanel(layer, release_, parts_.paragraphs)
                                      : Mapping(placedOnPanel(layer, release_)));
    }
    /// A linked mask, which lies on the panel, goes through its layer's warp.
    Mapping maskMapping(const Layer& layer, const Mapping& toOutput) const {
        if (!layer.warp || !layer.mask->linked) return toOutput;
        const Frame frame = frameOf(layer, release_, {}, parts_.paragraphs);
        const auto back = frame.toPanel.inverse();
        return back ? toOutput * frame.mapping() * Mapping(*back) : toOutput;
    }

    static void addMask(TileRecipe mask, NamedLayer& out) {
        out.key = KeyHash(kMasked).add(out.key).add(mask.key).key();
        out.mask = std::move(mask);
        out.opaque = false;
    }

    void settle(const Layer& layer, NamedLayer& out) const {
        out.blend = layer.blend;
        out.opacity = float(std::clamp(layer.opacity, 0.0, 1.0));
        out.opaque = out.opaque && layer.blend == BlendMode::Normal && layer.opacity >= 1;
        out.inHand = out.inHand || holds(layer);
    }

    bool holds(const Layer& layer) const {
        if (inHand_.empty()) return false;
        if (layer.id == inHand_) return true;
        const auto* group = layer.as<GroupContent>();
        return group && findLayer(group->layers, inHand_);
    }

    /// Layers [from, base) of the stack inside the layer `base`.
    NamedLayer clipRun(const Stack& stack, size_t from, size_t base, const Mapping& toOutput) {
        const Layer& below = *stack[base];
        NamedLayer first = below.opacity > 0 ? content(below, toOutput) : NamedLayer{};
        // What is clipped into it meets the base alone, so nothing passes through that.
        if (auto* group = std::get_if<NamedGroup>(&first.rows); group && group->kind == GroupKind::Passing)
            group->kind = GroupKind::Isolated;
        NamedLayer out;
        if (!isNothing(first)) {
            NamedGroup run{{}, GroupKind::Clip};
            for (size_t i = from; i < base; ++i)
                if (stack[i]->on) keep(single(*stack[i], toOutput), run.layers);
            for (const NamedLayer& inside : run.layers) out.inHand = out.inHand || inside.inHand;
            run.layers.push_back(std::move(first));
            setGroup(std::move(run), out);
        }
        settle(below, out);
        return out;
    }

    static void setGroup(NamedGroup group, NamedLayer& out) {
        KeyHash hash(kGroup);
        hash.add(group.kind);
        for (const NamedLayer& layer : group.layers) hash.add(layer.key).add(layer.blend).add(layer.opacity);
        out.key = hash.key();
        if (group.layers.empty()) return;
        out.opaque = group.layers.back().opaque &&
                     std::none_of(group.layers.begin(), group.layers.end(),
                                  [](const NamedLayer& l) { return cutsBackdrop(l.blend); });
        out.rows = std::move(group);
    }

    NamedLayer rows(const Layer& layer, const GroupContent& content, const Mapping& toOutput) {
        const bool passing = content.passing && layer.blend == BlendMode::Normal;
        NamedLayer out;
        setGroup({name(content.layers, layer.warp ? mapping(layer, toOutput) : toOutput),
                  passing ? GroupKind::Passing : GroupKind::Isolated},
                 out);
        return out;
    }

    /// The other panel's layers, each cut to its own frame. An echo of something that is being drawn already
    /// shows nothing.
    NamedLayer rows(const Layer& layer, const EchoContent& echo, const Mapping& toOutput) {
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

    NamedLayer rows(const Layer& layer, const PictureContent& content, const Mapping& toOutput) {
        return recipes_.picture(content, mapping(layer, toOutput));
    }
    NamedLayer rows(const Layer& layer, const TextContent& content, const Mapping& toOutput) {
        return recipes_.text(content, mapping(layer, toOutput));
    }
    NamedLayer rows(const Layer&, const FillContent& fill, const Mapping& toOutput) {
        return recipes_.fill(fill, toOutput);
    }
    NamedLayer rows(const Layer& layer, const PaintedContent& painted, const Mapping& toOutput) {
        return recipes_.painted(painted, mapping(layer, toOutput));
    }
    NamedLayer rows(const Layer& layer, const ShapeContent& shape, const Mapping& toOutput) {
        return recipes_.shape(shape, mapping(layer, toOutput));
    }

    LayerRecipes recipes_;
    const RenderParts& parts_;
    const Release& release_;
    IntRect region_;
    const std::string& inHand_;
    std::vector<PanelPlace> opened_; ///< panels that are being named, outermost first
    int echoes_ = 0;
};

} // namespace

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
