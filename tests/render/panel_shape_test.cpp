// Panels that are no rectangles: art shows where it prints.
#include "file/data_folder.h"
#include "file/project.h"
#include "release/edits/edits.h"
#include "render/fit/art_cover.h"
#include "render/renderer.h"
#include "support/pictures.h"
#include "support/register.h"

using namespace glyptos;
using namespace glyptos::test;

class PanelShapeTest : public QObject {
    Q_OBJECT
    static constexpr double kPx = 4; // a mm
    FontLibrary fonts{dataFolder() / "fonts", true};
    HeldPictures pictures;
    Renderer renderer{pictures, fonts};

    /// A piece of that form, each panel filled with red.
    static ReleasePtr filled(const char* id, const ParameterValues& values = {}) {
        ReleasePtr r = std::make_shared<const Release>();
        const FormList forms = shippedForms().value();
        for (const auto& form : forms)
            if (form->id == id) r = withPiece(r, form).value();
        for (const auto& [name, value] : values) r = withParameter(r, r->pieces[0]->id, name, value).value();
        for (const Panel& panel : r->pieces[0]->flat->panels) {
            Layer fill;
            fill.content = FillContent{Rgba{1, 0, 0, 1}};
            r = withLayer(r, {r->pieces[0]->id, panel.id}, fill);
        }
        return r;
    }

    /// The share of each pixel that is covered, over the panel with its bleed.
    struct Seen {
        IntRect area;
        Buffer<uint8_t> bgra;
        double at(double xMm, double yMm) const {
            const int x = int(std::floor(xMm * kPx)) - area.x, y = int(std::floor(yMm * kPx)) - area.y;
            return bgra.data()[(size_t(y) * size_t(area.w) + size_t(x)) * 4 + 3] / 255.0;
        }
        double areaMm() const {
            double sum = 0;
            for (size_t i = 3; i < bgra.size(); i += 4) sum += bgra.data()[i] / 255.0;
            return sum / kPx / kPx;
        }
    };
    Seen seen(const ReleasePtr& r, const std::string& panel, bool bleed) {
        const Scene scene = panelScene(r, {r->pieces[0]->id, panel}, {kPx, bleed});
        return {scene.bounds(), renderer.renderBgra8(scene, scene.bounds())};
    }
    static double disc(double d) { return 3.14159265358979 * d * d / 4; }
    static constexpr double kArea = 0.5; // mm²: a cubic for a quarter circle, lines for curves, 8 bits

  private Q_SLOTS:
    /// Art of a disc runs to its bleed and stops before the clear ring; of what is cut, at the trim.
    void aDiscFace() {
        const ReleasePtr r = filled("disc-face");
        const Seen art = seen(r, "front", true);
        QVERIFY2(std::abs(art.areaMm() - (disc(120) - disc(22))) < kArea,
                 qPrintable(QString::number(art.areaMm())));
        QVERIFY(art.at(-0.5, 59) > 0.99 && art.at(59, 59) == 0 && art.at(59, 59 - 10.5) == 0);
        QVERIFY(art.at(59, 59 - 11.5) > 0.99 && art.at(5, 5) == 0);
        const Seen cut = seen(r, "front", false);
        QVERIFY(std::abs(cut.areaMm() - (disc(118) - disc(22))) < kArea);
    }

    /// A label is punched: its art runs over the hole by the bleed, and is seen with the hole.
    void holesArePrintedIntoByTheBleed() {
        const ReleasePtr r = filled("label-12");
        QVERIFY(std::abs(seen(r, "side-a", true).areaMm() - (disc(104) - disc(7.3 - 4))) < kArea);
        QVERIFY(std::abs(seen(r, "side-a", false).areaMm() - (disc(100) - disc(7.3))) < kArea);
        const ReleasePtr sleeve = filled("inner-sleeve", {{"window", 1}});
        const Seen front = seen(sleeve, "front", true);
        QVERIFY(front.at(152.5, 152.5 - 46) == 0 && front.at(152.5, 152.5 - 48.5) > 0.99);
        QVERIFY2(std::abs(front.areaMm() - (308 * 311 - disc(94))) < 2,
                 qPrintable(QString::number(front.areaMm())));
    }

    void roundCornersAndWindow() {
        const ReleasePtr r = filled("shell-label");
        const Seen cut = seen(r, "side-a", false);
        const auto round = [](double w, double h, double c) {
            return w * h - (4 - 3.14159265358979) * c * c;
        };
        QVERIFY(std::abs(cut.areaMm() - (round(89, 42, 3) - round(43, 13, 2))) < kArea);
        QVERIFY(cut.at(0.2, 0.2) < 0.05 && cut.at(44.5, 21) == 0 && cut.at(44.5, 10) > 0.99);
    }

    /// On the flat and in another panel's echo it looks as it does alone.
    void onTheFlatAndInEchoes() {
        ReleasePtr r = filled("disc-face");
        const std::string disc = r->pieces[0]->id;
        const Scene flat = flatScene(r, disc, {kPx, true});
        const Seen alone = seen(r, "front", true);
        QVERIFY(flat.bounds() == alone.area);
        const Buffer<uint8_t> onFlat = renderer.renderBgra8(flat, flat.bounds());
        QVERIFY(std::equal(onFlat.data(), onFlat.data() + onFlat.size(), alone.bgra.data()));
        Layer echo;
        echo.content = EchoContent{disc, "front", {}, true};
        echo.placement.position = {300, 300};
        const ReleasePtr screen = screenRelease(600, 600);
        r = withPiece(r, screen->pieces[0]->form).value();
        r = withLayer(r, {r->pieces[1]->id, "front"}, echo);
        const Scene scene = panelScene(r, {r->pieces[1]->id, "front"}, {});
        const Buffer<uint8_t> out = renderer.renderBgra8(scene, {0, 0, 600, 600});
        const auto alpha = [&](int x, int y) {
            return int(out.data()[(size_t(y) * 600 + size_t(x)) * 4 + 3]);
        };
        QCOMPARE(alpha(300, 300), 0);           // the clear ring
        QCOMPARE(alpha(300, 300 - 12), 255);    // one unit is one pixel
        QCOMPARE(alpha(300 - 56, 300 - 56), 0); // outside of the disc
        QCOMPARE(alpha(300 - 59, 300), 255);
    }

    /// Corners that no art needs to reach are not missed; a gap on the disc is.
    void artIsJudgedWhereItPrints() {
        ReleasePtr r = filled("disc-face");
        const PanelRef front{r->pieces[0]->id, "front"};
        const std::string ground = stackOf(*r, front)[0]->id;
        QCOMPARE(QString::fromStdString(
                     judgeArt(renderer, r, front).sentence(r->pieces[0]->flat->panels[0], Unit::Mm)),
                 QStringLiteral("art covers the bleed"));
        Layer box;
        ShapeContent shape;
        shape.width = 110, shape.height = 140;
        box.content = shape;
        box.placement.position = {15 + 55, 59}; // from 15 mm on: the bleed begins at -1
        r = withChangedLayer(r, front, ground, [](Layer& layer) { layer.on = false; });
        r = withLayer(r, front, box);
        const ArtCover cover = judgeArt(renderer, r, front);
        QCOMPARE(cover.shorts.size(), size_t(1));
        QCOMPARE(cover.shorts[0].edge, std::string("left"));
        QVERIFY2(std::abs(cover.shorts[0].by - 16) < 0.3, qPrintable(QString::number(cover.shorts[0].by)));
    }

    /// What is drawn is not drawn again for a cut that is the same, and is for another.
    void tilesKnowTheCut() {
        ReleasePtr r = filled("disc-face");
        (void)seen(r, "front", true);
        const size_t before = renderer.tilesRendered();
        (void)seen(r, "front", true);
        QCOMPARE(renderer.tilesRendered(), before);
        r = withParameter(r, r->pieces[0]->id, "stop", 46).value();
        QVERIFY(seen(r, "front", true).at(59, 59 - 20) == 0);
        QVERIFY(renderer.tilesRendered() > before);
    }
};

GLYPTOS_TEST(PanelShapeTest)
#include "panel_shape_test.moc"
