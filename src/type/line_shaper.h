// Internal to type: one line of text, shaped with stand-in faces where the first choice lacks a character.
#pragma once

#include "raster/path.h"
#include "type/font_library.h"

#include <set>
#include <string>
#include <string_view>

namespace glyptos {

struct ShapedLine {
    Path outline;       ///< font units scaled to em = 1, baseline at y = 0, pen starting at x = 0
    double advance = 0; ///< em, without tracking behind the last letter
};

/// Shapes single lines in one face at em = 1 and collects what was missing.
class LineShaper {
  public:
    LineShaper(FacePtr face, const FontLibrary& fonts, double trackingEm)
        : face_(std::move(face))
        , fonts_(fonts)
        , tracking_(trackingEm) {}

    ShapedLine shape(std::string_view utf8);
    const std::set<std::string>& stoodIn() const { return stoodIn_; }
    const std::set<std::string>& unprintable() const { return unprintable_; }

  private:
    void shapeRun(const Face& face, const std::u32string& text, size_t from, size_t to, ShapedLine& line);
    FacePtr faceFor(char32_t codepoint);

    FacePtr face_;
    const FontLibrary& fonts_;
    double tracking_;
    std::set<std::string> stoodIn_, unprintable_;
};

/// UTF-8 to code points; broken bytes become U+FFFD.
std::u32string decodeUtf8(std::string_view text);

} // namespace glyptos
