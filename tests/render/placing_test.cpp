#include "release/placing.h"

#include "file/data_folder.h"
#include "render/snap.h"
#include "support/pictures.h"
#include "support/register.h"

#include <QRandomGenerator>

using namespace glyptos;
using namespace glyptos::test;

class PlacingTest : public QObject {
    Q_OBJECT
    FontLibrary fonts{dataFolder() / "fonts", true};
    Source source;

  private Q_SLOTS:
    void init() {
        source.id = "s";
        source.width = 400;
        source.height = 200;
    }

    void coversAnAreaJust() {
        const Rect area{-3, -3, 306, 206};
        for (const Rect& crop : {Rect{0, 0, 1, 1}, Rect{0.5, 0.25, 0.5, 0.5}}) {
            const Placement p = covering(area, source, crop);
            const Rect shown =
                pictureToPanel(p, source).mapBounds({crop.x * 400, crop.y * 200, crop.w * 400, crop.h * 200});
            QVERIFY(std::abs(shown.centre().x - area.centre().x) < 1e-9 &&
                    std::abs(shown.centre().y - area.centre().y) < 1e-9);
            QVERIFY(std::abs(std::min(shown.w - area.w, shown.h - area.h)) < 1e-9 &&
                    shown.w >= area.w - 1e-9 && shown.h >= area.h - 1e-9);
        }
    }

    void turnsAndScalesKeepTheirPoint() {
        Layer l;
        l.content = PictureContent{"s", {0, 0, 1, 1}};
        l.placement = {{50, 60}, 2, 2, 0, false, false};
        const Vec2 pin{10, 20};
        const auto at = [&](const Layer& layer) {
            return pictureToPanel(layer.placement, source).inverse()->map(pin);
        };
        const Vec2 before = at(l);
        for (const Layer& after :
             {turned(l, pin, 33), scaled(l, pin, 1.7), turned(scaled(l, pin, 0.3), pin, -120)})
            QVERIFY((at(after) - before).length() < 1e-9);
        QCOMPARE(turned(l, pin, 300).placement.turn, -60.0);
        QCOMPARE(flipped(flipped(l, true), true).placement, l.placement);
    }

    void mapsBecomePlacementsAgain() {
        QRandomGenerator random(5);
        const auto any = [&](double low, double high) {
            return low + random.generateDouble() * (high - low);
        };
        for (int i = 0; i < 200; ++i) {
            Placement p{{any(-90, 90), any(-90, 90)},
                        any(0.1, 4),
                        any(0.1, 4),
                        any(-180, 180),
                        random.bounded(2) == 1,
                        random.bounded(2) == 1,
                        any(-60, 60)};
            const Affine map = placementMap(p);
            const auto back = placementOf(map, p);
            QVERIFY(back);
            const Affine again = placementMap(*back);
            for (const Vec2 v : {Vec2{0, 0}, Vec2{1, 0}, Vec2{0, 1}})
                QVERIFY((map.map(v) - again.map(v)).length() < 1e-9);
            QVERIFY(std::abs(back->skew - p.skew) < 1e-6 && back->flipX == p.flipX);
        }
        QVERIFY(!placementOf(Affine::scaling(0, 1), {}));
    }

    void anyMapActsOnLayersOfAllKinds() {
        QRandomGenerator random(6);
        const Affine map{1.3, 0.2, -0.4, 0.8, 12, -7};
        Layer picture, shape, group;
        picture.content = PictureContent{"s", {0, 0, 1, 1}};
        picture.placement = {{50, 60}, 2, 1.5, 20, true, false, 10};
        ShapeContent box;
        box.width = 40, box.height = 30;
        shape.content = box;
        shape.placement = {{5, 6}, 1, 1, -30};
        const auto corner = [&](const Layer& l) {
            if (const auto* s = l.as<ShapeContent>())
                return placementMap(l.placement).map({s->width / 2, s->height / 2});
            return pictureToPanel(l.placement, source).map({400, 200});
        };
        group.content =
            GroupContent{{std::make_shared<const Layer>(picture), std::make_shared<const Layer>(shape)}};
        const Layer after = transformed(group, map);
        const Stack& inside = after.as<GroupContent>()->layers;
        QVERIFY((corner(*inside[0]) - map.map(corner(picture))).length() < 1e-9);
        QVERIFY((corner(*inside[1]) - map.map(corner(shape))).length() < 1e-9);
        // A shape keeps its own size in its figures, not in the placement.
        QCOMPARE(inside[1]->placement.scaleX, 1.0);
    }

    void linkedMasksGoAlongAndOthersStay() {
        Layer l;
        l.content = ShapeContent{};
        Mask mask;
        mask.form = ShapeContent{};
        mask.placement.position = {10, 0};
        mask.feather = 3;
        l.mask = std::make_shared<const Mask>(mask);
        QCOMPARE(moved(l, {5, 6}).mask->placement.position, (Vec2{15, 6}));
        QCOMPARE(scaled(l, {0, 0}, 2).mask->placement.position, (Vec2{20, 0}));
        QCOMPARE(scaled(l, {0, 0}, 2).mask->feather, 6.0);
        QVERIFY((turned(l, {0, 0}, 90).mask->placement.position - Vec2{0, 10}).length() < 1e-9);
        mask.linked = false;
        l.mask = std::make_shared<const Mask>(mask);
        QCOMPARE(*moved(l, {5, 6}).mask, mask);
    }

    /// Flipping takes a linked mask along: a point of the layer and the point of the mask over it stay
    /// together.
    void flippingTakesLinkedMasksAlong() {
        for (const bool upDown : {false, true})
            for (const bool linked : {false, true}) {
                Layer layer;
                layer.content = ShapeContent{};
                layer.placement = {{30, 20}, 1, 1, 25, false, true, 10};
                Mask mask;
                mask.form = ShapeContent{};
                mask.linked = linked;
                mask.placement = {{42, 11}, 0.5, 0.75, -40, true, false, 0};
                layer.mask = std::make_shared<const Mask>(mask);
                const Layer after = flipped(layer, upDown);
                const Affine toLayer = *placementMap(layer.placement).inverse(),
                             afterToLayer = *placementMap(after.placement).inverse();
                for (const Vec2 p : {Vec2{0, 0}, Vec2{7, -3}, Vec2{-2, 9}}) {
                    const Vec2 was = toLayer.map(placementMap(mask.placement).map(p));
                    const Vec2 now = afterToLayer.map(placementMap(after.mask->placement).map(p));
                    QCOMPARE((was - now).length() < 1e-9, linked);
                }
            }
    }

    void picturesSlideUnderTheirFrame() {
        Layer l;
        l.content = PictureContent{"s", {0.25, 0.25, 0.5, 0.5}};
        l.placement = {{50, 60}, 2, 2, 90};
        const auto frame = [&](const Layer& layer) {
            const Rect c = layer.as<PictureContent>()->crop;
            return pictureToPanel(layer.placement, source)
                .mapBounds({c.x * 400, c.y * 200, c.w * 400, c.h * 200});
        };
        const Rect before = frame(l);
        const Layer after = slid(l, {0, 40}, source); // 40 units down: 20 px along the picture's own x
        QVERIFY(std::abs(after.as<PictureContent>()->crop.x - 0.2) < 1e-12);
        QCOMPARE(after.as<PictureContent>()->crop.y, 0.25);
        const Rect now = frame(after);
        QVERIFY(std::abs(now.x - before.x) < 1e-9 && std::abs(now.y - before.y) < 1e-9 &&
                std::abs(now.w - before.w) < 1e-9 && std::abs(now.h - before.h) < 1e-9);
        QCOMPARE(slid(l, {0, 1e6}, source).as<PictureContent>()->crop.x, 0.0);
        QCOMPARE(slid(l, {0, -1e6}, source).as<PictureContent>()->crop.x, 0.5);
    }

    void anotherPictureFillsTheSameFrame() {
        Layer l;
        l.content = PictureContent{"s", {0.5, 0, 0.5, 1}};
        l.placement = {{50, 60}, 2, 2, 30, true};
        Source other;
        other.id = "t";
        other.width = 100, other.height = 300;
        const Layer after = withPicture(l, source, other);
        const auto corners = [](const Layer& layer, const Source& s) {
            const Rect c = layer.as<PictureContent>()->crop;
            return Frame{{c.x * s.width, c.y * s.height, c.w * s.width, c.h * s.height},
                         pictureToPanel(layer.placement, s)}
                .corners();
        };
        const auto before = corners(l, source), now = corners(after, other);
        for (size_t i = 0; i < 4; ++i) QVERIFY((before[i] - now[i]).length() < 1e-9);
        QCOMPARE(after.as<PictureContent>()->source, std::string("t"));
        QCOMPARE(after.as<PictureContent>()->crop.w, 1.0); // the whole width, the middle of the height
        QVERIFY(std::abs(after.as<PictureContent>()->crop.y - 1 / 3.0) < 1e-12);
    }

    void groundCoversJust() {
        Layer l;
        l.content = PictureContent{"s", {0, 0, 1, 1}};
        const Rect area{-3, -3, 106, 106};
        const Layer after = laidOver(l, area, source);
        const Rect c = after.as<PictureContent>()->crop;
        const Rect shown =
            pictureToPanel(after.placement, source).mapBounds({c.x * 400, c.y * 200, c.w * 400, c.h * 200});
        QVERIFY(std::abs(shown.x + 3) < 1e-9 && std::abs(shown.w - 106) < 1e-9 &&
                std::abs(shown.h - 106) < 1e-9);
        QVERIFY(std::abs(c.w - 0.5) < 1e-12 && std::abs(c.x - 0.25) < 1e-12);
    }

    void wordsAreSizedByTheirEm() {
        Layer l;
        TextContent text;
        text.spec.letters.size = 10, text.spec.frame = InArea{80, 0};
        l.content = text;
        const Layer twice = scaled(l, {0, 0}, 2);
        QCOMPARE(twice.as<TextContent>()->spec.letters.size, 20.0);
        QCOMPARE(std::get<InArea>(twice.as<TextContent>()->spec.frame).width, 160.0);
        QCOMPARE(twice.placement.scaleX, 1.0);
    }

    void sharpness() {
        Placement p;
        p.scaleX = p.scaleY = 25.4 / 300;
        QVERIFY(std::abs(effectivePpi(p) - 300) < 1e-9);
        p.scaleY *= 2;
        QVERIFY(std::abs(effectivePpi(p) - 150) < 1e-9);
    }

    void snapsToTheNearestAndSaysWhy() {
        auto form = std::make_shared<Form>(
            loadForm(std::string(SOURCE_FOLDER) + "/data/forms/sleeve-12.json").value());
        ReleasePtr r = withPiece(std::make_shared<const Release>(), form).value();
        const PanelRef front{r->pieces[0]->id, "front"};
        ParagraphCache paragraphs(fonts);
        const auto lines = snapLines(*r, front, {}, {}, paragraphs);
        const Snapped middle = snap({157.5 - 20 + 0.8, 100, 40, 30}, lines, 2);
        QVERIFY(std::abs(middle.by.x + 0.8) < 1e-9);
        QCOMPARE(middle.caught.at(0).reason, "centre of Front");
        const Snapped safe = snap({5.5, 60.3, 40, 30}, lines, 2);
        QVERIFY(std::abs(safe.by.x + 0.5) < 1e-9 && safe.by.y == 0);
        QCOMPARE(safe.caught.at(0).reason, "safety");
        QVERIFY(snap({60, 60, 10, 10}, lines, 2).caught.empty());
        Layer words;
        words.name = "Words";
        TextContent text;
        text.spec.text = "x";
        words.content = text;
        words.placement.position = {77, 88};
        r = withLayer(r, front, words);
        QCOMPARE(snap({76.6, 200, 0.2, 0.2}, snapLines(*r, front, {"other"}, {false, true}, paragraphs), 1)
                     .caught.at(0)
                     .reason,
                 "edge of Words");
        QVERIFY(snapLines(*r, front, {stackOf(*r, front)[0]->id}, {false, true}, paragraphs)
                    .empty()); // not to itself
    }

    void framesHoldTheirLayer() {
        ReleasePtr r = screenRelease(100, 100);
        HeldPictures pictures;
        r = pictures.add(r, "s", pictureOf(40, 20, [](int, int) {
                             return std::array<uint8_t, 4>{0, 0, 0, 255};
                         }));
        Layer l;
        l.content = PictureContent{"s", {0, 0, 1, 1}};
        l.placement = {{50, 50}, 1, 1, 90, false, false};
        ParagraphCache paragraphs(fonts);
        const Frame frame = frameOf(l, *r, {0, 0, 100, 100}, paragraphs);
        QVERIFY(frame.contains({50, 68}) && !frame.contains({68, 50}));
        QVERIFY(std::abs(frame.bounds().h - 40) < 1e-9);
    }
};

GLYPTOS_TEST(PlacingTest)
#include "placing_test.moc"
