// Colours and paints as JSON, both ways (docs/file-format.md).
#pragma once

#include "base/json_entry.h"
#include "release/release.h"

namespace glyptos {

/// The object with a colour and, when there is one, the swatch it follows.
Json withInk(Json json, const char* key, const Ink& ink);
Json toJson(const Paint& paint);
Json toJson(const Gradient& gradient);
Json pairJson(Vec2 v);
Json stopsJson(const std::vector<GradientStop>& stops);

// These throw Wrong. Whether a named picture is there is left to the caller.
Rgba readColour(const Entry& entry, const char* key);
Ink readInk(const Entry& entry, const char* key);
Paint readPaint(const Entry& entry);
Gradient readGradient(const Entry& entry);
/// In rising order, at least one.
std::vector<GradientStop> readStops(const Entry& list);
Vec2 readPair(const Entry& entry, const char* key);

} // namespace glyptos
