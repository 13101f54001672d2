// Fading edges, dark corners and glows from the Layer menu.
#include "support/handwork.h"
#include "support/register.h"

using namespace glyptos;
using namespace glyptos::test;

class LightTest : public HandworkTest {
    Q_OBJECT

    void pick(const QString& text) {
        auto* menu = t->window->findChild<QMenu*>("layerMenu");
        QVERIFY(menu);
        for (QAction* action : menu->findChildren<QAction*>())
            if (action->text() == text) action->trigger();
        QVERIFY(t->settle([&] { return !t->bench().isBusy(); }));
        leaveBench();
    }
    const QColor white{255, 255, 255};

  private Q_SLOTS:
    void init() { begin(); }
    void cleanup() { t.reset(); }

    /// Whole in the middle, half where the soft edge has its middle, nothing outside; wider afterwards.
    void fadedEdges() {
        const std::string id = t->putBox("Board", {0, 0, 3000, 3000}, {1, 1, 1, 1});
        pick("Fade its edges");
        QCOMPARE(t->seen({1500, 1500}), white);
        const int edge = t->seen({30, 1500}).red(), half = t->seen({210, 1500}).red();
        QVERIFY2(edge < 80 && half > 110 && half < 175,
                 qPrintable(QStringLiteral("%1 %2").arg(edge).arg(half)));
        QCOMPARE(t->find(id)->mask->feather, 420.0);
        // A second mask goes onto a group.
        pick("Fade its edges");
        QVERIFY(t->document().selectedLayer()->as<GroupContent>());
        QVERIFY(t->seen({210, 1500}).red() < half - 20);
    }

    void darkCorners() {
        t->putBox("Board", {0, 0, 3000, 3000}, {1, 1, 1, 1});
        pick("Darken the corners");
        QCOMPARE(t->seen({1500, 1500}), white);
        QVERIFY(t->seen({60, 60}).red() < 90);
        QVERIFY(t->seen({1500, 60}).red() > t->seen({60, 60}).red() + 40);
        QVERIFY(std::holds_alternative<Gradient>(t->document().selectedLayer()->as<FillContent>()->paint));
    }

    /// Behind the layer, brightest at its edge, gone further off; its width is the softness of its mask.
    void aGlow() {
        const std::string id = t->putBox("Disc", {1200, 1200, 600, 600}, {1, 0, 0, 1});
        pick("Glow round it");
        const LayerPtr glow = t->document().selectedLayer();
        QCOMPARE(glow->name, std::string("Glow of Disc"));
        QCOMPARE(t->layers()[0]->id, id);
        QCOMPARE(t->layers()[1]->id, glow->id);
        QCOMPARE(t->seen({1500, 1500}), QColor(255, 0, 0));
        const int near = t->seen({1820, 1500}).red(), far = t->seen({1950, 1500}).red();
        QVERIFY2(near > far + 30 && far > ground.red() - 2,
                 qPrintable(QStringLiteral("%1 %2").arg(near).arg(far)));
        QCOMPARE(t->seen({2500, 1500}), ground);
        QCOMPARE(glow->mask->feather, 180.0);
    }
};

GLYPTOS_TEST(LightTest)
#include "light_test.moc"
