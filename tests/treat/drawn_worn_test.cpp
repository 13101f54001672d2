// What treatments that draw, wear and clean do, by what they are meant to: tone kept by screens and dots,
// noise and blocks gone and edges left, softness by distance, paper torn and folded.
#include "support/register.h"
#include "treat/whole.h"

#include <QRandomGenerator>
#include <QTest>
#include <cmath>

using namespace glyptos;

namespace {

constexpr int kSide = 240;

using Colour = std::array<float, 4>; // straight

Planes picture(const std::function<Colour(int, int)>& at) {
    Planes out({0, 0, kSide, kSide});
    for (int y = 0; y < kSide; ++y)
        for (int x = 0; x < kSide; ++x) {
            const Colour c = at(x, y);
            for (int k = 0; k < 3; ++k) out.row(k, y)[x] = c[size_t(k)] * c[3];
            out.row(3, y)[x] = c[3];
        }
    return out;
}
Planes flat(float v) {
    return picture([v](int, int) { return Colour{v, v, v, 1}; });
}

/// Units are px.
Planes treatedBy(const char* id, std::initializer_list<std::pair<const char*, FigureValue>> settings,
                 const Planes& in) {
    const TreatmentKind& kind = *treatmentKind(id);
    Figures figures(kind.figures, 1);
    for (const auto& [name, value] : settings) figures.set(kind.find(name), value);
    const Place place{{}, {0, 0, kSide, kSide}, 1};
    if (!kind.colour) return treatedWhole(kind, figures, place, in);
    Planes out = copyOf(in);
    const std::vector<ColourOp> ops{kind.colour(figures, place)};
    gradeWhole(ops, out);
    return out;
}

struct Spread {
    double mean, deviation;
};
/// Of red over a part of the picture.
Spread spreadIn(const Planes& p, const IntRect& area) {
    double sum = 0, squares = 0;
    for (int y = area.y; y < area.bottom(); ++y)
        for (int x = area.x; x < area.right(); ++x) {
            const auto v = double(p.row(0, y)[x]);
            sum += v, squares += v * v;
        }
    const double n = double(area.w) * area.h, mean = sum / n;
    return {mean, std::sqrt(std::max(squares / n - mean * mean, 0.0))};
}

const IntRect kInner{40, 40, kSide - 80, kSide - 80};
const Ink kBlack(0, 0, 0, 1), kWhite(1, 1, 1, 1);

} // namespace

class DrawnWornTest : public QObject {
    Q_OBJECT

  private Q_SLOTS:
    void inkCoversAsMuchAsTheToneAsksFor_data() {
        QTest::addColumn<double>("tone");
        for (const double tone : {0.15, 0.35, 0.5, 0.7, 0.85}) QTest::addRow("%g", tone) << tone;
    }
    void inkCoversAsMuchAsTheToneAsksFor() {
        QFETCH(double, tone);
        const Planes grey = flat(float(tone));
        const auto meanOf = [&](const Planes& p) { return spreadIn(p, kInner).mean; };
        const double dots =
            meanOf(treatedBy("halftone", {{"lines", 2.54}, {"ink", kBlack}, {"paper", kWhite}}, grey));
        const double stipple =
            meanOf(treatedBy("stipple", {{"size", 5.0}, {"ink", kBlack}, {"paper", kWhite}}, grey));
        const double cut = meanOf(treatedBy(
            "woodcut", {{"distance", 12.0}, {"wobble", 0.0}, {"ink", kBlack}, {"paper", kWhite}}, grey));
        QVERIFY2(std::abs(dots - tone) < 0.03, qPrintable(QString::number(dots)));
        QVERIFY2(std::abs(stipple - tone) < 0.06, qPrintable(QString::number(stipple)));
        // Lines are cut a little steeper than the tone, so that its ends are bare.
        QVERIFY2(std::abs(cut - (1 - (1.12 * (1 - tone) - 0.06))) < 0.03, qPrintable(QString::number(cut)));
    }

    void noiseGoesAndEdgesStay() {
        QRandomGenerator chance(7);
        const Planes noisy = picture([&](int x, int) {
            const auto v = float((x < kSide / 2 ? 0.3 : 0.7) + 0.06 * (chance.generateDouble() - 0.5));
            return Colour{v, v, v, 1};
        });
        const Planes clean = treatedBy("noise-clean-up", {{"light", 0.5}, {"size", 1.0}}, noisy);
        const IntRect left{20, 20, 80, 200};
        QVERIFY2(spreadIn(clean, left).deviation < 0.35 * spreadIn(noisy, left).deviation,
                 qPrintable(QString::number(spreadIn(clean, left).deviation)));
        QVERIFY(spreadIn(clean, {kSide / 2 + 2, 20, 4, 200}).mean -
                    spreadIn(clean, {kSide / 2 - 6, 20, 4, 200}).mean >
                0.33);
    }

    void blocksGoAndEdgesStay() {
        const Planes blocks = picture([](int x, int y) {
            const float v = (x / 8 + y / 8) % 2 == 0 ? 0.48f : 0.52f;
            return Colour{x < 180 ? v : 0.95f, v, v, 1};
        });
        const Planes clean = treatedBy("block-clean-up", {{"strength", 0.8}, {"block", 8.0}}, blocks);
        const IntRect flatPart{40, 40, 100, 160};
        QVERIFY2(spreadIn(clean, flatPart).deviation < 0.5 * spreadIn(blocks, flatPart).deviation,
                 qPrintable(QString::number(spreadIn(clean, flatPart).deviation)));
        QVERIFY(spreadIn(clean, {184, 40, 4, 160}).mean - spreadIn(clean, {172, 40, 4, 160}).mean > 0.3);
    }

    void softnessGrowsWithTheDistance() {
        const Planes lines = picture([](int x, int) {
            const float v = x / 3 % 2 == 0 ? 0.0f : 1.0f;
            return Colour{v, v, v, 1};
        });
        const Planes out =
            treatedBy("distance-blur", {{"sharp", 30.0}, {"grows", 60.0}, {"sigma", 6.0}}, lines);
        QCOMPARE(spreadIn(out, {110, 110, 20, 20}).deviation, spreadIn(lines, {110, 110, 20, 20}).deviation);
        const double near = spreadIn(out, {155, 110, 20, 20}).deviation,
                     far = spreadIn(out, {210, 110, 20, 20}).deviation;
        QVERIFY2(near < 0.45 && far < near && far < 0.02,
                 qPrintable(QStringLiteral("%1 %2").arg(near).arg(far)));
        // By a line through the middle only the way across it counts.
        const Planes line = treatedBy(
            "distance-blur",
            {{"from", 1.0}, {"angle", 0.0}, {"sharp", 30.0}, {"grows", 60.0}, {"sigma", 6.0}}, lines);
        QCOMPARE(spreadIn(line, {210, 110, 20, 20}).deviation, spreadIn(lines, {210, 110, 20, 20}).deviation);
    }

    void tornPaperIsSmallerWithAWhiteRim() {
        const Planes sheet = picture([](int x, int y) {
            const bool in = x >= 40 && y >= 40 && x < 200 && y < 200;
            return Colour{0.8f, 0.1f, 0.1f, in ? 1.0f : 0.0f};
        });
        const Planes torn = treatedBy(
            "torn-edge", {{"depth", 12.0}, {"grain", 20.0}, {"rim", 6.0}, {"rimColour", kWhite}}, sheet);
        double before = 0, after = 0;
        bool white = false;
        for (int y = 0; y < kSide; ++y)
            for (int x = 0; x < kSide; ++x) {
                before += double(sheet.row(3, y)[x]), after += double(torn.row(3, y)[x]);
                QVERIFY(torn.row(3, y)[x] <= sheet.row(3, y)[x] + 1e-5f);
                white = white || (torn.row(3, y)[x] > 0.99f && torn.row(1, y)[x] > 0.99f);
            }
        QVERIFY2(after < 0.96 * before && after > 0.7 * before, qPrintable(QString::number(after / before)));
        QVERIFY(white);
        QVERIFY(std::abs(torn.row(1, 120)[120] - 0.1f) < 1e-5f); // the middle stays
    }

    void foldsAndRingsStayNearTheirLines() {
        const Planes dark = flat(0.3f);
        const Planes folded = treatedBy("fold", {{"angle", 90.0}, {"width", 6.0}}, dark);
        QVERIFY(spreadIn(folded, {105, 20, 30, 200}).deviation > 0.02);
        QVERIFY(spreadIn(folded, {5, 20, 60, 200}).deviation < 1e-5);
        // One side darker, the other lighter.
        QVERIFY(std::abs(spreadIn(folded, {112, 20, 6, 200}).mean -
                         spreadIn(folded, {122, 20, 6, 200}).mean) > 0.1);
        const Planes ring =
            treatedBy("ring-wear", {{"diameter", 0.7}, {"width", 5.0}, {"amount", 0.8}}, dark);
        QVERIFY(spreadIn(ring, {110, 110, 20, 20}).deviation < 1e-5); // the middle
        double on = 0;
        for (int k = 0; k < 360; ++k) {
            const double a = k * M_PI / 180, r = 0.7 * kSide / 2;
            on += double(ring.row(0, int(120 + r * std::sin(a)))[int(120 + r * std::cos(a))]) / 360;
        }
        QVERIFY2(on > 0.35, qPrintable(QString::number(on)));
    }

    void aCopyIsBlackAndWhite() {
        const Planes ramp = picture([](int x, int) {
            const auto v = float(x) / kSide;
            return Colour{v, v, v, 1};
        });
        const Planes out = treatedBy(
            "photocopy",
            {{"contrast", 1.0}, {"speckle", 0.0}, {"streaks", 0.0}, {"ink", kBlack}, {"paper", kWhite}},
            ramp);
        QVERIFY(spreadIn(out, {2, 20, 60, 200}).mean < 0.01 && spreadIn(out, {178, 20, 60, 200}).mean > 0.99);
    }

    void paintIsThrownOneWay() {
        const Planes block = picture([](int x, int y) {
            const bool in = x >= 30 && x < 90 && y >= 80 && y < 160;
            return Colour{0.9f, 0.4f, 0.1f, in ? 1.0f : 0.0f};
        });
        const Planes out = treatedBy(
            "thrown-paint",
            {{"direction", 0.0}, {"spread", 20.0}, {"distance", 90.0}, {"size", 9.0}, {"amount", 0.9}},
            block);
        double right = 0, left = 0;
        for (int y = 60; y < 180; ++y) {
            for (int x = 96; x < 190; ++x) right += double(out.row(3, y)[x]);
            for (int x = 0; x < 20; ++x) left += double(out.row(3, y)[x]);
        }
        QVERIFY2(right > 60 && left < 1, qPrintable(QStringLiteral("%1 %2").arg(right).arg(left)));
    }

    void surfacesSpanTheirColours() {
        for (const char* id : {"clouds", "leather", "paper", "rust", "gold-leaf", "vinyl", "wood", "cloth",
                               "marble", "water", "concrete"}) {
            const Planes out = treatedBy(id,
                                         {{"scale", 80.0},
                                          {"relief", 0.0},
                                          {"low", kBlack},
                                          {"middle", Ink(0.5f, 0.5f, 0.5f, 1)},
                                          {"high", kWhite}},
                                         flat(0.2f));
            const Spread s = spreadIn(out, {0, 0, kSide, kSide});
            QVERIFY2(s.mean > 0.1 && s.mean < 0.9 && s.deviation > 0.03,
                     qPrintable(
                         QStringLiteral("%1: %2 ± %3").arg(QLatin1String(id)).arg(s.mean).arg(s.deviation)));
            const Planes other = treatedBy(id,
                                           {{"scale", 80.0},
                                            {"relief", 0.0},
                                            {"low", kBlack},
                                            {"middle", Ink(0.5f, 0.5f, 0.5f, 1)},
                                            {"high", kWhite},
                                            {"seed", 2.0}},
                                           flat(0.2f));
            QVERIFY2(std::memcmp(out.row(0, 100), other.row(0, 100), kSide * sizeof(float)) != 0, id);
        }
    }
};

GLYPTOS_TEST(DrawnWornTest)
#include "drawn_worn_test.moc"
