// Layers that are kneaded, bent and tilted, as they are rendered: where they lie, what stays sharp, what is
// rendered anew.
#include "file/data_folder.h"
#include "release/placing.h"
#include "release/warp.h"
#include "render/changed_area.h"
#include "render/layer_geometry.h"
#include "render/renderer.h"
#include "support/pictures.h"
#include "support/register.h"

#include <cmath>

using namespace glyptos;
using namespace glyptos::test;

class WarpedLayersTest : public QObject {
    Q_OBJECT
    static constexpr int kWide = 700, kHigh = 600;
    const FontLibrary fonts{dataFolder() / "fonts", true};
    HeldPictures pictures;
    ReleasePtr empty;
    PanelRef front;

    using Bytes = Buffer<uint8_t>;
    Bytes rendered(const ReleasePtr& release, double scale = 1) {
        Renderer renderer(pictures, fonts);
        return renderer.renderStraightRgba8(panelScene(release, front, {scale}),
                                            {0, 0, int(kWide * scale), int(kHigh * scale)});
    }
    static std::array<int, 4> at(const Bytes& b, int x, int y, int width = kWide) {
        const uint8_t* p = b.data() + (size_t(y) * size_t(width) + size_t(x)) * 4;
        return {p[0], p[1], p[2], p[3]};
    }
    ReleasePtr with(const Layer& layer) { return withLayer(empty, front, layer).release; }

    static Layer photo() {
        Layer out;
        out.name = "photo";
        out.content = PictureContent{"photo", {0, 0, 1, 1}};
        out.placement.position = {350, 300};
        return out;
    }
    static Layer box(double w, double h, Vec2 middle) {
        ShapeContent shape;
        shape.width = w, shape.height = h;
        shape.fill = Ink{1, 0, 0, 1};
        Layer out;
        out.name = "box";
        out.content = shape;
        out.placement.position = middle;
        return out;
    }
    static std::shared_ptr<const Warp> tilt(const Rect& box, const std::array<Vec2, 4>& corners) {
        Warp out;
        out.box = box;
        out.corners = corners;
        return std::make_shared<const Warp>(out);
    }
    static std::shared_ptr<const Warp> bend(const Rect& box, double amount) {
        Warp out;
        out.box = box;
        out.bend = std::make_shared<const BendSurface>(
            readyBend(ReadyBend::Wave, amount, box.h / std::max(box.w, 1.0), 6, 4));
        return std::make_shared<const Warp>(out);
    }
    static KneadField pushed(const KneadField& before, Vec2 from, Vec2 to, double radius) {
        KneadTip tip;
        tip.radius = radius, tip.height = 0.75, tip.holdEdges = false;
        KneadStroke stroke(before, tip);
        for (int i = 0; i <= 8; ++i) stroke.moveTo(from + (to - from) * (i / 8.0));
        stroke.finish();
        return stroke.field();
    }
    static std::shared_ptr<const Warp> kneaded(const Rect& box, const KneadField& field) {
        Warp out;
        out.box = box;
        out.knead = std::make_shared<const KneadField>(field);
        return std::make_shared<const Warp>(out);
    }

  private Q_SLOTS:
    void init() {
        empty =
            pictures.add(screenRelease(kWide, kHigh), "photo", pictureOf(400, 300, [](int x, int y) {
                             return std::array<uint8_t, 4>{uint8_t(127 + 100 * std::sin(x / 31.0)),
                                                           uint8_t(127 + 100 * std::cos(y / 23.0)),
                                                           uint8_t((x / 40 + y / 40) % 2 ? 200 : 50), 255};
                         }));
        front = frontOf(empty);
    }

    /// A picture bent as nothing is the picture; tilted it lies between its corners, placed and turned as
    /// before.
    void pictureBetweenItsCorners() {
        const Rect whole{0, 0, 400, 300};
        const Bytes plain = rendered(with(photo()));
        Warp even;
        even.box = whole;
        even.bend = std::make_shared<const BendSurface>(evenGrid(4, 3));
        const Bytes same = rendered(with(withWarp(photo(), std::make_shared<const Warp>(even))));
        for (int y = 0; y < kHigh; ++y)
            for (int x = 0; x < kWide; ++x)
                for (size_t c = 0; c < 4; ++c) QVERIFY(std::abs(at(plain, x, y)[c] - at(same, x, y)[c]) <= 1);
        Layer tilted = photo();
        tilted.placement.turn = 20;
        tilted = withWarp(tilted, tilt(whole, {Vec2{0.2, 0.1}, {0.8, 0}, {1, 1}, {0, 0.9}}));
        const Bytes out = rendered(with(tilted));
        const Affine placed =
            Affine::translation(350, 300) * Affine::rotation(20) * Affine::translation(-200, -150);
        const std::array<Vec2, 4> corners{placed.map({80, 30}), placed.map({320, 0}), placed.map({400, 300}),
                                          placed.map({0, 270})};
        Vec2 middle;
        for (const Vec2& c : corners) middle = middle + c * 0.25;
        for (const Vec2& c : corners) {
            const Vec2 in = c + (middle - c) * (6 / (middle - c).length()),
                       beyond = c - (middle - c) * (6 / (middle - c).length());
            QCOMPARE(at(out, int(in.x), int(in.y))[3], 255);
            QCOMPARE(at(out, int(beyond.x), int(beyond.y))[3], 0);
        }
    }

    /// Small equals large made smaller.
    void smallIsLargeMadeSmaller() {
        Layer layer = withWarp(photo(), bend({0, 0, 400, 300}, 0.7));
        Warp both = *layer.warp;
        both.corners = std::array<Vec2, 4>{Vec2{0.1, 0}, {0.95, 0.1}, {1, 0.9}, {0, 1}};
        both.knead = std::make_shared<const KneadField>(pushed({}, {0.4, 0.3}, {0.6, 0.4}, 0.2));
        layer = withWarp(layer, std::make_shared<const Warp>(both));
        Layer ground;
        ground.content = FillContent{Ink{0.2f, 0.2f, 0.2f, 1}};
        const ReleasePtr release = withLayer(with(ground), front, layer).release;
        const Bytes large = rendered(release, 2), small = rendered(release, 0.5);
        const int w = kWide / 2, h = kHigh / 2;
        double sum = 0;
        for (int y = 0; y < h; ++y)
            for (int x = 0; x < w; ++x)
                for (size_t c = 0; c < 3; ++c) {
                    double mean = 0;
                    for (int j = 0; j < 4; ++j)
                        for (int i = 0; i < 4; ++i)
                            mean += at(large, 4 * x + i, 4 * y + j, 2 * kWide)[c] / 16.0;
                    const double d = mean - at(small, x, y, w)[c];
                    sum += d * d;
                }
        const double psnr = 10 * std::log10(255 * 255 / (sum / (3.0 * w * h)));
        qInfo("small against large made smaller: %.1f dB", psnr);
        QVERIFY(psnr >= 35);
    }

    /// Outlines stay outlines: the edge of a bent shape is one pixel wide at any size.
    void shapesStaySharp() {
        const Layer layer = withWarp(box(300, 200, {350, 300}), bend({}, 0.6));
        for (const double scale : {1.0, 4.0}) {
            const int w = int(kWide * scale);
            const Bytes out = rendered(with(layer), scale);
            for (const double x : {250.0, 330.0, 440.0}) {
                int soft = 0, full = 0;
                for (int y = 0; y < int(kHigh * scale); ++y) {
                    const int a = at(out, int(x * scale), y, w)[3];
                    soft += a > 0 && a < 255, full += a == 255;
                }
                QVERIFY(full > 150 * scale);
                QVERIFY2(soft <= 4, qPrintable(QString::number(soft)));
            }
        }
        TextContent words;
        words.spec.text = "Hjalmar", words.spec.letters.size = 90;
        words.colour = Ink{0, 0, 0, 1};
        Layer text;
        text.content = words;
        text.placement.position = {200, 300};
        const Bytes out = rendered(with(withWarp(text, bend({}, 0.8))), 4);
        int black = 0, soft = 0;
        for (int y = 0; y < kHigh * 4; ++y)
            for (int x = 0; x < kWide * 4; ++x) {
                const int a = at(out, x, y, kWide * 4)[3];
                black += a == 255, soft += a > 0 && a < 255;
            }
        QVERIFY(black > 40000);
        QVERIFY(soft < black / 6);
    }

    /// A gradient in a shape, a pattern, a painted layer: all go where the mapping says.
    void everyKindGoesAlong() {
        const std::array<Vec2, 4> mirrored{Vec2{1, 0}, {0, 0}, {0, 1}, {1, 1}};
        ShapeContent shape;
        shape.width = 300, shape.height = 200;
        Gradient run;
        run.from = {-150, 0}, run.to = {150, 0};
        run.stops = {{0, Ink{1, 0, 0, 1}}, {1, Ink{0, 0, 1, 1}}};
        shape.fill = run;
        Layer layer;
        layer.content = shape;
        layer.placement.position = {350, 300};
        const Bytes plain = rendered(with(layer)),
                    out = rendered(with(withWarp(layer, tilt({-150, -100, 300, 200}, mirrored))));
        for (int x = 210; x < 490; x += 7)
            for (size_t c = 0; c < 3; ++c)
                QVERIFY(std::abs(at(plain, x, 280)[c] - at(out, 699 - x, 280)[c]) <= 2);
        PaintedContent painted{std::make_shared<const PixelTiles>(kPaintPixels), nullptr};
        PixelTiles tiles(kPaintPixels);
        tiles.change({300, 250, 100, 80}, [](const PixelPart& part) {
            for (int y = part.area.y; y < part.area.bottom(); ++y)
                for (int x = part.area.x; x < part.area.right(); ++x) {
                    const std::array<uint8_t, 4> p{uint8_t(2 * (x - 300)), uint8_t(3 * (y - 250)), 90, 255};
                    std::copy(p.begin(), p.end(), part.row(y) + size_t(x - part.area.x) * 4);
                }
        });
        painted.tiles = std::make_shared<const PixelTiles>(tiles);
        Layer strokes;
        strokes.content = painted;
        const Bytes flipped = rendered(with(withWarp(strokes, tilt({300, 250, 100, 80}, mirrored))));
        for (int x = 306; x < 394; ++x) {
            const auto p = at(flipped, x, 290);
            QVERIFY(std::abs(p[0] - 2 * (399 - x)) <= 2 && std::abs(p[1] - 120) <= 2 && p[3] == 255);
        }
    }

    /// A linked mask is bent with its layer, one that is not stays on the panel.
    void masksGoAlongOrStay() {
        Layer layer = box(400, 300, {350, 300});
        Mask mask;
        ShapeContent left;
        left.width = 200, left.height = 400;
        mask.form = left;
        mask.placement.position = {250, 300}; // the left half
        const std::array<Vec2, 4> mirrored{Vec2{1, 0}, {0, 0}, {0, 1}, {1, 1}};
        for (const bool linked : {true, false}) {
            mask.linked = linked;
            layer.mask = std::make_shared<const Mask>(mask);
            const Bytes out = rendered(with(withWarp(layer, tilt({-200, -150, 400, 300}, mirrored))));
            QCOMPARE(at(out, 200, 300)[3], linked ? 0 : 255);
            QCOMPARE(at(out, 500, 300)[3], linked ? 255 : 0);
        }
    }

    /// A group is tilted whole, moved as one, and lies where it lay when it is tilted no more.
    void groupsWhole() {
        const std::array<Vec2, 4> half{Vec2{0, 0}, {0.5, 0}, {0.5, 1}, {0, 1}};
        GroupContent group;
        group.layers = {std::make_shared<const Layer>(box(100, 100, {200, 200})),
                        std::make_shared<const Layer>(box(100, 100, {400, 200}))};
        Layer layer;
        layer.name = "group";
        layer.content = group;
        Layer tilted = withWarp(layer, tilt({150, 150, 300, 100}, half));
        const Bytes out = rendered(with(tilted));
        QCOMPARE(at(out, 175, 200)[3], 255); // 150…200
        QCOMPARE(at(out, 215, 200)[3], 0);
        QCOMPARE(at(out, 275, 200)[3], 255); // 250…300
        QCOMPARE(at(out, 400, 200)[3], 0);
        tilted = moved(tilted, {100, 50});
        QCOMPARE(at(rendered(with(tilted)), 275, 250)[3], 255);
        QCOMPARE(at(rendered(with(tilted)), 175, 200)[3], 0);
        const Bytes flat = rendered(with(withWarp(tilted, nullptr)));
        QCOMPARE(at(flat, 300, 250)[3], 255); // as it was, moved
        QCOMPARE(at(flat, 500, 250)[3], 255);
        // Its frame is what is seen of it.
        ParagraphCache paragraphs(fonts);
        const Frame frame = frameOf(tilted, *empty, {}, paragraphs);
        const Rect seen = frame.bounds();
        QVERIFY(std::abs(seen.x - 250) < 1e-6 && std::abs(seen.y - 200) < 1e-6);
        QVERIFY(std::abs(seen.w - 150) < 1e-6 && std::abs(seen.h - 100) < 1e-6);
        QVERIFY(frame.contains({260, 250}) && !frame.contains({420, 250}));
    }

    /// A stroke renders the tiles that it changed, and no others.
    void aStrokeRendersItsTiles() {
        const Rect whole{0, 0, 400, 300};
        const KneadField first = pushed({}, {0.1, 0.1}, {0.15, 0.1}, 0.05),
                         second = pushed(first, {0.8, 0.6}, {0.82, 0.6}, 0.05);
        Layer layer = photo();
        layer.placement.scaleX = layer.placement.scaleY = 1.7;
        const Made made = withLayer(empty, front, withWarp(layer, kneaded(whole, first)));
        const ReleasePtr next = withChangedLayer(made.release, front, made.id,
                                                 [&](Layer& l) { l = withWarp(l, kneaded(whole, second)); });
        Renderer renderer(pictures, fonts);
        const IntRect all{0, 0, kWide, kHigh};
        renderer.renderBgra8(panelScene(made.release, front, {1}), all);
        const size_t before = renderer.tilesRendered();
        renderer.renderBgra8(panelScene(next, front, {1}), all);
        const size_t changed = renderer.tilesRendered() - before;
        QVERIFY2(changed >= 1 && changed <= 4, qPrintable(QString::number(changed))); // of 9
        ParagraphCache paragraphs(fonts);
        QVERIFY(changedArea(made.release, next, front, paragraphs));
    }

    /// Another picture in its place is bent as the one before.
    void replacedPicture() {
        const ReleasePtr two = pictures.add(
            empty, "other", pictureOf(800, 600, [](int x, int y) {
                return std::array<uint8_t, 4>{uint8_t((x / 80 + y / 80) % 2 ? 250 : 20), 0, 0, 255};
            }));
        Layer layer = withWarp(photo(), tilt({0, 0, 400, 300}, {Vec2{0.2, 0.1}, {0.8, 0}, {1, 1}, {0, 0.9}}));
        const Layer other = withPicture(layer, *two->source("photo"), *two->source("other"));
        const Bytes before = rendered(withLayer(two, front, layer).release),
                    after = rendered(withLayer(two, front, other).release);
        for (int y = 0; y < kHigh; ++y)
            for (int x = 0; x < kWide; ++x) QVERIFY(std::abs(at(before, x, y)[3] - at(after, x, y)[3]) <= 3);
    }

    /// An echo of a panel that has warped layers, warped itself.
    void echoesGoAlong() {
        Layer layer = withWarp(box(200, 200, {350, 300}), bend({}, 0.5));
        ReleasePtr release = with(layer);
        release = withPiece(release, release->pieces[0]->form).value();
        const PanelRef other{release->pieces[1]->id, "front"};
        Layer echo;
        echo.content = EchoContent{front.piece, "front", "", false};
        echo.placement.position = {350, 300};
        echo = withWarp(echo, tilt({0, 0, kWide, kHigh}, {Vec2{0, 0}, {0.5, 0}, {0.5, 0.5}, {0, 0.5}}));
        release = withLayer(release, other, echo).release;
        Renderer renderer(pictures, fonts);
        const Bytes out = renderer.renderStraightRgba8(panelScene(release, other, {1}), {0, 0, kWide, kHigh});
        QCOMPARE(at(out, 175, 150)[3], 255);
        QCOMPARE(at(out, 350, 300)[3], 0);
    }
};

GLYPTOS_TEST(WarpedLayersTest)
#include "warped_layers_test.moc"
