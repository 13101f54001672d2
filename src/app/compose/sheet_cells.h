// What sheets of live miniatures share: where the keys lead, and which part of the panel is shown.
#pragma once

#include "base/geometry.h"

#include <QToolButton>
#include <vector>

namespace glyptos {

class Document;
class Engine;

/// Arrows lead from cell to cell, Return takes the one in focus. The cell that the key led to or took;
/// nothing when the event was no such key.
QToolButton* cellByKey(QObject* watched, QEvent* event, const std::vector<QToolButton*>& cells, int columns);

/// Round the layer in hand, as far as there is panel, and never less than half of it; all of it for a fill or
/// a grade.
Rect roundTheLayer(const Document& document, Engine& engine);

} // namespace glyptos
