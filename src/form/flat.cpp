#include "form/flat.h"

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
    for (const auto* list : {&panels, &wraps})
        for (const Panel& panel : *list)
            if (panel.id == id) return &panel;
    return nullptr;
}

std::vector<const Panel*> Flat::places() const {
    std::vector<const Panel*> out;
    for (const auto* list : {&panels, &wraps})
        for (const Panel& panel : *list) out.push_back(&panel);
    return out;
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
