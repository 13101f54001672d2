// The wall: a free space to pin pictures, scraps of colour, words and type before and while composing. It is
// a piece like others, of one large panel in px, that is in no set: what works on a panel works on it.
#pragma once

#include "release/release.h"

namespace glyptos {

inline constexpr const char* kWallId = "wall"; ///< of the piece and its panel
inline constexpr double kWallSide = 60000;     ///< px; things are pinned about its middle

/// The panel of the wall.
PanelRef wallPanel();
bool isWall(const PanelRef& panel);
/// A wall with nothing on it.
PiecePtr emptyWall();

/// A picture to pin, `side` px along its longer side, its middle at `at`.
Layer pinnedPicture(const Source& source, double side, Vec2 at);
/// A colour with its name below.
Layer pinnedColour(const Ink& colour, const std::string& name, Vec2 at);
/// A piece as it looks now, `side` px along its longer side.
Layer pinnedPiece(const Piece& piece, double side, Vec2 at);
Layer pinnedWords(const std::string& words, Vec2 at);
/// A line and an alphabet in a face, with its name below.
Layer pinnedType(const std::string& family, const std::string& style, Vec2 at);

/// A place beside what is pinned where something `width` × `height` px covers nothing, near the middle of the
/// wall. `taken` are the areas of what is pinned.
Vec2 freePlace(const std::vector<Rect>& taken, double width, double height);
/// Places for areas in rows of about equal width, `gap` px apart, in their order; the way each has to go. The
/// rows' left-top corner is that of all of them together.
std::vector<Vec2> inRows(const std::vector<Rect>& areas, double gap);

} // namespace glyptos
