#include "render/inked_words.h"

namespace glyptos {

std::vector<InkedOutline> inkedWords(const TextContent& text, const std::shared_ptr<const Paragraph>& set) {
    if (set->inks.empty()) return {{std::shared_ptr<const Path>(set, &set->outline), Rgba(text.colour)}};
    std::vector<InkedOutline> out;
    for (const InkedLetters& ink : set->inks) {
        Rgba colour(text.colourOf(ink.paint));
        colour.a *= float(ink.opacity);
        out.push_back({std::shared_ptr<const Path>(set, &ink.outline), colour});
    }
    return out;
}

} // namespace glyptos
