#include "treat/kind.h"

#include <algorithm>
#include <array>

namespace glyptos {

#define GLYPTOS_TREATMENT(name) extern const TreatmentKind name;
#include "treat/kinds.inc"
#undef GLYPTOS_TREATMENT

namespace {

constexpr std::array kKinds{
#define GLYPTOS_TREATMENT(name) &(name),
#include "treat/kinds.inc"
#undef GLYPTOS_TREATMENT
};

} // namespace

size_t TreatmentKind::find(std::string_view figure) const {
    return size_t(
        std::find_if(figures.begin(), figures.end(), [&](const Figure& f) { return f.id == figure; }) -
        figures.begin());
}

std::span<const TreatmentKind* const> treatmentKinds() {
    return kKinds;
}

const TreatmentKind* treatmentKind(std::string_view id) {
    const auto found =
        std::find_if(kKinds.begin(), kKinds.end(), [&](const TreatmentKind* k) { return k->id == id; });
    return found == kKinds.end() ? nullptr : *found;
}

int reachOf(const TreatmentKind& kind, const Figures& figures, const Place& place) {
    if (!kind.looksAround()) return 0;
    int out = 0;
    for (const Need& need : kind.needs(figures, place))
        out = std::max(out, (need.reach + (need.level > 0 ? 1 : 0)) << need.level);
    return out;
}

} // namespace glyptos
