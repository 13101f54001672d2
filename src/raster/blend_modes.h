// Names of the blend modes. Their formulas stand in blend_formulas.inc.
#pragma once

#include <array>
#include <cstddef>
#include <optional>
#include <string_view>
#include <tuple>
#include <utility>

namespace glyptos::blend {
#include "raster/blend_formulas.inc"
} // namespace glyptos::blend

namespace glyptos {

/// In the order of blend::BlendModes.
enum class BlendMode : unsigned char {
    Normal,
    Multiply,
    Screen,
    Overlay,
    Darken,
    Lighten,
    ColourDodge,
    ColourBurn,
    HardLight,
    SoftLight,
    Difference,
    Exclusion,
    Hue,
    Saturation,
    Colour,
    Luminosity,
    Plus,
    Etch,
    Push,
    Flare,
    Divide,
    DestinationIn,
    DestinationOut,
    SourceAtop,
    DestinationAtop
};

inline constexpr size_t kBlendModeCount = std::tuple_size_v<blend::BlendModes>;
static_assert(kBlendModeCount == size_t(BlendMode::DestinationAtop) + 1);

struct BlendModeInfo {
    std::string_view id, label; ///< as written in files; as shown
    bool keepsBackdrop;         ///< where the source is empty, the backdrop stays as it is
};

/// All modes, in the order of BlendMode.
inline constexpr auto kBlendModes = []<size_t... I>(std::index_sequence<I...>) {
    return std::array{BlendModeInfo{std::tuple_element_t<I, blend::BlendModes>::id,
                                    std::tuple_element_t<I, blend::BlendModes>::label,
                                    std::tuple_element_t<I, blend::BlendModes>::keepsBackdrop}...};
}
(std::make_index_sequence<kBlendModeCount>());

constexpr const BlendModeInfo& infoOf(BlendMode mode) {
    return kBlendModes[size_t(mode)];
}

/// Whether a mode can make the backdrop more see-through than it was.
constexpr bool cutsBackdrop(BlendMode mode) {
    return mode == BlendMode::DestinationIn || mode == BlendMode::DestinationOut ||
           mode == BlendMode::DestinationAtop;
}

inline std::optional<BlendMode> blendModeFromId(std::string_view id) {
    for (size_t i = 0; i < kBlendModeCount; ++i)
        if (kBlendModes[i].id == id) return static_cast<BlendMode>(i);
    return std::nullopt;
}

} // namespace glyptos
