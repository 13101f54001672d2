#include "raster/path.h"
#include "support/register.h"

#include <numbers>

using namespace glyptos;

namespace {

double total(const Buffer<float>& cover) {
    double sum = 0;
    for (size_t i = 0; i < cover.size(); ++i) sum += cover[i];
    return sum;
}

Path circle(Vec2 c, double r) {
    const double k = r * 4 * (std::numbers::sqrt2 - 1) / 3; // the usual cubic arc; area off by under 0.03 %
    Path p;
    p.moveTo({c.x + r, c.y});
    p.cubicTo({c.x + r, c.y + k}, {c.x + k, c.y + r}, {c.x, c.y + r});
    p.cubicTo({c.x - k, c.y + r}, {c.x - r, c.y + k}, {c.x - r, c.y});
    p.cubicTo({c.x - r, c.y - k}, {c.x - k, c.y - r}, {c.x, c.y - r});
    p.cubicTo({c.x + k, c.y - r}, {c.x + r, c.y - k}, {c.x + r, c.y});
    return p;
}

} // namespace

class PathTest : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void rectangleToTheExactShare() {
        Path p;
        p.addRect({1.25, 0.5, 2.5, 1.75});
        const auto cover = coverage(p, {}, 5, 4);
        const double columns[] = {0, 0.75, 1, 0.75, 0}, rows[] = {0.5, 1, 0.25, 0};
        for (int y = 0; y < 4; ++y)
            for (int x = 0; x < 5; ++x)
                QVERIFY(std::abs(cover[size_t(y * 5 + x)] - columns[x] * rows[y]) < 1e-5);
    }

    void shapesOverTheEdges() {
        Path p;
        p.addRect({-100, -50, 103, 52}); // covers x < 3, y < 2
        const auto cover = coverage(p, {}, 6, 4);
        for (int y = 0; y < 4; ++y)
            for (int x = 0; x < 6; ++x) QCOMPARE(cover[size_t(y * 6 + x)], x < 3 && y < 2 ? 1.0f : 0.0f);
        Path far;
        far.addRect({50, 0, 10, 10});
        QCOMPARE(total(coverage(far, {}, 6, 4)), 0.0);
    }

    void areaOfACircle() {
        for (const double r : {3.3, 17.0, 60.0}) {
            const double area = total(coverage(circle({70.2, 69.7}, r), {}, 140, 140));
            QVERIFY(std::abs(area / (std::numbers::pi * r * r) - 1) <
                    0.006); // chords within 0.01 px of the curve
        }
    }

    void partsSeeTheSameAsTheWhole() {
        const Path p = circle({64, 64}, 41.3);
        const auto whole = coverage(p, {}, 128, 128);
        const auto part = coverage(p, Affine::translation(-64, -32), 64, 64);
        for (int y = 0; y < 64; ++y)
            for (int x = 0; x < 64; ++x)
                QVERIFY(std::abs(part[size_t(y * 64 + x)] - whole[size_t((y + 32) * 128 + x + 64)]) < 1e-4);
    }

    void holesAndOverlaps() {
        Path ring;
        ring.addRect({0, 0, 10, 10});
        ring.moveTo({3, 3}), ring.lineTo({3, 7}), ring.lineTo({7, 7}),
            ring.lineTo({7, 3}); // the other way round
        QVERIFY(std::abs(total(coverage(ring, {}, 10, 10)) - 84) < 1e-3);
        Path twice;
        twice.addRect({0, 0, 6, 6});
        twice.addRect({2, 2, 6, 6});
        QVERIFY(std::abs(total(coverage(twice, {}, 10, 10)) - (36 + 36 - 16)) < 1e-3);
    }
};

GLYPTOS_TEST(PathTest)
#include "path_test.moc"
