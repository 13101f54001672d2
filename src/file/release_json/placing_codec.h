// Where things lie, and pictures by their name, as JSON, both ways (docs/file-format.md).
#pragma once

#include "base/json_entry.h"
#include "release/release.h"

namespace glyptos {

Json toJson(const Placement& placement);
Json toJson(const PictureContent& picture);
Json toJson(const Reference& reference);

// Whether a named picture is there is left to the caller.
Placement readPlacement(const Entry& entry);
PictureContent readPicture(const Entry& entry);
Reference readReference(const Entry& entry);

} // namespace glyptos
