// Strokes laid into masks and layers.
#include "raster/brush/paint_mix.h"
#include "raster/brush/painted_stroke.h"

#include "support/register.h"
#include "support/strokes.h"

#include <QTest>

using namespace glyptos;
using namespace glyptos::test;

namespace {

/// Pixels of every alpha and many colours.
PixelTiles manyPixels() {
    PixelTiles out(kPaint);
    out.change({0, 0, 300, 300}, [](const PixelPart& part) {
        for (int y = part.area.y; y < part.area.bottom(); ++y)
            for (int x = part.area.x; x < part.area.right(); ++x) {
                uint8_t* p = part.row(y) + 4 * (x - part.area.x);
                p[0] = uint8_t(x * 5 + y), p[1] = uint8_t(y * 3), p[2] = uint8_t(x ^ y),
                p[3] = uint8_t(x + y * 7);
            }
    });
    return out;
}

} // namespace

class PaintMixTest : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    /// Opacity is of the stroke, however often it crosses itself; what is kept from it is.
    void opacityIsOfTheStroke() {
        PixelTiles before(kMask);
        PaintedStroke stroke = strokeOf(round(40, 1));
        const IntRect all{0, 0, 300, 300};
        for (const Vec2 p : {Vec2{50, 50}, {250, 50}, {50, 50}, {250, 50}}) stroke.lineTo(p);
        PixelTiles mask = before;
        mixDabs(mask, before, stroke.cover(), MaskPaint{200, 0.5}, all);
        uint8_t v = 0;
        mask.readRow(150, 50, 1, &v);
        QCOMPARE(int(v), 100);
        std::vector<float> keep(300 * 300, 0.5f);
        PixelTiles kept = before;
        mixDabs(kept, before, stroke.cover(), MaskPaint{200, 0.5, keep.data()}, all);
        kept.readRow(150, 50, 1, &v);
        QCOMPARE(int(v), 50);
    }

    void waysOfPainting_data() {
        QTest::addColumn<int>("way");
        QTest::newRow("over") << int(PaintWay::Over);
        QTest::newRow("behind") << int(PaintWay::Behind);
        QTest::newRow("inside") << int(PaintWay::Inside);
        QTest::newRow("erase") << int(PaintWay::Erase);
    }

    /// Every way against plain arithmetic in double, on pixels of every alpha; what is not touched keeps its
    /// bytes.
    void waysOfPainting() {
        QFETCH(int, way);
        const PixelTiles before = manyPixels();
        PaintedStroke stroke = strokeOf(round(160, 0.1), {0.9f, 0.3f, 0.1f});
        stroke.lineTo({150, 150});
        LayerPaint paint{{0.9f, 0.3f, 0.1f}, 0.8, PaintWay(way)};
        PixelTiles after = before;
        mixDabs(after, before, stroke.cover(), paint, {0, 0, 300, 300});
        int worst = 0;
        for (int y = 0; y < 300; ++y)
            for (int x = 0; x < 300; ++x) {
                const auto b = pixel(before, x, y), a = pixel(after, x, y);
                const double s = at(stroke.cover(), x, y) * 0.8, ba = b[3] / 255.0;
                if (s == 0) {
                    QCOMPARE(a, b);
                    continue;
                }
                const double alpha = way == int(PaintWay::Erase)    ? ba * (1 - s)
                                     : way == int(PaintWay::Inside) ? ba
                                                                    : ba + s - ba * s;
                worst = std::max(worst, int(std::ceil(std::abs(a[3] - alpha * 255) - 0.51)));
                if (alpha < 0.02) continue; // colours of nearly nothing are rounded away
                for (size_t c = 0; c < 3; ++c) {
                    const double colour = double(paint.colour[c]), there = b[c] / 255.0;
                    const double mixed =
                        way == int(PaintWay::Over)     ? (colour * s + there * ba * (1 - s)) / alpha
                        : way == int(PaintWay::Behind) ? (there * ba + colour * s * (1 - ba)) / alpha
                        : way == int(PaintWay::Inside) ? colour * s + there * (1 - s)
                                                       : there;
                    worst = std::max(worst, int(std::ceil(std::abs(a[c] - mixed * 255) - 0.6)));
                }
            }
        QVERIFY2(worst <= 0, qPrintable(QString::number(worst)));
    }

    /// A blend mode, and 16 bits a sample: the same colours, finer.
    void blendsAndDepths() {
        PixelTiles flat(kPaint), deep(kDeepPaint);
        const auto fill = [](auto* p, auto v) { p[0] = v(200), p[1] = v(100), p[2] = v(50), p[3] = v(255); };
        flat.change({0, 0, 100, 100}, [&](const PixelPart& part) {
            for (int y = part.area.y; y < part.area.bottom(); ++y)
                for (int x = 0; x < part.area.w; ++x)
                    fill(part.row(y) + 4 * x, [](int v) { return uint8_t(v); });
        });
        deep.change({0, 0, 100, 100}, [&](const PixelPart& part) {
            for (int y = part.area.y; y < part.area.bottom(); ++y)
                for (int x = 0; x < part.area.w; ++x)
                    fill(reinterpret_cast<uint16_t*>(part.row(y)) + 4 * x,
                         [](int v) { return uint16_t(v * 257); });
        });
        PaintedStroke stroke = strokeOf(round(60, 1));
        stroke.lineTo({50, 50});
        const LayerPaint paint{{0.5f, 0.5f, 0.5f}, 1, PaintWay::Over, BlendMode::Multiply};
        PixelTiles a = flat, b = deep;
        mixDabs(a, flat, stroke.cover(), paint, {0, 0, 100, 100});
        mixDabs(b, deep, stroke.cover(), paint, {0, 0, 100, 100});
        QCOMPARE(pixel(a, 50, 50), (std::array<int, 4>{100, 50, 25, 255}));
        std::array<uint16_t, 4> v{};
        b.readRow(50, 50, 1, reinterpret_cast<uint8_t*>(v.data()));
        QVERIFY(std::abs(v[0] - 100 * 257) <= 1 && std::abs(v[2] - 25 * 257) <= 1);
        b.readRow(5, 5, 1, reinterpret_cast<uint8_t*>(v.data()));
        QCOMPARE(int(v[0]), 200 * 257);
    }

    /// Dabs of several colours lie over each other, the last one in front.
    void coloursLieOverEachOther() {
        Brush brush = round(40, 1);
        brush.spacing = 0.5, brush.hueJitter = 180;
        PaintedStroke stroke = strokeOf(brush, {1, 0.2f, 0.1f});
        stroke.lineTo({100, 100}), stroke.lineTo({300, 100});
        PixelTiles before(kPaint), after(kPaint);
        mixDabs(after, before, stroke.cover(), LayerPaint{}, {0, 0, 400, 200});
        std::vector<std::array<int, 4>> seen;
        for (int x = 100; x < 300; x += 20) {
            const auto p = pixel(after, x, 100);
            QCOMPARE(p[3], 255);
            if (std::find(seen.begin(), seen.end(), p) == seen.end()) seen.push_back(p);
        }
        QVERIFY(seen.size() > 5);
    }

    /// Whole before it begins, nothing after its end, and as the way says between, against plain arithmetic.
    void aRunFades() {
        PixelTiles before(kMask);
        before.change({0, 0, 400, 300}, [](const PixelPart& part) {
            for (int y = part.area.y; y < part.area.bottom(); ++y)
                for (int x = part.area.x; x < part.area.right(); ++x)
                    part.row(y)[x - part.area.x] = uint8_t((x * 7 + y * 3) % 256);
        });
        const Vec2 from{260.3, 40.8}, to{90.1, 210.4};
        PixelTiles mask = before;
        mixRun(mask, before, from, to, {230, 0.8}, {0, 0, 400, 300});
        double worst = 0;
        for (int y = 0; y < 300; ++y)
            for (int x = 0; x < 400; ++x) {
                uint8_t was = 0, is = 0;
                before.readRow(x, y, 1, &was);
                mask.readRow(x, y, 1, &is);
                const double along =
                    ((x + 0.5 - from.x) * (to.x - from.x) + (y + 0.5 - from.y) * (to.y - from.y)) /
                    (std::pow(to.x - from.x, 2) + std::pow(to.y - from.y, 2));
                const double share = 0.8 * std::clamp(1 - along, 0.0, 1.0);
                worst = std::max(worst, std::abs(was + (230 - was) * share - is));
            }
        QVERIFY2(worst <= 0.51, qPrintable(QString::number(worst)));
    }
};

GLYPTOS_TEST(PaintMixTest)
#include "paint_mix_test.moc"
