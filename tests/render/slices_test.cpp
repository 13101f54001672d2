// A layer cut into slices: what parts lines make, and what the slices show.
#include "render/slices.h"

#include "file/data_folder.h"
#include "release/walks.h"
#include "render/renderer.h"
#include "support/pictures.h"
#include "support/register.h"

#include <cmath>
#include <set>

using namespace glyptos;
using namespace glyptos::test;

namespace {

/// Signed areas of straight outlines, added up: holes count against.
double areaOf(const CutPart& part) {
    double sum = 0;
    for (const Contour& c : part.outline)
        for (size_t i = 0; i < c.nodes.size(); ++i) {
            const Vec2 a = c.nodes[i].at, b = c.nodes[(i + 1) % c.nodes.size()].at;
            sum += (a.x * b.y - b.x * a.y) / 2;
        }
    return std::abs(sum);
}

double areaOf(const std::vector<CutPart>& parts) {
    double sum = 0;
    for (const CutPart& part : parts) sum += areaOf(part);
    return sum;
}

} // namespace

class SlicesTest : public QObject {
    Q_OBJECT
    static constexpr Rect kArea{100, 50, 300, 400};

    HeldPictures pictures;
    const FontLibrary fonts{dataFolder() / "fonts", true};

    /// Opaque red over nothing at (100, 100), 200 × 300.
    static std::pair<ReleasePtr, std::string> redBox(double opacity = 1) {
        ReleasePtr release = screenRelease(600, 500);
        ShapeContent shape;
        shape.width = 200, shape.height = 300;
        shape.fill = Ink{1, 0, 0, 1};
        Layer layer;
        layer.name = "Lighthouse";
        layer.content = shape;
        layer.opacity = opacity;
        layer.placement.position = {200, 250};
        const Made made = withLayer(release, frontOf(release), layer);
        return {made.release, made.id};
    }
    std::array<int, 4> at(const ReleasePtr& release, int x, int y) {
        Renderer renderer(pictures, fonts);
        const auto bytes =
            renderer.renderStraightRgba8(panelScene(release, frontOf(release), {1}), {x, y, 1, 1});
        return {bytes[0], bytes[1], bytes[2], bytes[3]};
    }

  private Q_SLOTS:
    void straightLines() {
        const auto none = partsBetween(kArea, {});
        QCOMPARE(none.size(), size_t(1));
        QCOMPARE(areaOf(none), 300.0 * 400);
        const auto two = partsBetween(kArea, {{{150, 150}, {200, 150}}}); // goes on to both sides
        QCOMPARE(two.size(), size_t(2));
        QCOMPARE(areaOf(two[0]), 300.0 * 100);
        QCOMPARE(areaOf(two[1]), 300.0 * 300);
        // Apart by a gap, each by half of it.
        QCOMPARE(two[1].away - two[0].away, (Vec2{0, 1}));
        const auto three = partsBetween(kArea, {{{0, 150}, {500, 150}}, {{500, 250}, {0, 250}}});
        QCOMPARE(three.size(), size_t(3));
        QVERIFY(std::abs(areaOf(three) - 300.0 * 400) < 1);
        std::vector<double> ways;
        for (const CutPart& part : three) ways.push_back(part.away.y);
        std::sort(ways.begin(), ways.end());
        QCOMPARE(ways, (std::vector<double>{-1, 0, 1}));
        const auto crossing = partsBetween(kArea, {{{0, 150}, {500, 160}}, {{250, 0}, {240, 500}}});
        QCOMPARE(crossing.size(), size_t(4));
        QVERIFY(std::abs(areaOf(crossing) - 300.0 * 400) < 1);
    }

    /// A wave parts in two, however often it goes up and down; one that misses, or is a point, not at all.
    void drawnLines() {
        CutLine wave;
        for (int x = 50; x <= 450; ++x) wave.push_back({double(x), 250 + 40 * std::sin(x / 20.0)});
        const auto two = partsBetween(kArea, {wave});
        QCOMPARE(two.size(), size_t(2));
        QVERIFY(std::abs(areaOf(two) - 300.0 * 400) < 1);
        // Its area by the trapezoid rule.
        double above = 0;
        for (int x = 100; x < 400; ++x)
            above += (250 + 40 * std::sin(x / 20.0) + 250 + 40 * std::sin((x + 1) / 20.0)) / 2 - 50;
        QVERIFY(std::min(std::abs(areaOf(two[0]) - above), std::abs(areaOf(two[1]) - above)) < 5);
        QCOMPARE(partsBetween(kArea, {{{0, 480}, {500, 480}}}).size(), size_t(1));
        QCOMPARE(partsBetween(kArea, {{{200, 200}, {200, 200}}, {{200, 200}}, {}}).size(), size_t(1));
        // Back over itself, and far outside of everything.
        CutLine knot{{50, 200}, {300, 200}, {200, 300}, {200, 100}, {450, 220}};
        QVERIFY(std::abs(areaOf(partsBetween(kArea, {knot})) - 300.0 * 400) < 1);
        QCOMPARE(partsBetween(kArea, {{{-1e6, 250}, {1e6, 250}}}).size(), size_t(2));
    }

    void slicesMoveApart() {
        const auto [release, id] = redBox();
        const auto made = withSlices(release, frontOf(release), id, {100, 100, 200, 300},
                                     {{{50, 200}, {400, 200}}, {{50, 300}, {400, 300}}}, {20, 0, 1});
        QVERIFY(made);
        const Stack& stack = stackOf(*made->release, frontOf(release));
        QCOMPARE(stack.size(), size_t(1));
        QCOMPARE(stack[0]->name, std::string("Lighthouse, in slices"));
        QCOMPARE(stack[0]->as<GroupContent>()->layers.size(), size_t(3));
        const ReleasePtr now = made->release;
        QCOMPARE(at(now, 200, 85)[3], 255); // the first 20 up
        QCOMPARE(at(now, 200, 75)[3], 0);
        for (const int gap : {183, 197, 303, 317}) QCOMPARE(at(now, 200, gap)[3], 0);
        for (const int slice : {175, 205, 295, 325, 415}) QCOMPARE(at(now, 200, slice)[3], 255);
        QCOMPARE(at(now, 200, 425)[3], 0);
        // Nothing is left of the layer itself, and every id comes once.
        std::set<std::string> ids;
        size_t count = 0;
        eachLayer(stack, [&](const LayerPtr& l) { ids.insert(l->id), ++count; });
        QCOMPARE(ids.size(), count);
        QVERIFY(!findLayer(stack, id));
    }

    /// Dark at the cut, not at the figure's own edge; how see-through it was is the group's.
    void shadeAlongTheCut() {
        const auto [release, id] = redBox(0.5);
        const auto made = withSlices(release, frontOf(release), id, {100, 100, 200, 300},
                                     {{{50, 250}, {400, 250}}}, {0, 0.8, 30});
        QVERIFY(made);
        const auto cut = at(made->release, 200, 245), middle = at(made->release, 200, 180),
                   edge = at(made->release, 200, 102);
        QVERIFY2(cut[0] < 130, qPrintable(QString::number(cut[0])));
        QVERIFY(middle[0] > 250 && edge[0] > 250);
        for (const auto& pixel : {cut, middle, edge}) QVERIFY(std::abs(pixel[3] - 128) <= 1);
    }

    void nothingToCut() {
        const auto [release, id] = redBox();
        const auto missed = withSlices(release, frontOf(release), id, {100, 100, 200, 300},
                                       {{{50, 50}, {400, 50}}}, {20, 0, 1});
        QVERIFY(!missed);
        QVERIFY(missed.error().message.find("No line crosses “Lighthouse”") != std::string::npos);
        QVERIFY(!withSlices(release, frontOf(release), "gone", {0, 0, 1, 1}, {{{0, 0}, {1, 1}}}, {}));
    }
};

GLYPTOS_TEST(SlicesTest)
#include "slices_test.moc"
