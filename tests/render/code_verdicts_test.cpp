// Codes on panels judged: read back, too small, stretched, on busy ground, out of their place.
#include "render/fit/code_verdicts.h"

#include "file/data_folder.h"
#include "file/project.h"
#include "release/code_size.h"
#include "release/edits/wrap_edits.h"
#include "support/pictures.h"
#include "support/register.h"

using namespace glyptos;
using namespace glyptos::test;

class CodeVerdictsTest : public QObject {
    Q_OBJECT
    FontLibrary fonts{dataFolder() / "fonts", true};
    HeldPictures pictures;
    Renderer renderer{pictures, fonts};

    static ReleasePtr tray(const char* id = "tray-card") {
        const FormList forms = shippedForms().value();
        for (const auto& form : forms)
            if (form->id == id) {
                auto r =
                    std::make_shared<Release>(*withPiece(std::make_shared<const Release>(), form).value());
                r->brief.barcode = "200000000417";
                r->brief.address = "https://slack-tide.example/almanac";
                return r;
            }
        return nullptr;
    }
    static PanelRef panelOf(const ReleasePtr& r) {
        return {r->pieces[0]->id, r->pieces[0]->flat->frontPanel().id};
    }
    static ReleasePtr withGround(const ReleasePtr& r, const Rgba& colour) {
        Layer fill;
        fill.content = FillContent{colour};
        return withLayer(r, panelOf(r), fill);
    }
    static Layer codeOn(const ReleasePtr& r, CodeKind kind) {
        return codeFor(r->pieces[0]->flat->frontPanel(), kind, r->pieces[0]->flat->unit, "Code");
    }
    CodeVerdict judged(const ReleasePtr& r, const Layer& layer) {
        const ReleasePtr with = withLayer(r, panelOf(r), layer);
        const auto all = judgeCodes(renderer, with, r->pieces[0]->id);
        return all.empty() ? CodeVerdict{} : all[0];
    }
    static CodeContent& code(Layer& layer) { return std::get<CodeContent>(layer.content); }

    void verify(const CodeVerdict& verdict, CodeGrade grade, const char* words) {
        QVERIFY2(verdict.grade == grade && verdict.sentence.find(words) != std::string::npos,
                 (verdict.sentence + " · expected: " + words).c_str());
    }

  private Q_SLOTS:
    void aCodeInItsPlaceIsReadBack() {
        const ReleasePtr r = withGround(tray(), {0.1f, 0.2f, 0.3f, 1});
        verify(judged(r, codeOn(r, CodeKind::Ean13)), CodeGrade::Good, "Read back as 200000000417");
        verify(judged(r, codeOn(r, CodeKind::Qr)), CodeGrade::Good,
               "https://slack-tide.example/almanac, at 100 %");
        Layer upc = codeOn(r, CodeKind::UpcA);
        code(upc).text = "72500000417";
        verify(judged(r, upc), CodeGrade::Good, "Read back as 72500000417");
        // It fills the place that the form keeps for it.
        const Zone& zone = r->pieces[0]->flat->frontPanel().zones.at(0);
        const ReleasePtr with = withLayer(r, panelOf(r), codeOn(r, CodeKind::Ean13));
        const Rect box =
            frameOf(*stackOf(*with, panelOf(with))[0], *with, {}, renderer.paragraphs()).bounds();
        QVERIFY(std::abs(box.x - zone.outline.box.x) < 0.02 &&
                std::abs(box.right() - zone.outline.box.right()) < 0.02);
    }

    void turnedCodesAreReadToo() {
        const ReleasePtr r = tray();
        for (const double turn : {90.0, 180.0, 270.0, 7.0}) {
            Layer layer = codeOn(r, CodeKind::Ean13);
            layer.placement.position = {60, 60}, layer.placement.turn = turn;
            verify(judged(r, layer), CodeGrade::Good, "Read back");
        }
    }

    void sizesOutsideTheStandardAreSaid() {
        const ReleasePtr r = tray();
        const auto at = [&](CodeKind kind, double share) {
            Layer layer = codeOn(r, kind);
            layer.placement.position = {69, 59};
            layer.placement.scaleX = layer.placement.scaleY = layer.placement.scaleX * share;
            return judged(r, layer);
        };
        verify(at(CodeKind::Ean13, 0.8), CodeGrade::Good, "at 80 %");
        verify(at(CodeKind::Ean13, 0.79), CodeGrade::Doubtful, "80 to 200 %");
        verify(at(CodeKind::Ean13, 2), CodeGrade::Good, "at 200 %");
        verify(at(CodeKind::Ean13, 2.1), CodeGrade::Doubtful, "at 210 %");
        verify(at(CodeKind::Qr, 0.9), CodeGrade::Doubtful, "0.36 mm");
    }

    void whatNoScannerReadsIsWrong() {
        const ReleasePtr r = tray();
        const Layer plain = codeOn(r, CodeKind::Ean13);
        Layer light = plain;
        code(light).bars = {1, 1, 1, 1}, code(light).ground = Ink{0, 0, 0, 1};
        verify(judged(r, light), CodeGrade::Wrong, "dark on light");
        // Red bars are white by the light of a scanner; dark blue ones are not.
        Layer red = plain;
        code(red).bars = {0.9f, 0.1f, 0.1f, 1};
        verify(judged(r, red), CodeGrade::Wrong, "red light");
        Layer blue = plain;
        code(blue).bars = {0.05f, 0.1f, 0.45f, 1};
        verify(judged(r, blue), CodeGrade::Good, "Read back");
        Layer letters = plain;
        code(letters).text = "NO CODE";
        verify(judged(r, letters), CodeGrade::Wrong, "made of digits");
        Layer wrong = plain;
        code(wrong).text = "2000000004179";
        verify(judged(r, wrong), CodeGrade::Wrong, "check digit");
        Layer wide = plain;
        wide.placement.scaleX *= 1.1;
        verify(judged(r, wide), CodeGrade::Wrong, "stretched");
        Layer mirrored = plain;
        mirrored.placement.flipX = true;
        verify(judged(r, mirrored), CodeGrade::Wrong, "mirrored");
        Layer out = plain;
        out.placement.position.x += 30;
        verify(judged(r, out), CodeGrade::Wrong, "over the edge");
    }

    void groundsAndNeighboursAreSeen() {
        // Without a ground of its own it lies on what is there.
        Layer bare = codeOn(tray(), CodeKind::Ean13);
        code(bare).ground.reset();
        verify(judged(withGround(tray(), {0.95f, 0.9f, 0.8f, 1}), bare), CodeGrade::Good, "Read back");
        verify(judged(withGround(tray(), {0.1f, 0.1f, 0.1f, 1}), bare), CodeGrade::Wrong,
               "stand out too little");
        const ReleasePtr busy = pictures.add(tray(), "noise", pictureOf(900, 700, [](int x, int y) {
                                                 const auto v =
                                                     uint8_t((x * 7919 + y * 104729 + x * y * 31) % 256);
                                                 return std::array<uint8_t, 4>{v, v, v, 255};
                                             }));
        Layer noise;
        noise.content = PictureContent{"noise", {0, 0, 1, 1}};
        noise.placement = {{69, 59}, 0.2, 0.2, 0, false, false};
        const CodeVerdict onNoise = judged(withLayer(busy, panelOf(busy), noise), bare);
        QVERIFY2(onNoise.grade != CodeGrade::Good, onNoise.sentence.c_str());

        // Something over its clear zone, then over its bars.
        const ReleasePtr r = tray();
        const Layer plain = codeOn(r, CodeKind::Ean13);
        Layer blot;
        ShapeContent square;
        square.width = 2, square.height = 6, square.fill = Ink{0, 0, 0, 1};
        blot.content = square;
        blot.placement.position = plain.placement.position + Vec2{-37.29 / 2 + 1.6, 0};
        const auto verdictWith = [&](const Layer& over) {
            const ReleasePtr with = withLayer(withLayer(r, panelOf(r), plain), panelOf(r), over);
            return judgeCodes(renderer, with, r->pieces[0]->id).at(0);
        };
        verify(verdictWith(blot), CodeGrade::Doubtful, "clear zone");
        square.width = 9, square.height = 30;
        blot.content = square, blot.placement.position = plain.placement.position;
        verify(verdictWith(blot), CodeGrade::Wrong, "lies over it");
    }

    void wordsInThePlaceOfABarcodeAreSaid() {
        const ReleasePtr r = tray();
        const Zone& zone = r->pieces[0]->flat->frontPanel().zones.at(0);
        Layer words;
        words.name = "Thanks";
        TextContent text;
        text.spec.text = "Thanks to the pilot boat", text.spec.letters.size = 3;
        words.content = text, words.placement.position = zone.outline.box.centre();
        verify(judged(r, words), CodeGrade::Doubtful, "place of the barcode on Back");
        words.placement.position = {10, 20};
        QVERIFY(judgeCodes(renderer, withLayer(r, panelOf(r), words), r->pieces[0]->id).empty());
    }

    /// What runs over panels is seen with all that prints on the panel where it lies.
    void codesAndWordsThatRunOverPanels() {
        const ReleasePtr bare = tray();
        const Flat& flat = *bare->pieces[0]->flat;
        const Panel &back = flat.frontPanel(),
                    &spine = flat.panels[0].id == back.id ? flat.panels[1] : flat.panels[0];
        const std::string piece = bare->pieces[0]->id;
        Layer layer = codeOn(bare, CodeKind::Ean13);
        code(layer).ground.reset();
        const auto over = [&](const Rgba& ground, const Layer& art) {
            const Made made = withLayer(withGround(tray(), ground), panelOf(bare), art);
            return std::pair(made.id,
                             withRunOver(made.release, panelOf(bare), {made.id}, {spine.id}).value());
        };
        const auto judgedAll = [&](const ReleasePtr& r) { return judgeCodes(renderer, r, piece); };
        const auto [id, onLight] = over({0.95f, 0.9f, 0.8f, 1}, layer);
        const auto all = judgedAll(onLight.release);
        QCOMPARE(all.size(), size_t(1));
        QCOMPARE(all[0].panel.panel, onLight.id);
        verify(all[0], CodeGrade::Good, "Read back as 200000000417");
        verify(judgedAll(over({0.1f, 0.1f, 0.1f, 1}, layer).second.release).at(0), CodeGrade::Wrong,
               "stand out too little");
        Layer blot;
        ShapeContent square;
        square.width = 9, square.height = 30, square.fill = Ink{0, 0, 0, 1};
        blot.content = square, blot.placement.position = layer.placement.position;
        verify(judgedAll(withLayer(onLight.release, panelOf(bare), blot)).at(0), CodeGrade::Wrong,
               "lies over it");
        // Across the fold.
        const bool left = spine.onFlat.centre().x < back.onFlat.centre().x;
        const Vec2 onFold{left ? back.onFlat.x : back.onFlat.right(), back.onFlat.centre().y};
        const Affine toWrap =
            onLight.release->piece(piece)->flat->panel(onLight.id)->toFlat().inverse().value();
        const ReleasePtr folded = withChangedLayer(onLight.release, {piece, onLight.id}, id, [&](Layer& l) {
            l.placement.position = toWrap.map(onFold);
        });
        verify(judgedAll(folded).at(0), CodeGrade::Wrong, "over a fold");
        Layer words;
        TextContent text;
        text.spec.text = "Thanks to the pilot boat", text.spec.letters.size = 3;
        words.content = text, words.placement.position = back.zones.at(0).outline.box.centre();
        const auto said = judgedAll(over({1, 1, 1, 1}, words).second.release);
        QCOMPARE(said.size(), size_t(1));
        verify(said[0], CodeGrade::Doubtful, "place of the barcode on Back");
    }

    void whatIsOffIsNotJudged() {
        const ReleasePtr r = tray();
        Layer off = codeOn(r, CodeKind::Ean13);
        off.on = false, code(off).text = "x";
        QVERIFY(judgeCodes(renderer, withLayer(r, panelOf(r), off), r->pieces[0]->id).empty());
    }

    void screensHaveCodesToo() {
        const ReleasePtr r = tray("square-post");
        verify(judged(r, codeOn(r, CodeKind::Qr)), CodeGrade::Good, "Read back");
        Layer tiny = codeOn(r, CodeKind::Qr);
        tiny.placement.scaleX = tiny.placement.scaleY = 2;
        verify(judged(r, tiny), CodeGrade::Doubtful, "3 px");
    }
};

GLYPTOS_TEST(CodeVerdictsTest)
#include "code_verdicts_test.moc"
