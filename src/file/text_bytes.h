// Text from files of other programs.
#pragma once

#include <cstdint>
#include <span>
#include <string>

namespace glyptos {

/// The text as UTF-8: in the encoding that its byte order mark names (UTF-8, UTF-16 or UTF-32), else as UTF-8
/// where it is that throughout, else as Latin-1. What a marked encoding cannot hold becomes U+FFFD.
std::string textOf(std::span<const uint8_t> bytes);

} // namespace glyptos
