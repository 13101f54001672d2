// The art of one panel on another of other proportions: re-framed, never squashed.
#pragma once

#include "release/release.h"

namespace glyptos {

/// The layers for the panel `to` as they are on `from`. What covers `from` (its ground: pictures, and fills)
/// covers `to` with its bleed, the same point in the middle; everything else is as much larger or smaller as
/// fits, and lies where it lay in relation to the middle, kept inside the trim. Layers keep no ids.
Stack refitted(const Stack& stack, const Panel& from, const Panel& to, const Release& release);

/// Whether the layer is the ground of that panel: a fill, or a picture that covers it.
bool isGround(const Layer& layer, const Panel& panel, const Release& release);

/// A new piece of `form` whose front starts with the art of the front of `piece`, re-framed; other panels
/// start with its rearmost fill, when it has one. Words follow the brief as they do there. Fails as withPiece
/// does.
[[nodiscard]] Result<ReleasePtr> withPieceLike(const ReleasePtr& release, std::shared_ptr<const Form> form,
                                               const std::string& piece);

} // namespace glyptos
