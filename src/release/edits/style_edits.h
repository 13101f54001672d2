// Edits of the release's text styles. Words that follow a style change with it, on all pieces.
#pragma once

#include "release/edits/edits.h"

namespace glyptos {

/// A new style, at the end of the list.
[[nodiscard]] Made withTextStyle(const ReleasePtr& release, std::string name, const TextLook& look,
                                 std::string base = {});
/// Several at once, whose `base` names another of them.
[[nodiscard]] ReleasePtr withTextStyles(const ReleasePtr& release, std::vector<TextStyle> styles);
/// A style with another look. What is based on it and words that follow either change where they had what it
/// had.
[[nodiscard]] ReleasePtr withStyleLook(const ReleasePtr& release, const std::string& style,
                                       const TextLook& look);
[[nodiscard]] ReleasePtr withStyleName(const ReleasePtr& release, const std::string& style,
                                       const std::string& name);
/// A style whose words print in the ink of a swatch; an empty id: as their colours say. What is based on it
/// and prints in what it printed in goes with it.
[[nodiscard]] ReleasePtr withStyleSpot(const ReleasePtr& release, const std::string& style,
                                       const std::string& swatch);
/// A style based on another, as which it looks where both look alike from now on; not on what is based on it.
[[nodiscard]] ReleasePtr withStyleBase(const ReleasePtr& release, const std::string& style,
                                       const std::string& base);
/// Words and styles that followed it keep their looks and follow nothing.
[[nodiscard]] ReleasePtr withoutStyle(const ReleasePtr& release, const std::string& style);
/// A text layer of a panel that follows a style and looks as it does; an empty id: follows none.
[[nodiscard]] ReleasePtr withStyleOf(const ReleasePtr& release, const PanelRef& panel,
                                     const std::string& layer, const std::string& style);

/// Letters of a track list with that paint (track_listing.h) follow a style; an empty id: they look as the
/// titles do.
[[nodiscard]] ReleasePtr withTrackLettersOf(const ReleasePtr& release, const PanelRef& panel,
                                            const std::string& layer, int paint, const std::string& style);

const TextStyle* textStyle(const Release& release, const std::string& id);
/// How many text layers follow a style, in all takes.
int followersOfStyle(const Release& release, const std::string& style);

} // namespace glyptos
