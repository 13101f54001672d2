#include "release/edits/style_edits.h"

#include "release/edits/edit_steps.h"
#include "release/walks.h"

#include <algorithm>
#include <utility>

namespace glyptos {
namespace {

TextStyle* found(Release& release, const std::string& id) {
    const auto at = std::find_if(release.textStyles.begin(), release.textStyles.end(),
                                 [&](const TextStyle& s) { return s.id == id; });
    return at == release.textStyles.end() ? nullptr : &*at;
}

bool follows(const TextContent& text, const std::string& style) {
    if (text.style == style) return true;
    if (!text.tracks) return false;
    const TrackListing& list = *text.tracks;
    return list.figures.style == style || list.performers.style == style ||
           list.headingLetters.style == style;
}

/// Letters of a track list have nothing of their own besides their style.
bool followInList(TextContent& text, const TextStyle& style, Unit unit) {
    if (!text.tracks) return false;
    bool found = false;
    const auto all = lettersOf(*text.tracks);
    for (size_t i = 0; i < all.size(); ++i) {
        if (all[i]->style != style.id) continue;
        setTrackLetters(text, int(i) + 1, &style, unit);
        found = true;
    }
    return found;
}

/// Styles may be based on each other in a circle in a file: `left` ends that.
void follow(Release& release, const std::string& style, const TextLook& before, const TextLook& after,
            int left) {
    if (left <= 0) return;
    changeLayers(release, [&](Layer& layer, const Piece& piece) {
        auto* text = std::get_if<TextContent>(&layer.content);
        if (!text) return false;
        const Unit unit = piece.flat->unit;
        const bool lists = followInList(*text, {style, {}, {}, after}, unit);
        if (text->style != style) return lists;
        const TextLook own = lookOf(*text, unit), next = followed(own, before, after);
        if (next == own) return lists;
        setLook(*text, next, unit);
        return true;
    });
    for (TextStyle& derived : release.textStyles) {
        if (derived.base != style) continue;
        const TextLook own = derived.look;
        derived.look = followed(own, before, after);
        if (!(derived.look == own)) follow(release, derived.id, own, derived.look, left - 1);
    }
}

/// As follow(), of the ink.
void followSpot(Release& release, const std::string& style, const std::string& before,
                const std::string& after, int left) {
    if (left <= 0) return;
    for (TextStyle& derived : release.textStyles) {
        if (derived.base != style || derived.spot != before) continue;
        derived.spot = after;
        followSpot(release, derived.id, before, after, left - 1);
    }
}

} // namespace

Made withTextStyle(const ReleasePtr& release, std::string name, const TextLook& look, std::string base) {
    auto next = std::make_shared<Release>(*release);
    std::string id = takeId(*next);
    next->textStyles.push_back({id, std::move(name), std::move(base), look});
    return {next, std::move(id)};
}

ReleasePtr withTextStyles(const ReleasePtr& release, std::vector<TextStyle> styles) {
    auto next = std::make_shared<Release>(*release);
    for (TextStyle& style : styles) style.id = takeId(*next);
    for (TextStyle& style : styles) {
        const auto base = std::find_if(styles.begin(), styles.end(),
                                       [&](const TextStyle& s) { return s.name == style.base; });
        style.base = base == styles.end() ? std::string() : base->id;
    }
    next->textStyles.insert(next->textStyles.end(), styles.begin(), styles.end());
    return next;
}

ReleasePtr withStyleLook(const ReleasePtr& release, const std::string& style, const TextLook& look) {
    const TextStyle* known = textStyle(*release, style);
    if (!known || known->look == look) return release;
    auto next = std::make_shared<Release>(*release);
    const TextLook before = known->look;
    found(*next, style)->look = look;
    follow(*next, style, before, look, int(next->textStyles.size()));
    return next;
}

ReleasePtr withStyleName(const ReleasePtr& release, const std::string& style, const std::string& name) {
    const TextStyle* known = textStyle(*release, style);
    if (!known || known->name == name || name.empty()) return release;
    auto next = std::make_shared<Release>(*release);
    found(*next, style)->name = name;
    return next;
}

ReleasePtr withStyleSpot(const ReleasePtr& release, const std::string& style, const std::string& swatch) {
    const TextStyle* known = textStyle(*release, style);
    if (!known || known->spot == swatch) return release;
    auto next = std::make_shared<Release>(*release);
    const std::string before = std::exchange(found(*next, style)->spot, swatch);
    followSpot(*next, style, before, swatch, int(next->textStyles.size()));
    return next;
}

ReleasePtr withStyleBase(const ReleasePtr& release, const std::string& style, const std::string& base) {
    if (!textStyle(*release, style)) return release;
    size_t steps = 0;
    for (const TextStyle* above = textStyle(*release, base); above; above = textStyle(*release, above->base))
        if (above->id == style || ++steps > release->textStyles.size()) return release; // a circle
    auto next = std::make_shared<Release>(*release);
    found(*next, style)->base = base;
    return next;
}

ReleasePtr withoutStyle(const ReleasePtr& release, const std::string& style) {
    if (!textStyle(*release, style)) return release;
    auto next = std::make_shared<Release>(*release);
    std::erase_if(next->textStyles, [&](const TextStyle& s) { return s.id == style; });
    for (TextStyle& other : next->textStyles)
        if (other.base == style) other.base.clear();
    changeLayers(*next, [&](Layer& layer, const Piece&) {
        auto* text = std::get_if<TextContent>(&layer.content);
        bool followed = false;
        if (text && text->style == style) text->style.clear(), followed = true;
        if (text && text->tracks)
            for (TrackLetters* letters : lettersOf(*text->tracks))
                if (letters->style == style) letters->style.clear(), followed = true;
        return followed;
    });
    return next;
}

ReleasePtr withStyleOf(const ReleasePtr& release, const PanelRef& panel, const std::string& layer,
                       const std::string& style) {
    const PiecePtr piece = release->piece(panel.piece);
    const TextStyle* known = textStyle(*release, style);
    if (!piece || (!known && !style.empty())) return release;
    return withChangedLayer(release, panel, layer, [&](Layer& l) {
        auto* text = std::get_if<TextContent>(&l.content);
        if (!text) return;
        text->style = style;
        if (known) setLook(*text, known->look, piece->flat->unit);
    });
}

ReleasePtr withTrackLettersOf(const ReleasePtr& release, const PanelRef& panel, const std::string& layer,
                              int paint, const std::string& style) {
    const PiecePtr piece = release->piece(panel.piece);
    if (!piece) return release;
    return withChangedLayer(release, panel, layer, [&](Layer& l) {
        if (auto* text = std::get_if<TextContent>(&l.content))
            setTrackLetters(*text, paint, textStyle(*release, style), piece->flat->unit);
    });
}

const TextStyle* textStyle(const Release& release, const std::string& id) {
    const auto at = std::find_if(release.textStyles.begin(), release.textStyles.end(),
                                 [&](const TextStyle& s) { return s.id == id; });
    return at == release.textStyles.end() ? nullptr : &*at;
}

int followersOfStyle(const Release& release, const std::string& style) {
    int out = 0;
    eachLayer(release, [&](const LayerPtr& layer) {
        const auto* text = layer->as<TextContent>();
        out += text && follows(*text, style);
    });
    return out;
}

} // namespace glyptos
