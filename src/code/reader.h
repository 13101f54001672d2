// Codes read back from pixels.
#pragma once

#include "code/code.h"

#include <cstdint>
#include <optional>

namespace glyptos {

struct ReadCode {
    CodeKind kind = CodeKind::Ean13;
    std::string text;
};

/// The code that a reader finds first in a grey picture, 0 black: width × height bytes, rows without gaps. A
/// UPC-A comes as such, and not as the EAN-13 that begins with 0. Codes that lie on their side or upside down
/// are found.
std::optional<ReadCode> readCode(const uint8_t* grey, int width, int height);

} // namespace glyptos
