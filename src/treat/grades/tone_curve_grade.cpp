// Tones by curves: first the black, grey and white point, then the curve of each channel, then that of all
// three, then that of lightness alone.
//
// Points: v' = outBlack + (outWhite - outBlack) · ((v - black) / (white - black))^γ with γ = ln ½ / ln grey,
// so that `grey`, a place between black and white, becomes the middle.

#include "treat/grades/channel_tables.h"
#include "treat/grades/table_rows.h"
#include "treat/vector_math.h"

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

/// Oklab of at most as many pixels as are looked up at once.
struct LabRow {
    float L[TablePlaces::kRoom], a[TablePlaces::kRoom], b[TablePlaces::kRoom];
};

GLYPTOS_ROWS void toLabRow(const float* __restrict r, const float* __restrict g, const float* __restrict b,
                           size_t n, LabRow& __restrict out) {
    for (size_t i = 0; i < n; ++i) {
        const rows::Lab lab = rows::labOf(r[i], g[i], b[i]);
        out.L[i] = lab.L, out.a[i] = lab.a, out.b[i] = lab.b;
    }
}

GLYPTOS_ROWS void fromLabRow(const LabRow& __restrict in, size_t n, float* __restrict r, float* __restrict g,
                             float* __restrict b) {
    for (size_t i = 0; i < n; ++i) {
        const rows::Linear out = rows::fromLab({in.L[i], in.a[i], in.b[i]});
        r[i] = rows::clamp01(rows::toEncoded(out.r));
        g[i] = rows::clamp01(rows::toEncoded(out.g));
        b[i] = rows::clamp01(rows::toEncoded(out.b));
    }
}

/// Oklab lightness by the table; hue and chroma stay.
void bendLightness(const ColourRow& row, const ToneTable& table) {
    LabRow lab;
    TablePlaces places;
    for (size_t x = 0; x < row.n; x += TablePlaces::kRoom) {
        const size_t n = std::min(TablePlaces::kRoom, row.n - x);
        toLabRow(row.r + x, row.g + x, row.b + x, n, lab);
        findPlaces(lab.L, n, kToneSteps, places);
        lookUp(table.data(), places, lab.L, n);
        fromLabRow(lab, n, row.r + x, row.g + x, row.b + x);
    }
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
    ColourOp first = channels(f);
    if (isIdentity(f.curve(Lightness))) return first;
    return [first, table = toneTable(ToneFunction(f.curve(Lightness)))](const ColourRow& row) {
        if (first) first(row);
        bendLightness(row, table);
    };
}

} // namespace

extern const TreatmentKind kToneCurve{"tone-curve", "Tone curve", TreatmentFamily::Grade, kFigures, false,
                                      false,        toneCurve};

} // namespace glyptos
