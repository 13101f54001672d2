// Internal to release: what edits are made of.
#pragma once

#include "release/release.h"

#include <functional>

namespace glyptos {

/// A copy of the release, changed; the release itself when nothing came of it.
ReleasePtr changed(const ReleasePtr& release, const std::function<void(Release&)>& change);
/// `next`, or `release` when both hold the same.
ReleasePtr unlessSame(const ReleasePtr& release, const ReleasePtr& next);
/// Puts a piece, or the wall, where the old one was.
void replacePiece(Release& release, const PiecePtr& old, PiecePtr next);
/// The release with that piece changed; the same one when the piece is gone.
[[nodiscard]] ReleasePtr withChangedPiece(const ReleasePtr& release, const std::string& id,
                                          const std::function<void(Piece&, Release&)>& change);
/// Changes a copy of each layer of each take and of the wall, groups and what is in them, and puts it in
/// where `change` says that it did something; all else stays shared.
void changeLayers(Release& release, const std::function<bool(Layer&, const Piece&)>& change);
/// The next free id.
std::string takeId(Release& release);
/// Gives the layer, and all layers in it, new ids.
void renewIds(Layer& layer, Release& release);
/// A copy with new ids.
LayerPtr copied(const Layer& layer, Release& release);

/// The list that a layer stands in, and where; nothing when it is in none.
const Stack* listOf(const Stack& stack, std::string_view layer, size_t& at);

} // namespace glyptos
