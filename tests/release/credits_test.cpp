// Credits through copying, replacing, deleting, echoes, masks, patterns and takes; and the wall, which prints
// nothing.
#include "release/credits.h"
#include "release/fields.h"
#include "release/placing.h"
#include "release/walks.h"
#include "release/wall.h"
#include "support/noting.h"
#include "support/pictures.h"
#include "support/register.h"

using namespace glyptos;
using namespace glyptos::test;

class CreditsTest : public QObject {
    Q_OBJECT
    ReleasePtr release;
    PanelRef panel;
    SourcePtr keeper, rust, nobody;

    static SourcePtr source(const std::string& id, const SourceFacts& facts) {
        auto out = std::make_shared<Source>();
        out->id = id, out->name = id + ".jpg", out->format = "jpeg", out->width = 40, out->height = 30;
        out->facts = facts;
        return out;
    }
    static Pattern patternOf(const SourcePtr& s) {
        Pattern out;
        out.source = s->id;
        return out;
    }
    std::string put(const SourcePtr& s) {
        Layer layer;
        layer.name = s->id;
        layer.content = PictureContent{s->id};
        std::string id;
        release = noting(id, withLayer(release, panel, layer));
        return id;
    }
    QStringList lines() const {
        return QString::fromStdString(creditText(*release)).split('\n', Qt::SkipEmptyParts);
    }

  private Q_SLOTS:
    void init() {
        release = screenRelease(100, 100);
        panel = frontOf(release);
        keeper = source("keeper",
                        {SourceKind::Photo, "The keeper", {}, "Ása Grenfell", "", "Quay Open 1", "", ""});
        rust = source("rust", {SourceKind::Texture,
                               "Rust",
                               {},
                               "Bram Ollis",
                               "",
                               "",
                               "Texture: Bram Ollis / Harbour Light",
                               ""});
        nobody = source("nobody", {});
        for (const SourcePtr& s : {keeper, rust, nobody}) release = withSource(release, s);
    }

    void onlyWhatShowsIsListed() {
        QVERIFY(creditsOf(*release).empty());
        const auto id = put(keeper);
        QCOMPARE(creditsOf(*release).size(), size_t(1));
        QCOMPARE(lines(), QStringList{"“The keeper”, Ása Grenfell, Quay Open 1"});
        put(rust);
        put(rust); // twice is once
        QCOMPARE(lines(), (QStringList{"“The keeper”, Ása Grenfell, Quay Open 1",
                                       "Texture: Bram Ollis / Harbour Light"}));
        release = withoutLayer(release, panel, id);
        QCOMPARE(lines(), QStringList{"Texture: Bram Ollis / Harbour Light"});
    }

    void missingMakersAreFlagged() {
        put(nobody);
        const auto rows = creditsOf(*release);
        QVERIFY(rows[0].makerMissing);
        QCOMPARE(rows[0].line, std::string("nobody.jpg"));
        QCOMPARE(rows[0].pieces, std::vector<std::string>{release->pieces[0]->name});
    }

    void copiesAndReplacementsAreFollowed() {
        const auto id = put(keeper);
        release = withDuplicate(release, panel, id);
        release = withChangedLayer(release, panel, id, [&](Layer& l) { l = withPicture(l, *keeper, *rust); });
        QCOMPARE(creditsOf(*release).size(), size_t(2)); // the copy still shows the keeper
        release = *withGrouped(release, panel, {id});
        QCOMPARE(creditsOf(*release).size(), size_t(2));
    }

    void masksAndPatternsCount() {
        Layer layer;
        layer.content = FillContent{patternOf(rust)};
        auto mask = std::make_shared<Mask>();
        mask->form = PictureContent{keeper->id};
        layer.mask = mask;
        release = withLayer(release, panel, layer);
        QCOMPARE(creditsOf(*release).size(), size_t(2));
        ShapeContent shape;
        shape.stroke = StrokeStyle{};
        shape.stroke->paint = patternOf(nobody);
        Layer drawn;
        drawn.content = shape;
        release = withLayer(release, panel, drawn);
        QCOMPARE(creditsOf(*release).size(), size_t(3));
        QCOMPARE(sourcesOf(layer), (std::vector<std::string>{"rust", "keeper"}));
    }

    void otherTakesCountOnlyWhenTheyAreShown() {
        put(keeper);
        release = withNewTake(release, panel.piece);
        const auto inB = stackOf(*release, panel)[0]->id;
        release = withoutLayer(release, panel, inB);
        QVERIFY(creditsOf(*release).empty()); // take B is the current one, and empty
        Layer echo;
        echo.content = EchoContent{panel.piece, panel.panel, "A", false};
        release = *withEcho(release, panel, echo);
        QCOMPARE(creditsOf(*release).size(), size_t(1));
    }

    void wallAndReferencePrintNothing() {
        release = withLayer(release, wallPanel(), pinnedPicture(*keeper, 100, {0, 0}));
        Reference reference;
        reference.source = rust->id;
        release = withReference(release, panel, reference);
        QVERIFY(creditsOf(*release).empty());
    }

    void theTableIsQuoted() {
        auto odd =
            source("odd", {SourceKind::Photo, "Say \"cheese\", please", {}, "Two\nlines", "", "", "", ""});
        release = withSource(release, odd);
        put(odd);
        const std::string table = creditTable(*release);
        QVERIFY(table.starts_with("title,maker,licence,credit,origin,file,pieces\r\n"));
        QVERIFY(table.find("\"Say \"\"cheese\"\", please\",\"Two\nlines\",,") != table.npos);
    }

    void theFieldFollows() {
        TextContent text;
        text.spec.text = "Pictures:\n{credits}";
        put(keeper);
        QCOMPARE(resolvedText(text, *release).text,
                 std::string("Pictures:\n“The keeper”, Ása Grenfell, Quay Open 1"));
        Layer layer;
        layer.content = text;
        QVERIFY(!tellsCredits(*release->piece(panel.piece)));
        release = withLayer(release, panel, layer);
        QVERIFY(tellsCredits(*release->piece(panel.piece)));
    }

    void theWallIsAPanelLikeOthers() {
        QVERIFY(release->piece(kWallId) && release->pieces.size() == 1);
        std::string first, second;
        release = noting(first, withLayer(release, wallPanel(), pinnedPicture(*keeper, 400, {500, 500})));
        release = noting(second, withLayer(release, wallPanel(), pinnedWords("low tide", {900, 500})));
        release = *withGrouped(release, wallPanel(), {first, second});
        QCOMPARE(stackOf(*release, wallPanel()).size(), size_t(1));
        QCOMPARE(withoutPiece(release, kWallId), release);
        const Placement& place = findLayer(stackOf(*release, wallPanel()), first)->placement;
        QCOMPARE(place.scaleX, 10.0); // its longer side, 40 px, is 400 long
        QVERIFY(stackOf(*screenRelease(10, 10), wallPanel()).empty());
    }

    void pinsFindRoom() {
        std::vector<Rect> taken;
        for (int i = 0; i < 40; ++i) {
            const Vec2 at = freePlace(taken, 300, 200);
            const Rect place{at.x - 150, at.y - 100, 300, 200};
            for (const Rect& r : taken) QVERIFY(place.intersected(r).empty());
            taken.push_back(place);
        }
        const auto ways = inRows(taken, 10);
        std::vector<Rect> rows;
        for (size_t i = 0; i < taken.size(); ++i) {
            const Rect moved{taken[i].x + ways[i].x, taken[i].y + ways[i].y, 300, 200};
            for (const Rect& r : rows) QVERIFY(moved.intersected(r).empty());
            rows.push_back(moved);
        }
        QVERIFY(std::abs(rows[1].x - rows[0].x - 310) < 1e-9 && rows[1].y == rows[0].y);
    }
};

GLYPTOS_TEST(CreditsTest)
#include "credits_test.moc"
