// Fonts for tests, made of the shipped ones: under other names, and with other terms.
#pragma once

#include "file/data_folder.h"
#include "file/pictures/picture_reader.h"

#include <algorithm>
#include <string>

namespace glyptos::test {

using FontData = std::vector<uint8_t>;

inline FontData shippedFont(const char* file) {
    return readFile(dataFolder() / "fonts" / file).value();
}

/// All names that have `from` in them, in either encoding of names, with `to` of the same length there.
inline FontData renamed(FontData font, const std::string& from, const std::string& to) {
    const auto wide = [](const std::string& text) {
        std::string out;
        for (const char c : text) out += '\0', out += c;
        return out;
    };
    for (const auto& [old, now] : {std::pair(from, to), std::pair(wide(from), wide(to))})
        for (auto at = font.begin();
             (at = std::search(at, font.end(), old.begin(), old.end())) != font.end();)
            at = std::copy(now.begin(), now.end(), at);
    return font;
}

/// Where a table of an OpenType file begins; 0 when it has none of that tag.
inline size_t tableAt(const FontData& font, const std::string& tag) {
    constexpr size_t kHead = 12, kEntry = 16, kOffset = 8;
    const size_t count = size_t(font[4]) << 8 | font[5];
    for (size_t i = 0, at = kHead; i < count; ++i, at += kEntry)
        if (std::equal(tag.begin(), tag.end(), font.begin() + long(at)))
            return size_t(font[at + kOffset]) << 24 | size_t(font[at + kOffset + 1]) << 16 |
                   size_t(font[at + kOffset + 2]) << 8 | font[at + kOffset + 3];
    return 0;
}

/// With other embedding bits: fsType, the fifth number of OS/2.
inline FontData withTerms(FontData font, unsigned fsType) {
    const size_t at = tableAt(font, "OS/2") + 8;
    font[at] = uint8_t(fsType >> 8), font[at + 1] = uint8_t(fsType);
    return font;
}

} // namespace glyptos::test
