#include "base/text.h"

#include <algorithm>
#include <array>
#include <charconv>

namespace glyptos {
namespace {

constexpr std::string_view kReplacement = "\xef\xbf\xbd";

/// Bytes of the well-formed character that begins there; 0 when there is none.
size_t characterAt(std::string_view s, size_t at) {
    const auto byte = [&](size_t i) { return static_cast<unsigned char>(s[at + i]); };
    const unsigned char first = byte(0);
    if (first < 0x80) return 1;
    if (first < 0xc2 || first > 0xf4) return 0;
    const size_t length = first < 0xe0 ? 2 : first < 0xf0 ? 3 : 4;
    if (at + length > s.size()) return 0;
    // The second byte's range keeps out overlong forms, surrogates and what is over U+10FFFF.
    const unsigned char low = first == 0xe0 ? 0xa0 : first == 0xf0 ? 0x90 : 0x80;
    const unsigned char high = first == 0xed ? 0x9f : first == 0xf4 ? 0x8f : 0xbf;
    if (byte(1) < low || byte(1) > high) return 0;
    for (size_t i = 2; i < length; ++i)
        if ((byte(i) & 0xc0) != 0x80) return 0;
    return length;
}

/// Unicode's White_Space, and the byte order mark, which stands at the front of many a file.
bool isSpace(std::string_view character) {
    if (character.size() == 1) return character[0] == ' ' || (character[0] >= '\t' && character[0] <= '\r');
    static constexpr std::array<std::string_view, 9> kOthers{"\xc2\x85",     "\xc2\xa0",     "\xe1\x9a\x80",
                                                             "\xe2\x80\xa8", "\xe2\x80\xa9", "\xe2\x80\xaf",
                                                             "\xe2\x81\x9f", "\xe3\x80\x80", "\xef\xbb\xbf"};
    if (std::find(kOthers.begin(), kOthers.end(), character) != kOthers.end()) return true;
    return character >= "\xe2\x80\x80" && character <= "\xe2\x80\x8a"; // en quad to hair space
}

/// The code point of a well-formed character.
char32_t codeOf(std::string_view character) {
    if (character.size() == 1) return static_cast<unsigned char>(character[0]);
    char32_t code = static_cast<unsigned char>(character[0]) & (0x7fu >> character.size());
    for (const char c : character.substr(1)) code = code << 6 | (static_cast<unsigned char>(c) & 0x3f);
    return code;
}

/// Controls (C0, delete, C1), ends of lines and paragraphs, and embeddings, overrides and isolates of
/// direction (Unicode Standard Annex 9).
bool isControl(char32_t code) {
    return code < 0x20 || (code >= 0x7f && code < 0xa0) || (code >= 0x2028 && code <= 0x202e) ||
           (code >= 0x2066 && code <= 0x2069);
}

/// `text`, well-formed, with each control character as `shown` has it.
template <class Shown>
std::string withControls(std::string_view text, Shown shown) {
    std::string out;
    for (size_t at = 0; at < text.size();) {
        const size_t length = std::max<size_t>(characterAt(text, at), 1);
        const std::string_view character = text.substr(at, length);
        if (characterAt(text, at) == 0)
            out += kReplacement;
        else if (isControl(codeOf(character)))
            out += shown(codeOf(character));
        else
            out += character;
        at += length;
    }
    return out;
}

} // namespace

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

std::string validUtf8(std::string_view s) {
    std::string out;
    for (size_t at = 0; at < s.size();) {
        const size_t length = characterAt(s, at);
        out += length ? s.substr(at, length) : kReplacement;
        at += std::max<size_t>(length, 1);
    }
    return out;
}

std::string visible(std::string_view text) {
    return withControls(text, [](char32_t code) -> std::string {
        // U+2400…U+241F and U+2421 are pictures of these.
        if (code < 0x20) return {'\xe2', '\x90', char(0x80 + code)};
        if (code == 0x7f) return "\xe2\x90\xa1";
        return std::string(kReplacement);
    });
}

std::string jsonWithoutControls(std::string_view json) {
    return withControls(json, [](char32_t code) -> std::string {
        if (code < 0x20) return {char(code)}; // between its parts; within them it is escaped already
        constexpr char kDigits[] = "0123456789abcdef";
        return {'\\',
                'u',
                kDigits[code >> 12 & 15],
                kDigits[code >> 8 & 15],
                kDigits[code >> 4 & 15],
                kDigits[code & 15]};
    });
}

std::string trimmed(std::string_view text, std::string_view also) {
    const auto goes = [&](std::string_view character) {
        return isSpace(character) || (!also.empty() && also.find(character) != also.npos);
    };
    size_t from = text.size(), to = 0;
    for (size_t at = 0; at < text.size();) {
        const size_t length = std::max<size_t>(characterAt(text, at), 1);
        if (!goes(text.substr(at, length))) from = std::min(from, at), to = at + length;
        at += length;
    }
    return from < to ? std::string(text.substr(from, to - from)) : std::string();
}

std::string nameOf(const std::filesystem::path& file) {
    return validUtf8(file.filename().string());
}

std::string stemOf(const std::filesystem::path& file) {
    return validUtf8(file.stem().string());
}

std::string fileUri(const std::filesystem::path& file) {
    constexpr std::string_view kPlain = "/-._~";
    constexpr char kDigits[] = "0123456789ABCDEF";
    std::string out = "file://";
    for (const char c : file.string()) {
        const auto byte = static_cast<unsigned char>(c);
        const bool isPlain = (byte >= '0' && byte <= '9') || (byte >= 'A' && byte <= 'Z') ||
                             (byte >= 'a' && byte <= 'z') || kPlain.find(c) != kPlain.npos;
        if (isPlain)
            out += c;
        else
            out += {'%', kDigits[byte >> 4], kDigits[byte & 15]};
    }
    return out;
}

void addNew(std::vector<std::string>& to, const std::string& text) {
    if (std::find(to.begin(), to.end(), text) == to.end()) to.push_back(text);
}

} // namespace glyptos
