// The whole job in the real window: a photo dropped on a new release becomes a cover, a sleeve, a store file
// and a print file; everything can be undone; saved and opened again it is the same.
#include "file/release_json/release_json.h"
#include "support/register.h"
#include "support/window.h"

#include <QColor>
#include <QColorSpace>
#include <QFile>
#include <QFileInfo>
#include <QImage>
#include <QLabel>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QSignalSpy>
#include <QStringLiteral>
#include <QTableView>
#include <QTemporaryDir>

using namespace glyptos;
using namespace glyptos::test;

namespace {

constexpr int kNear = 14; // of 255: JPEG and scaling in the middle of a flat area

bool near(const QColor& c, int r, int g, int b) {
    return std::abs(c.red() - r) <= kNear && std::abs(c.green() - g) <= kNear &&
           std::abs(c.blue() - b) <= kNear;
}

} // namespace

class WindowTest : public QObject {
    Q_OBJECT
    std::unique_ptr<TestWindow> t;
    std::unique_ptr<QTemporaryDir> folder;

    QString file(const QString& name) const { return folder->filePath(name); }
    QString photo(const QString& name, int side = 640) const {
        write(file(name).toStdString(),
              jpegOf(side, side, [=](int x, int y) { return quarters(x, y, side, side); }));
        return file(name);
    }
    QString notice() {
        for (QLabel* label : t->window->findChildren<QLabel*>())
            if (label->accessibleName() == "Message" && label->isVisible()) return label->text();
        return {};
    }
    QString json() { return QString::fromStdString(releaseToJson(*t->document().release())); }

    void exportBoth() {
        t->window->showStep(Step::Deliver);
        QSignalSpy written(t->window->deliver(), &DeliverView::written);
        t->document().selectPanel({t->piece("digital-cover"), "front"});
        enter(t->find<NumberField>("Width"), "1500");
        t->window->deliver()->writeStorePicture(file("cover.jpg"));
        QVERIFY(written.wait(30000));
        const QImage cover(file("cover.jpg"));
        QCOMPARE(cover.size(), QSize(1500, 1500));
        QVERIFY(cover.colorSpace().isValid());
        QVERIFY(near(cover.pixelColor(1000, 350), 255, 0, 0) &&
                near(cover.pixelColor(100, 350), 255, 255, 255));
        t->document().selectPanel({t->piece("sleeve-12"), "front"});
        t->window->deliver()->writePrintFile(file("sleeve.pdf"));
        QVERIFY(written.wait(60000));
        QVERIFY2(written.last()[0].toString().contains("trim 633.8 × 315 mm"),
                 qPrintable(written.last()[0].toString()));
        QVERIFY(QFileInfo(file("sleeve.pdf")).size() > 10000);
    }

  private Q_SLOTS:
    void init() {
        folder = std::make_unique<QTemporaryDir>();
        t = std::make_unique<TestWindow>();
    }
    void cleanup() { t.reset(); }

    void fromPhotoToFiles() {
        Document& d = t->document();
        t->window->showStep(Step::Compose);
        t->drop(t->bench(), {photo("Bryggjan á Höfn.jpg")}, t->bench().rect().center());
        QCOMPARE(t->layers().size(), size_t(1));
        QVERIFY(near(t->seen({700, 700}), 255, 0, 0) && near(t->seen({2300, 2300}), 255, 255, 255));

        // Dragged to the right by a quarter of the cover.
        t->drag(t->bench(), t->on({900, 900}), t->on({1650, 900}), Qt::ControlModifier);
        QVERIFY(near(t->seen({2000, 700}), 255, 0, 0));
        QVERIFY(near(t->seen({300, 700}), 255, 255, 255)); // bare paper
        QCOMPARE(QString::fromStdString(d.history().undoName()), QStringLiteral("Move Bryggjan á Höfn"));

        // Words where the Letter hand clicks, typed in place.
        QTest::keyClick(&t->bench(), Qt::Key_L);
        QCOMPARE(t->bench().hand(), Hand::Letter);
        QTest::mouseClick(&t->bench(), Qt::LeftButton, {}, t->on({300, 2300}));
        auto* editor = t->bench().findChild<QPlainTextEdit*>();
        QVERIFY(editor);
        typeText(editor, "{title}");
        QTest::keyClick(editor, Qt::Key_Return, Qt::ControlModifier);
        QVERIFY(t->settle());
        QCOMPARE(QString::fromStdString(t->layers()[0]->as<TextContent>()->spec.text),
                 QStringLiteral("{title}"));

        // The same field on the sleeve's front; the brief fills both.
        d.selectPanel({t->piece("sleeve-12"), "front"});
        t->action("Title")->trigger();
        t->window->showStep(Step::Brief);
        enter(t->find<QLineEdit>("Title"), "Slök flóð");
        QVERIFY(t->settle());
        QCOMPARE(QString::fromStdString(d.release()->brief.title), QStringLiteral("Slök flóð"));
        t->window->showStep(Step::Compose);
        QVERIFY(t->settle());
        const Frame frame =
            frameOf(*t->layers()[0], *d.release(), {0, 0, 315, 315}, t->engine->renderer.paragraphs());
        QVERIFY(frame.box.w > 60); // set from the brief's words, not empty
        int inked = 0;
        const QImage seen = t->bench().grab().toImage();
        for (double x = frame.bounds().x; x < frame.bounds().right(); x += 1)
            inked += seen.pixelColor(t->on({x, frame.bounds().centre().y})).lightness() < 90;
        QVERIFY(inked > 5);

        // Saved, opened again: the same. Then out to a store and to a printer.
        const QString saved = file("Slök flóð.glyptos");
        QSignalSpy savedSpy(t->window.get(), &MainWindow::saved),
            opened(t->window.get(), &MainWindow::opened);
        t->window->saveTo(saved);
        QVERIFY(savedSpy.wait(20000));
        QVERIFY(!t->window->isWindowModified());
        const QString before = json();
        t->window->openFile(saved);
        QVERIFY(opened.wait(20000) && t->settle());
        QCOMPARE(json(), before);
        exportBoth();
    }

    void undoItAll() {
        Document& d = t->document();
        const ReleasePtr start = d.release();
        t->window->showStep(Step::Compose);
        t->drop(t->bench(), {photo("a.jpg")}, t->bench().rect().center());
        t->drag(t->bench(), t->on({900, 900}), t->on({1200, 1300}));
        QTest::keyClick(&t->bench(), Qt::Key_Right);
        QTest::keyClick(&t->bench(), Qt::Key_Right, Qt::ShiftModifier);
        const double x = t->layers()[0]->placement.position.x;
        t->action("Duplicate")->trigger();
        QCOMPARE(t->layers().size(), size_t(2));
        QCOMPARE(d.layer(), t->layers()[0]->id); // the copy is in hand
        t->action("Remove")->trigger();
        QCOMPARE(t->layers().size(), size_t(1));
        QCOMPARE(t->layers()[0]->placement.position.x, x);
        const ReleasePtr end = d.release();
        int steps = 0;
        while (d.history().canUndo())
            QTest::keyClick(t->window.get(), Qt::Key_Z, Qt::ControlModifier), ++steps;
        QCOMPARE(steps, 5); // in, move, nudge (two keys are one step), duplicate, remove
        QVERIFY(d.release() == start);
        QVERIFY(t->settle());
        while (d.history().canRedo()) d.redo();
        QVERIFY(d.release() == end);
    }

    void badPicturesAreToldAndNothingChanges() {
        const ReleasePtr before = t->document().release();
        write(file("words.jpg").toStdString(), {'h', 'i'});
        write(file("empty.png").toStdString(), {});
        t->drop(t->bench(), {file("words.jpg"), file("empty.png")}, {400, 300});
        QVERIFY2(notice().contains("“words.jpg”") && notice().contains("“empty.png” is empty"),
                 qPrintable(notice()));
        QVERIFY(t->document().release() == before);
        // A good one among bad ones still comes in.
        t->drop(t->bench(), {file("words.jpg"), photo("good.jpg")}, {400, 300});
        QCOMPARE(t->layers().size(), size_t(1));
    }

    void aMessageNeverPushesTheWindowOffTheScreen() {
        t->window->resize(1280, 760); // what a screen of 800 leaves under a title bar
        for (const Step step : {Step::Brief, Step::Compose, Step::LayOut, Step::Deliver}) {
            t->window->showStep(step);
            t->window->tell("Something is not as it should be.");
            t->settle();
            QCOMPARE(t->window->height(), 760);
            QVERIFY2(t->window->minimumSizeHint().height() <= 700,
                     qPrintable(QString::number(t->window->minimumSizeHint().height())));
        }
    }

    void badReleasesLeaveTheOpenOne() {
        const ReleasePtr before = t->document().release();
        write(file("broken.glyptos").toStdString(), {'P', 'K', 3, 4});
        t->window->openFile(file("broken.glyptos"));
        QVERIFY(t->settle());
        QVERIFY2(notice().contains("“broken.glyptos” was not opened"), qPrintable(notice()));
        QVERIFY(t->document().release() == before);
    }

    void unwritablePlacesAreTold() {
        t->drop(t->bench(), {photo("a.jpg")}, {400, 300});
        t->window->saveTo("/proc/nowhere/a.glyptos");
        QVERIFY(t->settle());
        QVERIFY2(notice().contains("“a.glyptos” was not written"), qPrintable(notice()));
        QVERIFY(t->window->isWindowModified());
        QSignalSpy written(t->window->deliver(), &DeliverView::written);
        t->window->showStep(Step::Deliver);
        t->window->deliver()->writeStorePicture("/proc/nowhere/a.jpg");
        QVERIFY(written.wait(30000));
        QVERIFY(written[0][0].toString().contains("“a.jpg” was not written"));
    }

    void writingCanBeCancelled() {
        t->document().selectPanel({t->piece("sleeve-12"), "front"});
        t->drop(t->bench(), {photo("a.jpg", 1200)}, {400, 300});
        t->window->showStep(Step::Deliver);
        QSignalSpy written(t->window->deliver(), &DeliverView::written);
        t->window->deliver()->writePrintFile(file("never.pdf"));
        for (QPushButton* b : t->window->deliver()->findChildren<QPushButton*>())
            if (b->text() == "Cancel") QTest::mouseClick(b, Qt::LeftButton);
        QVERIFY(written.wait(30000));
        QCOMPARE(written[0][0].toString(), QStringLiteral("Cancelled; nothing was written."));
        QVERIFY(!QFile::exists(file("never.pdf")));
    }

    void trackListFlowsEverywhere() {
        t->document().selectPanel({t->piece("sleeve-12"), "back"});
        t->action("Track list")->trigger();
        t->window->showStep(Step::Brief);
        QTableView* table = t->window->brief()->trackTable();
        for (QPushButton* b : t->window->brief()->findChildren<QPushButton*>())
            if (b->text() == "Add track") QTest::mouseClick(b, Qt::LeftButton);
        auto* model = table->model();
        QCOMPARE(model->rowCount(), 1);
        QVERIFY(model->setData(model->index(0, 1), "A"));
        QVERIFY(model->setData(model->index(0, 2), "Þoka við bryggju"));
        QVERIFY(model->setData(model->index(0, 4), "4:08"));
        QVERIFY(!model->setData(model->index(0, 4), "four minutes"));
        QVERIFY2(notice().contains("four minutes"), qPrintable(notice()));
        const auto spec = resolvedText(*t->layers()[0]->as<TextContent>(), *t->document().release());
        QCOMPARE(QString::fromStdString(spec.text), QStringLiteral("Side A\nA1\tÞoka við bryggju\t4:08"));
    }

    void layersTravelAsOpenRaster() {
        t->window->showStep(Step::Compose);
        t->drop(t->bench(), {photo("a.jpg")}, {400, 300});
        t->action("Add a fill")->trigger();
        t->window->showStep(Step::Deliver);
        QSignalSpy written(t->window->deliver(), &DeliverView::written);
        t->window->deliver()->writeLayers(file("cover.ora"));
        QVERIFY(written.wait(60000));
        QCOMPARE(written[0][0].toString(), QStringLiteral("Wrote cover.ora: the layers of Front."));
        // Brought in on the sleeve it is one group that covers the front with its bleed, and can be undone at
        // once.
        t->document().selectPanel({t->piece("sleeve-12"), "front"});
        t->window->showStep(Step::Compose);
        const ReleasePtr before = t->document().release();
        t->drop(t->bench(), {file("cover.ora")}, {400, 300});
        QCOMPARE(t->layers().size(), size_t(1));
        const auto* group = t->layers()[0]->as<GroupContent>();
        QVERIFY(group && group->layers.size() == 2 && t->layers()[0]->name == "cover");
        QVERIFY(group->layers[0]->id != group->layers[1]->id);
        const Panel& front = *t->document().piece()->flat->panel("front");
        const Rect bounds = frameOf(*t->layers()[0], *t->document().release(), front.withBleed(),
                                    t->engine->renderer.paragraphs())
                                .bounds();
        QVERIFY(bounds.x <= front.withBleed().x + 1e-6 &&
                bounds.bottom() >= front.withBleed().bottom() - 1e-6);
        t->document().undo();
        QVERIFY(t->document().release() == before);
    }

    void layersAreNotRemovedFromOtherSteps() {
        t->drop(t->bench(), {photo("a.jpg")}, {400, 300});
        t->window->showStep(Step::LayOut);
        QTest::keyClick(t->window.get(), Qt::Key_Delete);
        QCOMPARE(t->layers().size(), size_t(1));
        t->window->showStep(Step::Compose);
        QTest::keyClick(t->window.get(), Qt::Key_Delete);
        QCOMPARE(t->layers().size(), size_t(0));
    }

    void stepsBySteppingKeysAndClicks() {
        for (const Step step : {Step::Brief, Step::LayOut, Step::Deliver, Step::Compose}) {
            QTest::keyClick(t->window.get(), Qt::Key(Qt::Key_1 + int(step)), Qt::ControlModifier);
            QCOMPARE(t->window->rail()->current(), step);
        }
        QTest::mouseClick(t->window->rail(), Qt::LeftButton, {},
                          t->window->rail()->tabOf(Step::Brief).center());
        QCOMPARE(t->window->rail()->current(), Step::Brief);
    }

    void theSetTakesPiecesInHand() {
        const std::string sleeve = t->piece("sleeve-12");
        QTest::mouseClick(t->window->set(), Qt::LeftButton, {},
                          t->window->set()->miniatureOf(sleeve).center());
        QCOMPARE(t->document().panel().piece, sleeve);
        // True relative scale: a sleeve is as tall as a cover and just over twice as wide.
        const QRect cover = t->window->set()->miniatureOf(t->piece("digital-cover")),
                    flat = t->window->set()->miniatureOf(sleeve);
        QVERIFY(std::abs(cover.height() - flat.height()) <= 1);
        QVERIFY(std::abs(flat.width() - cover.width() * 633.8 / 315) <= 2);
        t->action("Podcast tile")->trigger();
        QCOMPARE(t->document().release()->pieces.size(), size_t(3));
        t->action("Remove from the set")->trigger();
        QCOMPARE(t->document().release()->pieces.size(), size_t(2));
    }

    void recentFilesAndNightLook() {
        QSignalSpy saved(t->window.get(), &MainWindow::saved);
        t->window->saveTo(file("kept.glyptos"));
        QVERIFY(saved.wait(10000));
        QVERIFY(t->action("kept.glyptos"));
        t->action("Night look")->trigger();
        QVERIFY(isNight());
        QVERIFY(t->window->rail()->grab().toImage().pixelColor(2, 600).lightness() < 60);
        QVERIFY(t->bench().grab().toImage().pixelColor(40, 60) ==
                QColor("#8B8B89")); // the bench stays neutral
        t->action("Night look")->trigger();
        QVERIFY(!isNight());
    }
};

GLYPTOS_TEST(WindowTest)
#include "window_test.moc"
