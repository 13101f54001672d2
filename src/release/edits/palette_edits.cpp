#include "release/edits/palette_edits.h"

#include "release/edits/edit_steps.h"
#include "release/walks.h"

#include <algorithm>
#include <optional>

namespace glyptos {
namespace {

using InkChange = std::function<void(Ink&)>;

/// The inks that follow the swatch changed.
void changeInks(Release& release, const std::string& swatch, const InkChange& change) {
    changeLayers(release, [&](Layer& layer, const Piece&) {
        bool any = false;
        eachInk(layer, [&](Ink& ink) {
            if (ink.swatch != swatch) return;
            change(ink);
            any = true;
        });
        return any;
    });
    for (TextStyle& style : release.textStyles)
        if (style.look.colour.swatch == swatch) change(style.look.colour);
}

auto found(std::vector<Swatch>& palette, const std::string& id) {
    return std::find_if(palette.begin(), palette.end(), [&](const Swatch& s) { return s.id == id; });
}

bool has(const Release& release, const std::string& id) {
    return std::any_of(release.palette.begin(), release.palette.end(),
                       [&](const Swatch& s) { return s.id == id; });
}

/// What becomes of inks when their swatch gets a colour: they keep how see-through they are.
InkChange toColour(const Rgba& colour) {
    return [colour](Ink& ink) { ink = Ink({colour.r, colour.g, colour.b, ink.a}, ink.swatch); };
}

/// Nothing follows that swatch any more, nor prints in its ink.
void letGo(Release& release, const std::string& swatch) {
    changeInks(release, swatch, [](Ink& ink) { ink.swatch.clear(); });
    changeLayers(release, [&](Layer& layer, const Piece&) {
        if (layer.spot != swatch) return false;
        layer.spot.clear();
        return true;
    });
    for (TextStyle& style : release.textStyles)
        if (style.spot == swatch) style.spot.clear();
}

} // namespace

std::optional<Layer> withOwnColour(const Layer& layer, const Rgba& c) {
    Layer out = layer;
    if (auto* text = std::get_if<TextContent>(&out.content)) {
        text->colour = Ink(c), text->colours.clear();
    } else if (auto* fill = std::get_if<FillContent>(&out.content)) {
        fill->paint = Ink(c);
    } else if (auto* shape = std::get_if<ShapeContent>(&out.content)) {
        if (shape->fill || !shape->stroke)
            shape->fill = Ink(c);
        else
            shape->stroke->paint = Ink(c);
    } else if (auto* code = std::get_if<CodeContent>(&out.content)) {
        code->bars = Ink(c);
    } else {
        return std::nullopt;
    }
    return out;
}

ReleasePtr withSwatches(const ReleasePtr& release, const std::vector<NamedColour>& colours) {
    auto next = std::make_shared<Release>(*release);
    for (const NamedColour& c : colours) {
        const bool there = std::any_of(next->palette.begin(), next->palette.end(),
                                       [&](const Swatch& s) { return toHex(s.colour) == toHex(c.colour); });
        if (!there) next->palette.push_back({takeId(*next), c.name, c.colour});
    }
    return next->palette.size() == release->palette.size() ? release : next;
}

ReleasePtr withPalette(const ReleasePtr& release, const std::vector<NamedColour>& colours) {
    auto next = std::make_shared<Release>(*release);
    std::vector<Swatch> before = std::move(next->palette);
    next->palette.clear();
    for (const NamedColour& c : colours) {
        const auto same =
            std::find_if(before.begin(), before.end(), [&](const Swatch& s) { return s.name == c.name; });
        if (same == before.end()) {
            next->palette.push_back({takeId(*next), c.name, c.colour});
            continue;
        }
        next->palette.push_back({same->id, c.name, c.colour, same->plate});
        changeInks(*next, same->id, toColour(c.colour));
        before.erase(same);
    }
    for (const Swatch& gone : before) letGo(*next, gone.id);
    return unlessSame(release, next);
}

ReleasePtr withSwatchColour(const ReleasePtr& release, const std::string& swatch, const Rgba& colour) {
    if (!has(*release, swatch)) return release;
    return changed(release, [&](Release& r) {
        found(r.palette, swatch)->colour = colour;
        changeInks(r, swatch, toColour(colour));
    });
}

ReleasePtr withSwatchName(const ReleasePtr& release, const std::string& swatch, const std::string& name) {
    if (!has(*release, swatch)) return release;
    return changed(release, [&](Release& r) { found(r.palette, swatch)->name = name; });
}

ReleasePtr withSwatchPlate(const ReleasePtr& release, const std::string& swatch, Plate plate) {
    if (!has(*release, swatch)) return release;
    return changed(release, [&](Release& r) { found(r.palette, swatch)->plate = plate; });
}

ReleasePtr withMovedSwatch(const ReleasePtr& release, const std::string& swatch, size_t index) {
    if (!has(*release, swatch)) return release;
    return changed(release, [&](Release& r) {
        const auto at = found(r.palette, swatch);
        const Swatch moved = *at;
        r.palette.erase(at);
        r.palette.insert(r.palette.begin() + ptrdiff_t(std::min(index, r.palette.size())), moved);
    });
}

ReleasePtr withoutSwatch(const ReleasePtr& release, const std::string& swatch) {
    if (!has(*release, swatch)) return release;
    return changed(release, [&](Release& r) {
        r.palette.erase(found(r.palette, swatch));
        letGo(r, swatch);
    });
}

int followersOf(const Release& release, const std::string& swatch) {
    int count = 0;
    eachLayer(release, [&](const LayerPtr& layer) {
        bool follows = false;
        eachInk(*layer, [&](const Ink& ink) { follows |= ink.swatch == swatch; });
        count += follows;
    });
    return count;
}

std::vector<NamedColour> namedColours(const std::vector<Swatch>& palette) {
    std::vector<NamedColour> out;
    out.reserve(palette.size());
    for (const Swatch& s : palette) out.push_back({s.name, s.colour});
    return out;
}

} // namespace glyptos
