// Starting compositions: layers with fields for a square, as data, that are laid on a panel and then made
// one's own.
#pragma once

#include "base/error.h"
#include "color/palette_text.h"
#include "release/release.h"

#include <filesystem>
#include <string>
#include <vector>

namespace glyptos {

/// Layers are drawn for a square of 1000 units, with ink to spare all round for a bleed.
struct StartingComposition {
    std::string id, name, note;
    std::vector<NamedColour> palette;
    Stack layers; ///< front to back; a colour's swatch is the name of one of the palette
};
inline constexpr double kStartSide = 1000;

Result<StartingComposition> startFromJson(std::string_view json, const std::string& where);
/// All of data/starts/, by file name.
Result<std::vector<StartingComposition>> shippedStarts();

/// Whether a panel is square enough for a starting composition: within a tenth.
bool suitsStart(const Panel& panel);

/// The composition on a panel, in front of what is there, as large as the panel's shorter side; its colours
/// join the palette. A grid of the same release for several panels shares them.
[[nodiscard]] ReleasePtr withStart(const ReleasePtr& release, const PanelRef& panel,
                                   const StartingComposition& start);

} // namespace glyptos
