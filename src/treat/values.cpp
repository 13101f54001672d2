#include "treat/values.h"

#include <algorithm>

namespace glyptos {

FigureValue standardOf(const Figure& figure, double unitsPerMm) {
    switch (figure.kind) {
    case FigureKind::Number:
    case FigureKind::Flag:
    case FigureKind::Choice:
        break;
    case FigureKind::Colour:
        return Ink(figure.colour);
    case FigureKind::Point:
        return std::optional<Vec2>();
    case FigureKind::Curve:
        return ToneCurve{};
    case FigureKind::Run:
        return ColourRun{{0, Ink(0, 0, 0, 1)}, {1, Ink(1, 1, 1, 1)}};
    case FigureKind::Path:
        return std::vector<Contour>{};
    case FigureKind::Picture:
        return std::string();
    case FigureKind::Table:
        return LookTablePtr();
    }
    return figure.unit == FigureUnit::Length ? figure.standard * unitsPerMm : figure.standard;
}

bool sameValue(const FigureValue& a, const FigureValue& b) {
    const auto *s = std::get_if<LookTablePtr>(&a), *t = std::get_if<LookTablePtr>(&b);
    if (!s || !t) return a == b;
    return *s == *t || (*s && *t && **s == **t);
}

Figures::Figures(std::span<const Figure> table, double unitsPerMm) {
    for (const Figure& figure : table) values_.push_back(standardOf(figure, unitsPerMm));
}

bool Figures::operator==(const Figures& o) const {
    return std::equal(values_.begin(), values_.end(), o.values_.begin(), o.values_.end(), sameValue);
}

} // namespace glyptos
