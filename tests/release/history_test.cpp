// The steps of a session: going back and on, and runs that are one step.
#include "release/edits/edits.h"
#include "release/history/history.h"
#include "support/pictures.h"
#include "support/register.h"

using namespace glyptos;
using namespace glyptos::test;

class HistoryTest : public QObject {
    Q_OBJECT

    static ReleasePtr withOneMore(const ReleasePtr& release) {
        Layer layer;
        layer.content = FillContent{Ink(1, 0, 0, 1)};
        return withLayer(release, frontOf(release), layer).release;
    }

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
};

GLYPTOS_TEST(HistoryTest)
#include "history_test.moc"
