// The letters that a change of figures is about: those marked in the text layer in hand, or all of it.
#pragma once

#include "release/release.h"

#include <functional>

namespace glyptos {

class Document;

/// What the figures of a text layer in hand are shown of.
const LetterStyle& lettersShown(const TextContent& text, const Document& document);

/// The letters in hand changed.
void changeLetters(TextContent& text, const Document& document,
                   const std::function<void(LetterStyle&)>& change);

/// The letters in hand in that face, where it stands by itself on its axes.
void setFace(TextContent& text, const Document& document, const std::string& family,
             const std::string& style);

/// The colour of the letters in hand.
const Ink& inkShown(const TextContent& text, const Document& document);
void setInk(TextContent& text, const Document& document, const Ink& ink);

} // namespace glyptos
