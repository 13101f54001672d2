// Echoes: which panels show which.
#pragma once

#include "release/release.h"

#include <vector>

namespace glyptos {

/// One panel of one take of one piece.
struct PanelPlace {
    std::string piece, take, panel;
    bool operator==(const PanelPlace&) const = default;
};

/// The panels an echo shows, with the take resolved; none when the piece, take or panel is gone.
std::vector<PanelPlace> echoed(const EchoContent& echo, const Release& release);

/// Whether `echo` on that panel (of its piece's current take) would show itself, directly or through others.
bool wouldCycle(const Release& release, const PanelRef& where, const EchoContent& echo);

} // namespace glyptos
