#include "render/lettering/words_apart.h"

#include "base/text.h"
#include "release/edits/brush_edits.h"
#include "release/edits/edit_steps.h"
#include "release/edits/light_edits.h"
#include "release/fields.h"
#include "release/paths/outline_contours.h"
#include "release/placing.h"
#include "type/hand_setting.h"
#include "type/text_edits.h"

#include <algorithm>
#include <cmath>

namespace glyptos {
namespace {

/// The words of a layer as they are set.
struct SetWords {
    LayerPtr layer;
    TextContent text; ///< fields filled
    std::shared_ptr<const Paragraph> set;
};

Result<SetWords> setWords(const ReleasePtr& release, const PanelRef& panel, const std::string& words,
                          ParagraphCache& paragraphs) {
    const LayerPtr layer = findLayer(stackOf(*release, panel), words);
    const auto* text = layer ? layer->as<TextContent>() : nullptr;
    if (!text) return fail(Fault::Usage, "Take words in hand first; these are none.");
    if (layer->warp)
        return fail(Fault::Usage, "“" + layer->name +
                                      "” is bent or kneaded and cannot be taken to pieces; take the bend off "
                                      "first.");
    SetWords out{layer, *text, nullptr};
    out.text.spec = resolvedText(*text, *release);
    out.text.tracks.reset();
    out.set = paragraphs.get(out.text.spec);
    if (out.set->outline.empty())
        return fail(Fault::Usage, "“" + layer->name + "” shows no letters that could be taken to pieces.");
    return out;
}

/// The next layer to the back in the same list; nothing when that one is the last.
LayerPtr layerBelow(const Stack& stack, const std::string& id) {
    size_t at = 0;
    const Stack* list = listOf(stack, id, at);
    return list && at + 1 < list->size() ? (*list)[at + 1] : nullptr;
}

/// A layer with all that the words were besides their letters.
Layer inPlaceOf(const Layer& words, Content content) {
    Layer out = words;
    out.id.clear(), out.locked = false;
    out.content = std::move(content);
    return out;
}

Layer shapeOf(const Path& outline, const Affine& toPanel, const Ink& ink, double opacity) {
    Path onPanel;
    onPanel.append(outline, toPanel);
    ShapeContent shape;
    shape.kind = ShapeKind::Free, shape.fill = ink;
    shape.contours = contoursOf(onPanel);
    Layer out;
    Vec2 middle;
    out.content = reframed(std::move(shape), middle);
    out.placement.position = middle;
    out.opacity = opacity;
    return out;
}

Made replacedBy(const ReleasePtr& release, const PanelRef& panel, const std::string& words, Layer layer) {
    const Made made = withLayer(release, panel, std::move(layer), words);
    return {withoutLayer(made.release, panel, words), made.id};
}

LayerPtr shared(Layer layer) {
    return std::make_shared<const Layer>(std::move(layer));
}

/// A group in which every layer is placed on the panel.
Layer groupOf(const Layer& words, Stack layers) {
    Layer out = inPlaceOf(words, GroupContent{std::move(layers), false});
    out.placement = {};
    return out;
}

/// Letters `first` up to `last` of the paragraph that stay together.
struct Cluster {
    size_t first = 0, last = 0;
};

/// Bytes of the text that a cluster stands for.
std::pair<size_t, size_t> bytesOf(const Paragraph& set, const Cluster& cluster) {
    size_t from = set.letters[cluster.first].from, to = 0;
    for (size_t i = cluster.first; i < cluster.last; ++i)
        from = std::min(from, set.letters[i].from), to = std::max(to, set.letters[i].to);
    return {from, to};
}

std::vector<Cluster> clustersOf(const TextSpec& spec, const Paragraph& set, Apart how) {
    const bool isStraight = !startOf(spec.frame) && spec.rules.empty() && spec.poses.empty();
    const auto& letters = set.letters;
    const auto staysWith = [&](size_t i) { // the letter before it
        const bool oneWord = !letters[i].isSpace && !letters[i - 1].isSpace &&
                             letters[i].line == letters[i - 1].line && letters[i].from != letters[i].to;
        if (!oneWord) return false;
        const bool joins = letters[i].rightToLeft && letters[i - 1].rightToLeft;
        return joins || (how == Apart::Words && isStraight);
    };
    std::vector<Cluster> out;
    for (size_t i = 0; i < letters.size(); ++i) {
        if (letters[i].isSpace || letters[i].from == letters[i].to) continue;
        if (!out.empty() && out.back().last == i && staysWith(i))
            ++out.back().last;
        else
            out.push_back({i, i + 1});
    }
    return out;
}

/// By hand to where the letters stood: what is beside a letter, and how its line was filled, moves it too.
TextSpec kernedAs(TextSpec spec, const Paragraph& set, const Cluster& cluster, ParagraphCache& paragraphs) {
    const auto alone = paragraphs.get(spec);
    const size_t count = cluster.last - cluster.first;
    if (alone->letters.size() != count) return spec;
    const auto fromFirst = [](const std::vector<SetLetter>& letters, size_t first, size_t i) {
        const auto back = letters[first].map.inverse();
        return back ? (*back * letters[i].map).e : 0;
    };
    double moved = 0;
    for (size_t i = 1; i < count; ++i) {
        const SetLetter& letter = alone->letters[i];
        const double by = fromFirst(set.letters, cluster.first, cluster.first + i) -
                          fromFirst(alone->letters, 0, i) - moved;
        const double size = lettersAt(spec, letter.from).size;
        if (letter.rightToLeft || std::abs(by) < 1e-4 * size) continue;
        spec = withKern(spec, letter.from, kernAt(spec, letter.from) + by / size);
        moved += by;
    }
    return spec;
}

Layer layerOf(const SetWords& words, const Cluster& cluster, ParagraphCache& paragraphs) {
    const auto [from, to] = bytesOf(*words.set, cluster);
    TextContent text = words.text;
    TextSpec& spec = text.spec;
    const size_t all = spec.text.size();
    const double opacity = words.set->letters[cluster.first].opacity;
    spec.poses.clear(), spec.rules.clear(), spec.leadings.clear(), spec.tabs.clear();
    spec = replaced(replaced(std::move(spec), to, all, ""), 0, from, "");
    std::erase_if(spec.kerns, [](const HandKern& kern) { return kern.at == 0; });
    if (spec.runs.size() == 1 && spec.runs[0].from == 0 && spec.runs[0].to == spec.text.size())
        spec.letters = spec.runs[0].letters, spec.runs.clear();
    spec.frame = AtPoint{}, spec.align = Align::Left;
    spec = kernedAs(std::move(spec), *words.set, cluster, paragraphs);
    text.style.clear();
    Layer out;
    out.name = spec.text, out.opacity = opacity;
    const Affine map = textToPanel(words.layer->placement) * words.set->letters[cluster.first].map *
                       Affine::translation(0, -paragraphs.get(spec)->ascent);
    out.content = std::move(text);
    if (const auto place = placementOf(map, words.layer->placement)) out.placement = *place;
    return out;
}

} // namespace

Result<Made> withLettersAsShapes(const ReleasePtr& release, const PanelRef& panel, const std::string& id,
                                 ParagraphCache& paragraphs) {
    const auto words = setWords(release, panel, id, paragraphs);
    if (!words) return tl::unexpected(words.error());
    const Affine toPanel = textToPanel(words->layer->placement);
    const Paragraph& set = *words->set;
    if (set.inks.size() < 2) {
        const int paint = set.inks.empty() ? 0 : set.inks[0].paint;
        const double opacity = set.inks.empty() ? 1 : set.inks[0].opacity;
        Layer shape = shapeOf(set.outline, toPanel, words->text.colourOf(paint), 1);
        Layer whole = inPlaceOf(*words->layer, std::move(shape.content));
        whole.placement = shape.placement, whole.opacity *= opacity;
        return replacedBy(release, panel, id, std::move(whole));
    }
    Stack shapes;
    for (const InkedLetters& ink : set.inks) {
        Layer shape = shapeOf(ink.outline, toPanel, words->text.colourOf(ink.paint), ink.opacity);
        shape.name = words->layer->name + " " + std::to_string(shapes.size() + 1);
        shapes.push_back(shared(std::move(shape)));
    }
    std::reverse(shapes.begin(), shapes.end()); // front to back
    return replacedBy(release, panel, id, groupOf(*words->layer, std::move(shapes)));
}

Result<Made> withWordsAsMask(const ReleasePtr& release, const PanelRef& panel, const std::string& id,
                             ParagraphCache& paragraphs) {
    const auto words = setWords(release, panel, id, paragraphs);
    if (!words) return tl::unexpected(words.error());
    const LayerPtr below = layerBelow(stackOf(*release, panel), id);
    if (!below)
        return fail(Fault::Usage,
                    "There is no layer directly below “" + words->layer->name + "” for it to mask.");
    const Layer shape =
        shapeOf(words->set->outline, textToPanel(words->layer->placement), words->text.colour, 1);
    Mask mask;
    mask.form = *shape.as<ShapeContent>();
    mask.placement = shape.placement;
    return withOneMaskMore(withoutLayer(release, panel, id), panel, below->id, std::move(mask));
}

Result<Made> withPictureInWords(const ReleasePtr& release, const PanelRef& panel, const std::string& id,
                                const SourcePtr& picture, ParagraphCache& paragraphs) {
    const LayerPtr layer = findLayer(stackOf(*release, panel), id);
    const auto* text = layer ? layer->as<TextContent>() : nullptr;
    if (!text) return fail(Fault::Usage, "Take words in hand first; these are none.");
    if (layer->clipped)
        return fail(Fault::Usage, "“" + layer->name +
                                      "” shows only inside another layer, and so would the picture; take it "
                                      "out of there first.");
    const auto set = paragraphs.get(resolvedText(*text, *release));
    if (set->outline.empty())
        return fail(Fault::Usage, "“" + layer->name + "” shows no letters that could be filled.");
    Layer inside;
    inside.name = stemOf(picture->name);
    inside.content = PictureContent{picture->id, {0, 0, 1, 1}};
    inside.placement = covering(seenOnPanel(*layer, *release, paragraphs).mapBounds(set->ink), *picture);
    inside.clipped = true;
    return withLayer(withSource(release, picture), panel, std::move(inside), id);
}

Result<Made> withWordsApart(const ReleasePtr& release, const PanelRef& panel, const std::string& id,
                            Apart how, ParagraphCache& paragraphs) {
    const auto words = setWords(release, panel, id, paragraphs);
    if (!words) return tl::unexpected(words.error());
    const std::vector<Cluster> clusters = clustersOf(words->text.spec, *words->set, how);
    if (clusters.size() > kMostApart)
        return fail(Fault::Usage, "“" + words->layer->name + "” would come apart in " +
                                      std::to_string(clusters.size()) + " layers; " +
                                      std::to_string(kMostApart) + " is the most.");
    Stack layers;
    for (const Cluster& cluster : clusters) layers.push_back(shared(layerOf(*words, cluster, paragraphs)));
    return replacedBy(release, panel, id, groupOf(*words->layer, std::move(layers)));
}

} // namespace glyptos
