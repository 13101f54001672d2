// The stack: order by dragging, lamp, opacity bar, names, keys.
#include "app/widgets/layer_words.h"
#include "support/register.h"
#include "support/window.h"

#include <QColor>
#include <QLineEdit>
#include <QStringLiteral>

using namespace glyptos;
using namespace glyptos::test;

class StackTest : public QObject {
    Q_OBJECT
    std::unique_ptr<TestWindow> t;

    void addFill(const char* name, const Rgba& colour) {
        Layer layer;
        layer.name = name;
        layer.content = FillContent{colour};
        t->document().edit(name, withLayer(t->document().release(), t->document().panel(), layer).release);
    }
    QString order() {
        QStringList names;
        const std::function<void(const Stack&)> walk = [&](const Stack& stack) {
            for (const LayerPtr& l : stack) {
                names << QString::fromStdString(l->name);
                if (const auto* group = l->as<GroupContent>())
                    names << "(", walk(group->layers), names << ")";
            }
        };
        walk(t->layers());
        return names.join(" ");
    }
    QRect card(const char* name) { return t->stack().cardOf(t->layer(name)->id); }

  private Q_SLOTS:
    void init() {
        t = std::make_unique<TestWindow>();
        t->window->showStep(Step::Compose);
        addFill("Sand", {0.9f, 0.8f, 0.6f, 1});
        addFill("Sea", {0.2f, 0.4f, 0.6f, 1});
        addFill("Mist", {1, 1, 1, 0.5f});
        t->settle();
    }
    void cleanup() { t.reset(); }

    void dragReorders() {
        QCOMPARE(order(), QStringLiteral("Mist Sea Sand"));
        t->drag(t->stack(), card("Mist").center(), card("Sand").center() + QPoint(0, 18));
        QCOMPARE(order(), QStringLiteral("Sea Sand Mist"));
        t->drag(t->stack(), card("Sand").center(), card("Sea").center() - QPoint(0, 18));
        QCOMPARE(order(), QStringLiteral("Sand Sea Mist"));
        QCOMPARE(t->seen({1500, 1500}), QColor(230, 204, 153)); // Sand is in front now
        t->document().undo();
        QCOMPARE(order(), QStringLiteral("Sea Sand Mist"));
    }

    void dragIntoAGroup() {
        t->document().selectLayer(t->layer("Sea")->id);
        t->action("Group")->trigger();
        QCOMPARE(order(), QStringLiteral("Mist Group ( Sea ) Sand"));
        QCOMPARE(t->document().layer(), t->layer("Group")->id);
        t->settle();
        t->drag(t->stack(), card("Mist").center(), card("Group").center() + QPoint(0, 8));
        QCOMPARE(order(), QStringLiteral("Group ( Mist Sea ) Sand"));
        t->document().selectLayer(t->layer("Group")->id);
        t->action("Ungroup")->trigger();
        QCOMPARE(order(), QStringLiteral("Mist Sea Sand"));
    }

    void lampHidesAndShows() {
        QTest::mouseClick(&t->stack(), Qt::LeftButton, {}, t->stack().lampOf(t->layer("Mist")->id).center());
        t->settle();
        QVERIFY(!t->layer("Mist")->on);
        QCOMPARE(t->seen({1500, 1500}), QColor(51, 102, 153)); // Sea alone
        QTest::mouseClick(&t->stack(), Qt::LeftButton, {}, t->stack().lampOf(t->layer("Mist")->id).center());
        QVERIFY(t->layer("Mist")->on);
    }

    void barSetsTheOpacity() {
        const std::string sea = t->layer("Sea")->id;
        const QRect bar = t->stack().barOf(sea);
        const size_t steps = t->document().history().position();
        t->drag(t->stack(), {bar.right() - 2, bar.center().y()},
                {bar.left() + bar.width() / 2, bar.center().y()});
        QVERIFY(std::abs(t->layer("Sea")->opacity - 0.5) <= 0.01);
        QCOMPARE(t->document().history().position(), steps + 1); // the whole drag is one step
        QVERIFY(
            QString::fromStdString(t->document().history().undoName()).startsWith("Opacity of Sea to 50"));
        QVERIFY(layerSummary(*t->layer("Sea")).endsWith("50 %"));
    }

    void doubleClickRenames() {
        const std::string sea = t->layer("Sea")->id;
        QTest::mouseDClick(&t->stack(), Qt::LeftButton, {}, card("Sea").center());
        auto* editor = t->find<QLineEdit>("Name of the layer");
        QVERIFY(editor);
        enter(editor, "Sjór");
        QCOMPARE(findLayer(t->layers(), sea)->name, std::string("Sjór"));
        QCOMPARE(t->document().history().undoName(), std::string("Rename Sea"));
    }

    void keysWalkAndToggle() {
        t->stack().setFocus();
        t->document().selectLayer(t->layer("Mist")->id);
        QTest::keyClick(&t->stack(), Qt::Key_Down);
        QCOMPARE(t->document().layer(), t->layer("Sea")->id);
        QTest::keyClick(&t->stack(), Qt::Key_Space);
        QVERIFY(!t->layer("Sea")->on);
        QTest::keyClick(&t->stack(), Qt::Key_Up);
        QCOMPARE(t->document().layer(), t->layer("Mist")->id);
    }

    void theCardInHandIsInSight() {
        for (int i = 0; i < 30; ++i) addFill("Layer", {0, 0, 0, 0.01f});
        t->settle();
        t->document().selectLayer(t->layer("Sand")->id); // the very last one
        QVERIFY(t->settle([&] { return t->stack().visibleRegion().boundingRect().contains(card("Sand")); }));
    }
};

GLYPTOS_TEST(StackTest)
#include "stack_test.moc"
