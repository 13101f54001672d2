// Art over panels in the window: the piece round the panel in hand, art that runs over several, copies, and
// short art that is lengthened.
#include "release/edits/wrap_edits.h"
#include "support/register.h"
#include "support/window.h"

#include <QCheckBox>
#include <QDialog>

using namespace glyptos;
using namespace glyptos::test;

class PanelsTest : public QObject {
    Q_OBJECT
    std::unique_ptr<TestWindow> t;

    PieceAround& around() { return t->bench().around(); }
    QAction* entry(QMenu* menu, const QString& text) {
        Q_EMIT menu->aboutToShow();
        for (QAction* action : menu->actions()) {
            if (action->text() == text) return action;
            if (action->menu() && action->menu() != menu)
                if (QAction* inside = entry(action->menu(), text)) return inside;
        }
        return nullptr;
    }
    QMenu* panelMenu() {
        for (QMenu* menu : t->window->findChildren<QMenu*>())
            if (menu->title() == QLatin1String("Panels")) return menu;
        return nullptr;
    }
    std::string panel() { return t->document().panel().panel; }
    const Flat& flat() { return *t->document().piece()->flat; }

  private Q_SLOTS:
    void init() {
        t = std::make_unique<TestWindow>();
        t->window->showStep(Step::Compose);
        t->document().selectPanel({t->piece("sleeve-12"), "back"});
        t->settle();
    }
    void cleanup() { t.reset(); }

    /// A red back is seen beside the front, dimmed or as it is, and not at all when the panel is alone.
    void neighboursAreSeen() {
        t->putBox("Red", {0, 0, 315, 315}, {1, 0, 0, 1});
        t->document().selectPanel({t->piece("sleeve-12"), "front"});
        t->settle();
        const Vec2 beside{-12, 150}; // on the back
        QVERIFY(t->seen(beside).red() < 160);
        QTest::keyClick(&t->bench(), Qt::Key_W);
        QVERIFY(around().around() == Around::Neighbours && t->settle());
        const QColor dimmed = t->seen(beside);
        QVERIFY2(dimmed.red() > dimmed.green() + 20 && dimmed.red() < 220, qPrintable(dimmed.name()));
        QTest::keyClick(&t->bench(), Qt::Key_W);
        QVERIFY(around().around() == Around::Piece && t->settle());
        QCOMPARE(t->seen(beside), QColor(255, 0, 0));
        // All of the sheet is in view.
        const QPoint corner = t->on({-318.8 + 2, 2});
        QVERIFY(t->bench().rect().contains(corner));
        QTest::keyClick(&t->bench(), Qt::Key_W);
        QVERIFY(around().around() == Around::Nothing && t->settle());
        QVERIFY(t->seen(beside).red() < 160);
    }

    void aClickGoesToANeighbour() {
        around().setAround(Around::Piece);
        t->document().selectPanel({t->piece("sleeve-12"), "front"});
        t->settle();
        const QPoint onBack = t->on({-150, 150});
        QTest::mouseClick(&t->bench(), Qt::LeftButton, {}, onBack);
        QCOMPARE(panel(), std::string("back"));
        t->settle();
        // It stays where it was seen, and a click on itself goes nowhere.
        QTest::mouseClick(&t->bench(), Qt::LeftButton, {}, onBack);
        QCOMPARE(panel(), std::string("back"));
        // Zoomed in, the sheet does not jump.
        t->bench().zoomBy(2, QPointF(t->on({300, 150})));
        t->settle();
        const Vec2 fold = t->bench().toView().map({315, 150});
        QTest::mouseClick(&t->bench(), Qt::LeftButton, {}, t->on({330, 150}));
        QCOMPARE(panel(), std::string("front"));
        t->settle();
        const Vec2 now = t->bench().toView().map({-3.8, 150});
        QVERIFY((fold - now).length() < 1.5);
    }

    /// By the menu and its sheet: the box goes on over the fold, is moved on the wide panel, and undone.
    void runsOverPanels() {
        around().setAround(Around::Piece);
        t->document().selectPanel({t->piece("sleeve-12"), "front"});
        const std::string sea = t->putBox("Sea", {-100, 100, 200, 60}, {1, 0, 0, 1});
        t->settle();
        QVERIFY(t->seen({-50, 130}).green() > 200); // bare paper of the back
        QAction* run = entry(panelMenu(), "Run over panels…");
        QVERIFY(run && run->isEnabled());
        run->trigger();
        auto* sheet = t->window->findChild<QDialog*>();
        QVERIFY(sheet && QTest::qWaitForWindowExposed(sheet));
        for (QCheckBox* box : sheet->findChildren<QCheckBox*>()) box->setChecked(true);
        for (QPushButton* button : sheet->findChildren<QPushButton*>())
            if (button->text() == QLatin1String("Run over them")) button->click();
        t->settle();
        QVERIFY(t->document().piece()->wraps.size() == 1);
        QCOMPARE(panel(), t->document().piece()->wraps[0].id);
        QCOMPARE(t->document().layer(), sea);
        const double front = flat().panel("front")->onFlat.x;
        QCOMPARE(t->seen({front - 50, 130}), QColor(255, 0, 0));
        QCOMPARE(t->seen({front + 50, 130}), QColor(255, 0, 0));
        // Moved on the wide panel, it moves on both.
        t->drag(t->bench(), t->on({front, 130}), t->on({front, 200}));
        t->document().selectPanel({t->piece("sleeve-12"), "back"});
        t->settle();
        QCOMPARE(t->seen({300, 200}), QColor(255, 0, 0));
        auto* list = t->find<QComboBox>("Panel");
        QVERIFY(list && list->isVisible());
        QVERIFY(list->findText("Over Front + Back + Spine") >= 0 ||
                list->findText("Over Front + Spine + Back") >= 0);
        for (int i = 0; i < 2; ++i) t->document().undo();
        t->settle();
        QVERIFY(t->document().piece()->wraps.empty());
    }

    void copiedMirroredToAnotherPanel() {
        t->document().selectPanel({t->piece("sleeve-12"), "front"});
        t->putBox("Sea", {10, 100, 40, 40}, {1, 0, 0, 1});
        Q_EMIT panelMenu()->aboutToShow();
        QMenu* mirrored = entry(panelMenu(), "Copy mirrored to")->menu();
        QVERIFY(mirrored);
        QAction* back = entry(mirrored, "Back");
        QVERIFY(back);
        back->trigger();
        t->document().selectPanel({t->piece("sleeve-12"), "back"});
        t->settle();
        QCOMPARE(t->seen({315 - 30, 120}), QColor(255, 0, 0));
    }

    /// From Lay out: the panel says by how much, and each way makes it say that art covers the bleed.
    void shortArtIsLengthened() {
        const auto source =
            importBytes(pngOf(312, 315,
                              [](int x, int y) {
                                  return std::array<uint8_t, 4>{uint8_t(x / 2), uint8_t(y / 2), 60, 255};
                              }),
                        "Night.png")
                .value()
                .source;
        Layer layer;
        layer.name = "Night";
        layer.content = PictureContent{source->id, {0, 0, 1, 1}};
        layer.placement = {{315 / 2.0 + 1.5, 157.5}, 1, 1, 0, false, false}; // from 3 mm inside to the fold
        t->document().edit(
            "Put",
            withLayer(withSource(t->document().release(), source), t->document().panel(), layer).release);
        const ReleasePtr before = t->document().release();
        t->window->showStep(Step::LayOut);
        LayoutView& view = *t->window->layOut();
        const auto judged = [&] { return t->settle([&] { return view.isJudged() && !view.isBusy(); }); };
        for (const char* way : {"Mirrored at its edge", "Its last pixels drawn out", "Mended from around",
                                "In the colour of its edge"}) {
            QVERIFY(judged());
            QVERIFY2(view.verdictOf("back").startsWith("art short by"), qPrintable(view.verdictOf("back")));
            QToolButton* button = nullptr;
            for (QToolButton* one : view.findChildren<QToolButton*>())
                if (one->text().startsWith("Lengthen short art")) button = one;
            QVERIFY(button && button->isVisible());
            entry(button->menu(), way)->trigger();
            QVERIFY(judged());
            QVERIFY2(view.verdictOf("back") == "art covers the bleed",
                     qPrintable(QString(way) + ": " + view.verdictOf("back")));
            QVERIFY(!button->isVisible());
            t->document().undo();
            QVERIFY(t->document().release() == before);
        }
    }
};

GLYPTOS_TEST(PanelsTest)
#include "panels_test.moc"
