// Pieces with their takes as JSON, both ways (docs/file-format.md).
#pragma once

#include "file/release_json/layer_codec.h"

namespace glyptos {

Json toJson(const Piece& piece, const NodeTelling& inside = {});
Json toJson(const Take& take, const Piece& piece, const NodeTelling& inside = {});
std::shared_ptr<const Take> readTake(const Entry& entry, const Piece& piece, LayerReading& reading);
/// `forms` are those at hand; the piece's form must be among them.
PiecePtr readPiece(const Entry& entry, LayerReading& reading,
                   const std::vector<std::shared_ptr<const Form>>& forms);

} // namespace glyptos
