#include "release/edits/edits.h"

#include "release/edits/edit_steps.h"
#include "release/edits/wraps_in_place.h"
#include "release/walks.h"
#include "release/wall.h"

#include <algorithm>
#include <set>

namespace glyptos {
namespace {

std::string freeTakeId(const Piece& piece) {
    for (int i = 0;; ++i) {
        std::string id(1, char('A' + i % 26));
        if (i >= 26) id += std::to_string(i / 26 + 1);
        if (!piece.take(id)) return id;
    }
}

/// The name, with a number behind it when another piece has it.
std::string freeName(const Release& release, const std::string& wanted) {
    const auto taken = [&](const std::string& name) {
        return std::any_of(release.pieces.begin(), release.pieces.end(),
                           [&](const PiecePtr& p) { return p->name == name; });
    };
    std::string name = wanted;
    for (int i = 2; taken(name); ++i) name = wanted + " " + std::to_string(i);
    return name;
}

} // namespace

ReleasePtr withBrief(const ReleasePtr& release, Brief brief) {
    if (release->brief == brief) return release;
    return changed(release, [&](Release& r) { r.brief = std::move(brief); });
}

ReleasePtr withSource(const ReleasePtr& release, SourcePtr source) {
    if (release->source(source->id)) return release;
    return changed(release, [&](Release& r) { r.sources.push_back(std::move(source)); });
}

ReleasePtr withFont(const ReleasePtr& release, SourcePtr font) {
    if (release->font(font->id)) return release;
    return changed(release, [&](Release& r) { r.fonts.push_back(std::move(font)); });
}

ReleasePtr withoutFont(const ReleasePtr& release, const std::string& id) {
    if (!release->font(id)) return release;
    return changed(release, [&](Release& r) {
        std::erase_if(r.fonts, [&](const SourcePtr& font) { return font->id == id; });
    });
}

ReleasePtr withFacts(const ReleasePtr& release, const std::string& id, const SourceFacts& facts) {
    const SourcePtr old = release->source(id);
    if (!old || old->facts == facts) return release;
    auto source = std::make_shared<Source>(*old);
    source->facts = facts;
    return changed(release, [&](Release& r) {
        std::replace(r.sources.begin(), r.sources.end(), old, SourcePtr(source));
    });
}

ReleasePtr withoutUnusedSources(const ReleasePtr& release) {
    const std::vector<std::string> all = sourcesOf(*release);
    const std::set<std::string> used(all.begin(), all.end());
    if (std::all_of(release->sources.begin(), release->sources.end(),
                    [&](const SourcePtr& s) { return used.contains(s->id); }))
        return release;
    return changed(release, [&](Release& r) {
        std::erase_if(r.sources, [&](const SourcePtr& s) { return !used.contains(s->id); });
    });
}

Result<ReleasePtr> withPiece(const ReleasePtr& release, std::shared_ptr<const Form> form,
                             const ParameterValues& values) {
    auto piece = std::make_shared<Piece>();
    piece->form = std::move(form);
    piece->values = values;
    auto flat = flatOf(*piece);
    if (!flat) return tl::unexpected(flat.error());
    return changed(release, [&](Release& r) {
        piece->id = takeId(r);
        piece->name = freeName(r, piece->form->name);
        piece->flat = std::move(*flat);
        auto take = std::make_shared<Take>();
        take->id = "A";
        piece->takes.push_back(std::move(take));
        r.pieces.push_back(std::move(piece));
    });
}

ReleasePtr withoutPiece(const ReleasePtr& release, const std::string& piece) {
    if (!release->piece(piece) || piece == kWallId) return release;
    return changed(release, [&](Release& r) {
        std::erase_if(r.pieces, [&](const PiecePtr& p) { return p->id == piece; });
    });
}

Result<ReleasePtr> withParameter(const ReleasePtr& release, const std::string& id,
                                 const std::string& parameter, std::optional<double> value) {
    const PiecePtr old = release->piece(id);
    if (!old || old == release->wall) return release;
    auto piece = std::make_shared<Piece>(*old);
    if (value)
        piece->values[parameter] = *value;
    else
        piece->values.erase(parameter), piece->reasons.erase(parameter);
    if (piece->values == old->values) return release;
    auto flat = flatOf(*piece);
    if (!flat) return tl::unexpected(flat.error());
    takeFlat(*piece, std::move(*flat));
    return changed(release,
                   [&](Release& r) { std::replace(r.pieces.begin(), r.pieces.end(), old, PiecePtr(piece)); });
}

ReleasePtr withReason(const ReleasePtr& release, const std::string& id, const std::string& parameter,
                      const std::string& reason) {
    const PiecePtr old = release->piece(id);
    if (!old || !old->values.contains(parameter)) return release;
    auto piece = std::make_shared<Piece>(*old);
    if (reason.empty())
        piece->reasons.erase(parameter);
    else
        piece->reasons[parameter] = reason;
    if (piece->reasons == old->reasons) return release;
    return changed(release,
                   [&](Release& r) { std::replace(r.pieces.begin(), r.pieces.end(), old, PiecePtr(piece)); });
}

Result<ReleasePtr> withForm(const ReleasePtr& release, const std::string& id,
                            std::shared_ptr<const Form> form) {
    const PiecePtr old = release->piece(id);
    if (!old || old == release->wall) return release;
    auto piece = std::make_shared<Piece>(*old);
    std::erase_if(piece->values, [&](const auto& set) {
        return std::none_of(form->parameters.begin(), form->parameters.end(),
                            [&](const Parameter& p) { return p.id == set.first; });
    });
    std::erase_if(piece->reasons, [&](const auto& said) { return !piece->values.contains(said.first); });
    piece->form = std::move(form);
    auto flat = flatOf(*piece);
    if (!flat) return tl::unexpected(flat.error());
    takeFlat(*piece, std::move(*flat));
    return changed(release,
                   [&](Release& r) { std::replace(r.pieces.begin(), r.pieces.end(), old, PiecePtr(piece)); });
}

Made withNewTake(const ReleasePtr& release, const std::string& id) {
    const PiecePtr piece = release->piece(id);
    return piece ? withTakeFrom(release, id, piece->take()) : Made{release, {}};
}

Made withTakeFrom(const ReleasePtr& release, const std::string& id, const Take& take) {
    Made made;
    made.release = withChangedPiece(release, id, [&](Piece& piece, Release& next) {
        auto copy = std::make_shared<Take>(take);
        copy->id = freeTakeId(piece);
        made.id = copy->id;
        for (auto& [panel, stack] : copy->stacks)
            for (LayerPtr& layer : stack) layer = copied(*layer, next);
        showOwnWraps(*copy, piece, take.id);
        piece.takes.push_back(std::move(copy));
        piece.current = piece.takes.size() - 1;
    });
    return made;
}

ReleasePtr withoutTake(const ReleasePtr& release, const std::string& id, const std::string& take) {
    const PiecePtr old = release->piece(id);
    if (!old || old->takes.size() < 2 || take.empty() || !old->take(take)) return release;
    return withChangedPiece(release, id, [&](Piece& piece, Release&) {
        const auto gone = std::find_if(piece.takes.begin(), piece.takes.end(),
                                       [&](const auto& t) { return t->id == take; });
        const auto at = size_t(gone - piece.takes.begin());
        piece.takes.erase(gone);
        if (piece.current >= at && piece.current > 0) --piece.current;
    });
}

ReleasePtr withLayerInTake(const ReleasePtr& release, const PanelRef& panel, const std::string& id,
                           const std::string& takeId) {
    const LayerPtr layer = findLayer(stackOf(*release, panel), id);
    const PiecePtr old = release->piece(panel.piece);
    if (!layer || takeId.empty() || !old->take(takeId)) return release;
    return withChangedPiece(release, panel.piece, [&](Piece& piece, Release& next) {
        for (auto& take : piece.takes) {
            if (take->id != takeId) continue;
            auto copy = std::make_shared<Take>(*take);
            Stack& stack = copy->stacks[panel.panel];
            stack.insert(stack.begin(), copied(*layer, next));
            take = std::move(copy);
        }
    });
}

ReleasePtr withLinearLight(const ReleasePtr& release, bool linear) {
    if (release->linearLight == linear) return release;
    return changed(release, [=](Release& r) { r.linearLight = linear; });
}

ReleasePtr withReference(const ReleasePtr& release, const PanelRef& panel,
                         const std::optional<Reference>& reference) {
    return withChangedPiece(release, panel.piece, [&](Piece& piece, Release&) {
        if (reference)
            piece.references[panel.panel] = *reference;
        else
            piece.references.erase(panel.panel);
    });
}

Result<ReleasePtr> withTake(const ReleasePtr& release, const std::string& id, const std::string& take) {
    const PiecePtr old = release->piece(id);
    if (!old) return release;
    const auto found =
        std::find_if(old->takes.begin(), old->takes.end(), [&](const auto& t) { return t->id == take; });
    if (found == old->takes.end()) return fail(Fault::Usage, old->name + " has no take “" + take + "”.");
    const auto index = size_t(found - old->takes.begin());
    if (index == old->current) return release;
    return withChangedPiece(release, id, [=](Piece& piece, Release&) { piece.current = index; });
}

} // namespace glyptos
