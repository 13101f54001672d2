#include "color/palette_text.h"

#include "base/text.h"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <set>
#include <sstream>

namespace glyptos {
namespace {

int toByte(float v) {
    return int(std::lround(std::clamp(v, 0.0f, 1.0f) * 255));
}

/// Letters, digits, hyphens and whatever is not ASCII; all else becomes a hyphen.
std::string identifier(const std::string& name) {
    std::string out;
    for (const char c : name) {
        const bool plain =
            std::isalnum(static_cast<unsigned char>(c)) != 0 || (static_cast<unsigned char>(c) & 0x80) != 0;
        const char next = plain ? char(c >= 'A' && c <= 'Z' ? c + 32 : c) : '-';
        if (next != '-' || (!out.empty() && out.back() != '-')) out += next;
    }
    while (!out.empty() && out.back() == '-') out.pop_back();
    return out.empty() ? "colour" : out;
}

std::optional<Rgba> fromFunction(std::string value) {
    if (!value.starts_with("rgb")) return std::nullopt;
    const size_t open = value.find('('), close = value.find(')');
    if (open == value.npos || close == value.npos) return std::nullopt;
    value = value.substr(open + 1, close - open - 1);
    std::replace_if(
        value.begin(), value.end(), [](char c) { return c == ',' || c == '/'; }, ' ');
    std::istringstream parts(value);
    std::vector<float> v;
    for (std::string part; parts >> part;) {
        const bool percent = part.back() == '%';
        float number = 0;
        const auto [end, code] = std::from_chars(part.data(), part.data() + part.size(), number);
        if (code != std::errc() || end != part.data() + part.size() - int(percent)) return std::nullopt;
        v.push_back(percent ? number / 100 : v.size() < 3 ? number / 255 : number);
    }
    if (v.size() != 3 && v.size() != 4) return std::nullopt;
    for (const float part : v)
        if (part < 0 || part > 1) return std::nullopt;
    return Rgba{v[0], v[1], v[2], v.size() == 4 ? v[3] : 1};
}

std::string withoutComments(std::string_view css) {
    std::string out;
    for (size_t at = 0; at < css.size();) {
        const size_t open = css.find("/*", at);
        out += css.substr(at, open == css.npos ? css.npos : open - at);
        const size_t close = open == css.npos ? css.npos : css.find("*/", open + 2);
        if (close == css.npos) break;
        at = close + 2;
    }
    return out;
}

std::vector<NamedColour> fromCss(std::string_view text) {
    std::vector<NamedColour> out;
    const std::string css = withoutComments(text);
    for (size_t at = 0; (at = css.find("--", at)) != css.npos;) {
        const size_t colon = css.find(':', at), end = css.find_first_of(";}", at);
        if (colon == css.npos || (end != css.npos && colon > end)) {
            at = end == css.npos ? css.size() : end;
            continue;
        }
        const std::string value =
            trimmed(std::string_view(css).substr(colon + 1, end == css.npos ? css.npos : end - colon - 1));
        const auto colour = value.starts_with('#') ? rgbaFromHex(value) : fromFunction(value);
        std::string name = trimmed(std::string_view(css).substr(at + 2, colon - at - 2));
        std::replace(name.begin(), name.end(), '-', ' ');
        if (colour && !name.empty()) out.push_back({name, *colour});
        at = end == css.npos ? css.size() : end;
    }
    return out;
}

std::optional<NamedColour> fromLine(const std::string& line) {
    std::istringstream in(line);
    int r = -1, g = -1, b = -1;
    if (!(in >> r >> g >> b)) return std::nullopt;
    const auto good = [](int v) { return v >= 0 && v <= 255; };
    if (!good(r) || !good(g) || !good(b)) return std::nullopt;
    std::string name;
    std::getline(in, name);
    return NamedColour{trimmed(name), {float(r) / 255, float(g) / 255, float(b) / 255, 1}};
}

Result<std::vector<NamedColour>> fromLines(std::string_view text, const std::string& file) {
    std::vector<NamedColour> out;
    size_t number = 0;
    for (const std::string& raw : split(text, '\n')) {
        ++number;
        const std::string line = trimmed(raw);
        if (line.empty() || line.starts_with('#')) continue;
        auto colour = fromLine(line);
        if (!colour)
            return fail(Fault::Damaged,
                        "“" + file + "” was not read as a palette: line " + std::to_string(number) +
                            " is not red, green, blue (0 to 255) and a name. The palette is as it was.");
        out.push_back(std::move(*colour));
    }
    return out;
}

} // namespace

std::string paletteAsCss(const std::vector<NamedColour>& colours) {
    std::string out = ":root {\n";
    std::set<std::string> used;
    for (const NamedColour& c : colours) {
        const std::string stem = identifier(c.name);
        std::string name = stem;
        for (int i = 2; !used.insert(name).second; ++i) name = stem + "-" + std::to_string(i);
        out += "  --" + name + ": " + toHex(c.colour) + ";\n";
    }
    return out + "}\n";
}

std::string paletteAsLines(const std::vector<NamedColour>& colours) {
    std::string out;
    for (const NamedColour& c : colours) {
        std::string name = c.name;
        std::replace(name.begin(), name.end(), '\n', ' ');
        out += std::to_string(toByte(c.colour.r)) + " " + std::to_string(toByte(c.colour.g)) + " " +
               std::to_string(toByte(c.colour.b)) + " " + name + "\n";
    }
    return out;
}

Result<std::vector<NamedColour>> paletteFromText(std::string_view text, const std::string& name) {
    std::vector<NamedColour> out = fromCss(text);
    if (out.empty()) {
        auto lines = fromLines(text, name);
        if (!lines) return lines;
        out = std::move(*lines);
    }
    if (out.empty())
        return fail(Fault::Damaged, "“" + name +
                                        "” holds no colour, as CSS variables or as lines of “r g b name”. "
                                        "The palette is as it was.");
    return out;
}

} // namespace glyptos
