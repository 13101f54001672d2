// Trying and comparing: the blend sheet, takes, the reference, the size ladder, masks shown by themselves,
// and the steps of the session.
#include "app/bench/mask_look.h"
#include "support/register.h"
#include "support/window.h"

#include <QColor>
#include <QComboBox>
#include <QImage>
#include <QListView>
#include <QMenu>
#include <QModelIndex>
#include <QPixmap>
#include <QPushButton>
#include <QToolButton>

using namespace glyptos;
using namespace glyptos::test;

namespace {

constexpr Rgba kGrey{0.5f, 0.5f, 0.5f, 1};

} // namespace

class ComparingTest : public QObject {
    Q_OBJECT
    std::unique_ptr<TestWindow> t;
    std::string ground, box;

    ComposeView& view() { return *t->window->compose(); }
    SourcePtr addSource(const char* name, std::array<uint8_t, 4> colour) {
        const auto source =
            importBytes(pngOf(300, 300, [=](int, int) { return colour; }), name).value().source;
        t->document().edit("Source", withSource(t->document().release(), source));
        return source;
    }
    void refer(const SourcePtr& source, Reference::Way way) {
        Reference reference;
        reference.source = source->id;
        reference.placement = {{1500, 1500}, 10, 10};
        reference.way = way;
        t->document().edit("Refer", withReference(t->document().release(), t->document().panel(), reference));
        t->settle();
    }

  private Q_SLOTS:
    void init() {
        t = std::make_unique<TestWindow>();
        t->window->showStep(Step::Compose);
        Layer fill;
        fill.name = "Ground";
        fill.content = FillContent{kGrey};
        ground = t->put(fill);
        box = t->putBox("Box", {500, 500, 2000, 2000}, kGrey);
    }
    void cleanup() { t.reset(); }

    void theBlendSheetShowsEveryModeAndTakesOne() {
        QTest::keyClick(&t->bench(), Qt::Key_B);
        BlendSheet& sheet = *view().blendSheet();
        QVERIFY(sheet.isVisible());
        t->settle();
        const auto middle = [&](BlendMode mode) {
            const QSize size = sheet.cell(mode)->iconSize();
            const QImage image = sheet.cell(mode)->icon().pixmap(size).toImage();
            return image.pixelColor(image.width() / 2, image.height() / 2);
        };
        // Half grey on half grey, by hand.
        const std::pair<BlendMode, int> expected[] = {
            {BlendMode::Normal, 128},   {BlendMode::Multiply, 64},   {BlendMode::Screen, 191},
            {BlendMode::Difference, 0}, {BlendMode::Exclusion, 128}, {BlendMode::ColourDodge, 255},
            {BlendMode::ColourBurn, 0}, {BlendMode::Plus, 255},      {BlendMode::Etch, 0},
            {BlendMode::Push, 128},     {BlendMode::Divide, 255}};
        for (const auto& [mode, grey] : expected)
            QVERIFY2(std::abs(middle(mode).red() - grey) <= 1,
                     qPrintable(QString("%1: %2").arg(sheet.cell(mode)->text()).arg(middle(mode).red())));
        QVERIFY(sheet.cell(BlendMode::Normal)->isChecked());
        QTest::mouseClick(sheet.cell(BlendMode::Multiply), Qt::LeftButton);
        QVERIFY(!sheet.isVisible());
        QCOMPARE(t->find(box)->blend, BlendMode::Multiply);
        t->settle();
        QCOMPARE(t->seen({1500, 1500}).red(), 64);
    }

    void theBlendSheetIsSteppedThroughByKeys() {
        t->bench().setFocus();
        view().blendSheet()->open();
        t->settle();
        QTest::keyClick(view().blendSheet()->cell(BlendMode::Normal), Qt::Key_Right);
        QVERIFY(view().blendSheet()->cell(BlendMode::Multiply)->hasFocus());
        QTest::keyClick(view().blendSheet()->cell(BlendMode::Multiply), Qt::Key_Return);
        QCOMPARE(t->find(box)->blend, BlendMode::Multiply);
        view().blendSheet()->open();
        QTest::keyClick(view().blendSheet(), Qt::Key_Escape);
        QVERIFY(!view().blendSheet()->isVisible());
        // The bench takes the keys again.
        QVERIFY(t->bench().hasFocus());
    }

    void takesGoTheirOwnWays() {
        QTest::mouseClick(t->find<QToolButton>("New take"), Qt::LeftButton);
        QCOMPARE(t->document().piece()->takes.size(), size_t(2));
        QCOMPARE(t->document().piece()->take().id, std::string("B"));
        const std::string copy = t->layer("Box")->id;
        QVERIFY(copy != box);
        QCOMPARE(t->document().layers(), std::vector{copy}); // what was in hand still is
        t->document().edit(
            "Paint", withChangedLayer(t->document().release(), t->document().panel(), copy, [](Layer& l) {
                std::get<ShapeContent>(l.content).fill = Rgba{1, 0, 0, 1};
            }));
        t->settle();
        QCOMPARE(t->seen({1500, 1500}), QColor(255, 0, 0));
        QTest::keyClick(&t->bench(), Qt::Key_T);
        t->settle();
        QCOMPARE(t->document().piece()->take().id, std::string("A"));
        QCOMPARE(t->seen({1500, 1500}).red(), 128);

        // Side by side, at one zoom; the other take shows what it is.
        QTest::mouseClick(t->find<QToolButton>("Side by side"), Qt::LeftButton);
        t->settle();
        QCOMPARE(view().grid()->sides().size(), size_t(1));
        SideBench* other = view().grid()->sides()[0];
        QCOMPARE(other->take(), std::string("B"));
        QCOMPARE(other->zoom(), t->bench().zoom());
        const auto there = [&] {
            const Vec2 at = other->toView().map({1500, 1500});
            return other->grab().toImage().pixelColor(int(at.x), int(at.y));
        };
        QCOMPARE(there(), QColor(255, 0, 0));
        t->bench().zoomBy(2, {200, 200});
        QCOMPARE(other->zoom(), t->bench().zoom());
        other->zoomBy(0.5, {200, 200});
        QCOMPARE(other->zoom(), t->bench().zoom());
        // A click works on it.
        QTest::mouseClick(other, Qt::LeftButton, {}, {60, 200});
        QCOMPARE(t->document().piece()->take().id, std::string("B"));
        QCOMPARE(view().grid()->sides()[0]->take(), std::string("A"));
    }

    void aLayerIsCopiedToAnotherTake() {
        t->document().newTake();
        view().bar()->stepTake(1);
        t->put(*t->find(box));
        t->document().selectLayer(box);
        QMenu* takes = nullptr;
        for (QMenu* m : t->window->menuBar()->findChildren<QMenu*>())
            if (m->title() == "Copy to take") takes = m;
        Q_EMIT takes->aboutToShow();
        QCOMPARE(takes->actions().size(), 1);
        takes->actions()[0]->trigger();
        QCOMPARE(t->document().piece()->take("B")->stack("front").size(), size_t(3));
        view().bar()->stepTake(1);
        QCOMPARE(t->layers()[0]->name, std::string("Box"));
    }

    void theReferenceIsLaidOverSplitAndSubtracted() {
        const SourcePtr red = addSource("Red.png", {255, 0, 0, 255});
        refer(red, Reference::Way::Over);
        const QColor over = t->seen({200, 1500}); // half of red over grey
        QVERIFY(std::abs(over.red() - 191) <= 2 && std::abs(over.green() - 64) <= 2);
        refer(red, Reference::Way::Difference);
        const QColor difference = t->seen({200, 1500});
        QVERIFY(std::abs(difference.red() - 127) <= 2 && std::abs(difference.green() - 128) <= 2);
        refer(red, Reference::Way::Split);
        QCOMPARE(t->seen({300, 1000}).red(), 128);
        QCOMPARE(t->seen({2700, 1000}), QColor(255, 0, 0));
        t->drag(t->bench(), t->on({1500, 1000}), t->on({750, 1000}));
        QVERIFY(std::abs(referenceOf(*t->document().release(), t->document().panel())->split - 0.25) < 0.01);
        QCOMPARE(t->seen({1000, 1000}), QColor(255, 0, 0));
        QCOMPARE(t->seen({300, 1100}).red(), 128);
        // Its colour is picked where it is seen.
        QTest::keyClick(&t->bench(), Qt::Key_P);
        QTest::mouseClick(&t->bench(), Qt::LeftButton, {}, t->on({2000, 1000}));
        QCOMPARE(std::get<Ink>(*t->find(box)->as<ShapeContent>()->fill), (Ink{1, 0, 0, 1}));
        view().bar()->setWay(Reference::Way::Off);
        t->settle();
        QCOMPARE(t->seen({2800, 2800}).red(), 128);
    }

    void theReferenceStandsBesideTheWork() {
        refer(addSource("Red.png", {255, 0, 0, 255}), Reference::Way::Beside);
        QCOMPARE(view().grid()->sides().size(), size_t(1));
        SideBench* side = view().grid()->sides()[0];
        QCOMPARE(side->zoom(), t->bench().zoom());
        const Vec2 at = side->toView().map({1500, 1500});
        QCOMPARE(side->grab().toImage().pixelColor(int(at.x), int(at.y)), QColor(255, 0, 0));
        QTest::keyClick(&t->bench(), Qt::Key_P);
        QTest::mouseClick(side, Qt::LeftButton, {}, {int(at.x), int(at.y)});
        QCOMPARE(std::get<Ink>(*t->find(box)->as<ShapeContent>()->fill), (Ink{1, 0, 0, 1}));
        view().bar()->setWay(Reference::Way::Off);
        QVERIFY(view().grid()->sides().empty());
    }

    void theReferenceIsNeverPrinted() {
        refer(addSource("Red.png", {255, 0, 0, 255}), Reference::Way::Over);
        const Scene scene = panelScene(t->document().release(), t->document().panel(), {0.1, true});
        const auto bytes = t->engine->renderer.renderBgra8(scene, scene.bounds());
        for (size_t i = 0; i < size_t(300) * 300 * 4; i += 4) QVERIFY(bytes.data()[i + 2] == bytes.data()[i]);
    }

    void theLadderIsLiveAndNamesLostWords() {
        Layer words;
        words.name = "Small print";
        TextContent text;
        text.spec.text = "slack";
        text.spec.letters.size = 120;
        words.content = text;
        words.placement.position = {600, 600};
        t->put(words);
        QTest::mouseClick(t->find<QToolButton>("Sizes"), Qt::LeftButton);
        QVERIFY(view().ladder()->isVisible());
        t->action("Size ladder")->trigger(); // the menu closes and opens it too
        QVERIFY(!view().ladder()->isVisible() && !t->find<QToolButton>("Sizes")->isChecked());
        t->action("Size ladder")->trigger();
        QVERIFY(t->find<QToolButton>("Sizes")->isChecked());
        t->settle();
        QCOMPARE(view().ladder()->sizes(), (std::vector{140, 96, 64, 40, 24}));
        QCOMPARE(view().ladder()->imageAt(96).size(), QSize(96, 96));
        QCOMPARE(view().ladder()->imageAt(24).pixelColor(12, 20).red(), 128);
        QVERIFY(view().ladder()->note().startsWith("Small print is lost below "));
        t->document().edit(
            "Larger",
            withChangedLayer(t->document().release(), t->document().panel(), t->document().layer(),
                             [](Layer& l) { std::get<TextContent>(l.content).spec.letters.size = 1200; }));
        t->settle();
        QCOMPARE(view().ladder()->note(), QString("All words can be read"));
    }

    void aMaskIsShownAloneAndAsATint() {
        Mask mask;
        ShapeContent shape;
        shape.width = shape.height = 1000;
        mask.form = shape;
        mask.placement.position = {1500, 1500};
        t->document().edit("Mask",
                           withChangedLayer(t->document().release(), t->document().panel(), box,
                                            [&](Layer& l) { l.mask = std::make_shared<const Mask>(mask); }));
        t->settle();
        auto* look = t->find<QComboBox>("Show the mask");
        QVERIFY(look);
        const auto choose = [&](MaskLook l) {
            look->setCurrentIndex(int(l));
            Q_EMIT look->activated(int(l));
            t->settle();
        };
        choose(MaskLook::Alone);
        QCOMPARE(t->seen({1500, 1500}), QColor(Qt::white));
        QCOMPARE(t->seen({700, 700}), QColor(Qt::black));
        choose(MaskLook::Tint);
        QCOMPARE(t->seen({1500, 1500}).red(), 128);
        QVERIFY(t->seen({700, 700}).red() > t->seen({700, 700}).blue() + 60);
        // The layer alone on grounds that show its edge.
        for (const auto& [on, colour] :
             {std::pair{MaskLook::OnBlack, QColor(Qt::black)}, {MaskLook::OnWhite, QColor(Qt::white)}}) {
            choose(on);
            QCOMPARE(t->seen({1500, 1500}).red(), 128);
            QCOMPARE(t->seen({700, 700}), colour);
        }
        choose(MaskLook::OnChecker);
        QVERIFY(t->seen({60, 60}) != t->seen({185, 60}));
        QCOMPARE(t->seen({60, 60}), t->seen({185, 185}));
        choose(MaskLook::Art);
        QCOMPARE(t->seen({700, 700}).red(), 128);
        // The mask is moved by itself.
        QTest::mouseClick(t->find<QPushButton>("Take the mask in hand"), Qt::LeftButton);
        t->drag(t->bench(), t->on({1500, 1500}), t->on({1900, 1500}), Qt::ControlModifier);
        QVERIFY(std::abs(t->find(box)->mask->placement.position.x - 1900) < 2 / t->bench().zoom());
        QCOMPARE(t->find(box)->placement.position.x, 1500.0);
    }

    void stepsAreGoneToAndLeftBranchesKept() {
        const auto paint = [&](const Rgba& colour, const char* name) {
            t->document().edit(
                name, withChangedLayer(t->document().release(), t->document().panel(), box,
                                       [=](Layer& l) { std::get<ShapeContent>(l.content).fill = colour; }));
            t->settle();
        };
        paint({1, 0, 0, 1}, "Red");
        paint({0, 1, 0, 1}, "Green");
        view().showHistory(true);
        t->settle();
        QListView* list = view().history()->list();
        QVERIFY(list->isVisible());
        const auto row = [&](const QString& text) {
            for (int i = 0; i < list->model()->rowCount(); ++i)
                if (list->model()->index(i, 0).data().toString().contains(text))
                    return list->model()->index(i, 0);
            return QModelIndex();
        };
        QVERIFY(row("Red").isValid() && row("Green").isValid());
        const QImage miniature = row("Red").data(Qt::DecorationRole).value<QPixmap>().toImage();
        t->settle();
        QCOMPARE(row("Red").data(Qt::DecorationRole).value<QPixmap>().toImage().pixelColor(15, 15),
                 QColor(255, 0, 0));
        QTest::mouseClick(list->viewport(), Qt::LeftButton, {}, list->visualRect(row("Red")).center());
        t->settle();
        QCOMPARE(t->seen({1500, 1500}), QColor(255, 0, 0));
        QVERIFY(row("Green").isValid()); // can still be gone to
        // Another way is taken; the old one stays in the list and becomes a take.
        paint({0, 0, 1, 1}, "Blue");
        const QModelIndex left = row("left: Green");
        QVERIFY(left.isValid());
        QTest::mouseClick(list->viewport(), Qt::LeftButton, {}, list->visualRect(left).center());
        QCOMPARE(t->seen({1500, 1500}), QColor(0, 0, 255));
        QVERIFY(view().history()->keep()->isEnabled());
        QTest::mouseClick(view().history()->keep(), Qt::LeftButton);
        t->settle();
        QCOMPARE(t->document().piece()->take().id, std::string("B"));
        QCOMPARE(t->seen({1500, 1500}), QColor(0, 255, 0));
    }
};

GLYPTOS_TEST(ComparingTest)
#include "comparing_test.moc"
