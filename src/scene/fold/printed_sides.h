// Internal to fold: which place of a panel is printed where on the board.
#pragma once

#include "scene/fold/folding.h"

namespace glyptos {

/// From a place on the flat to a panel's own frame.
inline Affine ontoPanel(const Panel& panel) {
    return panel.toFlat().inverse().value_or(Affine{});
}

/// A panel that prints on the other side of the board at `place` of the flat.
inline PrintedSide backOf(const Flat& flat, size_t panel, const Rect& place) {
    const Rect& own = flat.panels[panel].onFlat;
    return {panel,
            ontoPanel(flat.panels[panel]) * Affine{-1, 0, 0, 1, own.x + place.right(), own.y - place.y}};
}

} // namespace glyptos
