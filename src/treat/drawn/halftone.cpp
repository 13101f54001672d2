// A screen of dots, lines or crosses, of one ink or of the four of print, each at its own angle. The tone of
// each ink is smoothed over a third of a cell, and covers a point where it is above what the screen asks for
// there; that is a function with as much area above any value as the value says (dots: a cosine of both ways,
// evened out), so that tones keep. Cells smaller than two pixels give way to the tone itself.

#include "treat/filters.h"
#include "treat/vector_math.h"

namespace glyptos {
namespace {

constexpr const char* kForms[]{"dot", "line", "cross"};
constexpr const char* kInkings[]{"one ink", "four inks"};
enum class Form { Dot, Line, Cross };

enum { Lines, Angle, Form_, Inks, InkColour, PaperColour, SeeThrough };
constexpr Figure kFigures[]{
    {"lines", "Lines per inch", FigureKind::Number, FigureUnit::LinesPerInch, 1, 400, 22},
    degrees("angle", "Angle", 45),
    choice("form", "Screen", kForms),
    choice("inks", "Inks", kInkings),
    colour("ink", "Ink", {0.08f, 0.08f, 0.1f, 1}),
    colour("paper", "Paper", {0.96f, 0.93f, 0.86f, 1}),
    flag("seeThrough", "No paper", false),
};

/// Output px from one line of the screen to the next.
double cellOf(const Figures& f, const Place& place) {
    constexpr double kInch = 25.4;
    return place.px(kInch / f.number(Lines) * place.unitsPerMm);
}

WideGaussian toneOf(const Figures& f, const Place& place) {
    return wideGaussian(std::max(cellOf(f, place) / 3, 0.06));
}

std::vector<Need> needs(const Figures& f, const Place& place) {
    return {toneOf(f, place).need(), {0, 0}};
}

GLYPTOS_IN_ROWS float waveAt(float t) {
    return 0.5f - 0.5f * rows::cosineOf(t);
}
/// The share of a line's period that is nearer to its middle is twice the distance from it.
GLYPTOS_IN_ROWS float rampAt(float t) {
    constexpr float kRound = 12582912.0f;
    const float f = t - ((t + kRound) - kRound); // −½…½
    return 1 - 2 * rows::absolute(f);
}

/// What a screen asks for at a point of a cell, 0…1, evenly spread; u, v in cells.
GLYPTOS_IN_ROWS float dotAsks(float u, float v) {
    // The sum of two waves lies round one half; this evens out how often each value comes (fit of its
    // distribution, within 0.004).
    const float d = (waveAt(u) + waveAt(v)) / 2 - 0.5f, a = 2 * rows::absolute(d);
    const float bent = 0.30841257f * a + 0.22210212f * __builtin_sqrtf(a) - 0.19117508f * a * a;
    const float even = 0.5f * (a + (1 - a) * bent);
    return d < 0 ? 0.5f - even : 0.5f + even;
}
GLYPTOS_IN_ROWS float lineAsks(float, float v) {
    return 1 - rampAt(v);
}
GLYPTOS_IN_ROWS float crossAsks(float u, float v) {
    const float a = 1 - rampAt(u), b = 1 - rampAt(v), least = a < b ? a : b;
    return 1 - (1 - least) * (1 - least);
}

struct Screen {
    Affine toCells; // from output px
    Form form;
    float steep; // how fast it passes from ink to paper, of tone for a px
    float fine;  // 1: shown as it is; 0: too fine, only its tone
    bool small;  // a pixel sees much of a dot: it is looked at in four places
};

/// A row of a screen: the first pixel in cells, the steps from one to the next, and from row to row.
struct ScreenRow {
    float u, v, du, dv, eu, ev;
    float steep, fine;
};

// clang-format off
#define GLYPTOS_SCREEN(name, asks)                                                                           \
    GLYPTOS_ROWS void name(const ScreenRow& row, bool small, const float* __restrict tones,                  \
                           float* __restrict out, size_t n) {                                                \
        const float u0 = row.u, v0 = row.v, du = row.du, dv = row.dv, fine = row.fine;                       \
        const float au = 0.25f * (du + row.eu), av = 0.25f * (dv + row.ev);                                  \
        const float bu = 0.25f * (du - row.eu), bv = 0.25f * (dv - row.ev), steep = row.steep;               \
        if (!small) {                                                                                        \
            for (size_t i = 0; i < n; ++i) {                                                                 \
                const float tone = tones[i], u = u0 + du * float(int32_t(i)), v = v0 + dv * float(int32_t(i)); \
                const float on = rows::clamp01((tone - asks(u, v)) * steep + 0.5f);                          \
                const float shown = tone + (on - tone) * fine;                                               \
                out[i] = tone <= 0.003f ? 0.0f : tone >= 0.997f ? 1.0f : shown;                              \
            }                                                                                                \
            return;                                                                                          \
        }                                                                                                    \
        for (size_t i = 0; i < n; ++i) {                                                                     \
            const float tone = tones[i], u = u0 + du * float(int32_t(i)), v = v0 + dv * float(int32_t(i));   \
            const float on = 0.25f * (rows::clamp01((tone - asks(u - au, v - av)) * 2 * steep + 0.5f) +      \
                                      rows::clamp01((tone - asks(u + au, v + av)) * 2 * steep + 0.5f) +      \
                                      rows::clamp01((tone - asks(u - bu, v - bv)) * 2 * steep + 0.5f) +      \
                                      rows::clamp01((tone - asks(u + bu, v + bv)) * 2 * steep + 0.5f));      \
            const float shown = tone + (on - tone) * fine;                                                   \
            out[i] = tone <= 0.003f ? 0.0f : tone >= 0.997f ? 1.0f : shown;                                  \
        }                                                                                                    \
    }
GLYPTOS_SCREEN(dotRow, dotAsks)
GLYPTOS_SCREEN(lineRow, lineAsks)
GLYPTOS_SCREEN(crossRow, crossAsks)
#undef GLYPTOS_SCREEN
// clang-format on

/// How far the screen covers each pixel of a row of tones that begins at pixel (x, y).
void coverRow(const Screen& screen, int x, int y, const float* tones, float* out, size_t n) {
    const Affine& m = screen.toCells;
    const Vec2 first = m.map({x + 0.5, y + 0.5});
    // Whole cells are taken off, so that places between them stay exact.
    const ScreenRow row{float(first.x - std::floor(first.x)),
                        float(first.y - std::floor(first.y)),
                        float(m.a),
                        float(m.b),
                        float(m.c),
                        float(m.d),
                        screen.steep,
                        screen.fine};
    (screen.form == Form::Line    ? lineRow
     : screen.form == Form::Cross ? crossRow
                                  : dotRow)(row, screen.small, tones, out, n);
}

Screen screenOf(const Figures& f, const Place& place, double turn) {
    const double cell = cellOf(f, place);
    const auto back = place.toOutput.inverse().value_or(Affine{});
    const double perUnit = place.pxPerUnit() / cell;
    return {Affine::scaling(perUnit, perUnit) * Affine::rotation(-(f.number(Angle) + turn)) * back,
            f.choice<Form>(Form_), float(cell / 2), float(std::clamp(cell / 2 - 1, 0.0, 1.0)), cell < 16};
}

/// Straight colours of a row that was smoothed; of nothing, black.
GLYPTOS_ROWS void straightRow(const float* __restrict values, const float* __restrict alpha,
                              float* __restrict out, size_t n) {
    for (size_t i = 0; i < n; ++i)
        out[i] = alpha[i] > 1e-6f ? rows::clamp01(values[i] / (alpha[i] > 1e-6f ? alpha[i] : 1.0f)) : 0.0f;
}

/// The tones of one ink, darkness by luma, in the place of red; or those of the four of print in the places
/// of red, green, blue and alpha.
GLYPTOS_ROWS void oneTone(float* __restrict r, const float* __restrict g, const float* __restrict b,
                          size_t n) {
    for (size_t i = 0; i < n; ++i) r[i] = 1 - (0.2126f * r[i] + 0.7152f * g[i] + 0.0722f * b[i]);
}
GLYPTOS_ROWS void fourTones(float* __restrict r, float* __restrict g, float* __restrict b,
                            float* __restrict black, size_t n) {
    for (size_t i = 0; i < n; ++i) {
        const float rg = r[i] > g[i] ? r[i] : g[i], most = rg > b[i] ? rg : b[i];
        const float k = 0.8f * (1 - most), left = 1 / (1 - k);
        r[i] = rows::clamp01((1 - r[i] - k) * left);
        g[i] = rows::clamp01((1 - g[i] - k) * left);
        b[i] = rows::clamp01((1 - b[i] - k) * left);
        black[i] = k;
    }
}

/// A screened row by what its inks cover, on paper or on nothing; `alpha` is that of the layer.
struct Printing {
    bool four, seeThrough;
    float ink[3], paper[3], inkAlpha;
};
GLYPTOS_ROWS void printRow(const Printing& k, const float* const (&cover)[4], const float* __restrict alpha,
                           float* const (&out)[4], size_t n) {
    float* __restrict r = out[0], * __restrict g = out[1], * __restrict b = out[2], * __restrict shown = out[3];
    const float *c = cover[0], *m = cover[1], *y = cover[2], *black = cover[3];
    const bool four = k.four, seeThrough = k.seeThrough;
    const float i0 = k.ink[0], i1 = k.ink[1], i2 = k.ink[2], p0 = k.paper[0], p1 = k.paper[1],
                p2 = k.paper[2];
    const float inkAlpha = k.inkAlpha;
    if (four) {
        for (size_t i = 0; i < n; ++i) {
            const float light = 1 - black[i], red = (1 - c[i]) * light, green = (1 - m[i]) * light,
                        blue = (1 - y[i]) * light;
            const float all = 1 - (1 - c[i]) * (1 - m[i]) * (1 - y[i]) * light;
            const float a = seeThrough ? alpha[i] * all : alpha[i];
            r[i] = red * (seeThrough ? 1.0f : p0) * a, g[i] = green * (seeThrough ? 1.0f : p1) * a;
            b[i] = blue * (seeThrough ? 1.0f : p2) * a, shown[i] = a;
        }
        return;
    }
    for (size_t i = 0; i < n; ++i) {
        const float on = c[i] * inkAlpha, a = seeThrough ? alpha[i] * on : alpha[i];
        r[i] = (seeThrough ? i0 : p0 + (i0 - p0) * on) * a;
        g[i] = (seeThrough ? i1 : p1 + (i1 - p1) * on) * a;
        b[i] = (seeThrough ? i2 : p2 + (i2 - p2) * on) * a;
        shown[i] = a;
    }
}

void draw(const AroundJob& job, Planes& out) {
    const Figures& f = job.figures;
    const Planes soft = smoothed(job.inputs[0], toneOf(f, job.place), out.area);
    const bool four = f.number(Inks) == 1;
    const Rgba &ink = f.colour(InkColour), &paper = f.colour(PaperColour);
    const Printing printing{
        four, f.flag(SeeThrough), {ink.r, ink.g, ink.b}, {paper.r, paper.g, paper.b}, ink.a};
    const Screen screens[4]{screenOf(f, job.place, four ? 30 : 0), screenOf(f, job.place, -30),
                            screenOf(f, job.place, -45),
                            screenOf(f, job.place, 0)}; // cyan 75°, magenta 15°, yellow 0°, black 45°
    const auto n = size_t(out.area.w);
    std::vector<float> tones[4], covers[4];
    for (auto* all : {&tones, &covers})
        for (auto& row : *all) row.resize(n);
    for (int y = out.area.y; y < out.area.bottom(); ++y) {
        for (int c = 0; c < 3; ++c) straightRow(soft.row(c, y), soft.row(3, y), tones[c].data(), n);
        if (four)
            fourTones(tones[0].data(), tones[1].data(), tones[2].data(), tones[3].data(), n);
        else
            oneTone(tones[0].data(), tones[1].data(), tones[2].data(), n);
        for (size_t k = 0; k < (four ? 4U : 1U); ++k)
            coverRow(screens[k], out.area.x, y, tones[k].data(), covers[k].data(), n);
        const float* const cover[4]{covers[0].data(), covers[1].data(), covers[2].data(), covers[3].data()};
        float* const rows[4]{out.row(0, y), out.row(1, y), out.row(2, y), out.row(3, y)};
        printRow(printing, cover, job.inputs[1].row(3, y), rows, n);
    }
}

} // namespace

extern const TreatmentKind kHalftone{
    "halftone", "Halftone", TreatmentFamily::Drawn, kFigures, false, true, nullptr, needs, draw};

} // namespace glyptos
