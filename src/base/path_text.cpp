#include "base/path_text.h"

#include "base/text.h"

namespace glyptos {
namespace {

constexpr std::string_view kBytes = "bytes:", kDigits = "0123456789abcdef";

} // namespace

std::string toHexDigits(std::string_view bytes) {
    std::string out;
    for (const char c : bytes) {
        const auto byte = static_cast<unsigned char>(c);
        out += {kDigits[byte >> 4], kDigits[byte & 15]};
    }
    return out;
}

std::optional<std::string> fromHexDigits(std::string_view hex) {
    if (hex.size() % 2 != 0) return std::nullopt;
    std::string out;
    for (size_t i = 0; i < hex.size(); i += 2) {
        const size_t high = kDigits.find(hex[i]), low = kDigits.find(hex[i + 1]);
        if (high == kDigits.npos || low == kDigits.npos) return std::nullopt;
        out += char(high << 4 | low);
    }
    return out;
}

std::string pathText(const std::string& path) {
    if (validUtf8(path) == path && !path.starts_with(kBytes)) return path;
    return std::string(kBytes) + toHexDigits(path);
}

std::string pathFromText(const std::string& text) {
    if (!text.starts_with(kBytes)) return text;
    return fromHexDigits(std::string_view(text).substr(kBytes.size())).value_or(text);
}

} // namespace glyptos
