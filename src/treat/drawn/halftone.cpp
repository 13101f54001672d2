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
    {"lines", "Lines per inch", FigureKind::Number, FigureUnit::LinesPerInch, 1, 400, 25},
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

/// What the screen asks for at a point of a cell, 0…1, evenly spread; u, v in cells.
float askedAt(Form form, float u, float v) {
    const auto wave = [](float t) { return 0.5f - 0.5f * rows::cosineOf(t); };
    // The share of a line's period that is nearer to its middle is twice the distance from it.
    const auto ramp = [](float t) {
        const float f = t - std::floor(t);
        return std::abs(2 * f - 1);
    };
    switch (form) {
    case Form::Line:
        return 1 - ramp(v);
    case Form::Cross: {
        const float least = std::min(1 - ramp(u), 1 - ramp(v));
        return 1 - (1 - least) * (1 - least);
    }
    default: {
        // The sum of two waves lies round one half; this evens out how often each value comes (fit of its
        // distribution, within 0.01).
        const float s = (wave(u) + wave(v)) / 2, d = s - 0.5f, a = 2 * std::abs(d);
        const float even = 0.5f * (1 - (1 - a) * (1 - 0.36f * a * (1 - a)));
        return d < 0 ? 0.5f - even : 0.5f + even;
    }
    }
}

struct Screen {
    Affine toCells; // from output px
    Form form;
    float steep; // how fast it passes from ink to paper, of tone for a px
    float fine;  // 1: shown as it is; 0: too fine, only its tone
    bool small;  // a pixel sees much of a dot: it is looked at in four places
    float at(float x, float y, float tone, float sharp) const {
        const Vec2 p = toCells.map({double(x), double(y)});
        return rows::clamp01((tone - askedAt(form, float(p.x), float(p.y))) * sharp + 0.5f);
    }
    float cover(float x, float y, float tone) const {
        if (tone <= 0.003f || tone >= 0.997f || fine == 0)
            return tone <= 0.003f ? 0 : tone >= 0.997f ? 1 : tone;
        constexpr float k = 0.25f;
        const float on =
            small ? 0.25f * (at(x - k, y - k, tone, 2 * steep) + at(x + k, y - k, tone, 2 * steep) +
                             at(x - k, y + k, tone, 2 * steep) + at(x + k, y + k, tone, 2 * steep))
                  : at(x, y, tone, steep);
        return tone + (on - tone) * fine;
    }
};

Screen screenOf(const Figures& f, const Place& place, double turn) {
    const double cell = cellOf(f, place);
    const auto back = place.toOutput.inverse().value_or(Affine{});
    const double perUnit = place.pxPerUnit() / cell;
    return {Affine::scaling(perUnit, perUnit) * Affine::rotation(-(f.number(Angle) + turn)) * back,
            f.choice<Form>(Form_), float(cell / 2), float(std::clamp(cell / 2 - 1, 0.0, 1.0)), cell < 16};
}

void draw(const AroundJob& job, Planes& out) {
    const Figures& f = job.figures;
    const Planes soft = smoothed(job.inputs[0], toneOf(f, job.place), out.area);
    out = copyOf(job.inputs[1]);
    const bool four = f.number(Inks) == 1, seeThrough = f.flag(SeeThrough);
    const Rgba &ink = f.colour(InkColour), &paper = f.colour(PaperColour);
    const Screen screens[4]{screenOf(f, job.place, four ? 30 : 0), screenOf(f, job.place, -30),
                            screenOf(f, job.place, -45),
                            screenOf(f, job.place, 0)}; // cyan 75°, magenta 15°, yellow 0°, black 45°
    for (int y = out.area.y; y < out.area.bottom(); ++y)
        for (int i = 0; i < out.area.w; ++i) {
            const float alpha = out.row(3, y)[i], around = soft.row(3, y)[i];
            if (alpha <= 0) continue;
            const float k = around > 1e-6f ? 1 / around : 0, x = float(out.area.x + i) + 0.5f,
                        py = float(y) + 0.5f;
            float c[3];
            for (int ch = 0; ch < 3; ++ch) c[ch] = rows::clamp01(soft.row(ch, y)[i] * k);
            float result[3], cover = 1;
            if (!four) {
                const float tone = 1 - (0.2126f * c[0] + 0.7152f * c[1] + 0.0722f * c[2]);
                cover = screens[0].cover(x, py, tone) * ink.a;
                const float on[3]{ink.r, ink.g, ink.b}, off[3]{paper.r, paper.g, paper.b};
                for (int ch = 0; ch < 3; ++ch)
                    result[ch] = seeThrough ? on[ch] : off[ch] + (on[ch] - off[ch]) * cover;
            } else {
                const float black = 0.8f * (1 - std::max({c[0], c[1], c[2]}));
                float through = 1;
                for (int ch = 0; ch < 3; ++ch) {
                    const float tone = rows::clamp01((1 - c[ch] - black) / (1 - black));
                    result[ch] = 1 - screens[ch].cover(x, py, tone);
                    through *= result[ch];
                }
                const float dark = 1 - screens[3].cover(x, py, black);
                const float off[3]{paper.r, paper.g, paper.b};
                for (int ch = 0; ch < 3; ++ch) result[ch] *= dark * (seeThrough ? 1 : off[ch]);
                cover = 1 - through * dark;
            }
            const float shown = seeThrough ? alpha * cover : alpha;
            for (int ch = 0; ch < 3; ++ch) out.row(ch, y)[i] = rows::clamp01(result[ch]) * shown;
            out.row(3, y)[i] = shown;
        }
}

} // namespace

extern const TreatmentKind kHalftone{
    "halftone", "Halftone", TreatmentFamily::Drawn, kFigures, false, true, nullptr, needs, draw};

} // namespace glyptos
