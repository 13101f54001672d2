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
};

/// Takes the words and codes that lie in front of all art, hide what is behind them and are not treated out
/// of the scene, back to front.
std::vector<OutlinedText> takeFrontWords(Scene& scene, ParagraphCache& paragraphs);

} // namespace glyptos
