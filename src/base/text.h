// Small helpers for UTF-8 text.
#pragma once

#include <string>
#include <string_view>
#include <vector>

namespace glyptos {

/// The pieces of `text` between single `separator` characters; always at least one.
std::vector<std::string> split(std::string_view text, char separator);

/// Whether it is well-formed UTF-8 (overlong forms of the first two bytes and code points over U+13FFFF are
/// not).
bool isUtf8(std::string_view text);
/// Latin-1 as UTF-8.
std::string fromLatin1(std::string_view text);

/// `value` with at most `decimals` decimals, rounded, without trailing zeros ("315", "3.8").
std::string shortNumber(double value, int decimals = 2);

/// Every {name} in `text` replaced by what `lookup` gives for it; unknown names stay as they are.
template <class Lookup>
std::string replaceFields(std::string_view text, Lookup lookup) {
    std::string out;
    size_t at = 0;
    while (at < text.size()) {
        const size_t open = text.find('{', at), close = open == text.npos ? text.npos : text.find('}', open);
        if (close == text.npos) return out += text.substr(at);
        out += text.substr(at, open - at);
        const auto value = lookup(text.substr(open + 1, close - open - 1));
        out += value ? *value : std::string(text.substr(open, close - open + 1));
        at = close + 1;
    }
    return out;
}

} // namespace glyptos
