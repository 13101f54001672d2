// The brush engine against its definitions.
#include "raster/brush/paint_mix.h"
#include "raster/brush/painted_stroke.h"
#include "raster/brush/symmetry.h"
#include "raster/brush/way_dabs.h"

#include "support/register.h"
#include "support/strokes.h"

#include <QTest>

using namespace glyptos;
using namespace glyptos::test;

namespace {

/// A bent way as that many moves.
std::vector<PenSample> bentWay(int moves, bool withPressure = false) {
    std::vector<PenSample> out;
    // Straight pieces, so that any number of moves tells the same way.
    const std::vector<Vec2> corners{{100, 120}, {420, 90}, {460, 380}, {150, 430}, {300, 250}, {60, 260}};
    for (int i = 0; i <= moves; ++i) {
        const double s = double(i) / moves * double(corners.size() - 1);
        const size_t k = std::min(size_t(s), corners.size() - 2);
        const Vec2 p = corners[k] + (corners[k + 1] - corners[k]) * (s - double(k));
        out.push_back({p, withPressure ? 0.3 + 0.6 * double(i) / moves : 1});
    }
    return out;
}

/// What a round tip covers, computed anew.
double plainCover(double radius, double hardness, double away) {
    const double inner = std::max(hardness * radius - 0.5, 0.0), outer = radius + 0.5;
    const double t = std::clamp((outer - away) / (outer - inner), 0.0, 1.0);
    return t * t * (3 - 2 * t);
}

double worstDifference(const DabLayer& a, const DabLayer& b) {
    double worst = 0;
    for (int y = 0; y < 520; y += 1)
        for (int x = 0; x < 520; x += 3) worst = std::max(worst, std::abs(at(a, x, y) - at(b, x, y)));
    return worst * 255;
}

} // namespace

class BrushTest : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    /// One dab: wholly covered to the hardness, then falling to none at the rim, everywhere alike.
    void aDab() {
        for (const double diameter : {1.0, 7.0, 40.0, 1000.0})
            for (const double hardness : {0.0, 0.5, 1.0}) {
                PaintedStroke stroke = strokeOf(round(diameter, hardness));
                const Vec2 middle{-30.3, 60.7}; // tiles on all sides
                stroke.lineTo(middle);
                const double radius = diameter / 2;
                for (double angle = 0; angle < 6.28; angle += 0.61)
                    for (double share = 0; share < 1.3; share += 0.13) {
                        const int x = int(std::floor(middle.x + radius * share * std::cos(angle))),
                                  y = int(std::floor(middle.y + radius * share * std::sin(angle)));
                        const double away = std::hypot(x + 0.5 - middle.x, y + 0.5 - middle.y);
                        const double off =
                            std::abs(at(stroke.cover(), x, y) - plainCover(radius, hardness, away));
                        QVERIFY2(off < 1 / 255.0, qPrintable(QString::number(off)));
                    }
                QVERIFY(roundCover(radius, hardness, radius + 0.51) == 0);
            }
    }

    /// An ellipse, turned: the same fall along its long and its short axis.
    void anEllipse() {
        Brush brush = round(200, 0.5);
        brush.roundness = 0.4, brush.turn = 30;
        PaintedStroke stroke = strokeOf(brush);
        stroke.lineTo({200, 200});
        for (const double share : {0.2, 0.6, 0.8, 0.95}) {
            const Vec2 along = Affine::rotation(30).mapVector({100 * share, 0}),
                       across = Affine::rotation(30).mapVector({0, 40 * share});
            const auto near = [&](Vec2 p) { return at(stroke.cover(), int(200 + p.x), int(200 + p.y)); };
            const double fall = std::clamp((1 - share) / 0.5, 0.0, 1.0), want = fall * fall * (3 - 2 * fall);
            QVERIFY(std::abs(near(along) - want) < 0.05);
            QVERIFY(std::abs(near(across) - want) < 0.08);
        }
        QVERIFY(at(stroke.cover(), 200, 260) == 0);
    }

    /// A stroke is as wide everywhere as its tip, its rim off by less than half a pixel.
    void aStrokeHasNoWaves() {
        PaintedStroke stroke = strokeOf(round(200, 1));
        stroke.lineTo({100, 300});
        const IntRect changed = stroke.lineTo({900, 300});
        QVERIFY(changed.w > 700 && changed.h <= 205);
        for (int x = 150; x < 850; ++x) {
            int covered = 0;
            for (int y = 150; y < 450; ++y) covered += at(stroke.cover(), x, y) > 0.5;
            QVERIFY2(std::abs(covered - 200) <= 1, qPrintable(QString::number(covered)));
        }
    }

    void movesDoNotMatter_data() {
        QTest::addColumn<int>("kind");
        QTest::addColumn<double>("steadying");
        QTest::addColumn<bool>("pressure");
        QTest::newRow("closed") << 0 << 0.0 << false;
        QTest::newRow("closed, steadied") << 0 << 30.0 << false;
        QTest::newRow("with flow") << 1 << 0.0 << false;
        QTest::newRow("with flow, steadied") << 1 << 25.0 << false;
        QTest::newRow("spaced, with chances") << 2 << 0.0 << false;
        QTest::newRow("spatter that follows, tapered") << 3 << 12.0 << false;
        QTest::newRow("a pen") << 1 << 0.0 << true;
    }

    /// The same way told in few moves and in many is the same stroke.
    void movesDoNotMatter() {
        QFETCH(int, kind);
        QFETCH(double, steadying);
        QFETCH(bool, pressure);
        Brush brush = round(46, 0.4);
        if (kind == 1) brush.flow = 0.3;
        if (kind == 2)
            brush.spacing = 0.8, brush.sizeJitter = 0.5, brush.placeJitter = 0.4, brush.opacityJitter = 0.6;
        if (kind == 3)
            brush.tip = TipKind::Spatter, brush.follows = true, brush.spacing = 0.2,
            brush.taperIn = brush.taperOut = 2;
        const auto drawn = [&](int moves) {
            PaintedStroke stroke(brush, tipLook(brush, {}), kAll, steadying);
            for (const PenSample& s : bentWay(moves, pressure)) stroke.moveTo(s);
            stroke.finish();
            return stroke;
        };
        const PaintedStroke few = drawn(10), many = drawn(1000);
        const double worst = worstDifference(few.cover(), many.cover());
        QVERIFY2(worst <= 2, qPrintable(QString::number(worst)));
        // It is a stroke at all.
        double most = 0;
        for (int x = 0; x < 520; ++x) most = std::max(most, at(few.cover(), x, 100));
        QVERIFY(most > 0.2);
    }

    /// With little flow dabs add up to the tip's own cover and never beyond.
    void flowBuildsUp() {
        const Brush tip = round(60, 0.2, 0.1);
        PaintedStroke once = strokeOf(tip), often = strokeOf(tip);
        once.lineTo({100, 100});
        QVERIFY(std::abs(at(once.cover(), 100, 100) - 0.1) < 1e-3);
        for (int i = 0; i < 400; ++i) often.lineTo({100, 100}), often.lineTo({103, 100});
        QVERIFY(at(often.cover(), 100, 100) > 0.9);
        for (int x = 60; x < 145; ++x)
            QVERIFY(at(often.cover(), x, 100) <= std::max(plainCover(30, 0.2, std::abs(x + 0.5 - 100)),
                                                          plainCover(30, 0.2, std::abs(x + 0.5 - 103))) +
                                                     0.01);
    }

    /// Held still, an airbrush adds as many dabs as its rate says.
    void itBuildsUpWhileHeld() {
        Brush brush = round(80, 0.5, 0.05);
        brush.buildUp = 30;
        PaintedStroke stroke = strokeOf(brush);
        stroke.lineTo({100, 100});
        for (int i = 0; i < 25; ++i) stroke.dwell(0.04); // a second
        const double want = 1 - std::pow(0.95, 31);
        QVERIFY(std::abs(at(stroke.cover(), 100, 100) - want) < 0.01);
        Brush plain = round(80, 0.5, 0.05);
        PaintedStroke still = strokeOf(plain);
        still.lineTo({100, 100});
        QVERIFY(still.dwell(1).empty());
    }

    /// Steadied, the tip follows and comes to where the pointer was let go.
    void aShakyHandIsSmoothed() {
        const auto roughness = [](double steady) {
            DabWalk walk(round(2, 1), steady);
            for (int i = 0; i <= 400; ++i) walk.moveTo({{double(i), 100 + (i % 2 ? 4.0 : -4.0)}});
            double sum = 0;
            for (const Dab& dab : walk.dabs())
                if (dab.at().x > 100 && dab.at().x < 380) sum = std::max(sum, std::abs(dab.at().y - 100));
            walk.finish();
            if (!(walk.tip() == std::optional(Vec2{400, 96}))) return 99.0;
            return sum;
        };
        QVERIFY(roughness(0) > 3.5);
        QVERIFY(roughness(60) < 0.8);
    }

    /// A tapered stroke begins and ends in points; a click is a whole dab all the same.
    void itTapers() {
        Brush brush = round(40, 1);
        brush.taperIn = brush.taperOut = 3;
        PaintedStroke stroke = strokeOf(brush);
        stroke.lineTo({100, 100});
        for (int i = 1; i <= 40; ++i) stroke.lineTo({100 + 10.0 * i, 100});
        const auto width = [&](int x) {
            int n = 0;
            for (int y = 60; y < 140; ++y) n += at(stroke.cover(), x, y) > 0.5;
            return n;
        };
        QCOMPARE(width(490), 40); // its end is not known yet
        stroke.finish();
        QVERIFY(std::abs(width(160) - 20) <= 2);
        QVERIFY(std::abs(width(300) - 40) <= 1);
        QVERIFY(std::abs(width(440) - 20) <= 2);
        QVERIFY(width(492) <= 4);
        PaintedStroke click = strokeOf(brush);
        click.lineTo({100, 100});
        click.finish();
        QVERIFY(at(click.cover(), 112, 100) > 0.9);
    }

    void pensAreFelt() {
        Brush brush = round(100, 1);
        const auto dabOf = [&](const PenSample& sample) {
            DabWalk walk(brush, 0);
            walk.moveTo(sample);
            return walk.dabs().at(0);
        };
        QVERIFY(std::abs(dabOf({{0, 0}, 0.5}).place.scaleX() - 25) < 1e-9);
        brush.penSize = false, brush.penOpacity = true;
        QCOMPARE(dabOf({{0, 0}, 0.25}).cover, 0.25f);
        brush.penTilt = true;
        const Dab lying = dabOf({{0, 0}, 1, 1, 90});
        QVERIFY(std::abs(lying.place.scaleY() - 10) < 1e-6 && std::abs(lying.place.b - 50) < 1e-6);
        brush.penTilt = false, brush.penTurn = true;
        QVERIFY(std::abs(dabOf({{0, 0}, 1, 0, 0, 90}).place.b - 50) < 1e-6);
        // One that barely touches down, and a brush of no size, are no harm.
        DabWalk faint(round(100, 1), 0), none(round(0, 1), 0);
        for (DabWalk* each : {&faint, &none})
            each->moveTo({{0, 0}, 0}), each->moveTo({{50, 0}}), each->moveTo({{90, 0}}), each->finish();
        QVERIFY(!faint.dabs().empty() && none.dabs().empty());
        // No number: left out.
        DabWalk walk(brush, 0);
        walk.moveTo({{std::nan(""), 0}});
        QVERIFY(walk.dabs().empty() && !walk.tip());
    }

    /// The same seed gives the same stroke; another one another.
    void seedsReproduce() {
        Brush brush = round(30, 0.5);
        brush.tip = TipKind::Grain, brush.turnJitter = 180, brush.placeJitter = 1, brush.spacing = 0.3;
        const auto drawn = [&](double seed) {
            brush.seed = seed;
            PaintedStroke stroke = strokeOf(brush);
            for (const PenSample& s : bentWay(50)) stroke.moveTo(s);
            return stroke;
        };
        QCOMPARE(worstDifference(drawn(3).cover(), drawn(3).cover()), 0.0);
        QVERIFY(worstDifference(drawn(3).cover(), drawn(4).cover()) > 100);
    }

    void smallIsLargeScaledDown_data() {
        QTest::addColumn<int>("tip");
        for (int i = 0; i < int(TipKind::Stamp); ++i) QTest::newRow(kTipNames[size_t(i)]) << i;
    }

    /// Dabs of every tip at a quarter, against the mean of the large ones.
    void smallIsLargeScaledDown() {
        QFETCH(int, tip);
        Brush brush = round(120, 0.6);
        brush.tip = TipKind(tip), brush.roundness = 0.7, brush.follows = true, brush.spacing = 0.6;
        brush.flow = 0.7;
        if (brush.tip != TipKind::Dry) brush.turnJitter = 40;
        const Affine quarter = Affine::scaling(0.25, 0.25);
        const Dabs dabs = dabsAlong({{{{100, 120}, {420, 90}, {460, 380}}, false}}, brush);
        Dabs smaller;
        for (const Dab& dab : dabs) smaller.push_back(mapped(dab, quarter));
        std::vector<float> large(512 * 512), little(128 * 128);
        drawDabs(tipLook(brush, {}), dabs, {{0, 0, 512, 512}, large.data()});
        drawDabs(mapped(tipLook(brush, {}), quarter), smaller, {{0, 0, 128, 128}, little.data()});
        double squares = 0, sum = 0;
        for (size_t y = 0; y < 128; ++y)
            for (size_t x = 0; x < 128; ++x) {
                double mean = 0;
                for (size_t j = 0; j < 16; ++j)
                    mean += double(large[(y * 4 + j / 4) * 512 + x * 4 + j % 4]) / 16;
                squares += std::pow(mean - double(little[y * 128 + x]), 2), sum += mean;
            }
        QVERIFY(sum > 100);
        const double psnr = -10 * std::log10(squares / (128 * 128));
        qInfo("%s: %.1f dB", kTipNames[size_t(tip)], psnr);
        QVERIFY2(psnr >= 35, qPrintable(QString::number(psnr)));
    }

    /// A line of a tenth of a pixel covers a tenth; 20,000 px cover everything.
    void extremeSizes() {
        PaintedStroke thin = strokeOf(round(0.1, 1));
        thin.lineTo({50, 100.5}), thin.lineTo({450, 100.5});
        double sum = 0;
        for (int y = 97; y < 104; ++y) sum += at(thin.cover(), 200, y);
        QVERIFY2(std::abs(sum - 0.1) < 0.03, qPrintable(QString::number(sum)));
        PaintedStroke vast = strokeOf(round(20000, 1));
        const IntRect changed = vast.lineTo({300, 300});
        QCOMPARE(changed, kAll);
        QVERIFY(at(vast.cover(), -599, -599) == 1 && at(vast.cover(), 1799, 1799) == 1);
    }

    /// Luma stays as the hue turns, as long as the colour fits.
    void huesKeepTheirLuma() {
        const auto luma = [](const std::array<float, 3>& c) {
            return 0.2126f * c[0] + 0.7152f * c[1] + 0.0722f * c[2];
        };
        const std::array<float, 3> colour{0.5f, 0.45f, 0.4f};
        for (const float turn : {0.0f, 40.0f, 120.0f, -90.0f}) {
            Dab dab;
            dab.hue = turn;
            QVERIFY(std::abs(luma(shaded(colour, dab)) - luma(colour)) < 1e-4f);
        }
        Dab dark;
        dark.shade = -1;
        QCOMPARE(shaded(colour, dark), (std::array<float, 3>{}));
    }

    /// A stamp shows its picture at its size, with clean edges, in turn with others.
    void stampsComeInTurn() {
        const auto picture = [](uint8_t r, uint8_t b) {
            Picture out = Picture::create<uint8_t>(50, 30);
            for (int i = 0; i < 50 * 30; ++i) {
                uint8_t* p = out.row<uint8_t>(0) + 4 * i;
                p[0] = r, p[1] = 40, p[2] = b, p[3] = 255;
            }
            out.opaque = true;
            return std::make_shared<const Pyramid>(std::move(out));
        };
        Brush brush = round(100, 1);
        brush.tip = TipKind::Stamp, brush.spacing = 1.5;
        PaintedStroke stroke(brush, tipLook(brush, {}, {{picture(250, 0)}, {picture(0, 250)}}), kAll);
        stroke.lineTo({100, 100}), stroke.lineTo({401, 100});
        PixelTiles before(kPaint), after(kPaint);
        mixDabs(after, before, stroke.cover(), LayerPaint{}, {0, 0, 500, 200});
        QCOMPARE(pixel(after, 100, 100), (std::array<int, 4>{250, 40, 0, 255}));
        QCOMPARE(pixel(after, 250, 100), (std::array<int, 4>{0, 40, 250, 255}));
        QCOMPARE(pixel(after, 400, 100), (std::array<int, 4>{250, 40, 0, 255}));
        QCOMPARE(pixel(after, 100, 128)[3], 255); // 30 px down of 60
        QCOMPARE(pixel(after, 100, 131)[3], 0);
        QCOMPARE(pixel(after, 175, 100)[3], 0);
        // None to be had: nothing is painted.
        PaintedStroke none(brush, tipLook(brush, {}), kAll);
        none.lineTo({100, 100});
        QCOMPARE(at(none.cover(), 100, 100), 0.0);
    }

    void itIsSymmetric_data() {
        QTest::addColumn<int>("kind");
        QTest::newRow("axis") << int(Symmetry::Kind::Axis);
        QTest::newRow("arms") << int(Symmetry::Kind::Centre);
        QTest::newRow("tile") << int(Symmetry::Kind::Tile);
    }

    /// The stroke looks the same through each of its copies' maps.
    void itIsSymmetric() {
        QFETCH(int, kind);
        Symmetry symmetry;
        symmetry.kind = Symmetry::Kind(kind), symmetry.centre = {250, 250}, symmetry.turn = 0,
        symmetry.arms = 4;
        symmetry.tile = {100, 125};
        const auto copies = copiesOf(symmetry, {0, 0, 500, 500});
        Brush brush = round(24, 0.5);
        brush.tip = TipKind::Dry, brush.follows = true, brush.spacing = 0.3;
        PaintedStroke stroke(brush, tipLook(brush, {}), {0, 0, 500, 500}, 0, copies);
        for (const Vec2 p : {Vec2{60, 70}, {140, 130}, {150, 220}}) stroke.lineTo(p);
        double worst = 0, most = 0;
        for (const Affine& map : copies)
            for (int y = 20; y < 240; y += 3)
                for (int x = 20; x < 240; x += 3) {
                    const Vec2 there = map.map({x + 0.5, y + 0.5});
                    if (there.x < 1 || there.y < 1 || there.x > 499 || there.y > 499) continue;
                    const double here = at(stroke.cover(), x, y);
                    worst = std::max(worst, std::abs(here - at(stroke.cover(), int(std::floor(there.x)),
                                                               int(std::floor(there.y)))));
                    most = std::max(most, here);
                }
        QVERIFY(most > 0.5);
        QVERIFY2(worst < 2 / 255.0, qPrintable(QString::number(worst * 255)));
        QVERIFY(copies.size() >= 2);
        if (kind == int(Symmetry::Kind::Centre)) QCOMPARE(copies.size(), size_t(8));
    }

    /// Along a kept way: as dense as its spacing, from near to far, and never more than can be drawn.
    void alongAWay() {
        Brush brush = round(10, 1);
        brush.spacing = 2, brush.sizeAtEnd = 0.25, brush.spread = 3;
        const Dabs dabs = dabsAlong({{{{0, 0}, {1000, 0}}, false}}, brush);
        QVERIFY(dabs.size() == 51);
        QVERIFY(std::abs(dabs.front().place.scaleX() - 5) < 0.1 &&
                std::abs(dabs.back().place.scaleX() - 1.25) < 0.1);
        double off = 0;
        for (const Dab& dab : dabs) off = std::max(off, std::abs(dab.at().y));
        QVERIFY(off > 20 && off <= 30);
        Brush fine = round(0.01, 1);
        fine.flow = 0.5;
        QVERIFY(dabsAlong({{{{0, 0}, {1e6, 0}}, false}}, fine).size() <= kMostDabs + 2);
        // A way of more pieces than that ends before its end.
        Polyline endless;
        for (int i = 0; i < 1'000'000; ++i) endless.points.push_back({i * 0.01, i % 2 ? 0.001 : 0});
        QVERIFY(dabsAlong({endless, endless}, round(10, 1)).size() <= 2 * kMostDabs + 4);
        // Pressures along it.
        Brush pen = round(10, 1);
        pen.spacing = 1;
        const Dabs pressed = dabsAlong({{{{0, 0}, {1000, 0}}, false}}, pen, {0.2f, 1.0f, 0.2f});
        QVERIFY(pressed[pressed.size() / 2].place.scaleX() > 4.5 && pressed.front().place.scaleX() < 1.5);
    }
};

GLYPTOS_TEST(BrushTest)
#include "brush_test.moc"
