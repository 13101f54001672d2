// Treatments of layers in a stack: in their order, on groups, masks and all that lies beneath a grade, and
// what they read of other layers.
#include "release/edits/edits.h"
#include "render/renderer.h"
#include "support/pictures.h"
#include "support/register.h"
#include "support/treated.h"

using namespace glyptos;
using namespace glyptos::test;

namespace {

Layer layerOf(const char* name, Content content, Vec2 at) {
    Layer out;
    out.id = out.name = name;
    out.content = std::move(content);
    out.placement.position = at;
    return out;
}

ShapeContent box(double side, Ink ink) {
    ShapeContent out;
    out.width = out.height = side;
    out.fill = ink;
    return out;
}

LayerPtr with(Layer layer, const Treatments& list) {
    layer.treatments = std::make_shared<const Treatments>(list);
    return std::make_shared<const Layer>(std::move(layer));
}

/// Straight RGBA of a stack, front to back, on a panel of 300 × 200 px.
class Rendering {
  public:
    explicit Rendering(const Stack& stack, bool linear = false) {
        ReleasePtr release = screenRelease(300, 200);
        for (size_t i = stack.size(); i-- > 0;) release = withLayer(release, frontOf(release), *stack[i]);
        if (linear) release = withLinearLight(release, true);
        Renderer renderer(pictures_, fonts());
        bytes_ = renderer.renderStraightRgba8(panelScene(release, frontOf(release), {1}), {0, 0, 300, 200});
    }
    std::array<int, 4> at(int x, int y) const {
        const uint8_t* p = bytes_.data() + (size_t(y) * 300 + size_t(x)) * 4;
        return {p[0], p[1], p[2], p[3]};
    }

  private:
    HeldPictures pictures_;
    Buffer<uint8_t> bytes_;
};

bool isNear(const std::array<int, 4>& a, const std::array<int, 4>& b, int most = 2) {
    for (size_t c = 0; c < 4; ++c)
        if (std::abs(a[c] - b[c]) > most) return false;
    return true;
}

} // namespace

class TreatedLayersTest : public QObject {
    Q_OBJECT

  private Q_SLOTS:
    void theOrderCounts() {
        const Ink grey(0.6f, 0.6f, 0.6f, 1);
        const auto run = ColourRun{{0, Ink(1, 0, 0, 1)}, {1, Ink(0, 0, 1, 1)}};
        const auto shownBy = [&](const Treatments& list) {
            return Rendering({with(layerOf("box", box(100, grey), {150, 100}), list)}).at(150, 100);
        };
        QVERIFY(
            isNear(shownBy(listOf({{"inversion", {}}, {"colour-run", {{"run", run}}}})), {153, 0, 102, 255}));
        QVERIFY(isNear(shownBy(listOf({{"colour-run", {{"run", run}}}, {"inversion", {}}})),
                       {153, 255, 102, 255}));
    }

    void opacityBlendAndMaskOfOne() {
        Treatments list = listOf({{"inversion", {}}});
        const auto shownAt = [&](int x) {
            return Rendering({with(layerOf("box", box(100, Ink(1, 1, 0, 1)), {150, 100}), list)}).at(x, 100);
        };
        list[0].opacity = 0.5;
        QVERIFY(isNear(shownAt(150), {128, 128, 128, 255}));
        list[0].opacity = 1, list[0].blend = BlendMode::Screen;
        QVERIFY(isNear(shownAt(150), {255, 255, 255, 255}));
        list[0].blend = BlendMode::Normal;
        Mask mask;
        mask.form = box(100, Ink(1, 1, 1, 1));
        mask.placement.position = {100, 100}; // the left half of the box
        list[0].mask = std::make_shared<const Mask>(mask);
        QVERIFY(isNear(shownAt(120), {0, 0, 255, 255}) && isNear(shownAt(180), {255, 255, 0, 255}));
        // The same of one that looks around itself.
        list = listOf({{"ghosts", {{"count", 1.0}, {"step", 80.0}, {"fade", 1.0}, {"softness", 0.0}}}});
        QVERIFY(isNear(shownAt(250), {255, 255, 0, 255}));
        list[0].opacity = 0.5;
        QVERIFY(isNear(shownAt(250), {255, 255, 0, 128}) && isNear(shownAt(150), {255, 255, 0, 255}));
        list[0].mask = std::make_shared<const Mask>(mask);
        QVERIFY(isNear(shownAt(250), {0, 0, 0, 0}));
    }

    void aShadowIsThatOfWhatIsCutOut() {
        Layer layer = layerOf("box", box(120, Ink(1, 1, 1, 1)), {120, 100});
        Mask mask;
        mask.form = box(60, Ink(1, 1, 1, 1));
        mask.placement.position = {120, 100};
        layer.mask = std::make_shared<const Mask>(mask);
        const Rendering shown({with(layer, listOf({{"cast-shadow",
                                                    {{"colour", Ink(1, 0, 0, 1)},
                                                     {"strength", 1.0},
                                                     {"direction", 0.0},
                                                     {"distance", 60.0},
                                                     {"softness", 0.0}}}}))});
        QVERIFY(isNear(shown.at(120, 100), {255, 255, 255, 255})); // the part that shows
        QVERIFY(isNear(shown.at(180, 100), {255, 0, 0, 255}));     // its shadow, 60 px wide
        QVERIFY(shown.at(215, 100)[3] < 3 && shown.at(85, 100)[3] < 3);
        // Blurred before it is cut: its edge stays sharp.
        const Rendering soft({with(layer, listOf({{"soft-blur", {{"sigma", 4.0}}}}))});
        QVERIFY(soft.at(88, 100)[3] == 0 && soft.at(92, 100)[3] > 250);
    }

    void whatIsClippedIntoALayerIsInItsShadow() {
        Layer inside = layerOf("inside", box(200, Ink(0, 1, 0, 1)), {150, 100});
        inside.clipped = true;
        const LayerPtr base =
            with(layerOf("base", box(60, Ink(1, 1, 1, 1)), {100, 100}), listOf({{"cast-shadow",
                                                                                 {{"colour", Ink(1, 0, 0, 1)},
                                                                                  {"strength", 1.0},
                                                                                  {"direction", 0.0},
                                                                                  {"distance", 80.0},
                                                                                  {"softness", 0.0}}}}));
        const Rendering shown({std::make_shared<const Layer>(inside), base});
        QVERIFY(isNear(shown.at(100, 100), {0, 255, 0, 255}) && isNear(shown.at(180, 100), {255, 0, 0, 255}));
    }

    void aGradeActsOnAllBeneathItInItsGroup() {
        const LayerPtr grade = with(layerOf("grade", GradeContent{}, {}), listOf({{"inversion", {}}}));
        const LayerPtr left = std::make_shared<const Layer>(
                           layerOf("left", box(80, Ink(1, 0, 0, 1)), {80, 100})),
                       right = std::make_shared<const Layer>(
                           layerOf("right", box(80, Ink(1, 0, 0, 1)), {220, 100}));
        const Rendering all({grade, left, right});
        QVERIFY(isNear(all.at(80, 100), {0, 255, 255, 255}) && isNear(all.at(220, 100), {0, 255, 255, 255}));
        QVERIFY(all.at(150, 100)[3] == 0);
        const Rendering grouped(
            {std::make_shared<const Layer>(layerOf("group", GroupContent{{grade, left}, false}, {})), right});
        QVERIFY(isNear(grouped.at(80, 100), {0, 255, 255, 255}) &&
                isNear(grouped.at(220, 100), {255, 0, 0, 255}));
        Layer clipped = *grade;
        clipped.clipped = true;
        const Rendering one({std::make_shared<const Layer>(clipped), left, right});
        QVERIFY(isNear(one.at(80, 100), {0, 255, 255, 255}) && isNear(one.at(220, 100), {255, 0, 0, 255}));
        // Its own opacity, blend and mask.
        Layer half = *grade;
        half.opacity = 0.5;
        QVERIFY(
            isNear(Rendering({std::make_shared<const Layer>(half), left}).at(80, 100), {128, 128, 128, 255}));
        half.opacity = 1, half.blend = BlendMode::Multiply;
        QVERIFY(isNear(Rendering({std::make_shared<const Layer>(half), left}).at(80, 100), {0, 0, 0, 255}));
    }

    void aGradeThatLooksAroundItselfDrawsAllBeneathAnew() {
        const LayerPtr blur =
            with(layerOf("blur", GradeContent{}, {}), listOf({{"soft-blur", {{"sigma", 10.0}}}}));
        const LayerPtr one =
            std::make_shared<const Layer>(layerOf("one", box(80, Ink(1, 0, 0, 1)), {100, 100}));
        const Rendering shown({blur, one});
        const auto edge = shown.at(140, 100);
        QVERIFY(edge[3] > 110 && edge[3] < 145 &&
                edge[0] == 255); // half of it, on both sides of where it was sharp
        QVERIFY(shown.at(155, 100)[3] > 5 && shown.at(125, 100)[3] < 250);
        Layer half = *blur;
        half.opacity = 0.5;
        const Rendering mixed({std::make_shared<const Layer>(half), one});
        QVERIFY(mixed.at(155, 100)[3] > 2 && mixed.at(155, 100)[3] < shown.at(155, 100)[3]);
    }

    void linearLightGradesTheEncodedColour() {
        const LayerPtr grey = with(layerOf("box", box(100, Ink(0.5f, 0.25f, 0.75f, 1)), {150, 100}),
                                   listOf({{"inversion", {}}}));
        QVERIFY(isNear(Rendering({grey}, true).at(150, 100), Rendering({grey}, false).at(150, 100)));
        const LayerPtr blurred = with(layerOf("box", box(100, Ink(0.5f, 0.25f, 0.75f, 1)), {150, 100}),
                                      listOf({{"soft-blur", {{"sigma", 3.0}}}}));
        QVERIFY(isNear(Rendering({blurred}, true).at(150, 100), {128, 64, 191, 255}));
    }

    void anEmptyLayerStaysEmpty() {
        ShapeContent none = box(50, Ink(1, 1, 1, 1));
        none.fill = std::nullopt;
        const Rendering empty({with(layerOf("none", none, {100, 100}),
                                    listOf({{"cast-shadow", {}}, {"soft-blur", {}}, {"inversion", {}}}))});
        QVERIFY(empty.at(100, 100)[3] == 0);
    }

    void anotherLayerMovesPixels() {
        const auto movedBy = [](const std::string& id) {
            return listOf({{"displacement", {{"by", id}, {"across", 30.0}, {"down", 0.0}}}});
        };
        Layer white = layerOf("white", box(400, Ink(1, 1, 1, 1)), {150, 100});
        white.on = false;
        const LayerPtr map = std::make_shared<const Layer>(white);
        const auto shown = [&](const Treatments& list) {
            return Rendering({map, with(layerOf("box", box(100, Ink(1, 0, 0, 1)), {150, 100}), list)});
        };
        const Rendering moved = shown(movedBy("layer:white"));
        QVERIFY(isNear(moved.at(225, 100), {255, 0, 0, 255}) && moved.at(110, 100)[3] == 0);
        // One that is gone, the layer itself, a picture that is not in the release: it stays.
        for (const char* id : {"layer:gone", "layer:box", "gone"})
            QVERIFY2(isNear(shown(movedBy(id)).at(110, 100), {255, 0, 0, 255}), id);
        // Two that move each other, and a group that holds what it moves, come to an end.
        const Rendering each({with(layerOf("a", box(60, Ink(1, 1, 1, 1)), {100, 100}), movedBy("layer:b")),
                              with(layerOf("b", box(60, Ink(1, 1, 1, 1)), {200, 100}), movedBy("layer:a"))});
        QVERIFY(each.at(100, 100)[3] == 255);
        const LayerPtr inside =
            with(layerOf("in", box(100, Ink(1, 0, 0, 1)), {150, 100}), movedBy("layer:group"));
        const Rendering grouped(
            {std::make_shared<const Layer>(layerOf("group", GroupContent{{inside}, false}, {}))});
        QVERIFY(isNear(grouped.at(110, 100), {255, 0, 0, 255}));
    }

    void aBevelIsFilledWithWhatSlidesUnderIt() {
        Layer halves = layerOf("halves", box(150, Ink(0, 0, 1, 1)), {225, 100}); // right of the middle
        halves.on = false;
        const auto shown = [&](double across) {
            return Rendering({std::make_shared<const Layer>(halves),
                              with(layerOf("box", box(160, Ink(1, 0, 0, 1)), {150, 100}),
                                   listOf({{"bevel",
                                            {{"width", 4.0},
                                             {"fill", std::string("layer:halves")},
                                             {"fillAcross", across}}}}))});
        };
        QVERIFY(isNear(shown(0).at(120, 100), {255, 0, 0, 255}) &&
                isNear(shown(0).at(180, 100), {0, 0, 255, 255}));
        QVERIFY(isNear(shown(-50).at(120, 100), {0, 0, 255, 255}));
    }

    void aPlateLiesBehindWords() {
        TextContent words;
        words.spec.text = "mm\nmmmmmm";
        words.spec.letters.family = "Barlow Condensed";
        words.spec.letters.size = 40;
        words.colour = Ink(1, 1, 1, 1);
        const auto shown = [&](double each) {
            return Rendering(
                {with(layerOf("words", words, {150, 100}), listOf({{"plate",
                                                                    {{"each", each},
                                                                     {"across", 10.0},
                                                                     {"down", 4.0},
                                                                     {"corner", 6.0},
                                                                     {"colour", Ink(1, 0, 0, 1)}}}}))});
        };
        // Where red shows, by rows and columns.
        const auto redIn = [](const Rendering& r, int y) {
            int n = 0;
            for (int x = 0; x < 300; ++x) n += r.at(x, y)[3] > 200 ? 1 : 0;
            return n;
        };
        const Rendering one = shown(0), each = shown(1);
        int widest = 0, narrowest = 300, widestOfEach = 0, narrowestOfEach = 300, rows = 0;
        for (int y = 0; y < 200; ++y) {
            if (const int n = redIn(one, y); n > 0)
                widest = std::max(widest, n), narrowest = std::min(narrowest, n), ++rows;
            if (const int n = redIn(each, y); n > 20)
                widestOfEach = std::max(widestOfEach, n), narrowestOfEach = std::min(narrowestOfEach, n);
        }
        QVERIFY2(rows > 60 && widest - narrowest <= 12,
                 qPrintable(QStringLiteral("%1 %2 %3").arg(rows).arg(widest).arg(narrowest)));
        QVERIFY2(widestOfEach == widest && narrowestOfEach < widest / 2,
                 qPrintable(QStringLiteral("%1 %2").arg(widestOfEach).arg(narrowestOfEach)));
        // The words lie on it, and its corners are round.
        int white = 0;
        for (int y = 0; y < 200; ++y)
            for (int x = 0; x < 300; ++x) white += isNear(one.at(x, y), {255, 255, 255, 255}) ? 1 : 0;
        QVERIFY(white > 500);
    }

    void aSweepFollowsItsCurve() {
        // A line across the panel: swept along it, not across; nothing beyond its reach.
        const std::vector<Contour> line{{{{{0, 60}, {}, {}}, {{300, 60}, {}, {}}}, false}};
        const Rendering shown({with(
            layerOf("box", box(40, Ink(1, 1, 1, 1)), {150, 60}),
            listOf({{"sweep-blur", {{"along", line}, {"length", 40.0}, {"reach", 60.0}, {"ease", 0.0}}}}))});
        const auto edge = shown.at(180, 60);
        QVERIFY2(edge[3] > 30 && edge[3] < 120, qPrintable(QString::number(edge[3])));
        QVERIFY(shown.at(150, 60)[3] > 240);
        QVERIFY(shown.at(150, 36)[3] < 12 && shown.at(150, 44)[3] > 200);
        const Rendering far(
            {with(layerOf("box", box(40, Ink(1, 1, 1, 1)), {150, 160}),
                  listOf({{"sweep-blur", {{"along", line}, {"length", 40.0}, {"reach", 60.0}}}}))});
        QVERIFY(far.at(169, 160)[3] == 255 && far.at(172, 160)[3] == 0);
    }

    void aSurfaceRepeats() {
        const Treatments list = listOf({{"rust", {{"scale", 16.0}, {"repeats", 1.0}}}});
        const Rendering shown({with(layerOf("box", box(300, Ink(1, 1, 1, 1)), {150, 100}), list)});
        int far = 0;
        for (int x = 20; x < 150; x += 7) {
            const auto a = shown.at(x, 90), b = shown.at(x + 128, 90);
            for (size_t c = 0; c < 3; ++c) far = std::max(far, std::abs(a[c] - b[c]));
        }
        QVERIFY2(far <= 2, qPrintable(QString::number(far)));
        QVERIFY(!isNear(shown.at(30, 90), shown.at(94, 90)) || !isNear(shown.at(50, 90), shown.at(114, 90)));
    }
};

GLYPTOS_TEST(TreatedLayersTest)
#include "treated_layers_test.moc"
