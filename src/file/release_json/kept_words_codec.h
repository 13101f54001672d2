// Words as they were set, as JSON, both ways (docs/file-format.md).
#pragma once

#include "base/json_entry.h"
#include "type/kept_words.h"

namespace glyptos {

/// Coordinates to a millionth of a unit.
Json toJson(const KeptWords& words);
KeptWords readKeptWords(const Entry& entry);
/// All of a release; an empty list is no list.
Json toJson(const KeptWordsList& all);
KeptWordsList readAllKept(const Entry& list);

} // namespace glyptos
