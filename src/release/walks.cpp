#include "release/walks.h"

#include "base/text.h"
#include "release/warp.h"

#include <algorithm>

namespace glyptos {
namespace {

template <class LayerLike, class Act>
void inksOf(LayerLike& layer, const Act& act) {
    eachPart(layer,
             Overloaded{[&](Of<TextContent> auto& text) {
                            act(text.colour);
                            for (auto& ink : text.colours) act(ink);
                        },
                        [&](Of<Ink> auto& ink) { act(ink); },
                        [&](Of<Gradient> auto& gradient) {
                            for (auto& stop : gradient.stops) act(stop.colour);
                        },
                        [&](Of<Clouds> auto& clouds) { act(clouds.low), act(clouds.high); },
                        [&](Of<Paper> auto& paper) { act(paper.colour); }, [](const PictureContent&) {},
                        [](const EchoContent&) {}, [](const Pattern&) {}, [](const Stamp&) {}});
}

} // namespace

void eachLayer(const Stack& stack, const std::function<void(const LayerPtr&)>& act) {
    for (const LayerPtr& layer : stack) {
        act(layer);
        if (const auto* group = layer->as<GroupContent>()) eachLayer(group->layers, act);
    }
}

void eachLayer(const Release& release, const std::function<void(const LayerPtr&)>& act) {
    const auto piece = [&](const Piece& p) {
        for (const auto& take : p.takes)
            for (const auto& [panel, stack] : take->stacks) eachLayer(stack, act);
    };
    for (const PiecePtr& p : release.pieces) piece(*p);
    piece(*release.wall);
}

LayerPtr firstLayer(const Stack& stack, const std::function<bool(const Layer&)>& is) {
    for (const LayerPtr& layer : stack) {
        if (is(*layer)) return layer;
        if (const auto* group = layer->as<GroupContent>())
            if (LayerPtr inside = firstLayer(group->layers, is)) return inside;
    }
    return nullptr;
}

void eachSource(const Layer& layer, const std::function<void(const std::string&)>& act) {
    eachPart(layer, Overloaded{[&](const PictureContent& picture) { act(picture.source); },
                               [&](const Pattern& pattern) { act(pattern.source); },
                               [&](const Stamp& stamp) {
                                   if (!stamp.source.empty()) act(stamp.source);
                               },
                               [](const TextContent&) {}, [](const EchoContent&) {}, [](const Ink&) {},
                               [](const Gradient&) {}, [](const Clouds&) {}, [](const Paper&) {}});
}

void eachInk(const Layer& layer, const std::function<void(const Ink&)>& act) {
    inksOf(layer, act);
}

void eachInk(Layer& layer, const std::function<void(Ink&)>& act) {
    inksOf(layer, act);
}

void eachPainted(const Layer& layer, const std::function<void(const PixelTiles&)>& act) {
    const auto masked = [&](const std::shared_ptr<const Mask>& mask) {
        const auto* painted = mask ? std::get_if<PaintedMask>(&mask->form) : nullptr;
        if (painted) act(*painted->tiles);
    };
    if (const auto* painted = layer.as<PaintedContent>()) {
        act(*painted->tiles);
        if (painted->holes) act(*painted->holes);
    }
    if (layer.warp && layer.warp->knead) act(*layer.warp->knead->shifts);
    masked(layer.mask);
    if (!layer.treatments) return;
    for (const Treatment& treatment : *layer.treatments) masked(treatment.mask);
}

void eachPainted(const PanelSelections& selections, const std::function<void(const PixelTiles&)>& act) {
    if (selections.now) act(*selections.now->tiles);
    for (const NamedSelection& kept : selections.kept) act(*kept.selection.tiles);
}

void eachPainted(const Release& release, const std::function<void(const PixelTiles&)>& act) {
    eachLayer(release, [&](const LayerPtr& layer) { eachPainted(*layer, act); });
    for (const PiecePtr& piece : release.pieces)
        for (const auto& [panel, selections] : piece->selections) eachPainted(selections, act);
}

void eachTreatment(const Release& release, const std::function<void(const Treatment&)>& act) {
    eachLayer(release, [&](const LayerPtr& layer) {
        if (layer->treatments)
            for (const Treatment& treatment : *layer->treatments) act(treatment);
    });
}

bool readsLayers(const Stack& stack) {
    const auto reads = [](const Treatment& t) {
        return std::any_of(t.figures.values().begin(), t.figures.values().end(),
                           [](const FigureValue& value) {
                               const auto* id = std::get_if<std::string>(&value);
                               return id && id->starts_with(kLayerMark);
                           });
    };
    return firstLayer(stack, [&](const Layer& layer) {
               return layer.treatments &&
                      std::any_of(layer.treatments->begin(), layer.treatments->end(), reads);
           }) != nullptr;
}

std::vector<SourcePtr> filesOf(const Release& release) {
    std::vector<SourcePtr> out = release.sources;
    out.insert(out.end(), release.fonts.begin(), release.fonts.end());
    return out;
}

std::vector<std::string> sourcesOf(const Layer& layer) {
    std::vector<std::string> out;
    const auto look = [&](const Layer& l) { eachSource(l, [&](const std::string& id) { addNew(out, id); }); };
    look(layer);
    if (const auto* group = layer.as<GroupContent>())
        eachLayer(group->layers, [&](const LayerPtr& inside) { look(*inside); });
    return out;
}

std::vector<std::string> sourcesOf(const Release& release) {
    std::vector<std::string> out;
    eachLayer(release, [&](const LayerPtr& layer) {
        eachSource(*layer, [&](const std::string& id) { addNew(out, id); });
    });
    for (const PiecePtr& piece : release.pieces)
        for (const auto& [panel, reference] : piece->references) addNew(out, reference.source);
    return out;
}

} // namespace glyptos
