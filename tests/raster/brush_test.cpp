// Strokes of a round brush against their plain definition.
#include "raster/brush.h"

#include "support/register.h"

#include <QTest>

using namespace glyptos;

namespace {

uint16_t at(const BrushStroke& stroke, int x, int y) {
    uint16_t out = 0;
    stroke.readRow(x, y, 1, &out);
    return out;
}

} // namespace

class BrushTest : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    /// One dab: wholly covered to the hardness, then falling to none at the rim, everywhere alike.
    void aDab() {
        for (const double diameter : {1.0, 7.0, 40.0, 1000.0})
            for (const double hardness : {0.0, 0.5, 1.0}) {
                const RoundTip tip{diameter, hardness, 1};
                BrushStroke stroke(tip);
                const Vec2 middle{-130.3, 260.7}; // tiles on all sides
                stroke.moveTo(middle);
                const double radius = diameter / 2;
                for (double angle = 0; angle < 6.28; angle += 0.61)
                    for (double share = 0; share < 1.3; share += 0.13) {
                        const int x = int(std::floor(middle.x + radius * share * std::cos(angle))),
                                  y = int(std::floor(middle.y + radius * share * std::sin(angle)));
                        const double away = std::hypot(x + 0.5 - middle.x, y + 0.5 - middle.y);
                        QVERIFY(std::abs(at(stroke, x, y) / 65535.0 - tip.coverAt(away)) < 1e-3);
                    }
                QVERIFY(tip.coverAt(radius + 0.51) == 0);
                QVERIFY(diameter < 4 || std::abs(tip.coverAt(hardness * radius - 1) - 1) < 1e-6 ||
                        hardness == 0);
            }
    }

    /// A stroke is as wide everywhere as its tip, its rim off by less than half a pixel.
    void aStrokeHasNoWaves() {
        const RoundTip tip{200, 1, 1};
        BrushStroke stroke(tip);
        stroke.moveTo({100, 300});
        const IntRect changed = stroke.moveTo({900, 300});
        QVERIFY(changed.w > 700 && changed.h <= 203);
        for (int x = 150; x < 850; ++x) {
            int covered = 0;
            for (int y = 150; y < 450; ++y) covered += at(stroke, x, y) > 32768;
            QVERIFY2(std::abs(covered - 200) <= 1, qPrintable(QString::number(covered)));
        }
    }

    /// With little flow dabs add up to the tip's own cover and never beyond.
    void flowBuildsUp() {
        const RoundTip tip{60, 0.2, 0.1};
        BrushStroke once(tip), often(tip);
        once.moveTo({100, 100});
        for (int i = 0; i < 40; ++i)
            often.moveTo({100, 100}), often.moveTo({103, 100}), often.moveTo({100, 100});
        const int first = at(once, 100, 100), last = at(often, 100, 100);
        QVERIFY(std::abs(first - 6554) < 10);
        QVERIFY(last > 60000);
        for (int x = 60; x < 145; ++x)
            QVERIFY(at(often, x, 100) <= 65535 * std::max(tip.coverAt(std::abs(x + 0.5 - 100)),
                                                          tip.coverAt(std::abs(x + 0.5 - 103))) +
                                             400);
    }

    /// Mixed into a mask once, however often the stroke crosses itself.
    void opacityIsOfTheStroke() {
        PixelTiles before(kMask);
        BrushStroke stroke({40, 1, 1});
        IntRect all{0, 0, 300, 300};
        for (const Vec2 p : {Vec2{50, 50}, {250, 50}, {50, 50}, {250, 50}}) stroke.moveTo(p);
        PixelTiles mask = before;
        mixStroke(mask, before, stroke, {200, 0.5}, all);
        uint8_t v = 0;
        mask.readRow(150, 50, 1, &v);
        QCOMPARE(int(v), 100);
        // Kept to a half there.
        std::vector<float> keep(300 * 300, 0.5f);
        PixelTiles kept = before;
        mixStroke(kept, before, stroke, {200, 0.5, keep.data()}, all);
        kept.readRow(150, 50, 1, &v);
        QCOMPARE(int(v), 50);
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

  private:
    static constexpr PixelFormat kMask{1, 1};
};

GLYPTOS_TEST(BrushTest)
#include "brush_test.moc"
