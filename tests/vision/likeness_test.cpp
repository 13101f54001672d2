// Likeness and saliency on pictures whose answers are known: a picture, its crop, its darker copy, a
// stranger.
#include "support/pictures.h"
#include "support/register.h"
#include "vision/likeness.h"
#include "vision/saliency.h"

using namespace glyptos;
using namespace glyptos::test;

namespace {

using Paint4 = std::array<uint8_t, 4>;

/// A sea: sky above, waves below, a lighthouse at x of the width.
Paint4 sea(double x, double y) {
    if (std::abs(x - 0.3) < 0.03 && y > 0.2 && y < 0.6) return {230, 225, 215, 255};
    if (y < 0.5) return {uint8_t(120 + 80 * y), uint8_t(150 + 60 * y), 200, 255};
    const double wave = std::sin(y * 120 + 4 * std::sin(x * 9));
    return {uint8_t(30 + 20 * wave), uint8_t(70 + 30 * wave), uint8_t(100 + 30 * wave), 255};
}
/// Upright rusty planks.
Paint4 planks(double x, double) {
    const bool gap = std::fmod(x * 14, 1.0) < 0.12;
    return gap ? Paint4{20, 10, 5, 255} : Paint4{170, 90, 40, 255};
}

Pyramid picture(int width, int height, const std::function<Paint4(double, double)>& shade) {
    return Pyramid(
        pictureOf(width, height, [&](int x, int y) { return shade((x + 0.5) / width, (y + 0.5) / height); }));
}

Traits traits(const Pyramid& p) {
    return traitsOf(p, paletteOf(p));
}

Paint4 dimmed(Paint4 c, double k) {
    return {uint8_t(c[0] * k), uint8_t(c[1] * k), uint8_t(c[2] * k), 255};
}

} // namespace

class LikenessTest : public QObject {
    Q_OBJECT
    const Traits same = traits(picture(400, 300, sea));
    const Traits small = traits(picture(200, 150, sea));
    const Traits crop =
        traits(picture(300, 240, [](double x, double y) { return sea(0.1 + 0.8 * x, 0.1 + 0.8 * y); }));
    const Traits darker =
        traits(picture(400, 300, [](double x, double y) { return dimmed(sea(x, y), 0.6); }));
    const Traits stranger = traits(picture(400, 300, planks));
    const Traits recoloured = traits(picture(400, 300, [](double x, double y) {
        const Paint4 c = sea(x, y);
        return Paint4{c[2], c[0], c[1], 255};
    }));

  private Q_SLOTS:
    void relativesComeBeforeStrangers() {
        for (const LikenessWeights& weights :
             {LikenessWeights{1, 1}, LikenessWeights{0, 1}, LikenessWeights{0.5, 2}}) {
            QVERIFY(difference(same, same, weights) < 1e-9);
            QVERIFY(difference(same, small, weights) < 0.1);
            for (const Traits* relative : {&crop, &darker})
                QVERIFY(difference(same, *relative, weights) < 0.6 * difference(same, stranger, weights));
        }
        QVERIFY(colourDifference(same, crop) < 0.3 * colourDifference(same, stranger));
    }

    void structureIsBlindToColourAndTheOtherWayRound() {
        QVERIFY(structureDifference(same, darker) < 0.1);
        QVERIFY(structureDifference(same, recoloured) < 0.25);
        QVERIFY(colourDifference(same, recoloured) > 5 * colourDifference(same, crop));
        const Traits turned = traits(picture(300, 400, [](double x, double y) { return sea(y, 1 - x); }));
        QVERIFY(colourDifference(same, turned) < 0.1);
        QVERIFY(structureDifference(same, turned) > 0.4);
    }

    void differencesAreMutual() {
        for (const Traits* a : {&same, &crop, &stranger})
            for (const Traits* b : {&darker, &recoloured, &stranger})
                QVERIFY(std::abs(difference(*a, *b, {1, 1}) - difference(*b, *a, {1, 1})) < 1e-6);
    }

    void orderedFromTheMostAlike() {
        const std::vector<const Traits*> all{&stranger, &darker, &same, &crop};
        const auto found = relatives(same, all, {1, 1}, 3);
        QCOMPARE(found.size(), size_t(3));
        QCOMPARE(found[0].index, size_t(2));
        QVERIFY(found[1].index != 0 && found[2].index != 0);
        QCOMPARE(relatives(same, all, {1, 1}, 99).back().index, size_t(0));
    }

    void evenPicturesHaveNoEdges() {
        const Traits even = traits(picture(64, 64, [](double, double) { return Paint4{90, 90, 90, 255}; }));
        for (const uint8_t v : even.edges) QCOMPARE(int(v), 0);
        for (size_t field = 0; field < 21; ++field) {
            int sum = 0;
            for (size_t i = 0; i < 8; ++i) sum += same.edges[field * 8 + i];
            QVERIFY(sum == 0 || std::abs(sum - 255) <= 4);
        }
    }

    void onePixelIsAPicture() {
        const Traits dot = traits(picture(1, 1, [](double, double) { return Paint4{200, 0, 0, 255}; }));
        QVERIFY(difference(dot, stranger, {1, 1}) > 0.3);
    }

    /// A bright keeper on one side of a wide grey shore.
    void theSubjectStaysInFrame() {
        for (const double at : {0.15, 0.5, 0.85}) {
            const Pyramid shore = picture(600, 200, [=](double x, double y) {
                return std::hypot((x - at) * 3, y - 0.5) < 0.2 ? Paint4{230, 90, 30, 255}
                                                               : Paint4{110, 112, 115, 255};
            });
            const Rect part = partInFrame(saliencyOf(shore), 3, 1);
            QVERIFY(std::abs(part.w - 1 / 3.0) < 1e-9 && part.h == 1 && part.y == 0);
            QVERIFY2(part.x <= at - 0.067 + 1e-9 && part.right() >= at + 0.067 - 1e-9,
                     qPrintable(QString::number(part.x)));
            QVERIFY(part.x >= 0 && part.right() <= 1 + 1e-9);
        }
    }

    void withoutASubjectTheMiddleShows() {
        const Pyramid even = picture(200, 600, [](double, double) { return Paint4{90, 90, 90, 255}; });
        const Rect part = partInFrame(saliencyOf(even), 1 / 3.0, 1);
        QVERIFY(std::abs(part.y - 1 / 3.0) < 0.01 && std::abs(part.h - 1 / 3.0) < 1e-9 && part.w == 1);
        const Rect all = partInFrame(saliencyOf(even), 1 / 3.0, 1 / 3.0);
        QVERIFY(std::abs(all.w - 1) < 1e-9 && std::abs(all.h - 1) < 1e-9);
    }
};

GLYPTOS_TEST(LikenessTest)
#include "likeness_test.moc"
