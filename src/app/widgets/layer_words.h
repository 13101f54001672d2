// What layers are called in plain words.
#pragma once

#include "release/release.h"

#include <QString>

namespace glyptos {

/// "box", "ellipse", "free path"…
QString shapeWord(ShapeKind kind);
QString codeWord(CodeKind kind);
/// "picture · Overlay · 60 % · mask": what a layer is.
QString layerSummary(const Layer& layer);

} // namespace glyptos
