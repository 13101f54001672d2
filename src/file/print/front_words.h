// Words and codes that a print file keeps as outlines.
#pragma once

#include "render/layer_geometry.h"
#include "render/scene.h"

#include <vector>

namespace glyptos {

/// Words, or the bars or the ground of a code, drawn as outlines over the art.
struct OutlinedText {
    std::shared_ptr<const Path> outline;
    Affine toOutput;
    Rgba colour;
    IntRect clip;                       ///< output pixels
    std::shared_ptr<const Path> prints; ///< of its panel, or nothing; `panelToOutput` leads from there
    Affine panelToOutput;
    std::optional<Swatch> spot = std::nullopt; ///< in whose own ink it prints
    double sizePt = 0;                         ///< of words: their em on paper; of codes 0
};

/// Takes the words and codes that lie in front of all art, hide what is behind them and are not treated out
/// of the scene, back to front: those of its panels, which are of one take, and those of a wrap before which
/// nothing but words lies on any of them. What is printed over the four inks hides nothing.
std::vector<OutlinedText> takeFrontWords(Scene& scene, ParagraphCache& paragraphs);

} // namespace glyptos
