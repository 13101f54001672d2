// Sums with units, as typed into number fields ("3mm + 1/8in") and as written in forms ("2*board + ease").
#pragma once

#include "base/error.h"

#include <functional>
#include <optional>
#include <string>
#include <string_view>

namespace glyptos {

/// What a name or a unit stands for, in the unit of the result; nothing when the name is unknown.
/// A unit behind a number ("3mm") multiplies it; the same name alone is a variable.
using NameValue = std::function<std::optional<double>(std::string_view)>;

/// The value of `text`: numbers (decimal point or comma), + - * / × and parentheses, names and units resolved
/// by `names`. Fails with one sentence that says what was not understood; never yields a NaN or an infinity.
[[nodiscard]] Result<double> evaluate(std::string_view text, const NameValue& names);

/// Names for a length field whose results are in millimetres: mm, cm, in, ", pt, and px at `pxPerMm`.
NameValue lengthUnitsInMm(double pxPerMm);

} // namespace glyptos
