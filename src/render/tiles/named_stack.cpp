#include "render/tiles/named_stack.h"

#include "release/placing.h"
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
    Namer(const RenderParts& parts, const Release& release, const IntRect& region, const std::string& inHand)
        : recipes_(parts, release, region)
        , release_(release)
        , region_(region)
        , inHand_(inHand) {}

    std::vector<NamedLayer> name(const PanelView& view) {
        opened_.push_back(view.place);
        auto out = name(view.stack, view);
        opened_.pop_back();
        return out;
    }

  private:
    std::vector<NamedLayer> name(const Stack& stack, const PanelView& view) {
        std::vector<NamedLayer> out;
        for (size_t i = 0; i < stack.size(); ++i) {
            const size_t base = clipBase(stack, i);
            if (stack[base]->on)
                keep(base > i ? clipRun(stack, i, base, view) : single(*stack[i], view), out);
            i = base;
            if (!out.empty() && out.back().opaque) break;
        }
        return out;
    }

    /// What shows nothing and leaves the backdrop as it is can be left out.
    static void keep(NamedLayer layer, std::vector<NamedLayer>& out) {
        if (!isNothing(layer) || !infoOf(layer.blend).keepsBackdrop) out.push_back(std::move(layer));
    }

    NamedLayer single(const Layer& layer, const PanelView& view) {
        NamedLayer out;
        if (layer.opacity > 0) out = content(layer, view);
        settle(layer, out);
        return out;
    }

    /// What the layer shows within its mask, before it is blended.
    NamedLayer content(const Layer& layer, const PanelView& view) {
        NamedLayer out =
            std::visit([&](const auto& content) { return rows(layer, content, view); }, layer.content);
        if (!isNothing(out) && layer.mask && layer.mask->on)
            addMask(recipes_.mask(*layer.mask, view.toOutput), out);
        return out;
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
    NamedLayer clipRun(const Stack& stack, size_t from, size_t base, const PanelView& view) {
        const Layer& below = *stack[base];
        NamedLayer first = below.opacity > 0 ? content(below, view) : NamedLayer{};
        // What is clipped into it meets the base alone, so nothing passes through that.
        if (auto* group = std::get_if<NamedGroup>(&first.rows); group && group->kind == GroupKind::Passing)
            group->kind = GroupKind::Isolated;
        NamedLayer out;
        if (!isNothing(first)) {
            NamedGroup run{{}, GroupKind::Clip};
            for (size_t i = from; i < base; ++i)
                if (stack[i]->on) keep(single(*stack[i], view), run.layers);
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

    NamedLayer rows(const Layer& layer, const GroupContent& content, const PanelView& view) {
        const bool passing = content.passing && layer.blend == BlendMode::Normal;
        NamedLayer out;
        setGroup({name(content.layers, view), passing ? GroupKind::Passing : GroupKind::Isolated}, out);
        return out;
    }

    /// The other panel's layers, each cut to its own frame. An echo of something that is being drawn already
    /// shows nothing.
    NamedLayer rows(const Layer& layer, const EchoContent& echo, const PanelView& view) {
        NamedLayer out;
        const auto frame = echoFrame(echo, release_);
        if (!frame || ++echoes_ > kMostEchoes) return out;
        const Affine toOutput = view.toOutput * echoToPanel(layer.placement, *frame);
        NamedGroup group;
        for (const PanelView& inner : echoViews(echo, release_, toOutput)) {
            if (std::find(opened_.begin(), opened_.end(), inner.place) != opened_.end()) continue;
            if (pixelsAround(inner.toOutput.mapBounds(inner.area)).intersected(region_).empty()) continue;
            NamedLayer panel;
            setGroup({name(inner), GroupKind::Isolated}, panel);
            if (isNothing(panel)) continue;
            if (auto edge = recipes_.edge(inner)) addMask(std::move(*edge), panel);
            group.layers.push_back(std::move(panel));
        }
        // Panels of a flat do not overlap; the first is drawn first.
        std::reverse(group.layers.begin(), group.layers.end());
        setGroup(std::move(group), out);
        return out;
    }

    NamedLayer rows(const Layer& layer, const PictureContent& content, const PanelView& view) {
        return recipes_.picture(content, layer.placement, view.toOutput);
    }
    NamedLayer rows(const Layer& layer, const TextContent& content, const PanelView& view) {
        return recipes_.text(content, layer.placement, view.toOutput);
    }
    NamedLayer rows(const Layer&, const FillContent& fill, const PanelView& view) {
        return recipes_.fill(fill, view.toOutput);
    }
    NamedLayer rows(const Layer& layer, const PaintedContent& painted, const PanelView& view) {
        return recipes_.painted(painted, view.toOutput * placementMap(layer.placement));
    }
    NamedLayer rows(const Layer& layer, const ShapeContent& shape, const PanelView& view) {
        return recipes_.shape(shape, view.toOutput * placementMap(layer.placement));
    }

    LayerRecipes recipes_;
    const Release& release_;
    IntRect region_;
    const std::string& inHand_;
    std::vector<PanelPlace> opened_; ///< panels that are being named, outermost first
    int echoes_ = 0;
};

} // namespace

std::vector<NamedLayer> nameStack(const RenderParts& parts, const Release& release, const PanelView& view,
                                  const IntRect& region, const std::string& inHand) {
    return Namer(parts, release, region, inHand).name(view);
}

TileKey nameOf(const std::vector<NamedLayer>& layers, const IntRect& region, bool linear) {
    KeyHash hash(kComposite);
    hash.add(linear).add(region);
    for (const NamedLayer& layer : layers) hash.add(layer.key).add(layer.blend).add(layer.opacity);
    return hash.key();
}

} // namespace glyptos
