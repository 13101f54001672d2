// Facets drawn, against rays that are followed pixel by pixel.
#include "scene/draw/rasterize.h"

#include "support/register.h"

#include <set>

using namespace glyptos;

namespace {

constexpr int kWidth = 240, kHeight = 180;

/// Colours that change gently, so that how a picture is read between its pixels does not matter.
SurfacePicture gentle(int w, int h) {
    Buffer<uint8_t> bytes(size_t(w) * size_t(h) * 4);
    for (int y = 0; y < h; ++y)
        for (int x = 0; x < w; ++x) {
            uint8_t* p = bytes.data() + (size_t(y) * size_t(w) + size_t(x)) * 4;
            p[0] = uint8_t(std::lround(40 + 170 * (x + 0.5) / w)),
            p[1] = uint8_t(std::lround(60 + 150 * (y + 0.5) / h));
            p[2] = uint8_t(std::lround(200 - 120 * (x + 0.5) / w)), p[3] = 255;
        }
    return {std::move(bytes), w, h};
}

/// Light from everywhere alone: colours stay as they are printed.
constexpr Lamp kNoLamp{{0, 0, 1}, 1};

Facet board(Vec3 corner, Vec3 right, Vec3 down, const SurfacePicture* picture = nullptr) {
    Facet out;
    out.corner = corner, out.right = right, out.down = down, out.picture = picture;
    return out;
}

struct Pixel {
    int b, g, r, a;
};
Pixel at(const Buffer<uint8_t>& picture, int x, int y) {
    const uint8_t* p = picture.data() + (size_t(y) * kWidth + size_t(x)) * 4;
    return {p[0], p[1], p[2], p[3]};
}

Eye eyeOf(const Pose& turn, double distance = 400) {
    Eye eye;
    eye.turn = turn, eye.distance = distance, eye.focal = 300;
    return eye;
}

/// Where the ray through a point of the picture meets a facet: shares of its edges, or nothing.
std::optional<Vec2> met(const Facet& f, const Eye& eye, double x, double y) {
    const auto turned = [&](const Vec3& v) { return eye.turn.mapVector(v); };
    const Vec3 from{0, 0, eye.distance}, ray{x / eye.focal, y / eye.focal, -1};
    const Vec3 c = turned(f.corner - eye.middle), u = turned(f.right), v = turned(f.down), n = u.cross(v);
    const double k = n.dot(c - from) / n.dot(ray);
    if (k <= 0) return std::nullopt;
    const Vec3 on = from + ray * k - c;
    // By the reciprocal basis, as the edges need not be at right angles.
    const double s = v.cross(n).dot(on) / v.cross(n).dot(u), t = n.cross(u).dot(on) / n.cross(u).dot(v);
    return Vec2{s, t};
}

} // namespace

class DrawingTest : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void aSlantedPictureIsSeenInPerspective() {
        const SurfacePicture picture = gentle(300, 200);
        for (const Pose& turn : {Pose{}, turnedAbout({}, {0, 1, 0}, 55), turnedAbout({}, {1, 0, 0}, -48),
                                 turnedAbout({}, Vec3{1, 2, 3}.unit(), 63)}) {
            const Facet facet = board({-75, -50, 8}, {150, 0, 0}, {12, 100, 0}, &picture);
            const Eye eye = eyeOf(turn);
            const auto drawn = drawFacets(std::span(&facet, 1), eye, kNoLamp, {kWidth, kHeight, 1});
            int inside = 0;
            for (int y = 0; y < kHeight; ++y)
                for (int x = 0; x < kWidth; ++x) {
                    const auto on = met(facet, eye, x + 0.5 - kWidth / 2.0, y + 0.5 - kHeight / 2.0);
                    const auto deep = [&](double by) {
                        return on && on->x > by && on->x < 1 - by && on->y > by && on->y < 1 - by;
                    };
                    const Pixel p = at(drawn, x, y);
                    if (deep(0.04)) {
                        ++inside;
                        QCOMPARE(p.a, 255);
                        QVERIFY(std::abs(p.b - (40 + 170 * on->x)) <
                                2.6); // sizes halved from odd ones are off by up to a hundredth
                        QVERIFY(std::abs(p.g - (60 + 150 * on->y)) <
                                2.6); // sizes halved from odd ones are off by up to a hundredth
                        QVERIFY(std::abs(p.r - (200 - 120 * on->x)) <
                                2.6); // sizes halved from odd ones are off by up to a hundredth
                    } else if (!deep(-0.04)) {
                        QCOMPARE(p.a, 0);
                    }
                }
            QVERIFY2(inside > 1500, qPrintable(QString::number(inside)));
        }
    }

    /// How much of an edge pixel is covered is what its area is, the finer the nearer.
    void edgesAreAsWideAsTheyAre() {
        const Facet facet = board({-60, -40, 0}, {120, 7, 0}, {-5, 80, 0});
        const double area = 120 * 80 + 5 * 7.0; // px: a unit is a pixel at this distance
        for (const int finer : {1, 2, 3}) {
            const auto drawn =
                drawFacets(std::span(&facet, 1), eyeOf({}, 300), kNoLamp, {kWidth, kHeight, finer});
            double covered = 0;
            for (int y = 0; y < kHeight; ++y)
                for (int x = 0; x < kWidth; ++x) covered += at(drawn, x, y).a / 255.0;
            QVERIFY2(std::abs(covered - area) < 12.0 / finer, qPrintable(QString::number(covered - area)));
        }
    }

    /// Under even light every grey is as it is printed, to the last step.
    void greysStayAsTheyAre() {
        for (int grey = 0; grey < 256; ++grey) {
            Facet facet = board({-60, -40, 0}, {120, 0, 0}, {0, 80, 0});
            facet.colour = {float(grey) / 255, float(grey) / 255, float(grey) / 255};
            const auto drawn = drawFacets(std::span(&facet, 1), eyeOf({}), kNoLamp, {kWidth, kHeight, 1});
            const Pixel p = at(drawn, kWidth / 2, kHeight / 2);
            QVERIFY2(p.r == grey && p.g == grey && p.b == grey, qPrintable(QString::number(grey)));
        }
    }

    /// What is seen through is laid over what lies behind it, near over far, whichever is named first.
    void whatIsSeenThroughTints() {
        Facet ground = board({-60, -60, -40}, {120, 0, 0}, {0, 120, 0}),
              far = board({-40, -40, 0}, {80, 0, 0}, {0, 80, 0}),
              near = board({-20, -20, 30}, {120, 0, 0}, {0, 40, 0});
        ground.colour = {1, 1, 1}, far.colour = {1, 0, 0}, near.colour = {0, 0, 1};
        far.opacity = 0.5F, near.opacity = 0.25F;
        for (std::vector<Facet> all : {std::vector{ground, far, near}, std::vector{near, ground, far}}) {
            const auto drawn = drawFacets(all, eyeOf({}), kNoLamp, {kWidth, kHeight, 1});
            const Pixel both = at(drawn, kWidth / 2, kHeight / 2);
            QVERIFY(std::abs(both.r - 191) <= 2 && std::abs(both.g - 96) <= 2 && std::abs(both.b - 159) <= 2);
            QCOMPARE(both.a, 255);
            // Beside the ground it is as thin as it is.
            const Pixel alone = at(drawn, kWidth / 2 + 75, kHeight / 2);
            QVERIFY(std::abs(alone.a - 64) <= 2 && std::abs(alone.b - 64) <= 2 && alone.r == 0);
        }
        // Behind what is nearer it is not seen.
        Facet front = board({-60, -60, 60}, {120, 0, 0}, {0, 120, 0});
        front.colour = {0, 1, 0};
        const std::vector hidden{near, front};
        const Pixel p =
            at(drawFacets(hidden, eyeOf({}), kNoLamp, {kWidth, kHeight, 1}), kWidth / 2, kHeight / 2);
        QVERIFY(p.g == 255 && p.b == 0);
    }

    /// It throws no shadow; board of the same place does.
    void whatIsSeenThroughThrowsNoShadow() {
        const auto lit = [&](float opacity) {
            Facet ground = board({-100, -60, 0}, {200, 0, 0}, {0, 120, 0}),
                  over = board({-10, -10, 40}, {20, 0, 0}, {0, 20, 0});
            ground.colour = {0.6F, 0.6F, 0.6F}, over.colour = {0, 0, 0}, over.opacity = opacity;
            // The lamp stands at one side, so that the shadow lies beside what throws it.
            const std::vector all{ground, over};
            const Eye eye = eyeOf({});
            const auto drawn = drawFacets(all, eye, {{0.8, 0, 1}, 0.4}, {kWidth, kHeight, 1});
            int dark = 0;
            for (int x = 0; x < kWidth; ++x)
                dark += at(drawn, x, kHeight / 2).r < 140 && at(drawn, x, kHeight / 2).r > 20;
            return dark;
        };
        QVERIFY(lit(1) > 5);
        QCOMPARE(lit(0.02F), 0);
    }

    void whatIsNearerHidesWhatIsFarther() {
        Facet back = board({-60, -60, -40}, {120, 0, 0}, {0, 120, 0}),
              front = board({-20, -20, 30}, {40, 0, 0}, {0, 40, 0});
        back.colour = {1, 0, 0}, front.colour = {0, 0, 1};
        for (const bool first : {false, true}) {
            const std::vector<Facet> all = first ? std::vector{front, back} : std::vector{back, front};
            const auto drawn = drawFacets(all, eyeOf({}), kNoLamp, {kWidth, kHeight, 1});
            QCOMPARE(at(drawn, kWidth / 2, kHeight / 2).b, 255);
            QCOMPARE(at(drawn, kWidth / 2 + 30, kHeight / 2).r, 255);
        }
        // Two that cross are each seen where they are in front.
        Facet slanted = board({-60, -60, -60}, {120, 0, 120}, {0, 120, 0});
        slanted.colour = {0, 1, 0};
        Facet level = board({-60, -60, 0}, {120, 0, 0}, {0, 120, 0});
        const auto drawn = drawFacets(std::vector{level, slanted}, eyeOf({}), kNoLamp, {kWidth, kHeight, 1});
        QVERIFY(at(drawn, kWidth / 2 - 20, kHeight / 2).r > 200);
        QVERIFY(at(drawn, kWidth / 2 + 20, kHeight / 2).r == 0);
    }

    void theOtherSideIsNotSeen() {
        const Facet facet = board({-50, -50, 0}, {100, 0, 0}, {0, 100, 0});
        const auto drawn = drawFacets(std::span(&facet, 1), eyeOf(turnedAbout({}, {0, 1, 0}, 170)), kNoLamp,
                                      {kWidth, kHeight, 1});
        for (size_t i = 0; i < drawn.size(); ++i) QCOMPARE(int(drawn[i]), 0);
    }

    void whatIsBehindTheEyeIsLeftOut() {
        for (const double z : {399.9, 400.0, 500.0}) {
            const Facet facet = board({-50, -50, z}, {100, 0, 0}, {0, 100, 0});
            const auto drawn = drawFacets(std::span(&facet, 1), eyeOf({}), kNoLamp, {kWidth, kHeight, 1});
            QCOMPARE(at(drawn, kWidth / 2, kHeight / 2).a, 0);
        }
        const Facet flat = board({0, 0, 0}, {100, 0, 0}, {200, 0, 0});
        drawFacets(std::span(&flat, 1), eyeOf({}), kNoLamp, {kWidth, kHeight, 1});
        QVERIFY(!seenAt({0, 0, 400}, eyeOf({})));
    }

    void aHoleShowsWhatIsBehind() {
        Buffer<uint8_t> bytes(64 * 64 * 4);
        for (size_t i = 0; i < 64 * 64; ++i) {
            const double x = double(i % 64) - 31.5, y = double(i / 64) - 31.5;
            bytes[4 * i] = bytes[4 * i + 1] = bytes[4 * i + 2] = 255;
            bytes[4 * i + 3] = std::hypot(x, y) < 16 ? 0 : 255;
        }
        const SurfacePicture ring(std::move(bytes), 64, 64);
        Facet behind = board({-80, -80, -30}, {160, 0, 0}, {0, 160, 0});
        behind.colour = {1, 0, 0};
        const auto drawn =
            drawFacets(std::vector{board({-50, -50, 0}, {100, 0, 0}, {0, 100, 0}, &ring), behind}, eyeOf({}),
                       kNoLamp, {kWidth, kHeight, 2});
        QCOMPARE(at(drawn, kWidth / 2, kHeight / 2).g, 0);
        QCOMPARE(at(drawn, kWidth / 2, kHeight / 2).r, 255);
        QCOMPARE(at(drawn, kWidth / 2 + 30, kHeight / 2).g, 255);
    }

    /// Board in front of another keeps the lamp's light from it, where the rays go that meet it.
    void boardThrowsAShadow() {
        const Facet wall = board({-80, -60, -60}, {160, 0, 0}, {0, 120, 0}),
                    bar = board({-10, -60, 0}, {20, 0, 0}, {0, 120, 0});
        const Lamp lamp{{-1, 0, 1}, 0.4};
        const auto drawn = drawFacets(std::vector{wall, bar}, eyeOf({}), lamp, {kWidth, kHeight, 1});
        // Light falls at 45° from the left: the shadow lies 60 farther to the right.
        const auto seen = [&](double x) {
            const Vec2 p = *seenAt({x, 0, -60}, eyeOf({}));
            return at(drawn, int(p.x + kWidth / 2.0), kHeight / 2).g;
        };
        QCOMPARE(seen(35), 255);
        QCOMPARE(seen(78), 255);
        // 0.4 of the light in linear light (IEC 61966-2-1) is 0.665 of the byte.
        QVERIFY2(std::abs(seen(60) - 0.665 * 255) < 3, qPrintable(QString::number(seen(60))));
    }

    /// No surface throws a shadow on itself, however the light grazes it.
    void surfacesAreEvenlyLit() {
        for (const double degrees : {0.0, 30.0, 55.0, 70.0}) {
            const Facet facet = board({-70, -50, 0}, {140, 0, 0}, {0, 100, 0});
            const Pose turn = turnedAbout({}, Vec3{0.3, 1, 0}.unit(), degrees);
            const Eye eye = eyeOf(turn);
            const auto drawn = drawFacets(std::span(&facet, 1), eye, Lamp{}, {kWidth, kHeight, 1});
            std::set<int> seen;
            for (int y = 0; y < kHeight; ++y)
                for (int x = 0; x < kWidth; ++x) {
                    const auto on = met(facet, eye, x + 0.5 - kWidth / 2.0, y + 0.5 - kHeight / 2.0);
                    if (on && on->x > 0.05 && on->x < 0.95 && on->y > 0.05 && on->y < 0.95)
                        seen.insert(at(drawn, x, y).g);
                }
            QVERIFY2(seen.size() <= 2, qPrintable(QString::number(seen.size())));
        }
    }

    void fineDetailBecomesItsMean() {
        // Stripes of one pixel, seen far smaller than they are: no stripes are left.
        Buffer<uint8_t> bytes(512 * 512 * 4);
        for (size_t i = 0; i < 512 * 512; ++i) {
            for (size_t c = 0; c < 3; ++c) bytes[4 * i + c] = i % 2 ? 255 : 0;
            bytes[4 * i + 3] = 255;
        }
        const SurfacePicture stripes(std::move(bytes), 512, 512);
        const Facet facet = board({-40, -40, 0}, {80, 0, 0}, {0, 80, 0}, &stripes);
        const auto drawn = drawFacets(std::span(&facet, 1), eyeOf(turnedAbout({}, {0, 1, 0}, 40)), kNoLamp,
                                      {kWidth, kHeight, 1});
        for (int x = -15; x <= 15; ++x) QVERIFY(std::abs(at(drawn, kWidth / 2 + x, kHeight / 2).g - 128) < 6);
    }

    void itStopsWhenItIsToldTo() {
        const Facet facet = board({-50, -50, 0}, {100, 0, 0}, {0, 100, 0});
        const std::atomic<bool> stop = true;
        drawFacets(std::span(&facet, 1), eyeOf({}), kNoLamp, {kWidth, kHeight, 1}, &stop);
    }
};

GLYPTOS_TEST(DrawingTest)
#include "drawing_test.moc"
