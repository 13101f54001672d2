// Text inside of XML.
#pragma once

#include <string>

namespace glyptos {

/// With the characters escaped that would be markup.
inline std::string xmlText(const std::string& text) {
    std::string out;
    for (const char c : text) {
        if (c == '&')
            out += "&amp;";
        else if (c == '<')
            out += "&lt;";
        else if (c == '>')
            out += "&gt;";
        else
            out += c;
    }
    return out;
}

} // namespace glyptos
