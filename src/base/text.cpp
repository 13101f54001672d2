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

} // namespace glyptos
