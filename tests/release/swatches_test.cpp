// The release's palette: layers follow their swatches through every kind of paint, take and mask.
#include "release/edits/palette_edits.h"
#include "release/walks.h"
#include "release/wall.h"
#include "support/noting.h"
#include "support/pictures.h"
#include "support/register.h"

using namespace glyptos;
using namespace glyptos::test;

class SwatchesTest : public QObject {
    Q_OBJECT
    ReleasePtr release;
    PanelRef panel;
    std::string sea, salt;

    std::string add(Content content, std::shared_ptr<const Mask> mask = nullptr) {
        Layer layer;
        layer.name = "Layer";
        layer.content = std::move(content);
        layer.mask = std::move(mask);
        std::string id;
        release = noting(id, withLayer(release, panel, layer));
        return id;
    }
    Ink ink(const std::string& swatch, float alpha = 1) const {
        for (const Swatch& s : release->palette)
            if (s.id == swatch) return Ink({s.colour.r, s.colour.g, s.colour.b, alpha}, swatch);
        return {};
    }
    std::vector<Ink> inksOf(const std::string& id) const {
        Layer copy = *findLayer(stackOf(*release, panel), id);
        std::vector<Ink> out;
        eachInk(copy, [&](const Ink& i) { out.push_back(i); });
        return out;
    }

  private Q_SLOTS:
    void init() {
        release = screenRelease(100, 100);
        panel = frontOf(release);
        release =
            withSwatches(release, {{"sea", *rgbaFromHex("#1e7a6c")}, {"salt", *rgbaFromHex("#d9d3c6")}});
        sea = release->palette[0].id, salt = release->palette[1].id;
    }

    void everyKindOfColourFollows() {
        TextContent text;
        text.colour = ink(sea, 0.5f);
        Gradient run = evenRun({0, 0, 100, 100}, 0, ink(sea), ink(salt, 0));
        ShapeContent shape;
        shape.fill = run;
        shape.stroke = StrokeStyle{};
        shape.stroke->paint = ink(sea);
        Clouds clouds;
        clouds.high = ink(sea);
        Paper paper;
        paper.colour = ink(sea);
        auto mask = std::make_shared<Mask>();
        mask->form = run;
        const auto words = add(text), form = add(shape), sky = add(FillContent{clouds}),
                   sheet = add(FillContent{paper}, mask);
        const auto group = *withGrouped(release, panel, {sky, sheet});
        release = group;
        QCOMPARE(followersOf(*release, sea), 4);
        const Rgba red = *rgbaFromHex("#c8452b");
        const ReleasePtr next = withSwatchColour(release, sea, red);
        release = next;
        QVERIFY(inksOf(words)[0] == Ink({red.r, red.g, red.b, 0.5f}, sea)); // as see-through as before
        QVERIFY(inksOf(form)[0] == Ink(red, sea) && inksOf(form)[1].swatch == salt &&
                inksOf(form)[2] == Ink(red, sea));
        QVERIFY(inksOf(sky)[1] == Ink(red, sea) && inksOf(sky)[0] == Ink(0, 0, 0, 1));
        QVERIFY(inksOf(sheet)[0] == Ink(red, sea) && inksOf(sheet)[1] == Ink(red, sea));
        QVERIFY(release->palette[0].colour == red);
    }

    void otherTakesAndTheWallFollowToo() {
        TextContent text;
        text.colour = ink(sea);
        add(text);
        release = withNewTake(release, panel.piece);
        release = withLayer(release, wallPanel(), pinnedColour(ink(sea), "sea", {100, 100}));
        QCOMPARE(followersOf(*release, sea), 3);
        release = withSwatchColour(release, sea, {0, 0, 0, 1});
        for (const auto& take : release->piece(panel.piece)->takes)
            QVERIFY(take->stack(panel.panel)[0]->as<TextContent>()->colour == Ink({0, 0, 0, 1}, sea));
        Layer scrap = *stackOf(*release, wallPanel())[0]->as<GroupContent>()->layers[1];
        eachInk(scrap, [&](const Ink& i) { QVERIFY(i == Ink({0, 0, 0, 1}, sea)); });
    }

    void whatDoesNotFollowIsShared() {
        const auto plain = add(FillContent{Ink{0, 0, 1, 1}});
        TextContent text;
        text.colour = ink(sea);
        add(text);
        const LayerPtr before = findLayer(stackOf(*release, panel), plain);
        const ReleasePtr next = withSwatchColour(release, sea, {1, 0, 0, 1});
        QCOMPARE(findLayer(stackOf(*next, panel), plain), before);
        QCOMPARE(withSwatchColour(next, "nobody", {1, 0, 0, 1}), next);
    }

    void aSwatchThatGoesLeavesItsColour() {
        TextContent text;
        text.colour = ink(sea);
        const auto words = add(text);
        release = withoutSwatch(release, sea);
        QVERIFY(inksOf(words)[0] == Ink(*rgbaFromHex("#1e7a6c")));
        QCOMPARE(release->palette.size(), size_t(1));
        QCOMPARE(followersOf(*release, sea), 0);
    }

    void aPaletteReadInKeepsItsNames() {
        TextContent text;
        text.colour = ink(sea);
        const auto words = add(text);
        TextContent other;
        other.colour = ink(salt);
        const auto more = add(other);
        release = withPalette(release, {{"night", {0, 0, 0, 1}}, {"sea", {1, 0, 0, 1}}});
        QCOMPARE(release->palette.size(), size_t(2));
        QCOMPARE(release->palette[1].id, sea);
        QVERIFY(inksOf(words)[0] == Ink({1, 0, 0, 1}, sea));
        QVERIFY(inksOf(more)[0] == Ink(*rgbaFromHex("#d9d3c6")));
    }

    void palettesAreArranged() {
        QCOMPARE(withSwatches(release, {{"again", *rgbaFromHex("#1e7a6c")}}), release);
        release = withMovedSwatch(release, salt, 0);
        QCOMPARE(release->palette[0].id, salt);
        release = withMovedSwatch(release, salt, 99);
        QCOMPARE(release->palette[1].id, salt);
        release = withSwatchName(release, salt, "Salt ledger");
        QCOMPARE(namedColours(release->palette)[1].name, std::string("Salt ledger"));
    }
};

GLYPTOS_TEST(SwatchesTest)
#include "swatches_test.moc"
