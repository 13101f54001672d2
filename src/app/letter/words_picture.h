// Words drawn small: specimens and previews.
#pragma once

#include "type/paragraph.h"

#include <QColor>
#include <QImage>

namespace glyptos {

/// Words on one line in a picture of `size` px, as large as `capitals` px high or as there is room for, on
/// the same baseline for all faces. Safe on any thread.
QImage wordsPicture(TextSpec spec, const FontLibrary& fonts, QSize size, double capitals, const QColor& ink);

} // namespace glyptos
