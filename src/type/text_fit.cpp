#include "type/text_fit.h"

#include "type/text_edits.h"

#include <algorithm>

namespace glyptos {
namespace {

/// Letters, and the grid that they stand on.
TextSpec resized(const TextSpec& spec, double factor) {
    TextSpec out = withLetters(spec, [factor](LetterStyle& letters) { letters.size *= factor; });
    if (auto* table = std::get_if<InTable>(&out.frame)) table->grid *= factor;
    return out;
}

} // namespace

std::optional<TextSpec> fittedToFrame(const TextSpec& spec, const FontLibrary& fonts) {
    constexpr int kSteps = 16;
    constexpr double kSmallest = 0.01;
    const auto fits = [&](double factor) {
        return setParagraph(resized(spec, factor), fonts).shown >= spec.text.size();
    };
    if (fits(1)) return spec;
    if (!fits(kSmallest)) return std::nullopt;
    double small = kSmallest, large = 1;
    for (int i = 0; i < kSteps; ++i) {
        const double middle = (small + large) / 2;
        (fits(middle) ? small : large) = middle;
    }
    return resized(spec, small);
}

std::optional<TextSpec> fittedToWidth(const TextSpec& spec, double width, const FontLibrary& fonts) {
    TextSpec unbroken = spec;
    unbroken.frame = AtPoint{};
    double widest = 0;
    for (const SetLine& line : setParagraph(unbroken, fonts).lines) widest = std::max(widest, line.width);
    if (widest <= 0 || !(width > 0)) return std::nullopt;
    return resized(spec, width / widest);
}

} // namespace glyptos
