// Where lines of text may break, and where they break best.
#pragma once

#include <map>
#include <memory>
#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace glyptos {

/// Finds where lines may end, by the Unicode Line Breaking Algorithm (UAX 14). Keeps the rules of a language
/// that it has read; for one thread.
class LineBreaker {
  public:
    LineBreaker();
    ~LineBreaker();
    LineBreaker(const LineBreaker&) = delete;
    LineBreaker& operator=(const LineBreaker&) = delete;
    /// Before which units of a text a line may end, its end included. `language` as in LetterStyle.
    std::vector<size_t> opportunities(const std::u16string& text, const std::string& language);

  private:
    struct Rules;
    std::map<std::string, std::unique_ptr<Rules>> rules_; ///< by language
};

/// A place where a line may end.
struct BreakPlace {
    size_t at = 0;         ///< where the next line begins at the earliest: spaces before it belong to no line
    double end = 0;        ///< how far the line's letters have come there, without spaces at its end
    double next = 0;       ///< how far they have come where the next line begins
    double spaces = 0;     ///< width of the gaps between words so far, up to `end`,
    double nextSpaces = 0; ///< and up to `next`
    bool divides = false;  ///< a word; `end` has its hyphen
};

enum class Fill {
    Full,     ///< each line as full as it can be
    Even,     ///< lines about as long as each other
    Justified ///< as even gaps between words as can be had
};

/// Which places to break at, the last one included, so that no line is wider than its measure unless it
/// cannot be broken. `measures` for each line; the last one counts for all that follow. Even and justified
/// lines need one measure for all and at most 8,000 places, and are full ones otherwise. Total fit after
/// Knuth and Plass, “Breaking Paragraphs into Lines”, Software: Practice and Experience 11 (1981): gaps may
/// grow by half their width and shrink by a third, the sum of squared demerits is least; even lines have
/// squares of what they lack in place of them.
std::vector<size_t> chosenBreaks(const std::vector<BreakPlace>& places, std::span<const double> measures,
                                 Fill fill);

} // namespace glyptos
