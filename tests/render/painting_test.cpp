// Selections, masks and mends as pixels.
#include "render/painting.h"

#include "file/data_folder.h"
#include "release/edits/cutout_edits.h"
#include "release/placing.h"
#include "render/cut_figure.h"
#include "render/mending.h"
#include "render/renderer.h"
#include "render/selected_layers.h"
#include "support/pictures.h"
#include "support/register.h"
#include "vision/select/alpha_edges.h"

using namespace glyptos;
using namespace glyptos::test;

class PaintingTest : public QObject {
    Q_OBJECT
    static constexpr Rect kPanel{0, 0, 600, 500};

    static Selection box(const Rect& r) {
        Path path;
        path.addRect(r);
        return *selectionOf(path, 1, kPanel);
    }
    static int at(const std::optional<Selection>& s, int x, int y) {
        return s ? valuesOf(*s->tiles, {x, y, 1, 1}).at(0, 0) : 0;
    }
    /// One layer of a colour, under a mask, rendered at a scale.
    static Buffer<uint8_t> rendered(const std::shared_ptr<const Mask>& mask, double scale,
                                    const IntRect& region) {
        ReleasePtr release = screenRelease(600, 500);
        Layer layer;
        layer.content = FillContent{Ink{1, 1, 1, 1}};
        layer.mask = mask;
        release = withLayer(release, frontOf(release), layer);
        HeldPictures pictures;
        static const FontLibrary fonts{dataFolder() / "fonts", true};
        Renderer renderer(pictures, fonts);
        return renderer.renderStraightRgba8(panelScene(release, frontOf(release), {scale}), region);
    }

  private Q_SLOTS:
    void howTwoMeet() {
        const Selection a = box({100, 100, 200, 200}), b = box({200, 200, 200, 200});
        QCOMPARE(at(combined(a, b, Combine::Add), 350, 350), 255);
        QCOMPARE(at(combined(a, b, Combine::TakeAway), 250, 250), 0);
        QCOMPARE(at(combined(a, b, Combine::TakeAway), 150, 150), 255);
        QCOMPARE(at(combined(a, b, Combine::Intersect), 250, 250), 255);
        QCOMPARE(at(combined(a, b, Combine::Intersect), 150, 150), 0);
        QVERIFY(!combined(a, box({400, 400, 50, 50}), Combine::Intersect));
        QVERIFY(!combined(a, a, Combine::TakeAway));
        QVERIFY(combined(a, std::nullopt, Combine::Add) == a);
        QVERIFY(!combined(std::nullopt, a, Combine::TakeAway));
        // One of other pixels is brought to those that are there.
        const Selection coarse{box({50, 50, 50, 50}).tiles, 4};
        const auto both = combined(a, coarse, Combine::Add);
        QCOMPARE(both->pixel, 1.0);
        QCOMPARE(at(both, 390, 390), 255);
    }

    void edgesAreSoftByAPixel() {
        const Selection half = box({10.5, 10, 100, 100});
        QCOMPARE(at(half, 10, 50), 128);
        QCOMPARE(at(half, 110, 50), 128);
        Path outside;
        outside.addRect({900, 900, 10, 10});
        QVERIFY(!selectionOf(outside, 1, kPanel));
    }

    void turnedOver() {
        const auto rest = inverted(box({100, 100, 200, 200}), 1, kPanel);
        QCOMPARE(at(rest, 50, 50), 255);
        QCOMPARE(at(rest, 150, 150), 0);
        QVERIFY(inverted(rest, 1, kPanel) == box({100, 100, 200, 200}));
        QCOMPARE(at(inverted(std::nullopt, 1, kPanel), 599, 499), 255);
        QVERIFY(!inverted(inverted(std::nullopt, 1, kPanel), 1, kPanel));
    }

    void grownAndMoved() {
        const auto larger =
            reshaped(box({200, 200, 100, 100}), 10, [](const AlphaMap& m) { return grown(m, 10); });
        QCOMPARE(at(larger, 192, 250), 255);
        QCOMPARE(at(larger, 188, 250), 0);
        const auto moved = transformed(box({200, 200, 100, 100}), Affine::translation(50, -100), kPanel);
        QCOMPARE(at(moved, 300, 150), 255);
        QCOMPARE(at(moved, 210, 250), 0);
        QVERIFY(!transformed(box({200, 200, 100, 100}), Affine::translation(5000, 0), kPanel));
    }

    /// A painted mask at half and at twice the size is what it is at its own, averaged or enlarged.
    void sizesOfAMask() {
        auto mask = std::make_shared<const Mask>(maskOf(box({101, 77, 300, 200})));
        const auto whole = rendered(mask, 1, {0, 0, 600, 500});
        const auto half = rendered(mask, 0.5, {0, 0, 300, 250});
        const auto alpha = [](const Buffer<uint8_t>& b, int width, int x, int y) {
            return int(b[(size_t(y) * size_t(width) + size_t(x)) * 4 + 3]);
        };
        for (int y = 2; y < 248; ++y)
            for (int x = 2; x < 298; ++x) {
                const int mean =
                    (alpha(whole, 600, 2 * x, 2 * y) + alpha(whole, 600, 2 * x + 1, 2 * y) +
                     alpha(whole, 600, 2 * x, 2 * y + 1) + alpha(whole, 600, 2 * x + 1, 2 * y + 1)) /
                    4;
                // The filter reaches over to the next pixel and a little beyond what is there.
                const bool plain = mean == 0 || mean == 255;
                QVERIFY(std::abs(alpha(half, 300, x, y) - mean) <= (plain ? 26 : 70));
            }
        QCOMPARE(alpha(whole, 600, 101, 77), 255);
        QCOMPARE(alpha(whole, 600, 100, 77), 0);
        const auto twice = rendered(mask, 2, {0, 0, 1200, 1000});
        QCOMPARE(alpha(twice, 1200, 500, 300), 255);
        QCOMPARE(alpha(twice, 1200, 100, 300), 0);
    }

    /// Any mask turned into one to paint on shows the same to a 255th.
    void paintableLooksTheSame() {
        HeldPictures pictures;
        ReleasePtr release = screenRelease(600, 500);
        release = pictures.add(release, "veil", pictureOf(150, 125, [](int x, int y) {
                                   return std::array<uint8_t, 4>{uint8_t(x), uint8_t(y * 2), 80, 255};
                               }));
        Mask run, picture;
        run.form = evenRun(kPanel, 30, {1, 1, 1, 1}, {0, 0, 0, 1});
        run.inverted = true, run.strength = 0.7;
        picture.form = PictureContent{"veil", {0, 0, 1, 1}};
        picture.placement.position = {300, 250};
        picture.placement.scaleX = picture.placement.scaleY = 3;
        picture.feather = 20;
        for (const Mask& mask : {run, picture}) {
            Layer layer;
            layer.content = FillContent{Ink{1, 1, 1, 1}};
            layer.mask = std::make_shared<const Mask>(mask);
            const auto drawn = [&](const Layer& l) {
                static const FontLibrary fonts{dataFolder() / "fonts", true};
                Renderer renderer(pictures, fonts);
                return renderer.renderStraightRgba8(
                    panelScene(withLayer(release, frontOf(release), l), frontOf(release), {1}),
                    {0, 0, 600, 500});
            };
            const auto before = drawn(layer);
            layer.mask = std::make_shared<const Mask>(paintable(layer.mask, 1, kPanel, *release, pictures));
            QVERIFY(std::holds_alternative<PaintedMask>(layer.mask->form));
            const auto after = drawn(layer);
            for (size_t i = 3; i < before.size(); i += 4) QVERIFY(std::abs(before[i] - after[i]) <= 1);
        }
        const Mask all = paintable(nullptr, 1, kPanel, *release, pictures);
        QVERIFY(std::get<PaintedMask>(all.form).tiles->empty() && std::get<PaintedMask>(all.form).shows);
    }

    void partsAndFills() {
        HeldPictures pictures;
        ReleasePtr release = screenRelease(600, 500);
        Layer layer;
        layer.name = "Coat";
        layer.content = FillContent{Ink{1, 0, 0, 1}};
        Made made = withLayer(release, frontOf(release), layer);
        const Selected what{made.release, frontOf(release), box({100, 100, 200, 200}), pictures};
        const auto shows = [&](const ReleasePtr& r, const std::string& id, int x, int y) {
            const LayerPtr l = findLayer(stackOf(*r, frontOf(r)), id);
            return at(selectionOf(*l->mask, 1, kPanel, *r, pictures), x, y);
        };
        const Made part = withPart(what, made.id, true);
        QCOMPARE(shows(part.release, part.id, 150, 150), 255);
        QCOMPARE(shows(part.release, part.id, 50, 50), 0);
        QCOMPARE(shows(part.release, made.id, 150, 150), 0);
        QCOMPARE(shows(part.release, made.id, 50, 50), 255);
        const ReleasePtr shape = withShapeMaskOf(what, made.id);
        QCOMPARE(shows(shape, made.id, 150, 150), 255);
        QCOMPARE(shows(shape, made.id, 98, 150), 0);
        const Made fill = withFillOf(what, made.id, Ink{0, 1, 0, 1});
        QCOMPARE(shows(fill.release, fill.id, 150, 150), 255);
        QVERIFY(withPart(what, "gone", false).release == made.release);
    }

    /// The cut-out and its edge colours move as one, and cutting out again changes both in place.
    void cutOutLayers() {
        HeldPictures pictures;
        ReleasePtr release = screenRelease(600, 500);
        release = pictures.add(release, "photo", pictureOf(201, 99, [](int x, int) {
                                   return std::array<uint8_t, 4>{uint8_t(x), 90, 60, 255};
                               }));
        Layer layer;
        layer.name = "Keeper";
        layer.content = PictureContent{"photo", {0, 0, 1, 1}};
        layer.placement.position = {300, 250};
        layer.placement.scaleX = layer.placement.scaleY = 2, layer.placement.turn = 90;
        const Made made = withLayer(release, frontOf(release), layer);
        AlphaMap alpha(201, 99);
        for (int y = 0; y < 99; ++y)
            for (int x = 0; x < 201; ++x) alpha.at(x, y) = uint8_t(x < 80 ? 0 : x < 120 ? (x - 80) * 6 : 255);
        const CutFigure figure = cutFigure(*pictures.held["photo"], alpha);
        QVERIFY(figure.edges && figure.alpha);
        const Made cut = withCutOut(made.release, frontOf(release), made.id, figure.alpha, figure.edges);
        const Stack& stack = stackOf(*cut.release, frontOf(release));
        QCOMPARE(stack.size(), size_t(1));
        const auto& group = *stack[0]->as<GroupContent>();
        QVERIFY(group.layers[0]->clipped);
        // The first pixel of the mask lies where the picture's does.
        const Vec2 corner = placementMap(group.layers[1]->mask->placement).map({0, 0});
        const Vec2 truth = placementMap(layer.placement).map({-100.5, -49.5});
        QVERIFY((corner - truth).length() < 1e-9);
        const Made again = withCutOut(cut.release, frontOf(release), made.id, figure.alpha, nullptr);
        const LayerPtr group2 = stackOf(*again.release, frontOf(release))[0];
        QCOMPARE(group2->as<GroupContent>()->layers.size(), size_t(1));
        QVERIFY(withCutOut(release, frontOf(release), "gone", figure.alpha, nullptr).release == release);
    }

    void laidPixels() {
        PaintedContent content{std::make_shared<const PixelTiles>(kPaintPixels),
                               std::make_shared<const PixelTiles>(kMaskPixels)};
        const Picture red = pictureOf(10, 10, [](int, int) {
            return std::array<uint8_t, 4>{200, 0, 0, 255};
        });
        AlphaMap cover(10, 10, 128);
        cover.at(0, 0) = 0, cover.at(5, 5) = 255;
        content = withPixels(content, {red, cover, 250, 250, true});
        std::array<uint8_t, 4> p{};
        content.tiles->readRow(255, 255, 1, p.data());
        QCOMPARE(int(p[3]), 255);
        content.tiles->readRow(252, 252, 1, p.data());
        QCOMPARE(int(p[3]), 128);
        QCOMPARE(int(p[0]), 200); // straight
        content.tiles->readRow(250, 250, 1, p.data());
        QCOMPARE(int(p[3]), 0);
        QCOMPARE(valuesOf(*content.holes, {255, 255, 1, 1}).at(0, 0), uint8_t(255));
        // Copied upright by whole pixels a picture stays as it is.
        const Picture back = copiedAlong(red, Affine::translation(-3, -4), {3, 4, 10, 10});
        QVERIFY(std::equal(back.row<uint8_t>(0), back.row<uint8_t>(0) + back.bytes(), red.row<uint8_t>(0)));
        QCOMPARE(int(copiedAlong(red, {}, {20, 20, 1, 1}).row<uint8_t>(0)[3]), 0);
    }
};

GLYPTOS_TEST(PaintingTest)
#include "painting_test.moc"
