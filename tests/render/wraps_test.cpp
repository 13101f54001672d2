// Art that runs over several panels: seen on each where it lies, kept in place when the form changes, given
// back to one panel, copied to others.
#include "file/release_json/release_json.h"
#include "release/edits/wrap_edits.h"
#include "release/placing.h"
#include "release/walks.h"
#include "render/renderer.h"
#include "support/forms.h"
#include "support/pictures.h"
#include "support/register.h"

using namespace glyptos;
using namespace glyptos::test;

class WrapsTest : public QObject {
    Q_OBJECT
    FontLibrary fonts{dataFolder() / "fonts", true};
    HeldPictures pictures;
    Renderer renderer{pictures, fonts};

    static constexpr double kPxPerMm = 1;

    static Layer box(const char* name, const Rect& r, const Rgba& colour) {
        Layer layer;
        layer.name = name;
        ShapeContent shape;
        shape.width = r.w, shape.height = r.h, shape.fill = colour;
        layer.content = shape;
        layer.placement.position = r.centre();
        return layer;
    }
    static PanelRef at(const ReleasePtr& r, const std::string& panel) { return {r->pieces[0]->id, panel}; }
    static const Flat& flat(const ReleasePtr& r) { return *r->pieces[0]->flat; }

    std::array<int, 4> seen(const Scene& scene, Vec2 mm) {
        const auto px = renderer.renderBgra8(scene, {int(std::floor(mm.x)), int(std::floor(mm.y)), 1, 1});
        return {px[2], px[1], px[0], px[3]};
    }
    std::array<int, 4> onFlat(const ReleasePtr& r, Vec2 mm) {
        return seen(flatScene(r, r->pieces[0]->id, {kPxPerMm, true}), mm);
    }
    std::array<int, 4> onPanel(const ReleasePtr& r, const std::string& panel, Vec2 mm) {
        return seen(panelScene(r, at(r, panel), {kPxPerMm, true}), mm);
    }
    static constexpr std::array<int, 4> kNone{0, 0, 0, 0}, kRed{255, 0, 0, 255}, kBlue{0, 0, 255, 255};

    static ReleasePtr over(const ReleasePtr& r, const std::string& from, const std::string& layer,
                           const std::vector<std::string>& others, std::string* wrap = nullptr) {
        const auto made = withRunOver(r, at(r, from), {layer}, others);
        if (!made) qFatal("%s", made.error().message.c_str());
        if (wrap) *wrap = made->id;
        return made->release;
    }

  private Q_SLOTS:
    /// A box that hangs over the front's left edge is seen on the spine and the back when it runs over them,
    /// and stays where it was on the sheet; before that it ended at the fold.
    void whatRunsOverIsSeenInPlace() {
        ReleasePtr r = releaseOf("sleeve-12", {{"spine", 4}});
        const Made made = withLayer(r, at(r, "front"), box("Sea", {-100, 50, 200, 60}, {1, 0, 0, 1}));
        const double front = flat(r).panel("front")->onFlat.x;
        r = made.release;
        QCOMPARE(onFlat(r, {front + 40, 80}), kRed);
        QCOMPARE(onFlat(r, {front - 50, 80}), kNone);
        std::string wrap;
        r = over(r, "front", made.id, {"spine", "back"}, &wrap);
        for (const double x : {front + 99.0, front + 1, front - 2, front - 50, front - 99})
            QCOMPARE(onFlat(r, {x, 80}), kRed);
        for (const double x : {front + 102, front - 102}) QCOMPARE(onFlat(r, {x, 80}), kNone);
        QVERIFY(stackOf(*r, at(r, wrap)).size() == 1 && findLayer(stackOf(*r, at(r, wrap)), made.id));
        // On the spine, which reads turned, it lies the way the sheet has it.
        QCOMPARE(onPanel(r, "spine", {80, 2}), kRed);
        // And as one wide panel.
        QCOMPARE(onPanel(r, wrap, {front, 80}), kRed);
    }

    /// Behind what a panel has in front of it, before its ground.
    void betweenGroundAndArt() {
        ReleasePtr r = releaseOf("sleeve-12", {{"spine", 4}});
        Layer ground;
        ground.content = FillContent{Rgba{0, 0, 1, 1}};
        r = withLayer(r, at(r, "back"), ground);
        r = withLayer(r, at(r, "back"), box("Over", {200, 60, 30, 30}, {0, 1, 0, 1}));
        const Made made = withLayer(r, at(r, "front"), box("Sea", {-200, 50, 300, 60}, {1, 0, 0, 1}));
        r = over(made, "front", made.id, {"spine", "back"});
        QCOMPARE(onFlat(r, {160, 80}), kRed);
        QCOMPARE(onFlat(r, {215, 70}), (std::array<int, 4>{0, 255, 0, 255}));
        QCOMPARE(onFlat(r, {160, 140}), kBlue);
    }

    /// Both inner panels, which print upside down: one picture, upright when it is held.
    void overTurnedPanels() {
        ReleasePtr r = releaseOf("gatefold-12");
        const Made made = withLayer(r, at(r, "inner-left"), box("Sea", {300, 20, 30, 10}, {1, 0, 0, 1}));
        std::string wrap;
        r = over(made, "inner-left", made.id, {"inner-spine", "inner-right"}, &wrap);
        QCOMPARE(onPanel(r, "inner-left", {305, 25}), kRed);
        QCOMPARE(onPanel(r, wrap, {305, 25}), kRed);
        const double spine = flat(r).values.at("spine");
        QCOMPARE(onPanel(r, "inner-right", {330 - 315 - spine - 2, 25}), kRed);
    }

    /// A wider spine pushes the front on; what runs over all stays where it was on the front.
    void itFollowsTheForm() {
        ReleasePtr r = releaseOf("sleeve-12", {{"spine", 4}});
        const Made made = withLayer(r, at(r, "front"), box("Sea", {-20, 50, 60, 60}, {1, 0, 0, 1}));
        r = over(made, "front", made.id, {"spine", "back"});
        r = withParameter(r, r->pieces[0]->id, "spine", 9.0).value();
        const double front = flat(r).panel("front")->onFlat.x;
        QCOMPARE(front, 324.0);
        for (const double x : {front + 38.0, front - 18}) QCOMPARE(onFlat(r, {x, 80}), kRed);
        for (const double x : {front + 42.0, front - 22}) QCOMPARE(onFlat(r, {x, 80}), kNone);
    }

    void keptToOnePanelAgain() {
        ReleasePtr r = releaseOf("sleeve-12", {{"spine", 4}});
        const Made made = withLayer(r, at(r, "front"), box("Sea", {-100, 50, 200, 60}, {1, 0, 0, 1}));
        std::string wrap;
        r = over(made, "front", made.id, {"spine", "back"}, &wrap);
        r = withKeptTo(r, at(r, wrap), {made.id}, "back");
        QVERIFY(findLayer(stackOf(*r, at(r, "back")), made.id) && stackOf(*r, at(r, wrap)).empty());
        const double front = flat(r).panel("front")->onFlat.x;
        QCOMPARE(onFlat(r, {front - 50, 80}), kRed);
        QCOMPARE(onFlat(r, {front + 50, 80}), kNone);
        r = withoutWrap(r, r->pieces[0]->id, wrap);
        QVERIFY(r->pieces[0]->wraps.empty() && flat(r).wraps.empty());
        QVERIFY(stackOf(*r, at(r, "front")).empty() && stackOf(*r, at(r, "spine")).empty());
    }

    void refusedWithASentence() {
        const ReleasePtr r = releaseOf("disc-booklet", {{"pages", 8}});
        const std::string id = r->pieces[0]->id;
        QVERIFY(sentence(withWrap(r, id, {"page-2"})).contains("two panels or more"));
        QVERIFY(sentence(withWrap(r, id, {"page-2", "page-2"})).contains("two panels or more"));
        QVERIFY(sentence(withWrap(r, id, {"page-2", "page-4"})).contains("different sheets"));
        QVERIFY(sentence(withWrap(r, id, {"page-2", "page-99"})).contains("no panel “page-99”"));
        const auto once = withWrap(r, id, {"page-2", "page-3"}),
                   again = withWrap(*once, id, {"page-2", "page-3"});
        QCOMPARE(again->id, once->id);
        QCOMPARE(again->release, once->release);
    }

    /// Another take has a wrap of its own.
    void takesHaveTheirOwn() {
        ReleasePtr r = releaseOf("sleeve-12", {{"spine", 4}});
        const Made made = withLayer(r, at(r, "front"), box("Sea", {-100, 50, 200, 60}, {1, 0, 0, 1}));
        std::string wrap;
        r = over(made, "front", made.id, {"spine", "back"}, &wrap);
        const Made b = withNewTake(r, r->pieces[0]->id);
        const std::string copy = stackOf(*b.release, at(b, wrap)).front()->id;
        r = withChangedLayer(b, at(b, wrap), copy, [](Layer& layer) {
            std::get<ShapeContent>(layer.content).fill = Ink{0, 0, 1, 1};
        });
        const double front = flat(r).panel("front")->onFlat.x;
        QCOMPARE(onFlat(r, {front - 50, 80}), kBlue);
        QCOMPARE(seen(flatScene(r, r->pieces[0]->id, {kPxPerMm, true, {}, "A"}), {front - 50, 80}), kRed);
    }

    void throughTheFile() {
        ReleasePtr r = releaseOf("sleeve-12", {{"spine", 4}});
        const Made made = withLayer(r, at(r, "front"), box("Sea", {-100, 50, 200, 60}, {1, 0, 0, 1}));
        r = over(made, "front", made.id, {"spine", "back"});
        const auto back = releaseFromJson(releaseToJson(*r), shippedForms().value(), noTiles, noLooks);
        QVERIFY2(back, qPrintable(sentence(back)));
        const auto same = std::make_shared<const Release>(*back);
        QVERIFY(same->pieces[0]->wraps == r->pieces[0]->wraps);
        QCOMPARE(onFlat(same, {250, 80}), kRed);
        std::string broken = releaseToJson(*r);
        const size_t id = broken.find("\"wraps\"");
        broken.replace(broken.find("\"spine\"", id), 7, "\"girth\"");
        QVERIFY(!releaseFromJson(broken, shippedForms().value(), noTiles, noLooks));
    }

    /// Mirrored, a box near the left edge comes near the right one, and words are still read from the left.
    void copiedMirrored() {
        ReleasePtr r = releaseOf("sleeve-12", {{"spine", 4}});
        const Made sea = withLayer(r, at(r, "front"), box("Sea", {10, 20, 40, 10}, {1, 0, 0, 1}));
        Layer words;
        TextContent text;
        text.spec.text = "Low Water", text.spec.letters.size = 10;
        words.content = text;
        words.placement.position = {20, 200};
        const Made low = withLayer(sea.release, at(sea, "front"), words);
        r = withCopiesOn(low, at(low, "front"), {sea.id, low.id}, at(low, "back"), true);
        QCOMPARE(onPanel(r, "back", {315 - 30, 25}), kRed);
        QCOMPARE(onPanel(r, "back", {30, 25}), kNone);
        const Stack& back = stackOf(*r, at(r, "back"));
        QCOMPARE(back.size(), size_t(2));
        const Layer& copy = *back.front();
        QVERIFY(copy.as<TextContent>() && !copy.placement.flipX);
        QVERIFY(copy.as<TextContent>()->spec.align == Align::Right);
        QCOMPARE(copy.placement.position.x, 295.0);
        QVERIFY(copy.id != low.id);
        r = withCopiesOn(low, at(low, "front"), {sea.id}, at(low, "back"), false);
        QCOMPARE(onPanel(r, "back", {30, 25}), kRed);
    }

    /// Runs of colour, patterns and what goes round turn with the panel and are mirrored with it.
    void paintsAreMapped() {
        const auto colourAt = [&](const Paint& paint, Vec2 p) {
            ReleasePtr r = screenRelease(64, 64);
            Layer fill;
            fill.content = FillContent{paint};
            r = withLayer(r, frontOf(r), fill);
            return seen(panelScene(r, frontOf(r), {1, true}), p);
        };
        Gradient conic;
        conic.kind = GradientKind::Conic;
        conic.from = {30, 26}, conic.to = {50, 30};
        conic.stops = {{0, Ink{1, 0, 0, 1}}, {0.4, Ink{0, 1, 0, 1}}, {1, Ink{0, 0, 1, 1}}};
        Gradient spiral = conic;
        spiral.kind = GradientKind::Spiral, spiral.turns = 2;
        const Affine maps[] = {Affine::translation(64, 0) * Affine::rotation(90),
                               Affine::translation(64, 0) * Affine::scaling(-1, 1)};
        for (const Paint& paint : {Paint(conic), Paint(spiral)})
            for (const Affine& map : maps)
                for (const Vec2 p : {Vec2{10.5, 12.5}, Vec2{40.5, 50.5}, Vec2{33.5, 8.5}, Vec2{55.5, 30.5}}) {
                    const auto before = colourAt(paint, p), after = colourAt(mapped(paint, map), map.map(p));
                    for (size_t c = 0; c < 4; ++c)
                        QVERIFY2(std::abs(before[c] - after[c]) <= 2,
                                 qPrintable(QString("%1 %2 %3: %4 %5")
                                                .arg(int(std::get<Gradient>(paint).kind))
                                                .arg(p.x)
                                                .arg(map.a)
                                                .arg(before[c])
                                                .arg(after[c])));
                }
    }
};

GLYPTOS_TEST(WrapsTest)
#include "wraps_test.moc"
