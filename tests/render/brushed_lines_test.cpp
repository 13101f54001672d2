// Lines drawn with a brush that are kept, as they are rendered.
#include "file/data_folder.h"
#include "release/edits/brush_edits.h"
#include "release/paths/contour_nodes.h"
#include "release/paths/fit_contour.h"
#include "render/changed_area.h"
#include "render/layer_way.h"
#include "render/renderer.h"
#include "support/pictures.h"
#include "support/register.h"

#include <cmath>

using namespace glyptos;
using namespace glyptos::test;

class BrushedLinesTest : public QObject {
    Q_OBJECT
    static constexpr int kWide = 800, kHigh = 800;
    const FontLibrary fonts{dataFolder() / "fonts", true};
    HeldPictures pictures;
    ReleasePtr empty;
    PanelRef front;

    using Bytes = Buffer<uint8_t>;
    Bytes rendered(const ReleasePtr& release, double scale = 1) {
        Renderer renderer(pictures, fonts);
        return renderer.renderStraightRgba8(panelScene(release, front, {scale}),
                                            {0, 0, int(kWide * scale), int(kHigh * scale)});
    }
    static std::array<int, 4> at(const Bytes& b, int x, int y, int width = kWide) {
        const uint8_t* p = b.data() + (size_t(y) * size_t(width) + size_t(x)) * 4;
        return {p[0], p[1], p[2], p[3]};
    }
    static Way straight() { return wayOf({{{{{100, 400}, {}, {}}, {{700, 400}, {}, {}}}, false}}); }
    static Way wave() {
        Contour contour{{{{80, 200}, {}, {200, -300}},
                         {{420, 420}, {-160, -160}, {160, 160}},
                         {{720, 600}, {-100, 200}, {}}},
                        false};
        return wayOf({contour});
    }
    Made with(const Way& way, double width, const Ink& ink, const BrushedLine& line) {
        return withBrushedLine(empty, front, {}, "Line", way, width, ink, line);
    }
    const Ink red{1, 0, 0, 1};

  private Q_SLOTS:
    void initTestCase() {
        empty = screenRelease(kWide, kHigh);
        front = frontOf(empty);
        empty = pictures.add(empty, "gull", pictureOf(60, 40, [](int x, int y) {
                                 return std::array<uint8_t, 4>{uint8_t(x * 4), uint8_t(y * 6), 200, 255};
                             }));
    }

    /// As wide as it says, in its colour, at its opacity.
    void aLine() {
        BrushedLine line;
        line.brush.hardness = 1, line.brush.opacity = 0.5;
        const Bytes b = rendered(with(straight(), 60, red, line));
        QCOMPARE(at(b, 400, 400), (std::array<int, 4>{255, 0, 0, 128}));
        QCOMPARE(at(b, 400, 372)[3], 128);
        QCOMPARE(at(b, 400, 368)[3], 0);
        QCOMPARE(at(b, 400, 432)[3], 0);
        QCOMPARE(at(b, 60, 400)[3], 0);
    }

    void smallIsLargeScaledDown_data() {
        QTest::addColumn<int>("tip");
        for (int i = 0; i <= int(TipKind::Stamp); ++i) QTest::newRow(kTipNames[size_t(i)]) << i;
    }

    /// A quarter of the size against the mean of the whole, for every tip, with chances.
    void smallIsLargeScaledDown() {
        QFETCH(int, tip);
        BrushedLine line;
        line.brush.tip = TipKind(tip);
        line.brush.sizeJitter = 0.5, line.brush.turnJitter = tip == int(TipKind::Dry) ? 0 : 50,
        line.brush.follows = true;
        line.brush.spacing = tip == int(TipKind::Round) ? 0 : 0.7, line.brush.spread = 0.5,
        line.brush.flow = 0.8;
        if (line.brush.tip == TipKind::Stamp) line.stamps = {{"gull", {}}};
        const Made made = with(wave(), 70, red, line);
        const Bytes large = rendered(made), little = rendered(made, 0.25);
        double squares = 0;
        size_t shown = 0;
        for (int y = 0; y < kHigh / 4; ++y)
            for (int x = 0; x < kWide / 4; ++x) {
                double sums[4]{};
                for (int i = 0; i < 16; ++i) {
                    const auto p = at(large, x * 4 + i % 4, y * 4 + i / 4);
                    for (size_t c = 0; c < 3; ++c) sums[c] += p[c] * p[3] / 255.0 / 16;
                    sums[3] += p[3] / 16.0;
                }
                const auto p = at(little, x, y, kWide / 4);
                for (size_t c = 0; c < 4; ++c) {
                    const double there = c < 3 ? p[c] * p[3] / 255.0 : p[3];
                    squares += std::pow(there - sums[c], 2);
                }
                shown += p[3] > 0;
            }
        QVERIFY(shown > 300);
        const double psnr = 10 * std::log10(255.0 * 255 / (squares / (4.0 * kWide * kHigh / 16)));
        qInfo("%s: %.1f dB", kTipNames[size_t(tip)], psnr);
        QVERIFY2(psnr >= 35, qPrintable(QString::number(psnr)));
    }

    /// The same seed, the same gulls; another one, others.
    void seedsReproduce() {
        BrushedLine line;
        line.brush.tip = TipKind::Stamp, line.brush.spacing = 1, line.brush.spread = 2;
        line.stamps = {{"gull", {}}};
        const auto bytes = [&](double seed) {
            line.brush.seed = seed;
            return rendered(with(wave(), 40, red, line));
        };
        const auto same = [](const Bytes& a, const Bytes& b) {
            return std::equal(a.data(), a.data() + a.size(), b.data());
        };
        QVERIFY(same(bytes(5), bytes(5)));
        QVERIFY(!same(bytes(5), bytes(6)));
    }

    /// Of its stamps each is printed in its own colours, or all in that of the line.
    void stampsAndTheirColours() {
        BrushedLine line;
        line.brush.tip = TipKind::Stamp, line.brush.spacing = 2;
        line.stamps = {{"gull", {}}};
        QCOMPARE(at(rendered(with(straight(), 60, red, line)), 100, 400)[2], 200);
        line.brush.tinted = true;
        QCOMPARE(at(rendered(with(straight(), 60, red, line)), 100, 400),
                 (std::array<int, 4>{255, 0, 0, 255}));
        line.stamps = {
            {{}, {{{{{0, 0}, {}, {}}, {{10, 0}, {}, {}}, {{10, 10}, {}, {}}, {{0, 10}, {}, {}}}, true}}}};
        const Bytes b = rendered(with(straight(), 60, red, line));
        QCOMPARE(at(b, 100, 400), (std::array<int, 4>{255, 0, 0, 255}));
        QCOMPARE(at(b, 160, 400)[3], 0);
        // A picture that is gone prints nothing, and harms nothing.
        line.stamps = {{"nowhere", {}}};
        QCOMPARE(at(rendered(with(straight(), 60, red, line)), 100, 400)[3], 0);
    }

    /// Nothing of it is seen outside the area that is drawn anew when it changes.
    void itKeepsToItsArea() {
        BrushedLine line;
        line.brush.spacing = 0.8, line.brush.placeJitter = 1, line.brush.spread = 1.5,
        line.brush.sizeAtEnd = 2;
        const Made made = with(wave(), 30, red, line);
        Renderer renderer(pictures, fonts);
        const auto changed = changedArea(empty, made.release, front, renderer.paragraphs());
        QVERIFY(changed && !changed->empty());
        const Bytes b = rendered(made);
        for (int y = 0; y < kHigh; ++y)
            for (int x = 0; x < kWide; ++x)
                if (at(b, x, y)[3] > 0) QVERIFY(changed->grown(0.5).contains({x + 0.5, y + 0.5}));
    }

    /// What hands draw becomes few nodes that stay within the tolerance.
    void handsBecomeCurves() {
        std::vector<Vec2> drawn;
        for (int i = 0; i <= 300; ++i) {
            const double t = i / 300.0;
            drawn.push_back({100 + 500 * t, 300 + 120 * std::sin(t * 9) + 0.3 * std::sin(i * 1.7)});
        }
        const Contour fitted = fittedContour(drawn, 1.5);
        QVERIFY2(fitted.nodes.size() < 16, qPrintable(QString::number(fitted.nodes.size())));
        double worst = 0;
        for (const Vec2& p : drawn) {
            double nearest = 1e9;
            for (size_t node = 0; node + 1 < fitted.nodes.size(); ++node)
                for (int k = 0; k <= 1000; ++k)
                    nearest = std::min(nearest, (pointOn(fitted, {node, k / 1000.0}) - p).length());
            worst = std::max(worst, nearest);
        }
        QVERIFY2(worst < 1.6, qPrintable(QString::number(worst)));
        // Corners stay; a single point and none at all are no harm.
        const Contour corner = fittedContour({{0, 0}, {50, 0}, {100, 0}, {100, 50}, {100, 100}}, 1);
        QVERIFY(std::any_of(corner.nodes.begin(), corner.nodes.end(), [](const PathNode& n) {
            return n.at == Vec2{100, 0};
        }));
        QCOMPARE(fittedContour({{5, 5}, {5, 5}}, 1).nodes.size(), size_t(1));
        QVERIFY(fittedContour({}, 1).nodes.empty());
    }

    /// The turns of a spiral lie where its run starts, as it is rendered.
    void turnsOfASpiral() {
        Gradient g;
        g.kind = GradientKind::Spiral, g.from = {400, 400}, g.to = {700, 380}, g.turns = 3;
        g.stops = {{0, Ink{1, 1, 1, 1}}, {1, Ink{0, 0, 0, 1}}};
        Layer fill;
        fill.name = "Spiral", fill.content = FillContent{g};
        const Bytes b = rendered(withLayer(empty, front, fill).release);
        const auto turns = turnsOf(g, 380);
        int jumps = 0, all = 0;
        for (const Vec2& p : turns) {
            const Vec2 out = p - g.from;
            if (out.length() < 60 || std::abs(out.x) > 370 || std::abs(out.y) > 370) continue;
            const Vec2 side = out * (4 / out.length()), inner = p - side, outer = p + side;
            ++all;
            jumps +=
                std::abs(at(b, int(inner.x), int(inner.y))[0] - at(b, int(outer.x), int(outer.y))[0]) > 150;
        }
        QVERIFY(all > 200 && jumps == all);
    }

    /// Of shapes, words, spirals and pictures; what has no way has none.
    void waysAlongLayers() {
        Renderer renderer(pictures, fonts);
        const Rect area{0, 0, kWide, kHigh};
        const auto along = [&](Content content) {
            Layer layer;
            layer.placement.position = {400, 400};
            layer.content = std::move(content);
            return wayAlong(layer, *empty, area, renderer.paragraphs());
        };
        ShapeContent ring;
        ring.kind = ShapeKind::Ellipse, ring.width = ring.height = 200;
        const auto round = along(ring);
        QVERIFY(round && round->contours.size() == 1 && round->contours[0].nodes.size() == 4);
        TextContent words;
        words.spec.text = "Þó", words.spec.letters.size = 100;
        const auto letters = along(words);
        QVERIFY(letters && letters->contours.size() >= 4); // with the holes, and an accent
        QVERIFY(along(PictureContent{"gull", {0, 0, 1, 1}})->contours[0].nodes.size() == 4);
        QVERIFY(!along(FillContent{Ink{1, 1, 1, 1}}));
        TextContent none;
        QVERIFY(!along(none));
        // A line round an ellipse lies on it.
        BrushedLine line;
        line.brush.hardness = 1;
        Bytes b = rendered(with(*round, 20, red, line));
        QCOMPARE(at(b, 400, 300)[3], 255);
        QCOMPARE(at(b, 500, 400)[3], 255);
        QCOMPARE(at(b, 400, 400)[3], 0);
    }
};

GLYPTOS_TEST(BrushedLinesTest)
#include "brushed_lines_test.moc"
