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

/// Index into blend::BlendModes. 0 is Normal.
enum class BlendMode : unsigned char { Normal = 0, Multiply, Screen, Overlay };

inline constexpr size_t kBlendModeCount = std::tuple_size_v<blend::BlendModes>;

struct BlendModeName {
    std::string_view id, label; ///< as written in files; as shown
};

/// Names of all modes, in the order of BlendMode.
inline constexpr auto kBlendModeNames = []<size_t... I>(std::index_sequence<I...>) {
    return std::array{BlendModeName{std::tuple_element_t<I, blend::BlendModes>::id,
                                    std::tuple_element_t<I, blend::BlendModes>::label}...};
}
(std::make_index_sequence<kBlendModeCount>());

inline std::optional<BlendMode> blendModeFromId(std::string_view id) {
    for (size_t i = 0; i < kBlendModeCount; ++i)
        if (kBlendModeNames[i].id == id) return static_cast<BlendMode>(i);
    return std::nullopt;
}

} // namespace glyptos
