// Paths as text: they are bytes, and need not be UTF-8.
#pragma once

#include <optional>
#include <string>
#include <string_view>

namespace glyptos {

/// "00ff" for two bytes.
std::string toHexDigits(std::string_view bytes);
/// Nothing when they are none.
std::optional<std::string> fromHexDigits(std::string_view hex);

/// The path itself where it is UTF-8, else "bytes:" and its bytes in hexadecimal.
std::string pathText(const std::string& path);
std::string pathFromText(const std::string& text);

} // namespace glyptos
