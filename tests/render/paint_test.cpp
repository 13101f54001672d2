// Paints and shapes: against formulas point by point, and small against large.
#include "file/data_folder.h"
#include "raster/noise.h"
#include "release/placing.h"
#include "render/renderer.h"
#include "support/pictures.h"
#include "support/register.h"

#include <QStringLiteral>
#include <numbers>

using namespace glyptos;
using namespace glyptos::test;

namespace {

constexpr int kSide = 120;

Gradient gradientOf(GradientKind kind) {
    Gradient g;
    g.kind = kind;
    g.from = {50, 60};
    g.to = {90, 75};
    g.stops = {{0, {1, 0, 0, 1}}, {0.25, {0, 1, 0, 0.5f}}, {0.7, {0, 0, 1, 1}}, {1, {1, 0, 0, 1}}};
    return g;
}

/// Place along the run by its definition.
double place(const Gradient& g, Vec2 p) {
    const Vec2 way = p - g.from, line = g.to - g.from;
    const double turn = (std::atan2(way.y, way.x) - std::atan2(line.y, line.x)) / (2 * std::numbers::pi);
    const double far = way.length() / line.length();
    switch (g.kind) {
    case GradientKind::Linear:
        return (way.x * line.x + way.y * line.y) / (line.x * line.x + line.y * line.y);
    case GradientKind::Radial:
        return far;
    case GradientKind::Conic:
        return turn - std::floor(turn);
    case GradientKind::Spiral:
        break;
    }
    const double t = far * g.turns - turn;
    return t - std::floor(t);
}

std::array<double, 4> colourAt(const Gradient& g, double t) {
    const bool round = g.kind == GradientKind::Conic || g.kind == GradientKind::Spiral;
    if (!round && g.spread == GradientSpread::Repeat) t -= std::floor(t);
    if (!round && g.spread == GradientSpread::Mirror) {
        t = std::abs(std::fmod(t, 2.0));
        t = t > 1 ? 2 - t : t;
    }
    t = std::clamp(t, 0.0, 1.0);
    size_t i = 0;
    while (i + 2 < g.stops.size() && g.stops[i + 1].at < t) ++i;
    const double k = (t - g.stops[i].at) / (g.stops[i + 1].at - g.stops[i].at);
    const Rgba &a = g.stops[i].colour, &b = g.stops[i + 1].colour;
    const double alpha = a.a + k * (b.a - a.a);
    const auto mix = [&](float from, float to) {
        return double(from) * a.a * (1 - k) + double(to) * b.a * k;
    };
    return {mix(a.r, b.r), mix(a.g, b.g), mix(a.b, b.b), alpha};
}

Layer layerOf(Content content, Vec2 at = {}) {
    Layer l;
    l.name = "layer";
    l.content = std::move(content);
    l.placement.position = at;
    return l;
}

} // namespace

class PaintTest : public QObject {
    Q_OBJECT
    FontLibrary fonts{dataFolder() / "fonts", true};
    HeldPictures pictures;

    Buffer<uint8_t> rendered(const ReleasePtr& r, double scale = 1) {
        Renderer renderer(pictures, fonts);
        const Scene scene = panelScene(r, frontOf(r), {scale, false});
        return renderer.renderBgra8(scene, scene.bounds());
    }
    ReleasePtr with(const Layer& layer) {
        return withLayer(screenRelease(kSide, kSide), frontOf(screenRelease(kSide, kSide)), layer);
    }

    /// The mean of what four times the size shows is what the size itself shows.
    void smallEqualsLarge(const ReleasePtr& r, double most) {
        const auto large = rendered(r, 4), small = rendered(r, 1);
        double worst = 0;
        for (int y = 0; y < kSide; ++y)
            for (int x = 0; x < kSide; ++x)
                for (int c = 0; c < 4; ++c) {
                    double sum = 0;
                    for (int i = 0; i < 16; ++i)
                        sum += large[size_t(((4 * y + i / 4) * 4 * kSide + 4 * x + i % 4) * 4 + c)] / 16.0;
                    worst = std::max(worst, std::abs(sum - small[size_t((y * kSide + x) * 4 + c)]));
                }
        QVERIFY2(worst <= most, qPrintable(QString::number(worst)));
    }

  private Q_SLOTS:
    void gradientsFollowTheirDefinition_data() {
        QTest::addColumn<int>("kind");
        QTest::addColumn<int>("spread");
        QTest::newRow("linear, held") << 0 << 0;
        QTest::newRow("linear, repeated") << 0 << 1;
        QTest::newRow("linear, mirrored") << 0 << 2;
        QTest::newRow("radial, held") << 1 << 0;
        QTest::newRow("radial, mirrored") << 1 << 2;
        QTest::newRow("conic") << 2 << 0;
        QTest::newRow("spiral") << 3 << 0;
    }

    void gradientsFollowTheirDefinition() {
        QFETCH(int, kind);
        QFETCH(int, spread);
        Gradient g = gradientOf(static_cast<GradientKind>(kind));
        g.spread = static_cast<GradientSpread>(spread);
        g.turns = 1;
        const auto out = rendered(with(layerOf(FillContent{g})));
        int compared = 0;
        for (int y = 0; y < kSide; y += 3)
            for (int x = 0; x < kSide; x += 2) {
                const Vec2 p{x + 0.5, y + 0.5};
                if ((p - g.from).length() < 12) continue; // there a pixel is an average of much
                const auto want = colourAt(g, place(g, p));
                // Where the run bends inside the pixel its mean is not its middle: those are told by the
                // neighbours.
                bool smooth = true;
                for (const Vec2 off : {Vec2{0.6, 0}, Vec2{-0.6, 0}, Vec2{0, 0.6}, Vec2{0, -0.6}}) {
                    const auto by = colourAt(g, place(g, p + off));
                    for (size_t c = 0; c < 4; ++c) smooth = smooth && std::abs(by[c] - want[c]) < 0.2;
                }
                if (!smooth) continue;
                ++compared;
                const uint8_t* got = out.data() + (y * kSide + x) * 4;
                const int order[4] = {2, 1, 0, 3};
                for (size_t c = 0; c < 4; ++c)
                    QVERIFY2(std::abs(got[order[c]] - want[c] * 255) < 9,
                             qPrintable(QStringLiteral("%1 %2: %3 %4")
                                            .arg(x)
                                            .arg(y)
                                            .arg(got[order[c]])
                                            .arg(want[c] * 255)));
            }
        QVERIFY(compared > 1500);
    }

    void stopsStandWhereTheirColourIs() {
        for (const auto kind :
             {GradientKind::Linear, GradientKind::Radial, GradientKind::Conic, GradientKind::Spiral}) {
            Gradient g = gradientOf(kind);
            g.turns = 1.25;
            for (const double t : {0.1, 0.25, 0.6, 0.85}) {
                const Vec2 at = stopPlace(g, t);
                QVERIFY(std::abs(place(g, at) - t) < 1e-9);
                QVERIFY(std::abs(nearestOnRun(g, at) - t) < 1e-9);
                const Rgba straight = colourAlong(g.stops, t);
                const auto want = colourAt(g, t);
                QVERIFY(std::abs(straight.r * straight.a - want[0]) < 1e-6 &&
                        std::abs(straight.b * straight.a - want[2]) < 1e-6 &&
                        std::abs(straight.a - want[3]) < 1e-6);
            }
        }
        Gradient g = gradientOf(GradientKind::Linear);
        QCOMPARE(nearestOnRun(g, g.from - (g.to - g.from)), 0.0);
        QCOMPARE(putStop(g.stops, {0.5, {}}), size_t(2));
        QCOMPARE(putStop(g.stops, {0.25, {}}), size_t(2)); // behind its equal
        QVERIFY(std::is_sorted(g.stops.begin(), g.stops.end(), [](auto& a, auto& b) { return a.at < b.at; }));
    }

    void aRunKeepsItsPlaceWhenItsShapeIsStretched() {
        ShapeContent shape;
        shape.fill = gradientOf(GradientKind::Linear);
        shape.stroke = StrokeStyle{};
        shape.stroke->paint = Clouds{};
        const ShapeContent wide = stretched(shape, 3, 0.5);
        QCOMPARE(std::get<Gradient>(*wide.fill).from, (Vec2{150, 30}));
        QCOMPARE(std::get<Gradient>(*wide.fill).to, (Vec2{270, 37.5}));
        QVERIFY(std::abs(std::get<Clouds>(wide.stroke->paint).size - 100 * std::sqrt(1.5)) < 1e-9);
    }

    void smallGradientsEqualLargeOnes() {
        for (int kind = 0; kind < 4; ++kind) {
            Gradient g = gradientOf(static_cast<GradientKind>(kind));
            g.stops = {{0, {1, 1, 1, 1}},
                       {0.5, {0.9f, 0.9f, 0.9f, 1}},
                       {0.5, {0, 0, 0, 1}},
                       {1, {0.1f, 0.1f, 0.1f, 1}}};
            smallEqualsLarge(with(layerOf(FillContent{g})),
                             24); // the edge inside a pixel, taken as straight across
        }
    }

    void noiseKeepsItsMeanWhenSmall() {
        smallEqualsLarge(with(layerOf(FillContent{Clouds{{0, 0, 0, 1}, {1, 1, 1, 1}, 40, 8, 1, 5}})), 16);
        smallEqualsLarge(with(layerOf(FillContent{Paper{{0.9f, 0.85f, 0.8f, 1}, 0.2, 1, 3}})), 14);
    }

    void noiseDoesNotDependOnTiles() {
        Renderer renderer(pictures, fonts);
        const ReleasePtr r = with(layerOf(FillContent{Clouds{}}));
        const Scene scene = panelScene(r, frontOf(r), {4, false});
        const auto whole = renderer.renderBgra8(scene, {0, 0, 480, 480});
        const auto part = renderer.renderBgra8(scene, {130, 250, 70, 60});
        for (int y = 0; y < 60; ++y)
            QVERIFY(std::equal(part.data() + y * 70 * 4, part.data() + (y + 1) * 70 * 4,
                               whole.data() + ((y + 250) * 480 + 130) * 4));
    }

    void patternsRepeat() {
        ReleasePtr r = screenRelease(kSide, kSide);
        r = pictures.add(r, "tile", pictureOf(10, 8, [](int x, int y) {
                             return std::array<uint8_t, 4>{uint8_t(x * 20), uint8_t(y * 30), 50, 255};
                         }));
        Pattern pattern{"tile", {3, 5}, 1, 0, 0, false};
        const auto pixelsOf = [&] {
            return rendered(withLayer(r, frontOf(r), layerOf(FillContent{pattern})));
        };
        const auto red = [](const Buffer<uint8_t>& b, int x, int y) {
            return int(b[size_t((y * kSide + x) * 4 + 2)]);
        };
        auto out = pixelsOf();
        for (int i = 0; i < 10; ++i) QCOMPARE(red(out, 3 + i, 5), i * 20);
        QCOMPARE(red(out, 43, 45), 0);
        QCOMPARE(red(out, 2, 5), 180); // to the left the one before ends
        pattern.shift = 0.5;
        out = pixelsOf();
        QCOMPARE(red(out, 3, 5), 0);
        QCOMPARE(red(out, 8, 13), 0); // the second row starts half a picture later
        pattern.shift = 0;
        pattern.mirrored = true;
        out = pixelsOf();
        for (int i = 0; i < 10; ++i) QCOMPARE(red(out, 13 + i, 5), 180 - i * 20);
    }

    void shapesHaveTheirArea_data() {
        QTest::addColumn<int>("kind");
        QTest::addColumn<double>("area");
        const double w = 70, h = 50, r = 10, pi = std::numbers::pi;
        QTest::newRow("rectangle") << int(ShapeKind::Rectangle) << w * h - (4 - pi) * r * r;
        QTest::newRow("ellipse") << int(ShapeKind::Ellipse) << pi * w * h / 4;
        QTest::newRow("star") << int(ShapeKind::Star) << 5 * w * h / 4 * 0.45 * std::sin(pi / 5);
        QTest::newRow("polygon") << int(ShapeKind::Polygon) << 5.0 / 2 * w * h / 4 * std::sin(2 * pi / 5);
    }

    void shapesHaveTheirArea() {
        QFETCH(int, kind);
        QFETCH(double, area);
        ShapeContent s;
        s.kind = static_cast<ShapeKind>(kind);
        s.width = 70, s.height = 50;
        if (s.kind == ShapeKind::Rectangle) s.corner = 10;
        double sum = 0;
        const auto out = rendered(with(layerOf(s, {60.3, 59.8})));
        for (size_t i = 3; i < out.size(); i += 4) sum += out[i] / 255.0;
        QVERIFY2(std::abs(sum - area) < area * 0.002, qPrintable(QString::number(sum)));
    }

    void strokesLieWhereTheySay() {
        ShapeContent s;
        s.width = 60, s.height = 40;
        s.fill.reset();
        s.stroke = StrokeStyle{};
        s.stroke->width = 8;
        const auto covered = [&](StrokePlace place, int x) {
            s.stroke->place = place;
            const auto out = rendered(with(layerOf(s, {60, 60})));
            return out[size_t((60 * kSide + x) * 4 + 3)] > 128;
        };
        // The left edge of the box is at 30.
        QVERIFY(!covered(StrokePlace::Inside, 28) && covered(StrokePlace::Inside, 31) &&
                covered(StrokePlace::Inside, 36) && !covered(StrokePlace::Inside, 39));
        QVERIFY(covered(StrokePlace::Centre, 27) && covered(StrokePlace::Centre, 32) &&
                !covered(StrokePlace::Centre, 35) && !covered(StrokePlace::Centre, 24));
        QVERIFY(covered(StrokePlace::Outside, 23) && covered(StrokePlace::Outside, 28) &&
                !covered(StrokePlace::Outside, 31));
    }

    void freePathsKeepTheirOutline() {
        ShapeContent star;
        star.kind = ShapeKind::Star;
        star.width = 90, star.height = 80;
        star.corner = 4;
        const auto before = rendered(with(layerOf(star, {60, 60})));
        const auto after = rendered(with(layerOf(asFree(star), {60, 60})));
        QVERIFY(std::equal(before.data(), before.data() + before.size(), after.data()));
        Vec2 moved;
        ShapeContent off = asFree(star);
        for (PathNode& node : off.contours[0].nodes) node.at = node.at + Vec2{7, -3};
        const ShapeContent back = reframed(off, moved);
        QVERIFY(std::abs(outlineOf(back).bounds().centre().x) < 1e-9);
        const auto same = rendered(with(layerOf(back, Vec2{60 - 7, 60 + 3} + moved)));
        int worst = 0;
        for (size_t i = 0; i < same.size(); ++i) worst = std::max(worst, std::abs(same[i] - before[i]));
        QVERIFY(worst <= 1);
    }
};

GLYPTOS_TEST(PaintTest)
#include "paint_test.moc"
