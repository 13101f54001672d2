// Art that stops short of the bleed and is lengthened: judged again, and looked at where it goes on.
#include "release/edits/lengthen.h"

#include "release/placing.h"
#include "render/fit/art_cover.h"
#include "support/forms.h"
#include "support/pictures.h"
#include "support/register.h"

using namespace glyptos;
using namespace glyptos::test;

class LengthenTest : public QObject {
    Q_OBJECT
    FontLibrary fonts{dataFolder() / "fonts", true};
    HeldPictures pictures;
    Renderer renderer{pictures, fonts};

    /// A liner of 138 × 118 mm with a picture of 10 px a mm whose red is its column and green its row.
    struct Short {
        ReleasePtr release;
        PanelRef panel;
        std::string layer;
    };
    Short shortArt(const Rect& mm, double turn = 0) {
        Short out;
        out.release = releaseOf("tray-liner");
        out.panel = {out.release->pieces[0]->id, "front"};
        const bool sideways = turn == 90 || turn == 270;
        const int w = int(10 * (sideways ? mm.h : mm.w)), h = int(10 * (sideways ? mm.w : mm.h));
        out.release = pictures.add(out.release, "ramp", pictureOf(w, h, [w, h](int x, int y) {
                                       return std::array<uint8_t, 4>{uint8_t(255 * x / (w - 1)),
                                                                     uint8_t(255 * y / (h - 1)), 90, 255};
                                   }));
        Layer layer;
        layer.content = PictureContent{"ramp", {0, 0, 1, 1}};
        layer.placement.scaleX = layer.placement.scaleY = 0.1;
        layer.placement.turn = turn;
        layer.placement.position = mm.centre();
        const Made made = withLayer(out.release, out.panel, layer);
        out.release = made.release, out.layer = made.id;
        return out;
    }
    ShortBy judged(const ReleasePtr& r, const PanelRef& panel) {
        ShortBy by;
        for (const ShortEdge& edge : judgeArt(renderer, r, panel).shorts)
            (edge.edge == "left"    ? by.left
             : edge.edge == "right" ? by.right
             : edge.edge == "top"   ? by.top
                                    : by.bottom) = edge.by + 0.2;
        return by;
    }
    std::array<int, 4> seen(const ReleasePtr& r, const PanelRef& panel, Vec2 mm) {
        const Scene scene = panelScene(r, panel, {10, true});
        const auto px =
            renderer.renderBgra8(scene, {int(std::floor(mm.x * 10)), int(std::floor(mm.y * 10)), 1, 1});
        return {px[2], px[1], px[0], px[3]};
    }

  private Q_SLOTS:
    void bothWaysReachTheBleed() {
        // Short by 2 at the left and at the top, and by 1 at the right: the corners too.
        for (const double turn : {0.0, 90.0, 180.0})
            for (const Lengthening how : {Lengthening::Mirrored, Lengthening::Smeared}) {
                const Short art = shortArt({-1, -1, 141, 122}, turn);
                const ShortBy by = judged(art.release, art.panel);
                QVERIFY(by.left > 1.9 && by.top > 1.9 && by.right > 0.9 && by.bottom == 0);
                const Made made = withLengthened(art.release, art.panel, art.layer, by, how, "Beyond");
                QVERIFY(!made.id.empty());
                const ArtCover cover = judgeArt(renderer, made, art.panel);
                QVERIFY2(cover.shorts.empty(),
                         cover.sentence(*art.release->pieces[0]->flat->panel("front"), Unit::Mm).c_str());
                // Behind the picture, as one group.
                const Stack& stack = stackOf(*made.release, art.panel);
                QVERIFY(stack.size() == 2 && stack[0]->id == art.layer && stack[1]->id == made.id);
                // The art itself looks as before.
                QCOMPARE(seen(made, art.panel, {60, 60}), seen(art.release, art.panel, {60, 60}));
            }
    }

    /// As far beyond the edge as inside of it.
    void mirroredGoesOnLikeAMirror() {
        const Short art = shortArt({-1, -3, 143, 124});
        const Made made = withLengthened(art.release, art.panel, art.layer, judged(art.release, art.panel),
                                         Lengthening::Mirrored, "Beyond");
        const auto inside = seen(art.release, art.panel, {0.55, 50}),
                   beyond = seen(made, art.panel, {-2.55, 50});
        for (size_t c = 0; c < 3; ++c) QVERIFY(std::abs(inside[c] - beyond[c]) <= 2);
        QCOMPARE(beyond[3], 255);
    }

    void smearedGoesOnEvenly() {
        const Short art = shortArt({-1, -3, 143, 124});
        const Made made = withLengthened(art.release, art.panel, art.layer, judged(art.release, art.panel),
                                         Lengthening::Smeared, "Beyond");
        const auto edge = seen(art.release, art.panel, {-0.95, 50});
        for (const double x : {-2.95, -2.0, -1.2}) {
            const auto beyond = seen(made, art.panel, {x, 50});
            for (size_t c = 0; c < 3; ++c) QVERIFY(std::abs(edge[c] - beyond[c]) <= 2);
            QCOMPARE(beyond[3], 255);
        }
    }

    void theColourOfTheEdge() {
        const Short art = shortArt({-1, -3, 143, 124});
        const auto cover = judgeArt(renderer, art.release, art.panel);
        const auto colour = edgeColour(renderer, art.release, art.panel, cover.shorts);
        QVERIFY(colour.has_value());
        QVERIFY2(colour->r < 0.03 && std::abs(colour->g - 0.5) < 0.05 &&
                     std::abs(colour->b - 90 / 255.0) < 0.01,
                 qPrintable(QString("%1 %2 %3").arg(colour->r).arg(colour->g).arg(colour->b)));
        QVERIFY(!edgeColour(renderer, art.release, art.panel, {}));
    }

    void whatStaysAsItIs() {
        const Short art = shortArt({-3, -3, 144, 124});
        const Made made =
            withLengthened(art.release, art.panel, art.layer, {}, Lengthening::Mirrored, "Beyond");
        QCOMPARE(made.release, art.release);
        Layer fill;
        fill.content = FillContent{Rgba{1, 0, 0, 1}};
        const Made other = withLayer(art.release, art.panel, fill);
        QCOMPARE(withLengthened(other, art.panel, other.id, {1, 0, 0, 0}, Lengthening::Mirrored, "").release,
                 other.release);
    }
};

GLYPTOS_TEST(LengthenTest)
#include "lengthen_test.moc"
