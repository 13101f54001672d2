// Edits of the release's palette. Layers that follow a swatch change with it.
#pragma once

#include "color/palette_text.h"
#include "release/release.h"

namespace glyptos {

/// The layer with a colour of its own set to `colour`, which follows no swatch: words, one-colour fills and
/// shapes. Nothing for others.
std::optional<Layer> withOwnColour(const Layer& layer, const Rgba& colour);

/// The palette with those colours at its end. A colour that is in it already, to eight bits, is not put in
/// again.
[[nodiscard]] ReleasePtr withSwatches(const ReleasePtr& release, const std::vector<NamedColour>& colours);
/// The palette replaced by those colours. A colour of the old one that has the same name stays the same
/// swatch, with the new value; layers that follow others keep their colours and follow nothing.
[[nodiscard]] ReleasePtr withPalette(const ReleasePtr& release, const std::vector<NamedColour>& colours);
/// A swatch with another colour; everything that follows it gets it, with its own alpha.
[[nodiscard]] ReleasePtr withSwatchColour(const ReleasePtr& release, const std::string& swatch,
                                          const Rgba& colour);
[[nodiscard]] ReleasePtr withSwatchName(const ReleasePtr& release, const std::string& swatch,
                                        const std::string& name);
/// A swatch that prints otherwise.
[[nodiscard]] ReleasePtr withSwatchPlate(const ReleasePtr& release, const std::string& swatch, Plate plate);
/// The swatch moved to `index` of the palette.
[[nodiscard]] ReleasePtr withMovedSwatch(const ReleasePtr& release, const std::string& swatch, size_t index);
/// The palette without it; layers keep their colours and follow nothing.
[[nodiscard]] ReleasePtr withoutSwatch(const ReleasePtr& release, const std::string& swatch);

/// How many layers follow the swatch, in all takes and on the wall.
int followersOf(const Release& release, const std::string& swatch);
std::vector<NamedColour> namedColours(const std::vector<Swatch>& palette);

} // namespace glyptos
