// Kneading: how far it goes, and that it can be undone, protected and refined.
#include "support/register.h"
#include "support/warps.h"

using namespace glyptos;
using namespace glyptos::test;

class KneadTest : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    /// What is under the middle of a push goes along with it; nothing moves beyond its radius.
    void pushMoves() {
        for (const double strength : {0.3, 1.0}) {
            const KneadField field =
                stroke({}, tip(KneadWay::Push, 70, strength), {150, 180}, {250, 180}, 12);
            // The place that now shows what was at the middle.
            double best = 1e9, at = 0;
            for (double x = 100; x < 330; x += 0.25) {
                const double off = std::abs(sourceOf(field, {x, 180}).x - 150);
                if (off < best) best = off, at = x;
            }
            QVERIFY(best < 0.5);
            const double share = (at - 150) / 100;
            qInfo("strength %.1f: moved by %.2f of the way", strength, share);
            if (strength == 1) QVERIFY(share >= 0.6 && share <= 1.1);
            QVERIFY(share > 0.1 && share <= 1.1);
            for (const Vec2 p :
                 {Vec2{150, 180 + 72}, {250, 180 - 72}, {150 - 72, 180}, {250 + 72, 180}, {20, 20}})
                QVERIFY((sourceOf(field, p) - p).length() < 1e-6);
        }
    }

    void fewOrManyMoves() {
        for (const KneadWay way : {KneadWay::Push, KneadWay::Spin, KneadWay::Gather}) {
            const KneadField few = stroke({}, tip(way, 80), {150, 150}, {300, 220}, 10),
                             many = stroke({}, tip(way, 80), {150, 150}, {300, 220}, 1000);
            const Pyramid picture(smoothPicture());
            const Picture one = remapped(picture, kneaded(few), kWide, kHigh),
                          other = remapped(picture, kneaded(many), kWide, kHigh);
            qInfo("%s: %.1f dB", kKneadWayNames[size_t(way)].data(), psnr(one, other));
            QVERIFY(psnr(one, other) > 45);
        }
    }

    void thereAndBack() {
        KneadField field;
        for (int i = 0; i < 100; ++i) {
            const Vec2 from{120.0 + i, 140.0 + i % 40}, to{220.0 + i, 160.0 + i % 17};
            field = stroke(field, tip(KneadWay::Push, 60), from, to, 8);
            field = stroke(field, tip(KneadWay::Push, 60), to, from, 8);
        }
        const Picture truth = smoothPicture(),
                      out = remapped(Pyramid(smoothPicture()), kneaded(field), kWide, kHigh);
        qInfo("two hundred pushes there and back: %.1f dB", psnr(out, truth));
        QVERIFY(psnr(out, truth) >= 40);
    }

    void restoredBitForBit() {
        KneadField field = stroke({}, tip(KneadWay::Push, 90), {100, 100}, {300, 250}, 20);
        field = stroke(field, tip(KneadWay::Spin, 120), {200, 200}, {260, 200}, 20);
        QVERIFY(!field.empty());
        field = stroke(field, tip(KneadWay::Restore, 2 * kWide), {kWide / 2.0, kHigh / 2.0},
                       {kWide / 2.0, kHigh / 2.0}, 1);
        QVERIFY(field.empty());
        const Picture truth = noise(kWide, kHigh, false),
                      out = remapped(Pyramid(noise(kWide, kHigh, false)), kneaded(field), kWide, kHigh);
        for (int y = 0; y < kHigh; ++y)
            for (int x = 0; x < kWide; ++x) QVERIFY(pixel(out, x, y)[3] == pixel(truth, x, y)[3]);
        // Where nothing was pushed, nothing can be restored or smoothed.
        for (const KneadWay way : {KneadWay::Restore, KneadWay::Smooth})
            QVERIFY(stroke({}, tip(way, 50), {50, 50}, {200, 200}, 9).empty());
    }

    /// Ordinary strokes, a hundred of them over each other, leave no fold.
    void noFolds() {
        std::mt19937 random(9);
        std::uniform_real_distribution<double> x(60, 420), y(60, 300);
        KneadField field;
        for (int i = 0; i < 60; ++i)
            field = stroke(field, tip(KneadWay(i % 5), 60, 0.7), {x(random), y(random)},
                           {x(random), y(random)}, 10);
        int folds = 0, count = 0;
        for (double py = 10; py < kHigh - 10; py += 2)
            for (double px = 10; px < kWide - 10; px += 2) {
                const Vec2 across = sourceOf(field, {px + 0.5, py}) - sourceOf(field, {px - 0.5, py}),
                           down = sourceOf(field, {px, py + 0.5}) - sourceOf(field, {px, py - 0.5});
                folds += across.x * down.y - across.y * down.x <= 0, ++count;
            }
        qInfo("folded at %d of %d places", folds, count);
        QVERIFY(folds <= count / 1000);
    }

    /// A small tip taken across the whole picture in one move costs what it touches.
    void aLongWayUnderASmallTip() {
        const KneadField field = stroke({}, tip(KneadWay::Push, 3), {5, 5}, {475, 355}, 1);
        QVERIFY((sourceOf(field, {474, 354}) - Vec2{474, 354}).length() > 1);
        const size_t whole = size_t(field.across) * size_t(field.across) * 3 / 4 * kShiftPixels.pixelBytes();
        QVERIFY2(field.shifts->bytes() < whole / 4, qPrintable(QString::number(field.shifts->bytes())));
    }

    void edgesHeldOrNot() {
        KneadTip held = tip(KneadWay::Push, 100);
        held.holdEdges = true;
        const KneadField still = stroke({}, held, {10, 180}, {110, 180}, 10);
        for (double y = 1; y < kHigh; y += 20) QVERIFY(std::abs(sourceOf(still, {0, y}).x) < 0.2);
        KneadField free = stroke({}, tip(KneadWay::Push, 100), {10, 180}, {110, 180}, 10);
        QVERIFY(sourceOf(free, {10, 180}).x < -5);
        const auto at = [&](PulledIn how) {
            free.pulledIn = how;
            return pixel(remapped(Pyramid(smoothPicture()), kneaded(free), kWide, kHigh), 10, 180);
        };
        QCOMPARE(at(PulledIn::Nothing)[3], 0);
        QVERIFY(std::abs(at(PulledIn::EdgeColour)[0] - smoothAt(0.5, 180)[0]) < 6);
        const double there = -sourceOf(free, {10.5, 180.5}).x;
        QVERIFY(std::abs(at(PulledIn::Mirror)[0] - smoothAt(there, 180)[0]) < 6);
    }

    /// A part that may not be moved stays; what may move by half stays behind.
    void protectedParts() {
        KneadTip how = tip(KneadWay::Push, 80);
        how.freedom = [](Vec2 p) { return float(std::clamp((p.x * kWide - 200) / 30, 0.0, 1.0)); };
        const KneadField field = stroke({}, how, {180, 180}, {260, 180}, 10);
        for (double x = 100; x < 195; x += 8)
            QVERIFY((sourceOf(field, {x, 180}) - Vec2{x, 180}).length() < 0.2);
        QVERIFY((sourceOf(field, {240, 180}) - Vec2{240, 180}).length() > 5);
    }

    void strengthAndFineness() {
        KneadField field = stroke({}, tip(KneadWay::Push, 90), {150, 180}, {230, 180}, 10);
        const Vec2 whole = sourceOf(field, {230, 180}) - Vec2{230, 180};
        field.strength = 0.5;
        QVERIFY((sourceOf(field, {230, 180}) - Vec2{230, 180} - whole * 0.5).length() < 1e-6);
        field.strength = 1;
        const KneadField fine = refined(field);
        QCOMPARE(fine.across, 2 * field.across);
        for (double x = 50; x < 400; x += 7.3)
            QVERIFY((sourceOf(fine, {x, 171}) - sourceOf(field, {x, 171})).length() < 0.05);
        // A brush of 5 px after one as large as the picture.
        const KneadField small = stroke(field, tip(KneadWay::Push, 2.5), {400, 60}, {403, 60}, 3);
        QVERIFY(small.across > field.across);
        QVERIFY((sourceOf(small, {403, 60}) - Vec2{403, 60}).length() > 1.5);
        QVERIFY((sourceOf(small, {230, 180}) - Vec2{230, 180} - whole).length() < 0.1);
    }
};

GLYPTOS_TEST(KneadTest)
#include "knead_test.moc"
