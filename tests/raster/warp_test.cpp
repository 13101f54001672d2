// Pictures tilted and bent, against mappings and averages worked out independently.
#include "raster/warp/remap.h"
#include "support/register.h"
#include "support/warps.h"

using namespace glyptos;
using namespace glyptos::test;

class WarpTest : public QObject {
    Q_OBJECT

  private Q_SLOTS:
    /// Against the four equations of two lines each, solved by hand: the cross ratio along an edge.
    void tiltedPlane() {
        const std::array<Vec2, 4> corners{Vec2{60, 40}, {430, 15}, {470, 330}, {20, 250}};
        const auto plane = Homography::toCorners(corners);
        QVERIFY(plane);
        const std::array<Vec2, 4> unit{Vec2{0, 0}, {1, 0}, {1, 1}, {0, 1}};
        for (size_t i = 0; i < 4; ++i) QVERIFY((*plane->map(unit[i]) - corners[i]).length() < 1e-9);
        // Lines stay lines, and diagonals meet in the middle.
        const auto cross = [](Vec2 a, Vec2 b) { return a.x * b.y - a.y * b.x; };
        const Vec2 d = corners[2] - corners[0], e = corners[3] - corners[1];
        const Vec2 middle = corners[0] + d * (cross(corners[1] - corners[0], e) / cross(d, e));
        QVERIFY((*plane->map({0.5, 0.5}) - middle).length() < 1e-9);
        const auto back = plane->inverse();
        QVERIFY(back);
        const Mapping mapping =
            Mapping(Mapping::Stage(*plane)) * Mapping(Affine::scaling(1.0 / kWide, 1.0 / kHigh));
        compare(
            remapped(Pyramid(smoothPicture()), mapping, kWide, kHigh),
            [&](Vec2 p) -> std::optional<Vec2> {
                const auto uv = back->map(p);
                return uv ? std::optional(Vec2{uv->x * kWide, uv->y * kHigh}) : std::nullopt;
            },
            40000);
    }

    void cornersThatMakeNoPlane() {
        using Corners = std::array<Vec2, 4>;
        QVERIFY(!Homography::toCorners(Corners{Vec2{0, 0}, {1, 0}, {0, 1}, {1, 1}})); // crossed
        QVERIFY(!Homography::toCorners(Corners{Vec2{0, 0}, {1, 0}, {2, 0}, {0, 1}})); // on a line
        QVERIFY(!Homography::toCorners(Corners{Vec2{0, 0}, {0, 0}, {1, 1}, {0, 1}})); // one point twice
        QVERIFY(!Homography::toCorners(Corners{Vec2{0, 0}, {4, 0}, {1, 1}, {0, 4}})); // one inside
        QVERIFY(!Homography::toCorners(Corners{Vec2{0, 0}, {std::nan(""), 0}, {1, 1}, {0, 1}}));
        QVERIFY(Homography::toCorners(Corners{Vec2{1, 0}, {0, 0}, {0, 1}, {1, 1}})); // mirrored
    }

    void evenGridIsTheIdentity_data() {
        QTest::addColumn<int>("columns");
        QTest::addColumn<int>("rows");
        for (const auto& [c, r] : {std::pair{1, 1}, {2, 2}, {3, 5}, {8, 6}, {64, 1}})
            QTest::addRow("%d by %d", c, r) << c << r;
    }
    void evenGridIsTheIdentity() {
        QFETCH(const int, columns);
        QFETCH(const int, rows);
        const Picture truth = noise(kWide, kHigh, true);
        const Mapping mapping(BendStage{std::make_shared<const BendSurface>(evenGrid(columns, rows)), kBox});
        const Picture out = remapped(Pyramid(noise(kWide, kHigh, true)), mapping, kWide, kHigh);
        for (int y = 0; y < kHigh; ++y)
            for (int x = 0; x < kWide; ++x)
                for (size_t c = 0; c < 4; ++c)
                    QVERIFY2(std::abs(pixel(out, x, y)[c] - pixel(truth, x, y)[c]) <= 1,
                             qPrintable(QString("%1, %2").arg(x).arg(y)));
    }

    /// A bend of known formula, told to the grid at its points alone, against the formula inverted by
    /// bisection.
    void bentByAFormula() {
        const auto bent = [](Vec2 p) {
            return Vec2{p.x + 26 * std::sin(p.y / 70), p.y + 18 * std::sin(p.x / 90)};
        };
        const int columns = 12, rows = 9;
        BendGrid grid = evenGrid(columns, rows);
        for (BendNode& n : grid.nodes) {
            const Vec2 p = bent({n.at.x * kWide, n.at.y * kHigh});
            n.at = {p.x / kWide, p.y / kHigh};
        }
        const auto surface = std::make_shared<const BendSurface>(grid);
        QVERIFY(!surface->isFolded());
        const auto inverse = [&](Vec2 q) -> std::optional<Vec2> {
            Vec2 p = q;
            for (int i = 0; i < 200; ++i) p = p + (q - bent(p)) * 0.7;
            return p;
        };
        compare(remapped(Pyramid(smoothPicture()), Mapping(BendStage{surface, kBox}), kWide, kHigh), inverse,
                120000);
    }

    /// Through its points, and without a kink where cells meet, also where a slope was dragged.
    void surfaceThroughItsPoints() {
        std::mt19937 random(3);
        std::uniform_real_distribution<double> off(-0.03, 0.03);
        BendGrid grid = evenGrid(5, 4);
        for (BendNode& n : grid.nodes) n.at = n.at + Vec2{off(random), off(random)};
        grid.node(2, 2).across = Vec2{0.18, 0.06};
        const BendSurface surface(grid);
        QVERIFY((surface.slopesAt(2, 2).across.value() - Vec2{0.18, 0.06}).length() < 1e-12);
        for (int r = 0; r <= 4; ++r)
            for (int c = 0; c <= 5; ++c) {
                const Vec2 uv{c / 5.0, r / 4.0};
                QVERIFY((surface.at(uv).at - grid.node(c, r).at).length() * kWide < 0.3);
                const auto found = surface.back(grid.node(c, r).at);
                QVERIFY(found && (surface.at(*found).at - grid.node(c, r).at).length() < 1e-5);
            }
        constexpr double kStep = 1e-5;
        for (int i = 1; i < 5; ++i)
            for (double v = 0.03; v < 1; v += 0.07) {
                const double u = i / 5.0;
                const auto left = surface.at({u - kStep, v}), right = surface.at({u + kStep, v});
                QVERIFY((left.across - right.across).length() < 0.01);
                QVERIFY((left.at - right.at).length() < 1e-3);
            }
    }

    void moreCellsChangeNothing() {
        BendGrid grid = readyBend(ReadyBend::Arc, 0.6, 1, 4, 4);
        const BendSurface before(grid), after(withCells(grid, 8, 8));
        for (double v = 0; v <= 1; v += 0.1)
            for (double u = 0; u <= 1; u += 0.1)
                QVERIFY((before.at({u, v}).at - after.at({u, v}).at).length() < 2e-3);
    }

    void readyBends() {
        for (const ReadyBend kind :
             {ReadyBend::Arc, ReadyBend::Wave, ReadyBend::Bulge, ReadyBend::Flag, ReadyBend::FishEye}) {
            for (const BendNode& n : readyBend(kind, 0, 0.75, 4, 4).nodes)
                QVERIFY(n.at.x >= 0 && n.at.x <= 1);
            QCOMPARE(readyBend(kind, 0, 1, 3, 2), evenGrid(3, 2));
            for (const double amount : {-0.7, 0.3, 1.0}) {
                QVERIFY(!(readyBend(kind, amount, 1, 4, 4) == evenGrid(4, 4)));
                for (const double aspect : {0.2, 1.0, 3.0})
                    QVERIFY(!BendSurface(readyBend(kind, amount, aspect, 6, 6)).isFolded());
            }
        }
    }

    /// Folded over itself the part that comes later is seen, and nothing breaks.
    void foldedGrid() {
        BendGrid grid = evenGrid(3, 1);
        grid.node(2, 0).at.x = 0.2, grid.node(2, 1).at.x = 0.2;
        const auto surface = std::make_shared<const BendSurface>(grid);
        QVERIFY(surface->isFolded());
        const Picture out =
            remapped(Pyramid(smoothPicture()), Mapping(BendStage{surface, kBox}), kWide, kHigh);
        QCOMPARE(pixel(out, kWide - 40, 100)[3], 255);
    }

    /// A fine pattern made ten times smaller: as little is left of it as of the exact average of its areas.
    void noAliasing() {
        const int side = 1600;
        const auto shade = [](int x, int y) {
            const double r = std::hypot(x - 800.0, y - 800.0);
            const auto v = uint8_t(127.5 + 120 * std::cos(r * r / 700));
            return std::array<uint8_t, 4>{v, v, v, 255};
        };
        const Picture fine = pictureOf(side, side, shade);
        std::vector<double> exact(160 * 160);
        for (int y = 0; y < side; ++y)
            for (int x = 0; x < side; ++x)
                exact[size_t(y / 10) * 160 + size_t(x / 10)] += pixel(fine, x, y)[0] / 100.0;
        // Turned by a knead that moves nothing much, so that it is no affine map.
        const auto plane = Homography::toCorners({Vec2{0, 0}, {160, 0}, {160.01, 160}, {0, 160}});
        QVERIFY(plane);
        const Mapping mapping =
            Mapping(Mapping::Stage(*plane)) * Mapping(Affine::scaling(1.0 / side, 1.0 / side));
        const Picture out = remapped(Pyramid(pictureOf(side, side, shade)), mapping, 160, 160);
        double ours = 0, theirs = 0;
        int count = 0;
        for (int y = 2; y < 158; ++y)
            for (int x = 2; x < 158; ++x) {
                // Where the pattern is finer than two pixels all of it should be gone: what is left is
                // aliasing.
                const double r = std::hypot(x * 10 - 800.0, y * 10 - 800.0);
                if (r < 2 * 3.14159 * 700 / 2 / 20 * 1.5) continue;
                ours += std::pow(pixel(out, x, y)[0] - 127.5, 2);
                theirs += std::pow(exact[size_t(y) * 160 + size_t(x)] - 127.5, 2), ++count;
            }
        qInfo("aliasing: %.2f, of an exact average %.2f", std::sqrt(ours / count), std::sqrt(theirs / count));
        QVERIFY(std::sqrt(ours / count) <= 1.5 * std::sqrt(theirs / count));
    }

    /// Laid flat into the distance: what is far is averaged, what is near stays sharp.
    void intoTheDistance() {
        const auto shade = [](int x, int) {
            const uint8_t v = (x / 2) % 2 ? 255 : 0;
            return std::array<uint8_t, 4>{v, v, v, 255};
        };
        const auto plane = Homography::toCorners({Vec2{220, 10}, {260, 10}, {480, 360}, {0, 360}});
        QVERIFY(plane);
        const Mapping mapping =
            Mapping(Mapping::Stage(*plane)) * Mapping(Affine::scaling(1.0 / kWide, 1.0 / kHigh));
        const Picture out = remapped(Pyramid(pictureOf(kWide, kHigh, shade)), mapping, kWide, kHigh);
        for (int x = 226; x < 254; ++x) QVERIFY(std::abs(pixel(out, x, 14)[0] - 127) < 40);
        int black = 0, white = 0;
        for (int x = 20; x < 460; ++x) black += pixel(out, x, 357)[0]<40, white += pixel(out, x, 357)[0]> 215;
        QVERIFY(black > 120 && white > 120);
    }

    void everyAlphaAndDepth() {
        // See-through pixels keep no colour that shines into others.
        const auto shade = [](int x, int y) {
            return x < 60 ? std::array<uint8_t, 4>{255, 0, 0, 0}
                          : std::array<uint8_t, 4>{0, uint8_t(y), 200, 255};
        };
        const auto plane = Homography::toCorners({Vec2{3, 2}, {117, 6}, {112, 80}, {1, 76}});
        const Mapping mapping =
            Mapping(Mapping::Stage(*plane)) * Mapping(Affine::scaling(1.0 / 120, 1.0 / 80));
        const Picture out = remapped(Pyramid(pictureOf(120, 80, shade)), mapping, 120, 80);
        for (int y = 0; y < 80; ++y)
            for (int x = 0; x < 120; ++x)
                if (pixel(out, x, y)[3] > 3) QVERIFY(pixel(out, x, y)[0] <= 2);
        Picture deep = Picture::create<uint16_t>(120, 80);
        deep.opaque = true;
        for (int y = 0; y < 80; ++y)
            for (int x = 0; x < 120; ++x) {
                uint16_t* p = deep.row<uint16_t>(y) + ptrdiff_t(4) * x;
                p[0] = uint16_t(20000 + x), p[1] = uint16_t(500 * y), p[2] = 12345, p[3] = 65535;
            }
        const Picture deepOut = remapped(Pyramid(std::move(deep)), mapping, 120, 80);
        QVERIFY(deepOut.is16());
        QVERIFY(std::abs(int(deepOut.row<uint16_t>(40)[4 * 60 + 2]) - 12345) <= 1);
        QVERIFY(std::abs(int(deepOut.row<uint16_t>(40)[4 * 60]) - 20060) <= 12);
    }

    /// Outlines go where the pixels go.
    void outlinesGoAlong() {
        const KneadField field = stroke({}, tip(KneadWay::Push, 90), {150, 180}, {230, 200}, 10);
        const auto plane = Homography::toCorners({Vec2{0.1, 0}, {0.9, 0.1}, {1, 1}, {0, 0.8}});
        const Mapping mapping =
            Mapping(Affine::scaling(kWide, kHigh)) * Mapping(Mapping::Stage(*plane)) *
            Mapping(Affine::scaling(1.0 / kWide, 1.0 / kHigh)) *
            Mapping(BendStage{std::make_shared<const BendSurface>(readyBend(ReadyBend::Wave, 0.5, 1, 5, 5)),
                              kBox}) *
            kneaded(field);
        const BackMapping back(mapping, kBox.grown(100));
        BackMapping::Near near;
        for (double y = 40; y < 330; y += 23)
            for (double x = 40; x < 440; x += 23) {
                const auto seen = mapping.map({x, y});
                QVERIFY(seen);
                const auto found = back.map(*seen, near);
                QVERIFY2(found && (*found - Vec2{x, y}).length() < 0.05,
                         qPrintable(QString("%1, %2").arg(x).arg(y)));
            }
        Path line;
        line.addRect({100, 100, 200, 150});
        const Path curved = mapped(line, mapping, 0.05);
        QVERIFY(curved.points().size() > 40);
        QVERIFY((curved.points()[0] - *mapping.map({100, 100})).length() < 1e-9);
        // Where a point lies behind the eye it is left out.
        const auto steep = Homography::toCorners({Vec2{0.48, 0}, {0.52, 0}, {3, 1}, {-2, 1}});
        Path far;
        far.addRect({-5, -5, 10, 10});
        const Path seen = mapped(far, Mapping(Mapping::Stage(*steep)), 0.05);
        for (const Vec2& p : seen.points()) QVERIFY(std::isfinite(p.x));
    }

    void boundsHoldAll() {
        const Mapping mapping =
            Mapping(
                Mapping::Stage(*Homography::toCorners({Vec2{30, 10}, {300, 60}, {280, 250}, {10, 200}}))) *
            Mapping(Affine::scaling(1.0 / kWide, 1.0 / kHigh)) *
            kneaded(stroke({}, tip(KneadWay::Spread, 140), {240, 180}, {240, 180}, 5));
        const Rect bounds = mapping.mapBounds(kBox);
        for (double y = 0; y <= kHigh; y += 12)
            for (double x = 0; x <= kWide; x += 12)
                QVERIFY(bounds.grown(1e-6).contains(*mapping.map({x, y})));
    }
};

GLYPTOS_TEST(WarpTest)
#include "warp_test.moc"
