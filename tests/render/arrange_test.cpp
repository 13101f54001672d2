#include "render/arrange.h"

#include "file/data_folder.h"
#include "support/noting.h"
#include "support/pictures.h"
#include "support/register.h"

using namespace glyptos;
using namespace glyptos::test;

class ArrangeTest : public QObject {
    Q_OBJECT
    FontLibrary fonts{dataFolder() / "fonts", true};
    std::unique_ptr<ParagraphCache> paragraphs;
    ReleasePtr release;

    std::string put(const Rect& box, double turn = 0) {
        Layer layer;
        ShapeContent shape;
        shape.width = box.w, shape.height = box.h;
        layer.content = shape;
        layer.placement.position = box.centre();
        layer.placement.turn = turn;
        std::string id;
        release = noting(id, withLayer(release, frontOf(release), layer));
        return id;
    }
    Rect bounds(const std::string& id) { return boundsOf(*release, {frontOf(release), {id}}, *paragraphs); }
    void align(const std::vector<std::string>& ids, AlignEdge edge, const Rect& to) {
        release = withAligned(release, {frontOf(release), ids}, edge, to, *paragraphs);
    }

  private Q_SLOTS:
    void init() {
        paragraphs = std::make_unique<ParagraphCache>(fonts);
        release = screenRelease(100, 100);
    }

    void everyEdge() {
        const std::string id = put({10, 20, 30, 16});
        const Rect to{5, 6, 80, 90};
        const std::pair<AlignEdge, Vec2> expected[] = {
            {AlignEdge::Left, {5, 20}}, {AlignEdge::Middle, {30, 20}}, {AlignEdge::Right, {55, 20}},
            {AlignEdge::Top, {55, 6}},  {AlignEdge::Centre, {55, 43}}, {AlignEdge::Bottom, {55, 80}}};
        for (const auto& [edge, at] : expected) {
            align({id}, edge, to);
            QCOMPARE(bounds(id).x, at.x);
            QCOMPARE(bounds(id).y, at.y);
        }
    }

    void turnedLayersGoByTheirBounds() {
        const std::string id = put({40, 40, 20, 10}, 90);
        align({id}, AlignEdge::Left, {0, 0, 100, 100});
        QVERIFY(std::abs(bounds(id).x) < 1e-9 && std::abs(bounds(id).w - 10) < 1e-9);
    }

    void lockedLayersAndFillsStay() {
        const std::string locked = put({10, 10, 5, 5}), free = put({30, 30, 5, 5});
        release = withChangedLayer(release, frontOf(release), locked, [](Layer& l) { l.locked = true; });
        Layer fill;
        fill.content = FillContent{};
        std::string fillId;
        release = noting(fillId, withLayer(release, frontOf(release), fill));
        QCOMPARE(boundsOf(*release, {frontOf(release), {locked, free, fillId}}, *paragraphs),
                 (Rect{30, 30, 5, 5}));
        const ReleasePtr before = release;
        align({locked, fillId}, AlignEdge::Right, {0, 0, 100, 100});
        QVERIFY(release == before);
    }

    void whatIsInAGroupGoesWithIt() {
        const std::string a = put({10, 10, 10, 10}), b = put({30, 30, 10, 10});
        std::string group;
        release = noting(group, *withGrouped(release, frontOf(release), {a, b}));
        align({group, a}, AlignEdge::Left, {0, 0, 100, 100});
        QCOMPARE(bounds(a).x, 0.0);
        QCOMPARE(bounds(b).x, 20.0);
    }

    void spreadsWithEvenGaps() {
        const std::string a = put({50, 0, 10, 10}), b = put({0, 0, 20, 10}), c = put({90, 0, 6, 10});
        const auto spread = [&](const Rect& over) {
            release = withSpread(release, {frontOf(release), {a, b, c}}, true, over, *paragraphs);
        };
        spread(boundsOf(*release, {frontOf(release), {a, b, c}}, *paragraphs)); // 0…96: gaps of (96 - 36) / 2
        QCOMPARE(bounds(b).x, 0.0);
        QCOMPARE(bounds(a).x, 50.0);
        QCOMPARE(bounds(c).x, 90.0);
        spread({0, 0, 66, 100});
        QCOMPARE(bounds(a).x, 35.0);
        QCOMPARE(bounds(c).x, 60.0);
        // Where there is too little room they overlap evenly.
        spread({0, 0, 30, 100});
        QCOMPARE(bounds(a).x, 17.0);
        QCOMPARE(bounds(c).right(), 30.0);
    }
};

GLYPTOS_TEST(ArrangeTest)
#include "arrange_test.moc"
