#include "release/edits/selection_edits.h"

#include "release/edits/edit_steps.h"

#include <algorithm>

namespace glyptos {
namespace {

ReleasePtr withChanged(const ReleasePtr& release, const PanelRef& panel,
                       const std::function<void(PanelSelections&)>& change) {
    const PiecePtr piece = release->piece(panel.piece);
    if (!piece) return release;
    const auto found = piece->selections.find(panel.panel);
    const PanelSelections before = found == piece->selections.end() ? PanelSelections{} : found->second;
    PanelSelections next = before;
    change(next);
    if (next == before) return release;
    return withChangedPiece(release, panel.piece, [&](Piece& changed, Release&) {
        if (next.empty())
            changed.selections.erase(panel.panel);
        else
            changed.selections[panel.panel] = next;
    });
}

} // namespace

ReleasePtr withSelection(const ReleasePtr& release, const PanelRef& panel,
                         const std::optional<Selection>& selection) {
    return withChanged(release, panel, [&](PanelSelections& s) { s.now = selection; });
}

ReleasePtr withKeptSelection(const ReleasePtr& release, const PanelRef& panel, const std::string& name) {
    return withChanged(release, panel, [&](PanelSelections& s) {
        if (!s.now) return;
        std::erase_if(s.kept, [&](const NamedSelection& kept) { return kept.name == name; });
        s.kept.push_back({name, *s.now});
    });
}

ReleasePtr withoutKeptSelection(const ReleasePtr& release, const PanelRef& panel, const std::string& name) {
    return withChanged(release, panel, [&](PanelSelections& s) {
        std::erase_if(s.kept, [&](const NamedSelection& kept) { return kept.name == name; });
    });
}

} // namespace glyptos
