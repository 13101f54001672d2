// What a picture file says of itself in Exif, IPTC and XMP.
#pragma once

#include "release/source_facts.h"

#include <cstdint>
#include <span>
#include <string>

namespace glyptos {

/// Title, tags, maker, licence, credit and notes as far as the file has them: XMP (Dublin Core, Photoshop,
/// XMP Rights) before IPTC before Exif. Texts that are not UTF-8 are taken to be Latin-1. Unreadable metadata
/// is as good as none.
SourceFacts readPictureWords(std::span<const uint8_t> bytes);

/// "a Nikon raw file", when the bytes are what a camera writes undeveloped; else empty.
std::string rawFileKind(std::span<const uint8_t> bytes, const std::string& name);

} // namespace glyptos
