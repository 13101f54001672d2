#include "release/press/spot_inks.h"

#include "base/overloaded.h"
#include "release/edits/style_edits.h"
#include "release/walks.h"

#include <algorithm>
#include <set>

namespace glyptos {
namespace {

const Swatch* spotSwatch(const Release& release, const std::string& id) {
    if (id.empty()) return nullptr;
    const auto found = std::find_if(release.palette.begin(), release.palette.end(),
                                    [&](const Swatch& s) { return s.id == id; });
    return found == release.palette.end() || found->plate == Plate::Process ? nullptr : &*found;
}

/// The swatch that all of these follow; empty when there are none, or not one for all.
std::string common(const std::vector<const Ink*>& inks) {
    const bool one = !inks.empty() && std::all_of(inks.begin(), inks.end(), [&](const Ink* ink) {
        return ink && ink->swatch == inks.front()->swatch;
    });
    return one ? inks.front()->swatch : std::string();
}

std::string followed(const Content& content) {
    return std::visit(
        Overloaded{[](const TextContent& text) {
                       std::vector<const Ink*> inks{&text.colour};
                       for (const Ink& ink : text.colours) inks.push_back(&ink);
                       return common(inks);
                   },
                   [](const FillContent& fill) { return common({std::get_if<Ink>(&fill.paint)}); },
                   [](const ShapeContent& shape) {
                       std::vector<const Ink*> inks;
                       if (shape.fill) inks.push_back(std::get_if<Ink>(&*shape.fill));
                       if (shape.stroke) inks.push_back(std::get_if<Ink>(&shape.stroke->paint));
                       return std::find(inks.begin(), inks.end(), nullptr) == inks.end() ? common(inks)
                                                                                         : std::string();
                   },
                   [](const auto&) { return std::string(); }},
        content);
}

void collect(const Stack& stack, const Release& release, std::set<std::string>& used) {
    for (const LayerPtr& layer : stack) {
        if (!layer->on) continue;
        if (const Swatch* spot = spotOf(*layer, release)) used.insert(spot->id);
        if (const auto* group = layer->as<GroupContent>()) collect(group->layers, release, used);
    }
}

} // namespace

const Swatch* spotOf(const Layer& layer, const Release& release) {
    if (!layer.spot.empty()) return spotSwatch(release, layer.spot);
    const auto* text = layer.as<TextContent>();
    const TextStyle* style = text ? textStyle(release, text->style) : nullptr;
    if (style && !style->spot.empty()) return spotSwatch(release, style->spot);
    return spotSwatch(release, followed(layer.content));
}

std::vector<Swatch> spotInksOf(const Release& release, const Piece& piece) {
    std::set<std::string> used;
    for (const Panel* place : piece.flat->places()) collect(piece.take().stack(place->id), release, used);
    std::vector<Swatch> out;
    for (const Swatch& swatch : release.palette)
        if (used.contains(swatch.id)) out.push_back(swatch);
    return out;
}

} // namespace glyptos
