// Changes to a text that keep what belongs to its letters at its letters.
#pragma once

#include "type/text_spec.h"

#include <functional>
#include <string_view>

namespace glyptos {

/// Bytes `from` up to `to` replaced. What is put in at the end of a run belongs to it; what was done by hand
/// to letters that go is gone.
TextSpec replaced(TextSpec spec, size_t from, size_t to, std::string_view by);

/// Another text, told from the one there by the stretch in which they differ.
TextSpec withText(TextSpec spec, std::string_view text);

/// Letters from byte `from` up to `to` changed, each from what it looks like now. Runs that look alike and
/// meet become one; none is left that looks as the rest does.
TextSpec restyled(TextSpec spec, size_t from, size_t to, const std::function<void(LetterStyle&)>& change);

/// The style of the letter at a byte; at the end of the text, of the last one.
const LetterStyle& lettersAt(const TextSpec& spec, size_t byte);

/// `change` applied to the letters of all of the text, and of each run.
TextSpec withLetters(TextSpec spec, const std::function<void(LetterStyle&)>& change);

/// All lengths times `factor`.
TextSpec scaled(TextSpec spec, double factor);

} // namespace glyptos
