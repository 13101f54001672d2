// Art that runs over several panels of a sheet: front, spine and flap; a spread; both inner panels.
#pragma once

#include "form/flat.h"

#include <span>

namespace glyptos {

/// Which panels one picture runs over.
struct Wrap {
    std::string id;                  ///< no panel of the form has it
    std::vector<std::string> panels; ///< ids; upright on it is what is upright on the first
    bool operator==(const Wrap&) const = default;
};

/// Adds each wrap to the flat as a wide panel: the box round those of its panels that are on the sheet of the
/// first one that there is, with their bleed and their zones. One of whose panels none is there is left out.
void layWraps(Flat& flat, std::span<const Wrap> wraps);

/// From the frame of one panel, or wrap, of a flat to that of another.
Affine panelToPanel(const Panel& from, const Panel& to);

} // namespace glyptos
