// Small helpers for UTF-8 text.
#pragma once

#include <filesystem>
#include <string>
#include <string_view>
#include <vector>

namespace glyptos {

/// The pieces of `text` between single `separator` characters; always at least one.
std::vector<std::string> split(std::string_view text, char separator);

/// The same text where it is well-formed UTF-8 (Unicode 15, table 3-7: no overlong forms, no surrogates,
/// nothing over U+10FFFF); each byte that cannot be read becomes U+FFFD. What comes in from
/// outside (names of files, tags, sheets) goes through here once, so that everything inside can be written
/// and shown.
std::string validUtf8(std::string_view text);
/// As it can be shown: control characters and what turns the direction of lines round become marks (␛ for
/// escape, ␊ for the end of a line, U+FFFD for what has no mark), so that no name gives orders to a terminal
/// or poses as another. Marks of direction that stand within words stay.
std::string visible(std::string_view text);
/// JSON text with the same characters escaped, where JSON lets them stand.
std::string jsonWithoutControls(std::string_view json);
/// Without white space (Unicode's property White_Space) at either end, nor any character of `also`.
std::string trimmed(std::string_view text, std::string_view also = {});
/// The last part of a path, and that without its ending, as text to be shown and kept.
std::string nameOf(const std::filesystem::path& file);
std::string stemOf(const std::filesystem::path& file);

/// An absolute path as a URI (RFC 8089); all bytes of it are told, whatever they mean.
std::string fileUri(const std::filesystem::path& file);

/// Adds the text unless it is there.
void addNew(std::vector<std::string>& to, const std::string& text);

/// `value` with at most `decimals` decimals, rounded, without trailing zeros ("315", "3.8").
std::string shortNumber(double value, int decimals = 2);

} // namespace glyptos
