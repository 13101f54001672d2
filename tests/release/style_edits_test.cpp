#include "release/edits/style_edits.h"

#include "file/project.h"
#include "release/edits/palette_edits.h"
#include "release/press/spot_inks.h"
#include "support/register.h"

using namespace glyptos;

class StyleEditsTest : public QObject {
    Q_OBJECT
    ReleasePtr release;
    PanelRef cover, sleeve; ///< px and mm
    std::string onCover, onSleeve;

    static TextLook plain() {
        TextLook out;
        out.letters.family = "EB Garamond", out.letters.size = 4;
        out.colour = Rgba{0.9f, 0.8f, 0.6f, 1};
        return out;
    }
    const TextContent& text(const ReleasePtr& r, const PanelRef& panel, const std::string& id) const {
        return *findLayer(stackOf(*r, panel), id)->as<TextContent>();
    }
    PanelRef withPieceOf(const char* form) {
        const FormList forms = shippedForms().value();
        for (const auto& known : forms)
            if (known->id == form) {
                release = *withPiece(release, known);
                return {release->pieces.back()->id, release->pieces.back()->flat->panels[0].id};
            }
        return {};
    }
    std::string words(const PanelRef& panel) {
        Layer layer;
        layer.name = "Track";
        layer.content = TextContent{};
        const Made made = withLayer(release, panel, layer);
        release = made.release;
        return made.id;
    }

  private Q_SLOTS:
    void init() {
        release = std::make_shared<const Release>();
        cover = withPieceOf("digital-cover"), sleeve = withPieceOf("sleeve-12");
        QVERIFY(!cover.piece.empty() && !sleeve.piece.empty());
        onCover = words(cover), onSleeve = words(sleeve);
    }

    void oneStyleForAllPieces() {
        const Made made = withTextStyle(release, "Track title", plain());
        ReleasePtr r = withStyleOf(made.release, cover, onCover, made.id);
        r = withStyleOf(r, sleeve, onSleeve, made.id);
        QCOMPARE(followersOfStyle(*r, made.id), 2);
        QCOMPARE(text(r, sleeve, onSleeve).spec.letters.size, 4.0);
        QVERIFY(std::abs(text(r, cover, onCover).spec.letters.size - 4 * 300 / 25.4) < 1e-9);
        TextLook next = plain();
        next.letters.family = "Bebas Neue", next.letters.size = 5, next.leading = 1.5;
        const ReleasePtr changed = withStyleLook(r, made.id, next);
        for (const auto& [panel, id] : {std::pair(cover, onCover), std::pair(sleeve, onSleeve)}) {
            QCOMPARE(text(changed, panel, id).spec.letters.family, std::string("Bebas Neue"));
            QCOMPARE(text(changed, panel, id).spec.leading, 1.5);
        }
        QVERIFY(std::abs(text(changed, cover, onCover).spec.letters.size - 5 * 300 / 25.4) < 1e-9);
        // Pieces on which nothing follows it are shared.
        QVERIFY(withStyleLook(r, made.id, plain()) == r);
    }

    void whatIsItsOwnStays() {
        const Made made = withTextStyle(release, "Track title", plain());
        ReleasePtr r = withStyleOf(made.release, sleeve, onSleeve, made.id);
        r = withChangedLayer(r, sleeve, onSleeve,
                             [](Layer& l) { std::get<TextContent>(l.content).spec.letters.size = 9; });
        const Unit mm = r->piece(sleeve.piece)->flat->unit;
        QCOMPARE(differences(lookOf(text(r, sleeve, onSleeve), mm), textStyle(*r, made.id)->look),
                 std::vector{LookPart::Size});
        TextLook next = plain();
        next.letters.size = 6, next.letters.tracking = 40;
        const ReleasePtr changed = withStyleLook(r, made.id, next);
        QCOMPARE(text(changed, sleeve, onSleeve).spec.letters.size, 9.0);
        QCOMPARE(text(changed, sleeve, onSleeve).spec.letters.tracking, 40.0);
        // And back to the style.
        const ReleasePtr back = withStyleOf(changed, sleeve, onSleeve, made.id);
        QVERIFY(
            differences(lookOf(text(back, sleeve, onSleeve), mm), textStyle(*back, made.id)->look).empty());
    }

    void stylesFollowTheirBase() {
        ReleasePtr r = withTextStyles(
            release, startingStyles({.family = "Bebas Neue"}, {.family = "EB Garamond"}, Rgba{1, 1, 1, 1}));
        QCOMPARE(r->textStyles.size(), size_t(5));
        const auto named = [&](const char* name) {
            return *std::find_if(r->textStyles.begin(), r->textStyles.end(),
                                 [&](const TextStyle& s) { return s.name == name; });
        };
        const TextStyle track = named("Track title"), small = named("Small print");
        QCOMPARE(small.base, track.id);
        r = withStyleOf(r, sleeve, onSleeve, small.id);
        TextLook next = track.look;
        next.letters.family = "Inter", next.letters.size = 3.5;
        r = withStyleLook(r, track.id, next);
        QCOMPARE(named("Small print").look.letters.family, std::string("Inter"));
        QCOMPARE(named("Small print").look.letters.size, 1.9); // its own
        QCOMPARE(text(r, sleeve, onSleeve).spec.letters.family, std::string("Inter"));
        // In no circle.
        QVERIFY(withStyleBase(r, track.id, small.id) == r && withStyleBase(r, track.id, track.id) == r);
        const ReleasePtr without = withoutStyle(r, track.id);
        QVERIFY(textStyle(*without, small.id)->base.empty());
        QCOMPARE(text(without, sleeve, onSleeve).spec.letters.family, std::string("Inter"));
    }

    /// Words print in the ink of their style, whatever their colour; a layer that has one of its own keeps
    /// it.
    void anInkOfTheStyle() {
        release =
            withSwatches(release, {{"Silver", {0.7f, 0.7f, 0.7f, 1}}, {"Gloss", {0.9f, 0.9f, 0.9f, 1}}});
        const std::string silver = release->palette[0].id, gloss = release->palette[1].id;
        for (const std::string& ink : {silver, gloss}) release = withSwatchPlate(release, ink, Plate::Own);
        const Made track = withTextStyle(release, "Track title", plain()),
                   small = withTextStyle(track.release, "Small print", plain(), track.id),
                   other = withTextStyle(small.release, "Other", plain());
        ReleasePtr r = withStyleOf(other.release, sleeve, onSleeve, small.id);
        const auto printsIn = [&](const ReleasePtr& in) {
            const Swatch* ink = spotOf(*findLayer(stackOf(*in, sleeve), onSleeve), *in);
            return ink ? ink->id : std::string();
        };
        QCOMPARE(printsIn(r), std::string());
        r = withStyleSpot(r, track.id, silver);
        QCOMPARE(textStyle(*r, small.id)->spot, silver); // based on it
        QCOMPARE(textStyle(*r, other.id)->spot, std::string());
        QCOMPARE(printsIn(r), silver);
        QVERIFY(withStyleSpot(r, track.id, silver) == r);
        QCOMPARE(spotInksOf(*r, *r->piece(sleeve.piece)).size(), size_t(1));
        const ReleasePtr own = withChangedLayer(r, sleeve, onSleeve, [&](Layer& l) { l.spot = gloss; });
        QCOMPARE(printsIn(own), gloss);
        const ReleasePtr apart = withStyleSpot(withStyleSpot(r, small.id, gloss), track.id, {});
        QCOMPARE(printsIn(apart), gloss); // no longer what the other had
        QCOMPARE(printsIn(withSwatchPlate(r, silver, Plate::Process)), std::string());
        const ReleasePtr gone = withoutSwatch(r, silver);
        QVERIFY(textStyle(*gone, track.id)->spot.empty() && printsIn(gone).empty());
    }

    void removedStylesLeaveTheWords() {
        const Made made = withTextStyle(release, "Track title", plain());
        const ReleasePtr r = withStyleOf(made.release, sleeve, onSleeve, made.id);
        const ReleasePtr gone = withoutStyle(r, made.id);
        QVERIFY(text(gone, sleeve, onSleeve).style.empty());
        QVERIFY(text(gone, sleeve, onSleeve).spec == text(r, sleeve, onSleeve).spec);
        QVERIFY(withoutStyle(gone, made.id) == gone && withStyleOf(gone, sleeve, onSleeve, made.id) == gone);
    }
};

GLYPTOS_TEST(StyleEditsTest)
#include "style_edits_test.moc"
