// Internal to file: the composite operations of the OpenRaster specification and our modes for them.
#pragma once

#include "raster/blend_modes.h"

#include <array>
#include <string_view>
#include <utility>

namespace glyptos {

inline constexpr std::array<std::pair<std::string_view, BlendMode>, 20> kOpenRasterBlends{{
    {"svg:src-over", BlendMode::Normal},         {"svg:multiply", BlendMode::Multiply},
    {"svg:screen", BlendMode::Screen},           {"svg:overlay", BlendMode::Overlay},
    {"svg:darken", BlendMode::Darken},           {"svg:lighten", BlendMode::Lighten},
    {"svg:color-dodge", BlendMode::ColourDodge}, {"svg:color-burn", BlendMode::ColourBurn},
    {"svg:hard-light", BlendMode::HardLight},    {"svg:soft-light", BlendMode::SoftLight},
    {"svg:difference", BlendMode::Difference},   {"svg:hue", BlendMode::Hue},
    {"svg:saturation", BlendMode::Saturation},   {"svg:color", BlendMode::Colour},
    {"svg:luminosity", BlendMode::Luminosity},   {"svg:plus", BlendMode::Plus},
    {"svg:dst-in", BlendMode::DestinationIn},    {"svg:dst-out", BlendMode::DestinationOut},
    {"svg:src-atop", BlendMode::SourceAtop},     {"svg:dst-atop", BlendMode::DestinationAtop},
}};

} // namespace glyptos
