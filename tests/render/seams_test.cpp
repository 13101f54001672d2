// Seams on art that is moved by known amounts.
#include "render/fit/seams.h"

#include "color/difference.h"

#include "file/data_folder.h"
#include "file/project.h"
#include "release/edits/edits.h"
#include "support/forms.h"
#include "support/pictures.h"
#include "support/register.h"

using namespace glyptos;
using namespace glyptos::test;

class SeamsTest : public QObject {
    Q_OBJECT
    FontLibrary fonts{dataFolder() / "fonts", true};
    HeldPictures pictures;
    Renderer renderer{pictures, fonts};

    static ReleasePtr pieceOf(const char* id) {
        const FormList forms = shippedForms().value();
        for (const auto& form : forms)
            if (form->id == id) return withPiece(std::make_shared<const Release>(), form).value();
        return nullptr;
    }

    /// One picture over all of the flat: waves of several lengths, so that no shift but one fits.
    ReleasePtr withPicture(const ReleasePtr& release) {
        return pictures.add(release, "sea", pictureOf(1600, 1600, [](int x, int y) {
                                auto wave = [](double v) { return uint8_t(128 + 90 * std::sin(v)); };
                                return std::array<uint8_t, 4>{
                                    wave(x * 0.031 + y * 0.017), wave(y * 0.043 + x * 0.011),
                                    wave((x + y) * 0.023 + std::sin(x * 0.05)), 255};
                            }));
    }

    /// On each panel what of the picture lies there when it covers the whole flat, then moved in the
    /// directions of the flat.
    ReleasePtr laidOver(ReleasePtr r, const std::map<std::string, Vec2>& shifts, double redder = 0) {
        const PiecePtr piece = r->pieces[0];
        const Rect all = piece->flat->withBleed().grown(30);
        const double scale = std::max(all.w, all.h) / 1600;
        for (const Panel& panel : piece->flat->panels) {
            const auto shift = shifts.find(panel.id);
            const Affine toPanel = *panel.toFlat().inverse();
            Layer layer;
            layer.content = PictureContent{"sea", {0, 0, 1, 1}};
            const Vec2 by = shift == shifts.end() ? Vec2{} : shift->second;
            layer.placement.position = toPanel.map(all.centre() + by);
            layer.placement.scaleX = layer.placement.scaleY = scale;
            layer.placement.turn = -panel.turn;
            r = withLayer(r, {piece->id, panel.id}, layer);
            if (redder > 0 && panel.id == "front") {
                Layer veil;
                veil.content = FillContent{Rgba{1, 0, 0, 1}};
                veil.opacity = redder;
                r = withLayer(r, {piece->id, panel.id}, veil);
            }
        }
        return r;
    }
    Seam seam(const ReleasePtr& r, const std::string& one, const std::string& other) {
        for (const Seam& s : seamsOf(renderer, r, r->pieces[0]->id))
            if ((s.one == one && s.other == other) || (s.one == other && s.other == one)) return s;
        qFatal("no seam");
    }

  private Q_SLOTS:
    void artThatRunsOnMeets() {
        for (const char* id : {"sleeve-12", "gatefold-12", "tray-card", "wallet-6"}) {
            const ReleasePtr r = laidOver(withPicture(pieceOf(id)), {});
            const auto all = seamsOf(renderer, r, r->pieces[0]->id);
            QVERIFY(all.size() >= 2);
            for (const Seam& s : all) {
                QVERIFY2(s.hasArt && s.offset && std::abs(*s.offset) < 0.05, (s.one + " " + s.other).c_str());
                QVERIFY(s.alike > 0.95 && s.step < 2);
                QCOMPARE(sentenceOf(s, Unit::Mm), std::string("meets"));
            }
        }
    }

    void movedArtIsMeasuredAndAligned_data() {
        QTest::addColumn<double>("by");
        for (const double by : {0.3, 1.7, -4.25, 12.0, -18.5}) QTest::addRow("%g mm", by) << by;
    }
    void movedArtIsMeasuredAndAligned() {
        QFETCH(double, by);
        const ReleasePtr r = laidOver(withPicture(pieceOf("sleeve-12")), {{"front", {0, by}}});
        const Seam s = seam(r, "spine", "front");
        QVERIFY(s.offset);
        // The fold runs down; the front is the side it is measured on, or the one it is measured from.
        const double want = s.other == "front" ? by : -by;
        QVERIFY2(std::abs(*s.offset - want) < 0.06, qPrintable(QString::number(*s.offset)));
        QVERIFY(s.step > s.least);
        QVERIFY(sentenceOf(s, Unit::Mm).starts_with("off by "));
        const Seam untouched = seam(r, "back", "spine");
        QVERIFY(std::abs(*untouched.offset) < 0.05);
        const ReleasePtr aligned =
            withSeamAligned(r, {r->pieces[0]->id, by > 0 ? "front" : "spine"}, s, renderer.paragraphs());
        QVERIFY(aligned != r);
        QVERIFY2(std::abs(*seam(aligned, "spine", "front").offset) < 0.06,
                 qPrintable(QString::number(*seam(aligned, "spine", "front").offset)));
    }

    /// A strip ends on the sleeve that it lies round: one picture over both meets, moved on the strip it is
    /// off by as much.
    void aStripMeetsTheSleeveBelowIt() {
        for (const double by : {0.0, 2.2, -5.5}) {
            ReleasePtr r = withPicture(pieceOf("sleeve-12"));
            r = withPiece(r, shippedForm("obi"), {{"back", 60}}).value();
            const PiecePtr sleeve = r->pieces[0], strip = r->pieces[1];
            constexpr double kScale = 0.25;
            for (const char* id : {"front", "back"})
                for (const PiecePtr& piece : {sleeve, strip}) {
                    const double left = std::string(id) == "back"
                                            ? sleeve->flat->panel(id)->width - piece->flat->panel(id)->width
                                            : 0;
                    Layer layer;
                    layer.content = PictureContent{"sea", {0, 0, 1, 1}};
                    layer.placement.position = {170 - left, 150 + (piece == strip ? by : 0)};
                    layer.placement.scaleX = layer.placement.scaleY = kScale;
                    r = withLayer(r, {piece->id, id}, layer);
                }
            int edges = 0;
            for (const Seam& s : seamsOf(renderer, r, strip->id)) {
                if (s.otherPiece.empty()) continue;
                ++edges;
                QCOMPARE(s.otherPiece, sleeve->id);
                QVERIFY(s.hasArt && s.offset.has_value());
                QVERIFY2(std::abs(std::abs(*s.offset) - std::abs(by)) < 0.06,
                         qPrintable(QString::number(*s.offset)));
                const ReleasePtr aligned = withSeamAligned(r, {strip->id, s.one}, s, renderer.paragraphs());
                for (const Seam& after : seamsOf(renderer, aligned, strip->id))
                    if (after.fold == s.fold) QVERIFY(std::abs(*after.offset) < 0.06);
            }
            QCOMPARE(edges, 2);
            for (const Seam& s : seamsOf(renderer, r, sleeve->id)) QVERIFY(s.otherPiece.empty());
        }
    }

    /// A turned inner row: moved across the flat it is off along the top fold.
    void turnedPanels() {
        const ReleasePtr r = laidOver(withPicture(pieceOf("gatefold-12")), {{"inner-left", {2.5, 0}}});
        const Seam s = seam(r, "inner-left", "front");
        const double along = (s.to - s.from).x > 0 ? 2.5 : -2.5;
        QVERIFY(s.offset);
        QVERIFY2(std::abs(*s.offset - (s.other == "inner-left" ? along : -along)) < 0.06,
                 qPrintable(QString::number(*s.offset)));
        const ReleasePtr aligned =
            withSeamAligned(r, {r->pieces[0]->id, "inner-left"}, s, renderer.paragraphs());
        QVERIFY(std::abs(*seam(aligned, "inner-left", "front").offset) < 0.06);
    }

    /// Colours that differ are told as such, by what an independent sum of them says.
    void colours() {
        const ReleasePtr r = laidOver(withPicture(pieceOf("sleeve-12")), {}, 0.25);
        const Seam s = seam(r, "spine", "front");
        QVERIFY(s.offset && std::abs(*s.offset) < 0.05);
        QVERIFY(s.least > 5);
        QVERIFY(sentenceOf(s, Unit::Mm).starts_with("colours "));
        ReleasePtr plain = pieceOf("sleeve-12");
        const Rgba one{0.2F, 0.3F, 0.4F, 1}, other{0.5F, 0.3F, 0.2F, 1};
        for (const char* panel : {"back", "spine", "front"}) {
            Layer fill;
            fill.content = FillContent{std::string(panel) == "front" ? other : one};
            plain = withLayer(plain, {plain->pieces[0]->id, panel}, fill);
        }
        const Seam flat = seam(plain, "spine", "front");
        QVERIFY(flat.hasArt && !flat.offset); // plain along the fold: it says nothing of where it stands
        QVERIFY(std::abs(flat.step - ciede2000(toLab(one), toLab(other))) < 0.3);
        QVERIFY(std::abs(seam(plain, "back", "spine").step) < 1e-6);
    }

    void nothingToCompare() {
        const ReleasePtr r = pieceOf("sleeve-12");
        QCOMPARE(sentenceOf(seam(r, "back", "spine"), Unit::Mm), std::string("no art on both sides yet"));
        QVERIFY(seamsOf(renderer, r, "gone").empty());
        const ReleasePtr cover = pieceOf("digital-cover");
        QVERIFY(seamsOf(renderer, cover, cover->pieces[0]->id).empty());
        const Seam none = seam(r, "back", "spine");
        QVERIFY(withSeamAligned(r, {r->pieces[0]->id, "back"}, none, renderer.paragraphs()) == r);
    }

    /// What is locked, off or away from the fold stays where it is.
    void onlyWhatReachesTheFoldIsMoved() {
        ReleasePtr r = laidOver(withPicture(pieceOf("sleeve-12")), {{"front", {0, 3}}});
        const PanelRef front{r->pieces[0]->id, "front"};
        Layer title;
        ShapeContent shape;
        title.name = "Title", title.content = shape, title.placement.position = {150, 100};
        r = withLayer(r, front, title);
        const Seam s = seam(r, "spine", "front");
        const ReleasePtr aligned = withSeamAligned(r, front, s, renderer.paragraphs());
        const Stack &before = stackOf(*r, front), &after = stackOf(*aligned, front);
        QVERIFY(before[0] == after[0] && before[1] != after[1]);
    }
};

GLYPTOS_TEST(SeamsTest)
#include "seams_test.moc"
