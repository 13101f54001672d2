// The steps of a session: going back and on, branches that are left, and ids that never come twice.
#include "release/edits/edits.h"
#include "release/history/history.h"
#include "support/pictures.h"
#include "support/register.h"

#include <set>

using namespace glyptos;
using namespace glyptos::test;

class HistoryTest : public QObject {
    Q_OBJECT

    static ReleasePtr withOneMore(const ReleasePtr& release) {
        Layer layer;
        layer.content = FillContent{Ink(1, 0, 0, 1)};
        return withLayer(release, frontOf(release), layer).release;
    }
    static std::string front(const ReleasePtr& release) { return stackOf(*release, frontOf(release))[0]->id; }

  private Q_SLOTS:
    void thereAndBack() {
        const ReleasePtr start = screenRelease(10, 10);
        History history(start);
        QVERIFY(!history.canUndo() && !history.canRedo());
        history.push("one", withOneMore(history.current()));
        history.push("two", withOneMore(history.current()));
        history.undo();
        QCOMPARE(history.undoName(), std::string("one"));
        QCOMPARE(history.redoName(), std::string("two"));
        history.redo();
        QCOMPARE(stackOf(*history.current(), frontOf(start)).size(), size_t(2));
        history.go(0);
        QVERIFY(stackOf(*history.current(), frontOf(start)).empty());
        history.go(99);
        QCOMPARE(history.position(), size_t(2));
    }

    void runsOfOneKindAreOneStep() {
        History history(screenRelease(10, 10));
        for (int i = 0; i < 3; ++i) history.push("many", withOneMore(history.current()), "more");
        QCOMPARE(history.steps().size(), size_t(2));
        history.settle();
        history.push("many", withOneMore(history.current()), "more");
        QCOMPARE(history.steps().size(), size_t(3));
    }

    void noIdComesTwice() {
        History history(screenRelease(10, 10));
        std::set<std::string> ids;
        for (int i = 0; i < 5; ++i) {
            history.push("a", withOneMore(history.current()));
            QVERIFY(ids.insert(front(history.current())).second);
            history.push("b", withOneMore(history.current()));
            QVERIFY(ids.insert(front(history.current())).second);
            if (i % 2 == 0)
                history.go(0);
            else
                history.undo(), history.undo();
        }
        QVERIFY(history.left().size() >= 4);
        // Going back alone changes nothing that shows.
        history.go(0);
        QVERIFY(stackOf(*history.current(), frontOf(history.current())).empty());
    }
};

GLYPTOS_TEST(HistoryTest)
#include "history_test.moc"
