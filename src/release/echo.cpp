#include "release/echo.h"

#include "release/walks.h"

#include <algorithm>

namespace glyptos {
namespace {

class Search {
  public:
    Search(const Release& release, PanelPlace wanted)
        : release_(release)
        , wanted_(std::move(wanted)) {}

    bool reaches(const EchoContent& echo) {
        const auto places = echoed(echo, release_);
        return std::any_of(places.begin(), places.end(), [&](const PanelPlace& p) { return reaches(p); });
    }

  private:
    bool reaches(const PanelPlace& place) {
        if (place == wanted_) return true;
        if (std::find(seen_.begin(), seen_.end(), place) != seen_.end()) return false;
        seen_.push_back(place);
        return reaches(release_.piece(place.piece)->take(place.take)->stack(place.panel));
    }

    bool reaches(const Stack& stack) {
        return firstLayer(stack, [this](const Layer& layer) {
                   const auto* echo = layer.as<EchoContent>();
                   return echo && reaches(*echo);
               }) != nullptr;
    }

    const Release& release_;
    PanelPlace wanted_;
    std::vector<PanelPlace> seen_;
};

} // namespace

std::vector<PanelPlace> echoed(const EchoContent& echo, const Release& release) {
    const PiecePtr piece = release.piece(echo.piece);
    const Take* take = piece ? piece->take(echo.take) : nullptr;
    std::vector<PanelPlace> out;
    if (!take) return out;
    if (!echo.panel.empty()) {
        if (piece->flat->panel(echo.panel)) out.push_back({piece->id, take->id, echo.panel});
        return out;
    }
    for (const Panel& panel : piece->flat->panels) out.push_back({piece->id, take->id, panel.id});
    return out;
}

bool wouldCycle(const Release& release, const PanelRef& where, const EchoContent& echo) {
    const PiecePtr piece = release.piece(where.piece);
    return piece && Search(release, {piece->id, piece->take().id, where.panel}).reaches(echo);
}

} // namespace glyptos
