// Grades against the formulas that their files name, in double and by other code; figures that change
// nothing.
#include "color/oklab.h"
#include "support/register.h"
#include "treat/kind.h"

#include <QRandomGenerator>

using namespace glyptos;

namespace {

struct Colour {
    double r, g, b;
};

/// 1000 colours: the corners and greys of the cube, and chance.
std::vector<Colour> someColours() {
    std::vector<Colour> out;
    for (int i = 0; i < 27; ++i) out.push_back({(i % 3) / 2.0, (i / 3 % 3) / 2.0, i / 9 / 2.0});
    for (int i = 0; i <= 20; ++i) out.push_back({i / 20.0, i / 20.0, i / 20.0});
    QRandomGenerator chance(7);
    while (out.size() < 1000)
        out.push_back({chance.generateDouble(), chance.generateDouble(), chance.generateDouble()});
    return out;
}

using Setting = std::pair<const char*, FigureValue>;

Figures figuresOf(const TreatmentKind& kind, const std::vector<Setting>& settings) {
    Figures out(kind.figures);
    for (const auto& [id, value] : settings) {
        const size_t at = kind.find(id);
        if (at == kind.figures.size()) qFatal("no figure %s", id);
        out.set(at, value);
    }
    return out;
}

ColourOp opOf(const char* id, const std::vector<Setting>& settings) {
    const TreatmentKind& kind = *treatmentKind(id);
    return kind.colour(figuresOf(kind, settings), {});
}

std::vector<Colour> graded(const std::vector<ColourOp>& ops, const std::vector<Colour>& colours) {
    const size_t n = colours.size(), room = roundUpLanes(n);
    Buffer<float> r(room), g(room), b(room), a(room);
    for (size_t i = 0; i < n; ++i)
        r[i] = float(colours[i].r), g[i] = float(colours[i].g), b[i] = float(colours[i].b), a[i] = 1;
    RowInSpace row({r.data(), g.data(), b.data(), a.data(), 0, 0, n});
    for (const ColourOp& op : ops) row.apply(op);
    row.toEncoded();
    std::vector<Colour> out;
    for (size_t i = 0; i < n; ++i) out.push_back({double(r[i]), double(g[i]), double(b[i])});
    return out;
}

std::vector<Colour> graded(const ColourOp& op, const std::vector<Colour>& colours) {
    return graded(std::vector{op}, colours);
}

double kept(double v) {
    return std::clamp(v, 0.0, 1.0);
}

/// The largest difference of any channel from what `formula` says.
template <class Formula>
double worst(const char* id, const std::vector<Setting>& settings, Formula formula) {
    const auto colours = someColours();
    const auto got = graded(opOf(id, settings), colours);
    double out = 0;
    for (size_t i = 0; i < colours.size(); ++i) {
        const Colour wanted = formula(colours[i]);
        out = std::max({out, std::abs(got[i].r - kept(wanted.r)), std::abs(got[i].g - kept(wanted.g)),
                        std::abs(got[i].b - kept(wanted.b))});
    }
    return out;
}

double linear(double v) {
    return v <= 0.04045 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4);
}
double encoded(double v) {
    return v <= 0.0031308 ? v * 12.92 : 1.055 * std::pow(v, 1 / 2.4) - 0.055;
}
double luma(const Colour& c) {
    return 0.2126 * c.r + 0.7152 * c.g + 0.0722 * c.b;
}

Rgba rgba(const Colour& c) {
    return {float(c.r), float(c.g), float(c.b), 1};
}
Oklch lch(const Colour& c) {
    return toOklch(toOklab(rgba(c)));
}
Colour colour(const Oklch& c) {
    const Rgba out = toRgba(toOklab(c));
    return {double(out.r), double(out.g), double(out.b)};
}

/// Of what goes through Oklab: two steps of 16 bits for rounding there, and what cube roots near black add.
constexpr double kOklabError = 4e-4, kTableError = 2e-5;

} // namespace

class GradesTest : public QObject {
    Q_OBJECT

  private Q_SLOTS:
    void standardsOfThoseThatOnlyChangeChangeNothing() {
        for (const char* id : {"tone-curve", "light-contrast", "warmth", "chroma", "hue-turn",
                               "three-way-tint", "ink-trim", "look-table"})
            QVERIFY2(!opOf(id, {}), id);
    }

    void lightIsOfLinearLightAndContrastKeepsItsMiddle() {
        for (const double stops : {-2.0, -0.3, 0.7, 3.0})
            QVERIFY(worst("light-contrast", {{"light", stops}}, [=](const Colour& c) {
                        const auto lit = [=](double v) {
                            return encoded(std::min(linear(v) * std::exp2(stops), 1.0));
                        };
                        return Colour{lit(c.r), lit(c.g), lit(c.b)};
                    }) < 3e-4);
        for (const double contrast : {-0.8, 0.5, 1.0}) {
            const double m = 0.4, gain = std::exp2(2 * contrast);
            const auto bent = [=](double v) {
                return v < m ? m * std::pow(v / m, gain) : 1 - (1 - m) * std::pow((1 - v) / (1 - m), gain);
            };
            QVERIFY(worst("light-contrast", {{"contrast", contrast}, {"middle", m}}, [=](const Colour& c) {
                        return Colour{bent(c.r), bent(c.g), bent(c.b)};
                    }) < 1e-3);
            const auto still =
                graded(opOf("light-contrast", {{"contrast", contrast}, {"middle", m}}), {{0, m, 1}});
            QVERIFY(std::abs(still[0].r) < 1e-6 && std::abs(still[0].g - m) < 1e-3 &&
                    std::abs(still[0].b - 1) < 1e-6);
        }
    }

    /// Tables go to linear light in one step where the next grade acts there, or in Oklab.
    void tablesGiveTheSameInWhateverComesNext() {
        const ColourOp light = opOf("light-contrast", {{"light", 0.6}, {"contrast", 0.4}});
        const ToneCurve red{{0, 0}, {0.5, 0.8}, {1, 0.9}}, blue{{0, 0.2}, {1, 0}};
        const ColourOp curve = opOf("tone-curve", {{"red", red}, {"blue", blue}});
        const auto nothing = [](const ColourRow&) {};
        const ColourOp stayLinear(nothing, ColourSpace::Linear), stayLab(nothing, ColourSpace::Oklab),
            stayEncoded(nothing);
        const auto colours = someColours();
        for (const std::vector<ColourOp>& tables :
             {std::vector{light}, std::vector{curve}, std::vector{light, curve}, std::vector{curve, light}}) {
            auto first = tables;
            first.push_back(stayEncoded);
            const auto wanted = graded(first, colours);
            for (const ColourOp& next : {stayLinear, stayLab}) {
                auto ops = tables;
                ops.push_back(next);
                const auto got = graded(ops, colours);
                const double most = next.space() == ColourSpace::Oklab ? kOklabError : kTableError;
                for (size_t i = 0; i < colours.size(); ++i)
                    QVERIFY(std::abs(got[i].r - wanted[i].r) < most &&
                            std::abs(got[i].g - wanted[i].g) < most &&
                            std::abs(got[i].b - wanted[i].b) < most);
            }
        }
    }

    void toneCurveGoesThroughItsPointsInItsOrder() {
        const ToneCurve all{{0, 0.1}, {0.4, 0.3}, {1, 0.9}}, red{{0, 0}, {0.5, 0.8}, {1, 1}};
        const ToneFunction onAll(all), onRed(red);
        const auto points = [](double v) {
            const double t = std::clamp((v - 0.1) / 0.8, 0.0, 1.0);
            return 0.05 + 0.9 * std::pow(t, std::log(0.5) / std::log(0.6));
        };
        QVERIFY(worst("tone-curve",
                      {{"all", all},
                       {"red", red},
                       {"black", 0.1},
                       {"white", 0.9},
                       {"grey", 0.6},
                       {"outBlack", 0.05},
                       {"outWhite", 0.95}},
                      [&](const Colour& c) {
                          return Colour{onAll(onRed(points(c.r))), onAll(points(c.g)), onAll(points(c.b))};
                      }) < 5e-4);
        for (const Vec2& p : all) QVERIFY(std::abs(onAll(p.x) - p.y) < 1e-12);
        for (double x = 0; x < 1; x += 0.001)
            QVERIFY(onAll(x + 0.001) >= onAll(x)); // rising points: no dip between
    }

    void lightnessAloneKeepsHue() {
        const ToneCurve curve{{0, 0}, {0.5, 0.65}, {1, 1}};
        const ToneFunction tone(curve);
        QVERIFY(worst("tone-curve", {{"lightness", curve}}, [&](const Colour& c) {
                    Oklch out = lch(c);
                    out.L = tone(std::min(out.L, 1.0));
                    return colour(out);
                }) < kOklabError);
    }

    void curvesThatAreNoneAreRefused() {
        QVERIFY(!isCurve({{0.2, 0}, {0.2, 1}}));
        QVERIFY(!isCurve({{0.5, 0}, {0.2, 1}}));
        QVERIFY(!isCurve({{0, 0}, {1, 1.1}}));
        QVERIFY(!isCurve({{0, std::nan("")}, {1, 1}}));
        QVERIFY(isCurve({}) && isCurve({{0, 1}, {1, 0}}));
    }

    void warmthMovesAlongTheLightAndGreyIsWhatWasPicked() {
        const auto warm = graded(opOf("warmth", {{"warmth", 0.5}}), {{0.5, 0.5, 0.5}})[0];
        QVERIFY(warm.r > 0.52 && warm.b < 0.48 && std::abs(luma(warm) - 0.5) < 0.02);
        const auto cold = graded(opOf("warmth", {{"warmth", -0.5}}), {{0.5, 0.5, 0.5}})[0];
        QVERIFY(cold.r < 0.48 && cold.b > 0.52);
        const auto tinted = graded(opOf("warmth", {{"tint", 0.5}}), {{0.5, 0.5, 0.5}})[0];
        QVERIFY(tinted.g < 0.49 && tinted.r > 0.5 && tinted.b > 0.5);
        // Whatever light the grey was seen in.
        for (const Rgba& light :
             {Rgba{0.7f, 0.6f, 0.45f, 1}, Rgba{0.4f, 0.5f, 0.66f, 1}, Rgba{0.3f, 0.5f, 0.3f, 1}}) {
            const auto grey = graded(opOf("warmth", {{"useGrey", 1.0}, {"grey", Ink(light)}}),
                                     {{light.r, light.g, light.b}})[0];
            QVERIFY(std::abs(grey.r - grey.g) < 2e-3 && std::abs(grey.b - grey.g) < 2e-3);
        }
    }

    void huesTurnInOklch() {
        for (const double turn : {-130.0, 25.0, 180.0})
            QVERIFY(worst("hue-turn", {{"turn", turn}, {"chroma", -0.4}, {"lightness", 0.2}},
                          [=](const Colour& c) {
                              Oklch out = lch(c);
                              out.h += turn, out.C *= 0.6, out.L += 0.1;
                              return colour(out);
                          }) < kOklabError);
    }

    void aRangeOfHuesLeavesTheOthers() {
        // Reds alone, to grey: 29° in Oklch.
        const ColourOp op =
            opOf("hue-turn",
                 {{"ranged", 1.0}, {"middle", 29.0}, {"width", 40.0}, {"soft", 20.0}, {"chroma", -1.0}});
        const auto out = graded(op, {{0.9, 0.1, 0.1}, {0.1, 0.2, 0.9}, {0.1, 0.8, 0.2}, {0.5, 0.5, 0.5}});
        QVERIFY(std::abs(out[0].r - out[0].g) < 5e-3 && std::abs(out[0].r - out[0].b) < 5e-3);
        QVERIFY(std::abs(out[1].b - 0.9) < 1e-3 && std::abs(out[2].g - 0.8) < 1e-3 &&
                std::abs(out[3].r - 0.5) < 1e-3);
    }

    void chromaSparesSkinAndTheStrong() {
        const Colour skin = colour({0.7, 0.05, 55}), plain = colour({0.7, 0.05, 250}),
                     strong = colour({0.6, 0.24, 29});
        const auto more = [&](const Colour& c, double spareSkin, double spareStrong) {
            const auto out = graded(
                opOf("chroma", {{"amount", 0.5}, {"spareSkin", spareSkin}, {"spareStrong", spareStrong}}),
                {c})[0];
            return lch(out).C / lch(c).C;
        };
        QVERIFY(more(skin, 1, 0) < more(plain, 1, 0) * 0.75);
        QVERIFY(std::abs(more(skin, 0, 0) - more(plain, 0, 0)) < 0.02);
        QVERIFY(more(strong, 0, 1) < 1.05 && more(plain, 0, 1) > 1.3);
        const auto none = graded(opOf("chroma", {{"amount", -1.0}}), someColours());
        for (const Colour& c : none) QVERIFY(std::abs(c.r - c.g) < 2e-3 && std::abs(c.b - c.g) < 2e-3);
    }

    void oneHueHasThatHueEverywhere() {
        const auto out = graded(opOf("one-hue-tint", {{"hue", 210.0}, {"chroma", 0.2}}), someColours());
        for (const Colour& c : out)
            if (const Oklch is = lch(c); is.C > 0.02 && is.L > 0.3 && is.L < 0.8)
                QVERIFY(std::abs(is.h - 210) < 6);
    }

    void threeWayTintKeepsLightnessAndItsBorders() {
        const std::vector<Setting> blueShadows{{"shadowHue", 260.0}, {"shadowTint", 0.5}};
        const auto colours = someColours();
        const auto out = graded(opOf("three-way-tint", blueShadows), colours);
        for (size_t i = 0; i < colours.size(); ++i) {
            const Oklch before = lch(colours[i]), after = lch(out[i]);
            if (before.L > 0.5) {
                QVERIFY(std::abs(out[i].r - colours[i].r) < 2e-3 && std::abs(out[i].b - colours[i].b) < 2e-3);
            } else if (before.C < 0.02 && before.L > 0.1 && before.L < 0.25) {
                QVERIFY(std::abs(after.L - before.L) < 0.02 && after.C > 0.02 &&
                        std::abs(after.h - 260) < 25);
            }
        }
    }

    void monoMixIsOfFamilies() {
        const double w[6]{0.9, 0.7, 0.5, 0.4, 0.2, 0.1}; // red, yellow, green, cyan, blue, magenta
        QVERIFY(worst("mono-mix",
                      {{"red", w[0]},
                       {"yellow", w[1]},
                       {"green", w[2]},
                       {"cyan", w[3]},
                       {"blue", w[4]},
                       {"magenta", w[5]}},
                      [&](const Colour& c) {
                          // By sorting: the largest is the primary, the smallest tells the secondary.
                          const std::array<double, 3> v{c.r, c.g, c.b};
                          std::array<int, 3> order{0, 1, 2};
                          std::sort(order.begin(), order.end(),
                                    [&](int a, int b) { return v[size_t(a)] > v[size_t(b)]; });
                          const double most = v[size_t(order[0])], middle = v[size_t(order[1])],
                                       least = v[size_t(order[2])];
                          const int primary[3]{0, 2, 4}, secondary[3]{3, 5, 1};
                          const double grey = least + (most - middle) * w[primary[order[0]]] +
                                              (middle - least) * w[secondary[order[2]]];
                          return Colour{grey, grey, grey};
                      }) < 1e-5);
    }

    void inksAreTrimmedWhereTheyAre() {
        // A full red has no cyan, so a share of it is none; an amount is.
        const auto share = graded(opOf("ink-trim", {{"redCyan", 0.5}}), {{1, 0, 0}, {0, 0, 1}})[0];
        QVERIFY(std::abs(share.r - 1) < 1e-6);
        const auto amount = graded(opOf("ink-trim", {{"redCyan", 0.5}, {"way", 1.0}}),
                                   {{1, 0, 0}, {0, 0, 1}, {0.5, 0.5, 0.5}});
        QVERIFY(std::abs(amount[0].r - 0.5) < 1e-6 && std::abs(amount[1].b - 1) < 1e-6 &&
                std::abs(amount[2].r - 0.5) < 1e-6);
        // More black in whites darkens paper, less yellow in blacks makes them bluer.
        QVERIFY(std::abs(graded(opOf("ink-trim", {{"whiteBlack", 0.2}, {"way", 1.0}}), {{1, 1, 1}})[0].g -
                         0.8) < 1e-6);
        QVERIFY(std::abs(graded(opOf("ink-trim", {{"blackYellow", -0.3}}), {{0, 0, 0}})[0].b - 0.3) < 1e-6);
    }

    void runsAndMapsGoByLuma() {
        const ColourRun run{
            {0, Ink(0.1f, 0, 0.3f, 1)}, {0.5, Ink(0.9f, 0.2f, 0.1f, 1)}, {1, Ink(1, 1, 0.8f, 1)}};
        QVERIFY(worst("colour-run", {{"run", run}}, [&](const Colour& c) {
                    const Rgba out = colourAlong(run, luma(c));
                    return Colour{double(out.r), double(out.g), double(out.b)};
                }) < 1e-3);
        const Ink dark(0.1f, 0.1f, 0.3f, 1), light(0.9f, 0.8f, 0.6f, 1), middle(0.8f, 0.3f, 0.2f, 1);
        const auto ends = graded(
            opOf("ink-map",
                 {{"dark", dark}, {"light", light}, {"middle", middle}, {"three", 1.0}, {"place", 0.4}}),
            {{0, 0, 0}, {1, 1, 1}, {0.4, 0.4, 0.4}});
        QVERIFY(std::abs(ends[0].b - 0.3) < 1e-3 && std::abs(ends[1].g - 0.8) < 1e-3 &&
                std::abs(ends[2].r - 0.8) < 2e-3);
    }

    void stepsAndTurns() {
        QVERIFY(worst("poster", {{"levels", 4.0}}, [](const Colour& c) {
                    const auto step = [](double v) { return std::floor(v * 3 + 0.5) / 3; };
                    return Colour{step(c.r), step(c.g), step(c.b)};
                }) < 1e-6);
        QVERIFY(worst("threshold", {{"border", 0.43}, {"soft", 0.0}}, [](const Colour& c) {
                    const double v = float(luma(c)) >= 0.43f ? 1 : 0;
                    return Colour{v, v, v};
                }) < 1e-6);
        QVERIFY(worst("inversion", {}, [](const Colour& c) {
                    return Colour{1 - c.r, 1 - c.g, 1 - c.b};
                }) < 1e-6);
        QVERIFY(worst("inversion", {{"lightness", 1.0}}, [](const Colour& c) {
                    Oklch out = lch(c);
                    out.L = 1 - out.L;
                    return colour(out);
                }) < kOklabError);
    }
};

GLYPTOS_TEST(GradesTest)
#include "grades_test.moc"
