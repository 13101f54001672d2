#include "base/text.h"

#include <charconv>

namespace glyptos {

std::vector<std::string> split(std::string_view text, char separator) {
    std::vector<std::string> parts;
    for (size_t at = 0;;) {
        const size_t end = text.find(separator, at);
        parts.emplace_back(text.substr(at, end == text.npos ? text.npos : end - at));
        if (end == text.npos) return parts;
        at = end + 1;
    }
}

std::string shortNumber(double value, int decimals) {
    char buffer[400];
    const auto end =
        std::to_chars(buffer, buffer + sizeof buffer, value, std::chars_format::fixed, decimals).ptr;
    std::string text(buffer, end);
    if (text.find('.') != text.npos) {
        while (text.back() == '0') text.pop_back();
        if (text.back() == '.') text.pop_back();
    }
    return text == "-0" ? "0" : text;
}

bool isUtf8(std::string_view s) {
    const auto byte = [&](size_t i) { return static_cast<unsigned char>(s[i]); };
    for (size_t i = 0; i < s.size();) {
        const unsigned char c = byte(i);
        if (c >= 0x80 && (c < 0xc2 || c >= 0xf5)) return false;
        const size_t more = c < 0x80 ? 0 : c < 0xe0 ? 1 : c < 0xf0 ? 2 : 3;
        if (i + more >= s.size()) return false;
        for (size_t k = 1; k <= more; ++k)
            if ((byte(i + k) & 0xc0) != 0x80) return false;
        i += more + 1;
    }
    return true;
}

std::string fromLatin1(std::string_view text) {
    std::string out;
    for (const char c : text) {
        const auto u = static_cast<unsigned char>(c);
        if (u < 0x80)
            out += c;
        else
            out += {char(0xc0 | u >> 6), char(0x80 | (u & 0x3f))};
    }
    return out;
}

} // namespace glyptos
