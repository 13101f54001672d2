// What a release is made of, found by one walk each. They fold over the kinds of content, of paint and of
// mask: a new kind that names no parts, or a part that a walk does not answer, does not compile.
#pragma once

#include "base/overloaded.h"
#include "release/release.h"

#include <functional>
#include <type_traits>

namespace glyptos {

/// Every layer of a stack, front to back, a group before what is in it.
void eachLayer(const Stack& stack, const std::function<void(const LayerPtr&)>& act);
/// Every layer of all takes of all pieces, and of the wall.
void eachLayer(const Release& release, const std::function<void(const LayerPtr&)>& act);
/// The first layer of a stack, in the same order, for which `is` holds; nothing when there is none.
LayerPtr firstLayer(const Stack& stack, const std::function<bool(const Layer&)>& is);

/// Ids of the pictures that a layer and its mask show; not of layers inside it. One may come twice.
void eachSource(const Layer& layer, const std::function<void(const std::string& source)>& act);
/// Every colour of a layer: of its words, its paints and its mask; not of layers inside it.
void eachInk(const Layer& layer, const std::function<void(const Ink&)>& act);
void eachInk(Layer& layer, const std::function<void(Ink&)>& act);
/// Everything that is painted in the release: layers, what they mend, masks, selections.
void eachPainted(const Release& release, const std::function<void(const PixelTiles&)>& act);
/// Ids of the sources that a layer, its mask and all in it show, each once.
std::vector<std::string> sourcesOf(const Layer& layer);
/// Ids of all sources that anything in the release shows: takes, masks, references, the wall.
std::vector<std::string> sourcesOf(const Release& release);

/// That type, whether it may be changed or not.
template <class T, class Part>
concept Of = std::is_same_v<std::remove_const_t<T>, Part>;

// The parts of each kind of content. A part is what stands by itself: a picture, words, an echo, or a paint
// of one kind; it is what the visitor answers.
template <class Visitor>
void partsOf(auto& part, const Visitor& visit) requires requires {
    visit(part);
}
{ visit(part); }
void partsOf(Of<Paint> auto& paint, const auto& visit) {
    std::visit([&](auto& kind) { partsOf(kind, visit); }, paint);
}
void partsOf(Of<FillContent> auto& fill, const auto& visit) {
    partsOf(fill.paint, visit);
}
void partsOf(Of<ShapeContent> auto& shape, const auto& visit) {
    if (shape.fill) partsOf(*shape.fill, visit);
    if (!shape.stroke) return;
    partsOf(shape.stroke->paint, visit);
    if (shape.stroke->brushed)
        for (auto& stamp : shape.stroke->brushed->stamps) visit(stamp);
}
/// Layers of a group are layers of their own.
void partsOf(Of<GroupContent> auto&, const auto&) {}
/// What is painted shows no source and follows no swatch.
void partsOf(Of<PaintedContent> auto&, const auto&) {}
void partsOf(Of<PaintedMask> auto&, const auto&) {}

/// The parts of a layer and of its mask. The visitor answers every kind of part, and gets them changeable
/// when the layer is.
template <class LayerLike, class Visitor>
void eachPart(LayerLike& layer, const Visitor& visit) {
    std::visit([&](auto& content) { partsOf(content, visit); }, layer.content);
    if (!layer.mask) return;
    if constexpr (std::is_const_v<LayerLike>) {
        std::visit([&](const auto& form) { partsOf(form, visit); }, layer.mask->form);
    } else {
        Mask mask = *layer.mask;
        std::visit([&](auto& form) { partsOf(form, visit); }, mask.form);
        if (!(mask == *layer.mask)) layer.mask = std::make_shared<const Mask>(std::move(mask));
    }
}

} // namespace glyptos
