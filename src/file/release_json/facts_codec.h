// What is known of a picture as JSON, both ways.
#pragma once

#include "base/json_entry.h"
#include "release/source_facts.h"

namespace glyptos {

/// Only what is known.
Json toJson(const SourceFacts& facts);
SourceFacts readFacts(const Entry& entry);

} // namespace glyptos
