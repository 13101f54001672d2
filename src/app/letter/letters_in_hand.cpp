#include "app/letter/letters_in_hand.h"

#include "app/session/document.h"
#include "type/text_edits.h"

#include <algorithm>

namespace glyptos {

const LetterStyle& lettersShown(const TextContent& text, const Document& document) {
    const auto letters = document.lettersInHand();
    return letters ? lettersAt(text.spec, letters->from) : text.spec.letters;
}

void changeLetters(TextContent& text, const Document& document,
                   const std::function<void(LetterStyle&)>& change) {
    const auto letters = document.lettersInHand();
    text.spec = letters ? restyled(std::move(text.spec), letters->from, letters->to, change)
                        : withLetters(std::move(text.spec), change);
}

void setFace(TextContent& text, const Document& document, const std::string& family,
             const std::string& style) {
    changeLetters(text, document, [&](LetterStyle& l) {
        l.family = family, l.style = style;
        l.axes.clear();
    });
}

const Ink& inkShown(const TextContent& text, const Document& document) {
    return text.colourOf(lettersShown(text, document).paint);
}

void setInk(TextContent& text, const Document& document, const Ink& ink) {
    if (!document.lettersInHand()) {
        text.colour = ink, text.colours.clear();
        text.spec = withLetters(std::move(text.spec), [](LetterStyle& l) { l.paint = 0; });
        return;
    }
    auto known = std::find(text.colours.begin(), text.colours.end(), ink);
    if (known == text.colours.end()) known = text.colours.insert(known, ink);
    const int paint = ink == text.colour ? 0 : int(known - text.colours.begin()) + 1;
    changeLetters(text, document, [paint](LetterStyle& l) { l.paint = paint; });
}

} // namespace glyptos
