// Lay out, folded: the piece as an object that is folded by a slider and by hand, turned and looked at.
#include "release/edits/edits.h"
#include "support/forms.h"
#include "support/register.h"
#include "support/window.h"

#include <QImage>
#include <QSlider>
#include <QToolButton>

using namespace glyptos;
using namespace glyptos::test;

class FoldViewTest : public QObject {
    Q_OBJECT
    std::unique_ptr<TestWindow> t;

    LayoutView& layOut() { return *t->window->layOut(); }
    FoldView& view() { return *layOut().fold(); }
    bool settled() {
        return t->settle([&] { return view().isSettled(); });
    }
    QSlider* slider() { return layOut().findChild<QSlider*>(); }
    QToolButton* button(const QString& text) {
        for (QToolButton* b : layOut().findChildren<QToolButton*>())
            if (b->text() == text) return b;
        return nullptr;
    }
    QImage shot() {
        settled();
        return view().grab().toImage();
    }
    void put(const std::string& panel, const Rgba& colour) {
        Layer fill;
        fill.content = FillContent{colour};
        const PanelRef ref{t->document().panel().piece, panel};
        t->document().edit("Fill", withLayer(t->document().release(), ref, fill).release);
    }
    /// Where that panel is seen, by looking.
    std::vector<QPoint> placesOf(const char* panel) {
        constexpr int kStep = 14; // px
        const auto& panels = t->document().piece()->flat->panels;
        std::vector<QPoint> all;
        for (int y = 2; y < view().height(); y += kStep)
            for (int x = 2; x < view().width(); x += kStep)
                if (const auto grab = view().boardAt(QPointF(x, y));
                    grab && grab->board < panels.size() && panels[grab->board].id == panel)
                    all.emplace_back(x, y);
        return all;
    }
    std::optional<QPoint> placeOf(const char* panel) {
        const auto all = placesOf(panel);
        return all.empty() ? std::nullopt : std::optional(all[all.size() / 2]);
    }
    /// But for a narrow edge of it.
    bool isHidden(const char* panel) { return placesOf(panel).size() < 20; }
    static bool isRed(QColor c) { return c.red() > 80 && c.green() < 60; }
    static bool isBlue(QColor c) { return c.blue() > 80 && c.red() < 60; }

  private Q_SLOTS:
    void init() {
        t = std::make_unique<TestWindow>();
        t->document().selectPanel({t->piece("sleeve-12"), "front"});
        put("front", {0.8f, 0.05f, 0.05f, 1});
        put("back", {0.05f, 0.05f, 0.8f, 1});
        t->window->showStep(Step::LayOut);
        t->settle();
        QTest::mouseClick(button("Folded"), Qt::LeftButton);
        QVERIFY(settled());
    }
    void cleanup() { t.reset(); }

    void theWaysAreChosen() {
        QVERIFY(view().isVisible() && slider()->isVisible() && !layOut().bench()->isVisible());
        QVERIFY(button("Folded")->isChecked() && !button("Flat")->isChecked());
        QTest::mouseClick(button("Flat"), Qt::LeftButton);
        QVERIFY(!view().isVisible() && !slider()->isVisible() && layOut().bench()->isVisible());
    }

    void theSliderFoldsThePiece() {
        // Made up, the front hides the back.
        QImage closed = shot();
        const auto front = placeOf("front");
        QVERIFY(front && isRed(closed.pixelColor(*front)));
        QVERIFY(isHidden("back"));
        slider()->setValue(0);
        const QImage flat = shot();
        const auto back = placeOf("back");
        QVERIFY(back && isBlue(flat.pixelColor(*back)));
        QVERIFY(placeOf("front") && isRed(flat.pixelColor(*placeOf("front"))));
    }

    void draggingBesideItTurnsIt() {
        QVERIFY(placeOf("front"));
        const QPoint corner(4, 4);
        QTest::mousePress(&view(), Qt::LeftButton, {}, corner);
        for (int x = 40; x <= 440; x += 40) QTest::mouseMove(&view(), corner + QPoint(x, 0));
        QTest::mouseRelease(&view(), Qt::LeftButton, {}, corner + QPoint(440, 0));
        const QImage turned = shot();
        const auto back = placeOf("back");
        QVERIFY(back && isBlue(turned.pixelColor(*back)));
        QVERIFY(isHidden("front"));
        QTest::keyClick(&view(), Qt::Key_Home);
        QVERIFY(settled());
        QVERIFY(placeOf("front") && isHidden("back"));
    }

    void aPanelIsFoldedByHand() {
        slider()->setValue(0);
        QVERIFY(settled());
        for (int i = 0; i < 5; ++i) QTest::keyClick(&view(), Qt::Key_Left); // almost from the front
        QVERIFY(settled());
        const FoldShares before = view().shares();
        const auto from = placeOf("back");
        QVERIFY(from.has_value());
        const auto middle = placeOf("front");
        QVERIFY(middle.has_value());
        QTest::mousePress(&view(), Qt::LeftButton, {}, *from);
        for (int i = 1; i <= 10; ++i) QTest::mouseMove(&view(), *from + (*middle - *from) * i / 30);
        QTest::mouseRelease(&view(), Qt::LeftButton, {}, *from + (*middle - *from) * 10 / 30);
        QVERIFY(settled());
        const FoldShares after = view().shares();
        int moved = 0;
        for (size_t i = 0; i < after.size(); ++i) moved += std::abs(after[i] - before[i]) > 0.2;
        QCOMPARE(moved, 1);
    }

    void theWheelComesNearer() {
        const auto red = [&] {
            const QImage now = shot();
            int n = 0;
            for (int y = 0; y < now.height(); y += 4)
                for (int x = 0; x < now.width(); x += 4) n += isRed(now.pixelColor(x, y));
            return n;
        };
        const int before = red();
        QTest::keyClick(&view(), Qt::Key_Minus);
        QTest::keyClick(&view(), Qt::Key_Minus);
        QVERIFY2(red() < before * 0.8, qPrintable(QString::number(before)));
    }

    void artThatChangesIsSeen() {
        put("front", {0.05f, 0.05f, 0.8f, 1});
        const QImage now = shot();
        QVERIFY(isBlue(now.pixelColor(*placeOf("front"))));
    }

    void anotherPieceHasOtherFolds() {
        t->document().selectPanel({t->piece("digital-cover"), "front"});
        QVERIFY(settled());
        QVERIFY(!slider()->isEnabled());
        QVERIFY(view().sentence().contains("no folds"));
        QVERIFY(!button("Packed")->isVisible()); // a cover for screens is in nothing
    }

    /// With its record: taken out by the slider, put back by hand.
    void theSleeveIsPackedWithItsRecord() {
        t->document().edit("Add a label",
                           withPiece(t->document().release(), shippedForm("label-12"), {}).value());
        QVERIFY(settled());
        QVERIFY(button("Packed")->isVisible());
        QTest::mouseClick(button("Packed"), Qt::LeftButton);
        QVERIFY(settled());
        QVERIFY(view().isPacked() && view().sentence().contains("the record slides out"));
        const auto record = [&] {
            std::vector<QPoint> all;
            for (int y = 2; y < view().height(); y += 10)
                for (int x = 2; x < view().width(); x += 10)
                    if (view().partAt(QPointF(x, y)) == QLatin1String("Record")) all.emplace_back(x, y);
            return all;
        };
        QVERIFY(record().size() < 20); // but for its rim
        slider()->setValue(0);
        const QImage out = shot();
        const auto there = record();
        QVERIFY2(there.size() > 100, qPrintable(QString::number(there.size())));
        int dark = 0;
        for (const QPoint& p : there) dark += out.pixelColor(p).lightness() < 110;
        QVERIFY(dark > int(there.size()) / 2);
        QCOMPARE(view().packShares(), PackShares{0});
        // Dragged to the left it goes back in.
        const QPoint from = there[there.size() / 2];
        QTest::mousePress(&view(), Qt::LeftButton, {}, from);
        for (int i = 1; i <= 10; ++i) QTest::mouseMove(&view(), from - QPoint(6 * i, 0));
        QTest::mouseRelease(&view(), Qt::LeftButton, {}, from - QPoint(60, 0));
        QVERIFY(settled());
        QVERIFY2(view().packShares()[0] > 0.1, qPrintable(QString::number(view().packShares()[0])));
        // Another sleeve of art is packed anew.
        put("front", {0.05f, 0.8f, 0.05f, 1});
        const QImage green = shot();
        int seen = 0;
        for (int y = 0; y < green.height(); y += 8)
            for (int x = 0; x < green.width(); x += 8) {
                const QColor c = green.pixelColor(x, y);
                seen += c.green() > 110 && c.red() < 90 && c.blue() < 90;
            }
        QVERIFY(seen > 50);
        QTest::mouseClick(button("Packed"), Qt::LeftButton);
        QVERIFY(settled());
        QVERIFY(!view().isPacked() && placeOf("front"));
    }

    void theLampIsMoved() {
        const QImage before = shot();
        const QPoint at(view().width() / 2, 8);
        QTest::mousePress(&view(), Qt::RightButton, {}, at);
        for (int x = 30; x <= 150; x += 30) QTest::mouseMove(&view(), at + QPoint(x, 0));
        QTest::mouseRelease(&view(), Qt::RightButton, {}, at + QPoint(150, 0));
        const QImage moved = shot();
        QVERIFY(before != moved);
        QVERIFY(view().lamp().from != Lamp{}.from && view().lamp().from.z > 0);
        const QPoint front = *placeOf("front");
        QVERIFY(isRed(moved.pixelColor(front))); // the same piece from the same side
        QTest::keyClick(&view(), Qt::Key_Left, Qt::ShiftModifier);
        QVERIFY(shot() != moved);
        QTest::keyClick(&view(), Qt::Key_Home);
        QCOMPARE(view().lamp().from, Lamp{}.from);
    }
};

GLYPTOS_TEST(FoldViewTest)
#include "fold_view_test.moc"
