// Brushes as JSON, both ways (docs/file-format.md).
#pragma once

#include "base/json_entry.h"
#include "release/shape.h"

namespace glyptos {

/// Figures that are the standard ones are left out.
Json toJson(const Brush& brush);
Json toJson(const Stamp& stamp);
Json toJson(const BrushedLine& line);

// These throw Wrong. Whether a named picture is there is left to the caller.
Brush readBrush(const Entry& entry);
std::vector<Stamp> readStamps(const Entry& list);
BrushedLine readBrushedLine(const Entry& entry);

} // namespace glyptos
