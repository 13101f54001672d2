#include "type/style_name.h"

#include <array>
#include <cstdlib>
#include <string>
#include <utility>

namespace glyptos {
namespace {

using Word = std::pair<std::string_view, int>;

// Longer words before those that are parts of them.
constexpr std::array<Word, 18> kWeights{{{"extrablack", 215},
                                         {"ultrablack", 215},
                                         {"extrabold", 205},
                                         {"ultrabold", 205},
                                         {"semibold", 180},
                                         {"demibold", 180},
                                         {"extralight", 40},
                                         {"ultralight", 40},
                                         {"semilight", 55},
                                         {"demilight", 55},
                                         {"hairline", 0},
                                         {"black", 210},
                                         {"heavy", 210},
                                         {"light", 50},
                                         {"medium", 100},
                                         {"thin", 0},
                                         {"bold", 200},
                                         {"book", 75}}};
constexpr std::array<Word, 11> kWidths{{{"ultracondensed", 50},
                                        {"extracondensed", 63},
                                        {"semicondensed", 87},
                                        {"condensed", 75},
                                        {"compressed", 63},
                                        {"narrow", 75},
                                        {"ultraexpanded", 200},
                                        {"extraexpanded", 150},
                                        {"semiexpanded", 113},
                                        {"expanded", 125},
                                        {"extended", 125}}};
constexpr std::array<Word, 3> kSlants{{{"italic", 100}, {"oblique", 110}, {"slanted", 110}}};

template <size_t N>
int valueOf(const std::array<Word, N>& words, std::string_view name, int missing) {
    for (const auto& [word, value] : words)
        if (name.find(word) != name.npos) return value;
    return missing;
}

} // namespace

StyleTraits traitsOf(std::string_view styleName) {
    std::string name;
    for (const char c : styleName) {
        if (c >= 'A' && c <= 'Z') name += char(c - 'A' + 'a');
        if (c >= 'a' && c <= 'z') name += c;
    }
    const StyleTraits regular;
    return {valueOf(kWeights, name, regular.weight), valueOf(kWidths, name, regular.width),
            valueOf(kSlants, name, regular.slant)};
}

int distance(const StyleTraits& a, const StyleTraits& b) {
    const bool leans = (a.slant > 0) != (b.slant > 0);
    return (leans ? 10'000 : 0) + 10 * std::abs(a.width - b.width) + std::abs(a.weight - b.weight) +
           std::abs(a.slant - b.slant) / 10 * (leans ? 0 : 1);
}

} // namespace glyptos
