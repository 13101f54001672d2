#include "release/treatment_variants.h"

#include "color/oklab.h"
#include "raster/noise.h"

#include <algorithm>
#include <cmath>

namespace glyptos {
namespace {

/// The figure that carries the strength: the one that the table names, or its first number.
size_t carrierOf(const TreatmentKind& kind) {
    if (!kind.carrier.empty()) return kind.find(kind.carrier);
    const auto found = std::find_if(kind.figures.begin(), kind.figures.end(), [](const Figure& f) {
        return f.kind == FigureKind::Number && f.unit != FigureUnit::Chance;
    });
    return size_t(found - kind.figures.begin());
}

/// −1…1, a number of its own for each place.
double chanceAt(uint32_t seed, int place) {
    return 2 * double(hashNoise(int32_t(seed), place, 77u)) - 1;
}

FigureValue moved(const Figure& figure, const FigureValue& value, uint32_t seed, int place, double far) {
    const double by = chanceAt(seed, place) * far;
    if (const auto* ink = std::get_if<Ink>(&value)) {
        Oklch c = toOklch(toOklab(*ink));
        c.h += 180 * by, c.L = std::clamp(c.L + 0.4 * far * chanceAt(seed, place + 500), 0.0, 1.0);
        Rgba out = shownAs(c);
        out.a = ink->a;
        return Ink(out);
    }
    const auto* number = std::get_if<double>(&value);
    if (!number || figure.kind != FigureKind::Number) return value;
    switch (figure.unit) {
    case FigureUnit::Chance:
        return std::floor(std::abs(chanceAt(seed, place)) * 999999);
    case FigureUnit::Length:
    case FigureUnit::LinesPerInch:
        return std::clamp(*number * std::exp2(4 * by), figure.least, figure.most);
    case FigureUnit::Whole:
        return std::clamp(std::round(*number * std::exp2(2 * by)), figure.least, figure.most);
    default:
        return std::clamp(*number + by * (figure.most - figure.least), figure.least, figure.most);
    }
}

} // namespace

Treatment atStrength(const TreatmentKind& kind, int strength, double unitsPerMm) {
    constexpr double kFactors[]{0.4, 1, 2.2}, kShares[]{0.2, 0.45, 0.8}, kOpacities[]{0.35, 0.7, 1};
    Treatment out = newTreatment(kind, unitsPerMm);
    const size_t at = carrierOf(kind);
    if (at == kind.figures.size()) {
        out.opacity = kOpacities[strength];
        return out;
    }
    const Figure& figure = kind.figures[at];
    const double standard = out.figures.number(at);
    double value = standard != 0 ? standard * kFactors[strength] : figure.most * kShares[strength];
    if (figure.unit == FigureUnit::Whole) value = std::round(value);
    out.figures.set(at, std::clamp(value, figure.least, figure.most));
    return out;
}

Treatment neighbourOf(const Treatment& treatment, uint32_t seed, double far) {
    Treatment out = treatment;
    if (!out.kind) return out;
    for (size_t i = 0; i < out.figures.size(); ++i)
        out.figures.set(i, moved(out.kind->figures[i], out.figures[i], seed, int(i), far));
    return out;
}

} // namespace glyptos
