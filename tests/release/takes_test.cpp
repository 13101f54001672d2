// Takes, ghosts, echoes and references as edits.
#include "release/echo.h"
#include "release/edits/edits.h"
#include "support/noting.h"
#include "support/pictures.h"
#include "support/register.h"

using namespace glyptos;
using namespace glyptos::test;

class TakesTest : public QObject {
    Q_OBJECT
    ReleasePtr r;
    std::string piece;

    std::string put(const char* name, Content content = FillContent{}) {
        Layer layer;
        layer.name = name;
        layer.content = std::move(content);
        std::string id;
        r = noting(id, withLayer(r, frontOf(r), layer));
        return id;
    }
    const Stack& front(const char* take) { return r->piece(piece)->take(take)->stack("front"); }

  private Q_SLOTS:
    void init() {
        r = screenRelease(100, 100);
        piece = r->pieces[0]->id;
    }

    void aNewTakeIsACopyWithIdsOfItsOwn() {
        const std::string a = put("a");
        r = *withGrouped(r, frontOf(r), {a});
        std::string id;
        r = noting(id, withNewTake(r, piece));
        QCOMPARE(id, std::string("B"));
        QCOMPARE(r->piece(piece)->current, size_t(1));
        QCOMPARE(front("B").size(), size_t(1));
        QVERIFY(front("B")[0]->id != front("A")[0]->id);
        QVERIFY(!findLayer(front("B"), a)); // neither inside groups
        // The other stays as it is.
        const Stack before = front("A");
        r = withoutLayer(r, frontOf(r), front("B")[0]->id);
        QVERIFY(front("A") == before && front("B").empty());
    }

    void theFirstFreeLetterIsTaken() {
        r = withNewTake(r, piece);
        r = withNewTake(r, piece);
        r = withoutTake(r, piece, "B");
        QCOMPARE(r->piece(piece)->take().id, std::string("C"));
        std::string id;
        r = noting(id, withNewTake(r, piece));
        QCOMPARE(id, std::string("B"));
        // The current one gone: the one before it is.
        r = withoutTake(r, piece, "B");
        QCOMPARE(r->piece(piece)->take().id, std::string("C"));
        r = withoutTake(withoutTake(r, piece, "C"), piece, "A");
        QCOMPARE(r->piece(piece)->takes.size(), size_t(1)); // the last stays
        QVERIFY(!withTake(r, piece, "Q"));
    }

    void layersTravelBetweenTakes() {
        const std::string a = put("a");
        r = withNewTake(r, piece);
        r = *withTake(r, piece, "A");
        r = withLayerInTake(r, frontOf(r), a, "B");
        QCOMPARE(front("B").size(), size_t(2));
        QVERIFY(front("B")[0]->id != a && front("B")[0]->name == "a");
        QVERIFY(withLayerInTake(r, frontOf(r), "none", "B") == r);
        QVERIFY(withLayerInTake(r, frontOf(r), a, "Q") == r);
    }

    void aTakeOfAnotherStateIsKept() {
        put("a");
        const ReleasePtr left = r;
        r = withoutLayer(r, frontOf(r), front("A")[0]->id);
        std::string id;
        r = noting(id, withTakeFrom(r, piece, left->piece(piece)->take()));
        QCOMPARE(id, std::string("B"));
        QCOMPARE(front("B")[0]->name, std::string("a"));
        QVERIFY(front("A").empty());
    }

    void ghostsFadeAndStepAway() {
        ShapeContent shape;
        const std::string a = put("a", shape);
        r = withChangedLayer(r, frontOf(r), a, [](Layer& l) { l.opacity = 0.8; });
        r = withGhosts(r, frontOf(r), a, {3, {5, -2}, 0.5});
        QCOMPARE(front("A").size(), size_t(4));
        QCOMPARE(front("A")[0]->id, a);
        for (int i = 1; i <= 3; ++i) {
            const Layer& ghost = *front("A")[size_t(i)];
            QVERIFY(std::abs(ghost.opacity - 0.8 * std::pow(0.5, i)) < 1e-12);
            QCOMPARE(ghost.placement.position, (Vec2{5.0 * i, -2.0 * i}));
        }
        QVERIFY(withGhosts(r, frontOf(r), "none", {3, {1, 1}, 0.5}) == r);
    }

    void echoesThatWouldCycleAreRefused() {
        auto form = r->pieces[0]->form;
        r = withPiece(r, form).value();
        const PanelRef one{r->pieces[0]->id, "front"}, two{r->pieces[1]->id, "front"};
        Layer echo;
        echo.content = EchoContent{two.piece, "front", {}, false};
        r = withEcho(r, one, echo).value();
        echo.content = EchoContent{one.piece, "front", {}, false};
        QVERIFY(!withEcho(r, two, echo)); // two would show one, which shows two
        QVERIFY(!withEcho(r, one, echo)); // itself
        QVERIFY(wouldCycle(*r, two, std::get<EchoContent>(echo.content)));
        // Another take of itself is another place.
        r = withNewTake(r, two.piece);
        echo.content = EchoContent{two.piece, "front", "A", false};
        QVERIFY(withEcho(r, two, echo));
        QVERIFY(echoed({"gone", "front", {}, false}, *r).empty());
    }

    void referencesBelongToAPanel() {
        Reference reference;
        reference.source = "s";
        reference.split = 0.3;
        r = withReference(r, frontOf(r), reference);
        QCOMPARE(referenceOf(*r, frontOf(r)), std::optional(reference));
        QVERIFY(!referenceOf(*r, {piece, "back"}));
        QVERIFY(!referenceOf(*r, {"gone", "front"}));
        r = withReference(r, frontOf(r), std::nullopt);
        QVERIFY(!referenceOf(*r, frontOf(r)));
    }
};

GLYPTOS_TEST(TakesTest)
#include "takes_test.moc"
