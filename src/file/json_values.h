// Internal to file and crate: paints, shapes, masks and places as JSON, both ways (docs/file-format.md).
#pragma once

#include "file/json_entry.h"
#include "release/release.h"

namespace glyptos {

inline constexpr const char* kAlignNames[] = {"left", "centre", "right"};

/// The object with a colour and, when there is one, the swatch it follows.
Json withInk(Json json, const char* key, const Ink& ink);
Ink readInk(const Entry& entry, const char* key);
Json toJson(const Placement& placement);
Json toJson(const PictureContent& picture);
Json toJson(const Paint& paint);
Json toJson(const ShapeContent& shape);
Json toJson(const Mask& mask);
Json toJson(const Reference& reference);
/// Only what is known.
Json toJson(const SourceFacts& facts);

// These throw Wrong. Whether a named picture is there is left to the caller.
Placement readPlacement(const Entry& entry);
PictureContent readPicture(const Entry& entry);
Paint readPaint(const Entry& entry);
ShapeContent readShape(const Entry& entry);
Mask readMask(const Entry& entry);
Reference readReference(const Entry& entry);
SourceFacts readFacts(const Entry& entry);

} // namespace glyptos
