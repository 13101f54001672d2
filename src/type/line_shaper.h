// Internal to type: one line of text, shaped with stand-in faces where the first choice lacks a character.
#pragma once

#include "raster/path.h"
#include "type/font_library.h"

#include <set>
#include <string>
#include <string_view>
#include <vector>

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
    /// For each code point, and the end, how far the pen has come before it: em, tracking included. In the
    /// order of the text, whichever way it is written; what is drawn as one counts with its first.
    std::vector<double> advancesOf(const std::u32string& text);
    double tracking() const { return tracking_; } ///< em
    const std::set<std::string>& stoodIn() const { return stoodIn_; }
    const std::set<std::string>& unprintable() const { return unprintable_; }

  private:
    /// Calls `run(face, from, to)` for each stretch that one face has.
    template <class Run>
    void eachRun(const std::u32string& text, Run run);
    void shapeRun(const Face& face, const std::u32string& text, size_t from, size_t to, ShapedLine& line);
    FacePtr faceFor(char32_t codepoint);

    FacePtr face_;
    const FontLibrary& fonts_;
    double tracking_;
    std::set<std::string> stoodIn_, unprintable_;
};

/// UTF-8 to code points, where broken bytes become U+FFFD, and back.
std::u32string decodeUtf8(std::string_view text);
std::string encodeUtf8(std::u32string_view text);

} // namespace glyptos
