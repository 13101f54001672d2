// The brief as JSON, both ways.
#pragma once

#include "base/json_entry.h"
#include "release/release.h"

namespace glyptos {

Json toJson(const Brief& brief);
Brief readBrief(const Entry& entry);

} // namespace glyptos
