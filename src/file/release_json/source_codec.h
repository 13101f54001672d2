// Files of a release and colours of its palette as JSON, both ways (docs/file-format.md).
#pragma once

#include "base/json_entry.h"
#include "release/release.h"

namespace glyptos {

Json toJson(const Source& source);
/// A picture, without bytes.
SourcePtr readPictureFile(const Entry& entry);
/// A font file, without bytes.
SourcePtr readFontFile(const Entry& entry);

Json toJson(const Swatch& swatch);
Swatch readSwatch(const Entry& entry);

} // namespace glyptos
