// Words and how they are set as JSON, both ways (docs/file-format.md).
#pragma once

#include "base/json_entry.h"
#include "release/release.h"

namespace glyptos {

/// Written into a layer's object.
void writeText(Json& out, const TextContent& text);
TextContent readText(const Entry& layer);

Json lettersJson(const LetterStyle& letters);
LetterStyle readLetters(const Entry& entry);

Json toJson(const TextStyle& style);
TextStyle readTextStyle(const Entry& entry);

} // namespace glyptos
