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
/// The same of one layer, its mask and treatments; not of layers inside it.
void eachPainted(const Layer& layer, const std::function<void(const PixelTiles&)>& act);
void eachPainted(const PanelSelections& selections, const std::function<void(const PixelTiles&)>& act);
/// Whether a treatment in a stack reads another layer.
bool readsLayers(const Stack& stack);
/// Every treatment of all layers.
void eachTreatment(const Release& release, const std::function<void(const Treatment&)>& act);
/// Every file that was brought in: pictures, then fonts.
std::vector<SourcePtr> filesOf(const Release& release);
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
void partsOf(Of<GradeContent> auto&, const auto&) {}
void partsOf(Of<CodeContent> auto& code, const auto& visit) {
    visit(code.bars);
    if (code.ground) visit(*code.ground);
}

/// The parts of a figure of a treatment: its colours, and the picture it names.
void partsOf(Of<FigureValue> auto& value, const auto& visit) {
    if (auto* ink = std::get_if<Ink>(&value)) visit(*ink);
    if (auto* run = std::get_if<ColourRun>(&value))
        for (auto& stop : *run) visit(stop.colour);
    if (auto* source = std::get_if<std::string>(&value);
        source && !source->empty() && !source->starts_with(kLayerMark)) {
        auto picture = PictureContent{*source};
        visit(picture);
    }
}

/// The parts of a mask; of one that may be changed, a copy takes its place where that changed.
template <class MaskPointer, class Visitor>
void partsOfMask(MaskPointer& mask, const Visitor& visit) {
    if (!mask) return;
    if constexpr (std::is_const_v<MaskPointer>) {
        std::visit([&](const auto& form) { partsOf(form, visit); }, mask->form);
    } else {
        Mask copy = *mask;
        std::visit([&](auto& form) { partsOf(form, visit); }, copy.form);
        if (!(copy == *mask)) mask = std::make_shared<const Mask>(std::move(copy));
    }
}

void partsOfTreatment(auto& treatment, const auto& visit) {
    for (auto& value : treatment.figures.values()) partsOf(value, visit);
    partsOfMask(treatment.mask, visit);
}

/// The parts of a layer, of its mask and of its treatments. The visitor answers every kind of part, and gets
/// them changeable when the layer is.
template <class LayerLike, class Visitor>
void eachPart(LayerLike& layer, const Visitor& visit) {
    std::visit([&](auto& content) { partsOf(content, visit); }, layer.content);
    partsOfMask(layer.mask, visit);
    if (!layer.treatments) return;
    if constexpr (std::is_const_v<LayerLike>) {
        for (const Treatment& treatment : *layer.treatments) partsOfTreatment(treatment, visit);
    } else {
        Treatments all = *layer.treatments;
        for (Treatment& treatment : all) partsOfTreatment(treatment, visit);
        if (!(all == *layer.treatments))
            layer.treatments = std::make_shared<const Treatments>(std::move(all));
    }
}

} // namespace glyptos
