// Shapes as JSON, both ways (docs/file-format.md).
#pragma once

#include "base/json_entry.h"
#include "release/release.h"

namespace glyptos {

Json contoursJson(const std::vector<Contour>& contours);
std::vector<Contour> readContours(const Entry& list);
Json toJson(const ShapeContent& shape);
/// Whether a picture of its paints is there is left to the caller.
ShapeContent readShape(const Entry& entry);

} // namespace glyptos
