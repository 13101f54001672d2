// The steps of a session: going back and on, and runs that are one step.
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

    /// Whichever branch gives them.
    void idsNeverComeTwice() {
        History history(screenRelease(10, 10));
        const auto push = [&] { history.push("one", withOneMore(history.current())); };
        push(), push(), push();
        const ReleasePtr before = history.steps()[1].release;
        history.go(1);
        QCOMPARE(history.current(), before); // it is the very release that was there
        push();
        history.undo(), history.undo();
        push();
        std::set<std::string> ids;
        size_t layers = 0;
        const auto look = [&](const HistoryStep& step) {
            const Stack& stack = stackOf(*step.release, frontOf(step.release));
            if (!stack.empty()) ids.insert(stack.front()->id), ++layers;
        };
        for (const HistoryStep& step : history.steps()) look(step);
        for (const LeftBranch& branch : history.left())
            for (const HistoryStep& step : branch.steps) look(step);
        QCOMPARE(layers, size_t(5)); // each step put one in front
        QCOMPARE(ids.size(), layers);
    }

    void theLastStepsAlone() {
        History history(screenRelease(10, 10));
        for (int i = 0; i < 10; ++i) history.push(std::to_string(i), withOneMore(history.current()));
        history.go(8);
        history.push("other", withOneMore(history.current()));
        history.undo();
        const History last = history.last(4);
        QCOMPARE(last.steps().size(), size_t(4));
        QCOMPARE(last.current(), history.current());
        QCOMPARE(last.redoName(), std::string("other"));
        QCOMPARE(last.left().size(), size_t(1));
        QCOMPARE(last.steps()[last.left()[0].from].release, history.steps()[8].release);
        // Far back, the steps that follow are kept as far as they go.
        history.go(2);
        const History back = history.last(4);
        QCOMPARE(back.current(), history.current());
        QCOMPARE(back.position(), size_t(0));
        QCOMPARE(back.steps().size(), size_t(4));
        QVERIFY(back.left().empty());
        QCOMPARE(history.last(100).steps().size(), history.steps().size());
    }

    void aPastIsPutBefore() {
        History past(screenRelease(10, 10));
        past.push("first", withOneMore(past.current()));
        past.push("second", withOneMore(past.current()));
        past.push("undone", withOneMore(past.current()));
        past.undo();
        // As it was opened: another object of the same content.
        const ReleasePtr opened = std::make_shared<const Release>(*past.current());
        History plain(opened);
        plain.prepend(past);
        QCOMPARE(plain.steps().size(), size_t(4));
        QCOMPARE(plain.current(), opened);
        QCOMPARE(plain.undoName(), std::string("second"));
        QCOMPARE(plain.redoName(), std::string("undone"));
        QVERIFY(int(opened->nextId) >= int(past.steps()[3].release->nextId));
        // Work that was begun before the past came goes on behind it.
        History going(opened);
        going.push("new", withOneMore(opened));
        going.prepend(past);
        QCOMPARE(going.steps().size(), size_t(4));
        QCOMPARE(going.undoName(), std::string("new"));
        QCOMPARE(going.left().size(), size_t(1));
        QCOMPARE(going.left()[0].steps[0].name, std::string("undone"));
        QCOMPARE(going.left()[0].from, size_t(2));
    }
};

GLYPTOS_TEST(HistoryTest)
#include "history_test.moc"
