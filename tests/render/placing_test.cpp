#include "release/placing.h"

#include "file/data_folder.h"
#include "render/snap.h"
#include "support/pictures.h"

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

    void wordsAreSizedByTheirEm() {
        Layer l;
        TextContent text;
        text.spec.size = 10, text.spec.measure = 80;
        l.content = text;
        const Layer twice = scaled(l, {0, 0}, 2);
        QCOMPARE(twice.as<TextContent>()->spec.size, 20.0);
        QCOMPARE(twice.as<TextContent>()->spec.measure, 160.0);
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

QTEST_GUILESS_MAIN(PlacingTest)
#include "placing_test.moc"
