// A scene as its inks see it.
#pragma once

#include "color/ink.h"
#include "render/scene.h"

namespace glyptos {

// The scene is of panels of one take of one piece; what runs over them (wraps) is seen in the same way.
// Echoes of other pieces print in the four inks.

/// What prints in the four inks: where a layer has an ink of its own the paper is left white, and what prints
/// over the four is gone.
Scene inPressInks(Scene scene);

/// Where one spot ink prints: its layers white, as far as they cover, and black whatever lies before them in
/// an ink that takes its place; before what prints over the four inks nothing lies. Layers that are blended
/// otherwise than Normal let it through.
Scene inSpotInk(Scene scene, const Swatch& spot);

/// The scene with its art sharpened for print, by the standard of the Sharpen treatment.
Scene sharpened(Scene scene, double amount, double unitsPerMm);

} // namespace glyptos
