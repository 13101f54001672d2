#include "form/flat.h"

#include <algorithm>

namespace glyptos {

std::optional<Outline> Panel::safeOutline() const {
    if (safety <= 0) return std::nullopt;
    return outline.grown(-safety);
}

std::optional<Rect> Panel::safeArea() const {
    const auto safe = safeOutline();
    return safe ? std::optional(safe->box) : std::nullopt;
}

Affine Panel::toFlat() const {
    const Affine turned = Affine::rotation(turn);
    const Rect box = turned.mapBounds(trim());
    return Affine::translation(onFlat.x - box.x, onFlat.y - box.y) * turned;
}

const Panel* Flat::panel(std::string_view id) const {
    const auto found = std::find_if(panels.begin(), panels.end(), [&](const Panel& p) { return p.id == id; });
    return found == panels.end() ? nullptr : &*found;
}

Rect Flat::trim() const {
    Rect all;
    for (const Sheet& s : sheets) all = all.united(s.trim);
    return all;
}

Rect Flat::withBleed() const {
    Rect all;
    for (const Sheet& s : sheets) all = all.united(s.withBleed);
    return all;
}

} // namespace glyptos
