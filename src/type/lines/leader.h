// Internal to type: leaders, the points that lead the eye from one part of a line to the next.
#pragma once

#include "type/lines/line_layout.h"

#include <map>

namespace glyptos {

/// Leaders in the letters of a text, each laid once.
class Leaders {
  public:
    Leaders(const LetterStyle& letters, const FontLibrary& fonts)
        : letters_(letters)
        , fonts_(fonts) {}
    /// `layout` holds its faces from then on.
    const LaidLine& of(const std::string& leader, Layout& layout);

  private:
    const LetterStyle& letters_;
    const FontLibrary& fonts_;
    std::map<std::string, LaidLine> laid_;
};

/// Repeats a leader between two places of a line, on a grid that begins at its left end, so that those of
/// lines below each other stand below each other. They stand for no byte but are at `byte`.
void addLeader(LaidLine& line, const LaidLine& leader, double from, double to, size_t byte);

} // namespace glyptos
