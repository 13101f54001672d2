// Fields: words of the brief inside text layers.
#pragma once

#include "release/release.h"

#include <string>
#include <string_view>
#include <vector>

namespace glyptos {

/// A field an artist can put into a text.
struct FieldInfo {
    std::string_view token, label; ///< "{title}", "Title"
};

/// {artist} {title} {label} {catalogue} {year} {barcode} {address} {copyright} {phonogram} {made in},
/// {tracks} (one a line: number, title, duration, in columns) and {tracks A}, {tracks B} for one side,
/// {credits} (the lines of credits.h).
const std::vector<FieldInfo>& textFields();

/// A field in a text with what it brings.
struct FieldSpan {
    size_t from = 0, to = 0; ///< bytes of the text, braces included
    std::string value;
};
/// In order; unknown fields are none.
std::vector<FieldSpan> fieldSpans(std::string_view text, const Release& release);
/// From a byte of a text to that of the same text with its fields filled: inside a field its end.
size_t filledByte(const std::vector<FieldSpan>& fields, size_t byte);
/// And back: inside what a field brings the nearer end of the field.
size_t writtenByte(const std::vector<FieldSpan>& fields, size_t byte);

/// The text with its fields filled.
std::string filledText(std::string_view text, const Release& release);

/// The spec to set for a text layer: fields filled from the release. What a field brings looks as the field
/// does. Unknown fields stay as written. A track list is made from the brief.
TextSpec resolvedText(const TextContent& text, const Release& release);

/// Whether any text on the piece says whose pictures the release is made of.
bool tellsCredits(const Piece& piece);

/// "4:08"; hours when needed ("1:02:07"); empty for 0.
std::string durationText(int seconds);
/// From "4:08", "1:02:07" or "248"; nothing when it is none of these or over 24 hours.
std::optional<int> durationFromText(std::string_view text);

/// The track's number as printed: side and place on that side, "A1", or "1.3" where sides are numbered as
/// discs are; only the place when there are no sides.
std::string trackNumber(const std::vector<Track>& tracks, size_t index);

} // namespace glyptos
