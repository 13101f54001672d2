// Tones by curves: first the black, grey and white point, then the curve of each channel, then that of all
// three, then that of lightness alone.
//
// Points: v' = outBlack + (outWhite - outBlack) · ((v - black) / (white - black))^γ with γ = ln ½ / ln grey,
// so that `grey`, a place between black and white, becomes the middle.

#include "treat/grades/by_picture.h"
#include "treat/grades/channel_tables.h"

namespace glyptos {
namespace {

enum { All, Red, Green, Blue, Lightness, Black, Grey, White, OutBlack, OutWhite };
constexpr Figure kFigures[]{curve("all", "All channels"),
                            curve("red", "Red"),
                            curve("green", "Green"),
                            curve("blue", "Blue"),
                            curve("lightness", "Lightness"),
                            share("black", "Black point", 0),
                            share("grey", "Grey point", 0.5, 0.01, 0.99),
                            share("white", "White point", 1),
                            share("outBlack", "Black becomes", 0),
                            share("outWhite", "White becomes", 1)};

bool movesPoints(const Figures& f) {
    return f.number(Black) != 0 || f.number(Grey) != 0.5 || f.number(White) != 1 || f.number(OutBlack) != 0 ||
           f.number(OutWhite) != 1;
}

ColourOp channels(const Figures& f) {
    if (!movesPoints(f) && isIdentity(f.curve(All)) && isIdentity(f.curve(Red)) &&
        isIdentity(f.curve(Green)) && isIdentity(f.curve(Blue)))
        return {};
    const ToneFunction all(f.curve(All));
    const double black = f.number(Black), span = f.number(White) - black;
    const double gamma = std::log(0.5) / std::log(f.number(Grey));
    const double low = f.number(OutBlack), high = f.number(OutWhite);
    const auto points = [=](double v) {
        // A white point at or below the black one: an edge, where all turns over.
        const double t = span > 1e-6 ? std::clamp((v - black) / span, 0.0, 1.0) : (v > black ? 1.0 : 0.0);
        return low + (high - low) * (gamma == 1 ? t : std::pow(t, gamma));
    };
    const auto tableOf = [&](size_t which) {
        const ToneFunction own(f.curve(which));
        return toneTable([&](double v) { return all(own(points(v))); });
    };
    return lookUp(tableOf(Red), tableOf(Green), tableOf(Blue));
}

ColourOp toneCurve(const Figures& f, const Place&) {
    const ColourOp first = channels(f);
    if (isIdentity(f.curve(Lightness))) return first;
    // Hue and chroma stay.
    const ColourOp lightness([table = toneTable(ToneFunction(f.curve(Lightness)))](
                                 const ColourRow& lab) { lookUpRow(lab.r, table, lab.n); },
                             ColourSpace::Oklab);
    if (!first) return lightness;
    return [first, lightness](const ColourRow& row) {
        RowInSpace on(row);
        on.apply(first);
        on.apply(lightness);
        on.toEncoded();
    };
}

/// Black and white where all but a few pixels begin and end; the middle half way to that of the picture.
void pointsByPicture(Figures& f, std::span<const Rgba> colours) {
    constexpr double kFew = 0.003, kNarrowest = 0.05;
    const std::vector<double> luma = sortedLuma(colours);
    if (luma.empty()) return;
    const double low = quantile(luma, kFew), high = quantile(luma, 1 - kFew);
    if (high - low < kNarrowest) return;
    const double middle = (quantile(luma, 0.5) - low) / (high - low);
    f.set(Black, std::clamp(low, 0.0, 1.0));
    f.set(White, std::clamp(high, 0.0, 1.0));
    f.set(Grey, std::clamp((0.5 + middle) / 2, 0.1, 0.9));
}

} // namespace

extern const TreatmentKind kToneCurve{.id = "tone-curve",
                                      .title = "Tone curve",
                                      .family = TreatmentFamily::Grade,
                                      .figures = kFigures,
                                      .colour = toneCurve,
                                      .byPicture = pointsByPicture};

} // namespace glyptos
