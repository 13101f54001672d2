// Clips, masks, echoes and linear light against values worked out by hand.
#include "raster/noise.h"
#include "release/placing.h"
#include "render/renderer.h"

#include "file/data_folder.h"
#include "support/noting.h"
#include "support/pictures.h"
#include "support/register.h"

#include <QRandomGenerator>
#include <QStringLiteral>

using namespace glyptos;
using namespace glyptos::test;

namespace {

constexpr int kSide = 60;

Layer fillOf(const std::string& name, Rgba colour) {
    Layer l;
    l.id = l.name = name;
    l.content = FillContent{colour};
    return l;
}

/// A rectangle in px of the panel.
Layer boxOf(const std::string& name, const Rect& box, Rgba colour) {
    Layer l;
    l.id = l.name = name;
    ShapeContent shape;
    shape.width = box.w, shape.height = box.h;
    shape.fill = colour;
    l.content = shape;
    l.placement.position = box.centre();
    return l;
}

Mask maskOf(const Rect& box) {
    Mask mask;
    ShapeContent shape;
    shape.width = box.w, shape.height = box.h;
    mask.form = shape;
    mask.placement.position = box.centre();
    return mask;
}

} // namespace

class ClipMaskTest : public QObject {
    Q_OBJECT
    FontLibrary fonts{dataFolder() / "fonts", true};
    HeldPictures pictures;

    ReleasePtr with(std::initializer_list<Layer> backToFront) const {
        ReleasePtr r = screenRelease(kSide, kSide);
        for (const Layer& l : backToFront) r = withLayer(r, frontOf(r), l);
        return r;
    }
    ReleasePtr changed(const ReleasePtr& r, const std::string& id, const LayerChange& change) const {
        return withChangedLayer(r, frontOf(r), id, change);
    }

    /// Premultiplied r, g, b, a of one pixel, 0…1.
    std::array<double, 4> at(const ReleasePtr& r, int x, int y, const std::string& inHand = {}) {
        Renderer renderer(pictures, fonts);
        Scene scene = panelScene(r, frontOf(r), {1, false});
        scene.inHand = inHand;
        std::array<double, 4> out{};
        renderer.render(scene, {x, y, 1, 1}, [&](int, int, const RowPlanes& row, size_t) {
            for (size_t c = 0; c < 4; ++c) out[c] = double(row.c[c][0]);
        });
        return out;
    }

    static bool near(const std::array<double, 4>& got, const std::array<double, 4>& want, double by = 1e-4) {
        for (size_t c = 0; c < 4; ++c)
            if (std::abs(got[c] - want[c]) > by) {
                qWarning() << got[0] << got[1] << got[2] << got[3] << "instead of" << want[0] << want[1]
                           << want[2] << want[3];
                return false;
            }
        return true;
    }

  private Q_SLOTS:
    void clipShowsInsideTheBaseAlone() {
        Layer inside = fillOf("inside", {1, 0, 0, 0.5f});
        inside.clipped = true;
        const ReleasePtr r =
            with({fillOf("ground", {0, 0, 1, 1}), boxOf("base", {10, 10, 20.5, 20}, {0, 1, 0, 1}), inside});
        QVERIFY(near(at(r, 5, 5), {0, 0, 1, 1}));
        QVERIFY(near(at(r, 15, 15), {0.5, 0.5, 0, 1}));
        // The half covered pixel at the edge: half of what stands inside, half ground, and no rim of red.
        QVERIFY(near(at(r, 30, 15), {0.25, 0.25, 0.5, 1}));
    }

    void clippedMultiplyMeetsTheBaseAsIfOpaque() {
        Layer shade = fillOf("shade", {0.5f, 0.5f, 0.5f, 1});
        shade.clipped = true;
        shade.blend = BlendMode::Multiply;
        // Base colour 0.8 at alpha 0.5: inside it 0.8 · 0.5, with the base's alpha.
        const ReleasePtr r = with({fillOf("base", {0.8f, 0.4f, 0, 0.5f}), shade});
        QVERIFY(near(at(r, 3, 3), {0.2, 0.1, 0, 0.5}));
    }

    void baseBlendAndOpacityApplyToTheWholeRun() {
        Layer base = fillOf("base", {0, 0, 0, 1}), inside = fillOf("inside", {0.6f, 0.6f, 0.6f, 1});
        base.blend = BlendMode::Multiply;
        base.opacity = 0.5;
        inside.clipped = true;
        const ReleasePtr r = with({fillOf("ground", {0.5f, 1, 0, 1}), base, inside});
        QVERIFY(near(at(r, 3, 3), {0.5 * 0.5 + 0.5 * 0.3, 0.5 + 0.5 * 0.6, 0, 1}));
    }

    void runsOfClipsAndTheirLamps() {
        Layer one = fillOf("one", {1, 0, 0, 1}), two = fillOf("two", {0, 0, 1, 0.25f});
        one.clipped = two.clipped = true;
        const ReleasePtr r = with({boxOf("base", {0, 0, 30, 60}, {0, 1, 0, 1}), one, two});
        QVERIFY(near(at(r, 3, 3), {0.75, 0, 0.25, 1}));
        QVERIFY(near(at(r, 40, 3), {0, 0, 0, 0}));
        QVERIFY(near(at(changed(r, "one", [](Layer& l) { l.on = false; }), 3, 3), {0, 0.75, 0.25, 1}));
        QVERIFY(near(at(changed(r, "base", [](Layer& l) { l.on = false; }), 3, 3), {0, 0, 0, 0}));
        // Nothing below to show inside of: a clipped layer at the very back is an ordinary one.
        const ReleasePtr alone = withoutLayer(r, frontOf(r), "base");
        QVERIFY(near(at(alone, 40, 3), {0.75, 0, 0.25, 1}));
    }

    void clippedOperatorsCutTheBase() {
        Layer hole = boxOf("hole", {0, 0, 30, 60}, {0, 0, 0, 1});
        hole.clipped = true;
        hole.blend = BlendMode::DestinationOut;
        const ReleasePtr r = with({fillOf("ground", {1, 1, 1, 1}), fillOf("base", {1, 0, 0, 1}), hole});
        QVERIFY(near(at(r, 3, 3), {1, 1, 1, 1}));
        QVERIFY(near(at(r, 40, 3), {1, 0, 0, 1}));
    }

    void clipIntoAGroupAndOfAGroup() {
        Layer inside = fillOf("inside", {1, 0, 0, 1});
        inside.clipped = true;
        ReleasePtr r = with(
            {boxOf("left", {0, 0, 20, 60}, {0, 1, 0, 1}), boxOf("right", {40, 0, 20, 60}, {0, 1, 0, 1})});
        std::string group;
        r = noting(group, *withGrouped(r, frontOf(r), {"left", "right"}));
        r = changed(r, group, [](Layer& l) { std::get<GroupContent>(l.content).passing = true; });
        r = withLayer(r, frontOf(r), inside, group);
        QVERIFY(near(at(r, 3, 3), {1, 0, 0, 1}));
        QVERIFY(near(at(r, 30, 3), {0, 0, 0, 0}));
        std::string outer;
        r = noting(outer, *withGrouped(r, frontOf(r), {"inside"}));
        r = changed(r, outer, [](Layer& l) { l.clipped = true; });
        QVERIFY(near(at(r, 50, 3), {1, 0, 0, 1}));
        QVERIFY(near(at(r, 30, 3), {0, 0, 0, 0}));
    }

    void maskStrengthInversionAndEdge() {
        Layer layer = fillOf("layer", {1, 0, 0, 1});
        Mask mask = maskOf({10, 0, 20.25, 60});
        const auto shown = [&](int x) {
            layer.mask = std::make_shared<const Mask>(mask);
            return at(with({layer}), x, 5)[3];
        };
        QCOMPARE(shown(15), 1.0);
        QCOMPARE(shown(5), 0.0);
        QVERIFY(std::abs(shown(30) - 0.25) < 1e-4);
        mask.strength = 0.6;
        QVERIFY(std::abs(shown(5) - 0.4) < 1e-4 && shown(15) == 1.0);
        mask.inverted = true;
        QVERIFY(std::abs(shown(15) - 0.4) < 1e-4 && shown(5) == 1.0);
        mask.on = false;
        QCOMPARE(shown(15), 1.0);
    }

    void featherIsAGaussianOfHalfItsWidth() {
        Layer layer = fillOf("layer", {1, 1, 1, 1});
        for (const double feather : {6.0, 40.0}) { // on the output's own grid, and on a coarser one
            Mask mask = maskOf({30, -1000, 1000, 2000});
            mask.feather = feather;
            layer.mask = std::make_shared<const Mask>(mask);
            const ReleasePtr r = with({layer});
            for (int x = 0; x < kSide; x += 5) {
                const double want =
                    0.5 * (1 + std::erf((x + 0.5 - 30) / (feather / 2 * std::numbers::sqrt2)));
                QVERIFY2(std::abs(at(r, x, 30)[3] - want) < 0.006, qPrintable(QString::number(x)));
            }
        }
    }

    void pictureMaskIsItsLuminance() {
        ReleasePtr r = screenRelease(kSide, kSide);
        r = pictures.add(r, "m", pictureOf(kSide, kSide, [](int x, int) {
                             return x < 20   ? std::array<uint8_t, 4>{0, 255, 0, 255}
                                    : x < 40 ? std::array<uint8_t, 4>{255, 255, 255, 255}
                                             : std::array<uint8_t, 4>{0, 0, 0, 0};
                         }));
        Layer layer = fillOf("layer", {1, 0, 0, 1});
        Mask mask;
        mask.form = PictureContent{"m", {0, 0, 1, 1}};
        mask.placement.position = {kSide / 2.0, kSide / 2.0};
        layer.mask = std::make_shared<const Mask>(mask);
        r = withLayer(r, frontOf(r), layer);
        QVERIFY(std::abs(at(r, 10, 5)[3] - 0.7152) < 1e-4); // ITU-R BT.709
        QVERIFY(std::abs(at(r, 30, 5)[3] - 1) < 1e-4);
        QCOMPARE(at(r, 50, 5)[3], 0.0);
    }

    void gradientMask() {
        Layer layer = fillOf("layer", {1, 0, 0, 1});
        Mask mask;
        mask.form = evenRun({0, 0, kSide, kSide}, 0, {0, 0, 0, 1}, {1, 1, 1, 1});
        layer.mask = std::make_shared<const Mask>(mask);
        for (int y = 0; y < kSide; y += 7)
            QVERIFY(std::abs(at(with({layer}), 5, y)[3] - (y + 0.5) / kSide) < 1e-4);
    }

    void groupMasksAlsoWhenPassingThrough() {
        ReleasePtr r = with({fillOf("ground", {0.5f, 0.5f, 0.5f, 1})});
        Layer shade = fillOf("shade", {0.5f, 0.5f, 0.5f, 1});
        shade.blend = BlendMode::Multiply;
        r = withLayer(r, frontOf(r), shade);
        std::string group;
        r = noting(group, *withGrouped(r, frontOf(r), {"shade"}));
        Mask mask = maskOf({0, 0, 30, 60});
        mask.strength = 0.8;
        for (const bool passing : {false, true}) {
            r = changed(r, group, [&](Layer& l) {
                l.mask = std::make_shared<const Mask>(mask);
                std::get<GroupContent>(l.content).passing = passing;
            });
            // Isolated, the lone layer has nothing to multiply with and stays 0.5, as the ground is.
            const double full = passing ? 0.25 : 0.5;
            QVERIFY(near(at(r, 5, 5), {full, full, full, 1}));
            const double rest = 0.5 * 0.8 + full * 0.2;
            QVERIFY(near(at(r, 50, 5), {rest, rest, rest, 1}));
        }
    }

    void maskOfTheBaseCutsWhatIsClippedIntoIt() {
        Layer base = fillOf("base", {0, 1, 0, 1}), inside = fillOf("inside", {1, 0, 0, 1});
        base.mask = std::make_shared<const Mask>(maskOf({0, 0, 30, 60}));
        inside.clipped = true;
        const ReleasePtr r = with({base, inside});
        QVERIFY(near(at(r, 5, 5), {1, 0, 0, 1}));
        QVERIFY(near(at(r, 50, 5), {0, 0, 0, 0}));
    }

    void linearLightMixesLight() {
        ReleasePtr r = with({fillOf("black", {0, 0, 0, 1}), fillOf("white", {1, 1, 1, 0.5f})});
        QVERIFY(near(at(r, 3, 3), {0.5, 0.5, 0.5, 1}));
        r = withLinearLight(r, true);
        QVERIFY(near(at(r, 3, 3), {0.73536, 0.73536, 0.73536, 1}, 2e-4)); // half the light, encoded
        Layer grey = fillOf("grey", {0.5f, 0.5f, 0.5f, 1});
        QVERIFY(near(at(withLinearLight(with({grey}), true), 3, 3), {0.5, 0.5, 0.5, 1}));
    }

    void echoFollowsTheOtherPanel() {
        ReleasePtr r = screenRelease(40, 40);
        const PanelRef first = frontOf(r);
        r = withLayer(r, first, boxOf("box", {10, 10, 20, 20}, {1, 0, 0, 1}));
        r = withPiece(r, r->pieces[0]->form, r->pieces[0]->values).value();
        const PanelRef second{r->pieces[1]->id, first.panel};
        Layer echo;
        echo.name = "Echo";
        EchoContent content{first.piece, first.panel, {}, false};
        echo.content = content;
        echo.placement.position = {20, 20};
        echo.placement.turn = 90;
        echo.placement.scaleX = 0.5;
        r = withEcho(r, second, echo).value();
        Renderer renderer(pictures, fonts);
        const auto colour = [&](int x, int y) {
            std::array<double, 4> out{};
            renderer.render(panelScene(r, second, {1, false}), {x, y, 1, 1},
                            [&](int, int, const RowPlanes& row, size_t) {
                                for (size_t c = 0; c < 4; ++c) out[c] = double(row.c[c][0]);
                            });
            return out;
        };
        // 20 × 20 at half the width, turned: 20 wide and 10 high about the middle.
        QVERIFY(near(colour(11, 16), {1, 0, 0, 1}));
        QVERIFY(near(colour(28, 24), {1, 0, 0, 1}));
        QVERIFY(near(colour(20, 13), {0, 0, 0, 0}));
        r = withChangedLayer(r, first, "box", [](Layer& l) {
            std::get<ShapeContent>(l.content).fill = Rgba{0, 0, 1, 1};
        });
        QVERIFY(near(colour(11, 16), {0, 0, 1, 1}));
    }

    void echoesThatMeetThemselves() {
        ReleasePtr r = screenRelease(40, 40);
        const PanelRef first = frontOf(r);
        r = withPiece(r, r->pieces[0]->form, r->pieces[0]->values).value();
        const PanelRef second{r->pieces[1]->id, first.panel};
        Layer toFirst, toSecond;
        toFirst.name = "Echo of first";
        toFirst.content = EchoContent{first.piece, first.panel, {}, false};
        toSecond.content = EchoContent{second.piece, second.panel, {}, false};
        toFirst.placement.position = toSecond.placement.position = {20, 20};
        QVERIFY(!withEcho(r, first, toFirst));
        r = withEcho(r, second, toFirst).value();
        const auto refused = withEcho(r, first, toSecond);
        QVERIFY(!refused && sentence(refused).contains("would never end"));
        // A file may hold one all the same: it is drawn once and ends.
        r = withLayer(r, first, fillOf("ground", {1, 0, 0, 1}));
        r = withLayer(r, first, toSecond);
        Renderer renderer(pictures, fonts);
        const auto out = renderer.renderBgra8(panelScene(r, first, {1, false}), {0, 0, 40, 40});
        QCOMPARE(int(out[2]), 255);
    }

    /// Random edits: with what lies below and above kept, and with all caches warm, the result is that of a
    /// fresh renderer.
    void keptCompositesDoNotShow() {
        QRandomGenerator random(11);
        ReleasePtr r = screenRelease(300, 280);
        const PanelRef front = frontOf(r);
        r = pictures.add(r, "n", pictureOf(300, 280, [](int x, int y) {
                             const auto v = [&](uint32_t c) {
                                 return uint8_t(hashNoise(x / 3, y / 3, c) * 200);
                             };
                             return std::array<uint8_t, 4>{v(1), v(2), v(3), 200};
                         }));
        for (int i = 0; i < 9; ++i) {
            Layer l = i % 3 == 0 ? boxOf("l" + std::to_string(i), {20.0 * i, 15.0 * i, 150, 120},
                                         {0.2f, 0.7f, 0.4f, 0.8f})
                                 : fillOf("l" + std::to_string(i), {0.1f * float(i), 0.5f, 0.3f, 0.5f});
            if (i % 3 == 1) {
                l.content = PictureContent{"n", {0, 0, 1, 1}};
                l.placement.position = {150.0 + i, 140};
            }
            r = withLayer(r, front, l);
        }
        Renderer kept(pictures, fonts);
        for (int round = 0; round < 40; ++round) {
            const Stack& stack = stackOf(*r, front);
            const std::string id = stack[random.bounded(quint32(stack.size()))]->id;
            r = withChangedLayer(r, front, id, [&](Layer& l) {
                switch (random.bounded(5)) {
                case 0:
                    l.blend = static_cast<BlendMode>(random.bounded(int(kBlendModeCount)));
                    break;
                case 1:
                    l.opacity = random.generateDouble();
                    break;
                case 2:
                    l.clipped = !l.clipped;
                    break;
                case 3:
                    l = moved(l, {random.bounded(40.0) - 20, random.bounded(40.0) - 20});
                    break;
                default:
                    l.mask = l.mask ? nullptr : std::make_shared<const Mask>(maskOf({30, 20, 200, 200}));
                }
            });
            if (round % 10 == 9) r = withLinearLight(r, !r->linearLight);
            if (round == 20) r = withMovedLayer(r, front, id, {}, 0);
            Renderer fresh(pictures, fonts);
            Scene scene = panelScene(r, front, {1, false});
            const IntRect all = scene.bounds();
            const auto want = fresh.renderBgra8(scene, all);
            scene.inHand = id;
            const auto got = kept.renderBgra8(scene, all);
            int worst = 0;
            for (size_t i = 0; i < want.size(); ++i) worst = std::max(worst, std::abs(want[i] - got[i]));
            QVERIFY2(worst <= 1, qPrintable(QStringLiteral("round %1: %2").arg(round).arg(worst)));
        }
    }
};

GLYPTOS_TEST(ClipMaskTest)
#include "clip_mask_test.moc"
