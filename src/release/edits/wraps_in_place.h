// Internal to release: wraps follow the form.
#pragma once

#include "release/release.h"

namespace glyptos {

/// The form of the piece worked out with its values and wraps. Fails as workOut does.
[[nodiscard]] Result<std::shared_ptr<const Flat>> flatOf(const Piece& piece);

/// Where an echo of a wrap shows what lies there.
Placement inPlace(const Panel& wrap, const Panel& panel);

/// Gives the piece another flat: locked echoes of wraps lie in place again, and the art of a wrap stays where
/// it lies on its first panel.
void takeFlat(Piece& piece, std::shared_ptr<const Flat> flat);

/// In a copy of a take: its echoes of the piece's own wraps show those of the copy.
void showOwnWraps(Take& copy, const Piece& piece, const std::string& copied);

/// Puts an echo of the wrap on a panel of the take, unless there is one: behind all but the panel's ground.
void showWrap(Take& take, const Piece& piece, const Panel& wrap, const std::string& panel, Release& release);

} // namespace glyptos
