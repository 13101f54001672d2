// In the real window: nothing that is saved, opened or brought in at the same time goes astray.
#include "file/project.h"
#include "file/track_lists.h"
#include "file/zip_archive.h"
#include "support/register.h"
#include "support/window.h"

#include <QAbstractButton>
#include <QApplication>
#include <QLabel>
#include <QMessageBox>
#include <QSignalSpy>
#include <QStatusBar>
#include <QTemporaryDir>
#include <QTimer>
#include <QToolButton>

using namespace glyptos;
using namespace glyptos::test;

class SavingTest : public QObject {
    Q_OBJECT
    std::unique_ptr<TestWindow> t;
    std::unique_ptr<QTemporaryDir> folder;

    QString file(const QString& name) const { return folder->filePath(name); }
    QString photo(const QString& name) const {
        write(file(name).toStdString(),
              jpegOf(120, 120, [](int x, int y) { return quarters(x, y, 120, 120); }));
        return file(name);
    }
    std::string titleIn(const QString& name) const {
        const auto release = openProject(file(name).toStdString(), shippedForms().value());
        return release ? (*release)->brief.title : "not there: " + release.error().message;
    }
    /// Presses that button of the question that comes up; `asked` counts them.
    void answer(const QString& button, int& asked) {
        auto* timer = new QTimer(t->window.get());
        connect(timer, &QTimer::timeout, this, [=, &asked] {
            auto* box = qobject_cast<QMessageBox*>(QApplication::activeModalWidget());
            if (!box) return;
            for (QAbstractButton* b : box->buttons())
                if (b->text() == button) {
                    ++asked;
                    timer->deleteLater();
                    return b->click();
                }
        });
        timer->start(5);
    }

  private Q_SLOTS:
    void init() {
        folder = std::make_unique<QTemporaryDir>();
        t = std::make_unique<TestWindow>();
    }
    void cleanup() { t.reset(); }

    void aTrackThatEndsInTwoBytesIsSaved() {
        Brief brief = t->document().release()->brief;
        brief.tracks = tracksFromText("A1 Et voilà\nA2 Š\n")->tracks;
        t->document().edit("Tracks", withBrief(t->document().release(), brief));
        QSignalSpy saved(t->window.get(), &MainWindow::saved);
        t->window->saveTo(file("voila.glyptos"));
        QVERIFY(saved.wait());
        QCOMPARE((*openProject(file("voila.glyptos").toStdString(), shippedForms().value()))->brief.tracks,
                 brief.tracks);
    }

    /// New while a save runs: the save ends first, and its file stays that release's.
    void aSaveBelongsToItsRelease() {
        t->title("First");
        t->window->saveTo(file("first.glyptos"));
        t->window->newRelease();
        QVERIFY(t->settle());
        QVERIFY(t->document().file().empty());
        QVERIFY(t->document().release()->brief.title.empty());
        t->title("Second");
        t->window->saveTo(file("second.glyptos"));
        QVERIFY(t->settle());
        QCOMPARE(titleIn("first.glyptos"), std::string("First"));
        QCOMPARE(titleIn("second.glyptos"), std::string("Second"));
    }

    /// The same where there is nothing unsaved to wait for.
    void aSaveThatEndsUnderAnotherRelease() {
        t->title("First");
        t->window->saveTo(file("first.glyptos"));
        QVERIFY(t->settle());
        QVERIFY(!t->document().isModified());
        t->window->saveTo(file("copy.glyptos"));
        t->window->newRelease();
        QVERIFY(t->document().release()->brief.title.empty());
        QVERIFY(t->settle());
        QVERIFY(t->document().file().empty()); // not copy.glyptos
        QCOMPARE(titleIn("copy.glyptos"), std::string("First"));
    }

    void whatSomebodyElseWroteIsKept() {
        t->title("Ours");
        t->window->saveTo(file("tide.glyptos"));
        QVERIFY(t->settle());
        Release theirs;
        theirs.brief.title = "Theirs";
        QVERIFY(saveProject(theirs, file("tide.glyptos").toStdString()));
        t->title("Ours, later");
        t->window->saveTo(file("tide.glyptos"));
        QVERIFY(t->settle());
        QCOMPARE(titleIn("tide.glyptos"), std::string("Theirs"));
        QCOMPARE(titleIn("tide 2.glyptos"), std::string("Ours, later"));
        QVERIFY2(t->notice().contains("“tide.glyptos” was changed by somebody else") &&
                     t->notice().contains("“tide 2.glyptos”"),
                 qPrintable(t->notice()));
        // It goes on in its own file, of which nobody else knows.
        QCOMPARE(QString::fromStdString(t->document().file().string()), file("tide 2.glyptos"));
        QVERIFY(!t->document().isModified());
        t->title("Ours, last");
        t->window->saveTo(QString::fromStdString(t->document().file().string()));
        QVERIFY(t->settle());
        QCOMPARE(titleIn("tide 2.glyptos"), std::string("Ours, last"));
        QCOMPARE(QDir(folder->path()).entryList(QDir::Files | QDir::Hidden).size(), 2);
    }

    void twoWindowsOnOneFileLoseNothing() {
        t->title("Before");
        t->window->saveTo(file("tide.glyptos"));
        QVERIFY(t->settle());
        MainWindow other(*t->engine, shippedForms().value(), file("crate").toStdString());
        QSignalSpy opened(&other, &MainWindow::opened), saved(&other, &MainWindow::saved);
        other.openFile(file("tide.glyptos"));
        QVERIFY(opened.wait());
        t->title("Of the first window");
        t->window->saveTo(file("tide.glyptos"));
        QVERIFY(t->settle());
        Brief brief = other.document()->release()->brief;
        brief.title = "Of the second";
        other.document()->edit("Title", withBrief(other.document()->release(), brief));
        other.saveTo(file("tide.glyptos"));
        QVERIFY(saved.wait());
        QCOMPARE(titleIn("tide.glyptos"), std::string("Of the first window"));
        QCOMPARE(titleIn("tide 2.glyptos"), std::string("Of the second"));
    }

    void aWindowThatGoesWritesWhatIsQueued() {
        for (const char* words : {"First", "Second", "Third"}) {
            t->title(words);
            t->window->saveTo(file("tide.glyptos"));
        }
        t->window->saveTo(file("copy.glyptos"));
        t->title("Fourth");
        t->window->saveTo(file("tide.glyptos"));
        t.reset();
        QCOMPARE(titleIn("tide.glyptos"), std::string("Fourth"));
        QCOMPARE(titleIn("copy.glyptos"), std::string("Third"));
        QCOMPARE(QDir(folder->path()).entryList(QDir::Files | QDir::Hidden).size(), 2);
    }

    void whatWasRemovedIsWrittenAgain() {
        t->title("Ours");
        t->window->saveTo(file("tide.glyptos"));
        QVERIFY(t->settle());
        QVERIFY(QFile::rename(file("tide.glyptos"), file("elsewhere.glyptos")));
        t->title("Ours, later");
        t->window->saveTo(file("tide.glyptos"));
        QVERIFY(t->settle());
        QCOMPARE(titleIn("tide.glyptos"), std::string("Ours, later"));
        QCOMPARE(titleIn("elsewhere.glyptos"), std::string("Ours"));
        QVERIFY2(t->notice().contains("moved or removed by somebody else"), qPrintable(t->notice()));
    }

    void savesAskedForAtOnceAreAllDone() {
        t->title("One");
        t->window->saveTo(file("a.glyptos"));
        t->title("Two");
        t->window->saveTo(file("a.glyptos"));
        t->title("Three");
        t->window->saveTo(file("b.glyptos"));
        t->window->saveTo(file("a.glyptos"));
        QVERIFY(t->settle());
        QCOMPARE(titleIn("a.glyptos"), std::string("Three"));
        QCOMPARE(titleIn("b.glyptos"), std::string("Three"));
        QVERIFY(!t->document().isModified());
    }

    /// Also those of a release that is no longer open.
    void closingWaitsForEverySave() {
        t->title("First");
        t->window->saveTo(file("first.glyptos"));
        QVERIFY(t->settle());
        for (const char* name : {"copy.glyptos", "copy of the copy.glyptos"}) t->window->saveTo(file(name));
        t->window->newRelease();
        t->window->close();
        QVERIFY(t->window->isVisible()); // the thread of the window has gone on at once
        QVERIFY(QTest::qWaitFor([&] { return !t->window->isVisible(); }, 10000));
        QVERIFY(!t->window->isBusy());
        QCOMPARE(titleIn("copy of the copy.glyptos"), std::string("First"));
    }

    void whatCannotBeSavedKeepsTheWindowOpen() {
        t->window->saveTo(file("no such folder/a.glyptos"));
        t->window->close();
        QVERIFY(t->settle());
        QVERIFY(t->window->isVisible());
        QVERIFY(t->notice().contains("a.glyptos"));
        t->window->close();
        QVERIFY(!t->window->isVisible());
    }

    void closingAsksOncePerChange() {
        t->window->close();
        QVERIFY(!t->window->isVisible()); // nothing was changed
        t->window =
            std::make_unique<MainWindow>(*t->engine, shippedForms().value(), file("crate").toStdString());
        t->window->show();
        t->title("Changed");
        int asked = 0;
        answer("Stay here", asked);
        t->window->close();
        QCOMPARE(asked, 1);
        QVERIFY(t->window->isVisible());
        answer("Go on without them", asked);
        t->window->close();
        QCOMPARE(asked, 2);
        QVERIFY(!t->window->isVisible());
    }

    void editsMadeWhileAFileIsOpenedAreAskedAbout() {
        t->title("On disk");
        t->window->saveTo(file("disk.glyptos"));
        QVERIFY(t->settle());
        t->window->newRelease();
        for (const auto& [button, kept] : {std::pair{"Stay here", true}, {"Go on without them", false}}) {
            int asked = 0;
            t->window->openFile(file("disk.glyptos"));
            t->title("Typed meanwhile");
            answer(button, asked);
            QVERIFY(QTest::qWaitFor([&] { return asked == 1; }, 10000));
            QVERIFY(t->settle());
            QCOMPARE(t->document().release()->brief.title, std::string(kept ? "Typed meanwhile" : "On disk"));
            if (kept) t->document().undo();
        }
    }

    void ofTwoFilesTheLastOneIsOpened() {
        for (const char* name : {"a", "b"}) {
            t->title(name);
            t->window->saveTo(file(QString(name) + ".glyptos"));
            QVERIFY(t->settle());
        }
        t->window->openFile(file("a.glyptos"));
        t->window->openFile(file("b.glyptos"));
        QVERIFY(t->settle());
        QCOMPARE(t->document().release()->brief.title, std::string("b"));
    }

    void picturesGoWhereTheyWereMeantFor() {
        const PanelRef cover{t->piece("digital-cover"), "front"}, back{t->piece("sleeve-12"), "back"};
        t->document().selectPanel(cover);
        t->window->bringIn({photo("for the cover.jpg")});
        t->document().selectPanel(back);
        t->window->bringIn({photo("for the back.jpg")});
        t->document().selectPanel({t->piece("sleeve-12"), "front"});
        QVERIFY(t->settle());
        const auto names = [&](const PanelRef& panel) {
            std::string out;
            for (const LayerPtr& l : stackOf(*t->document().release(), panel)) out += l->name + ";";
            return out;
        };
        QCOMPARE(names(cover), std::string("for the cover;"));
        QCOMPARE(names(back), std::string("for the back;"));
        QCOMPARE(names({t->piece("sleeve-12"), "front"}), std::string());
    }

    /// A file of many layers is stopped between its pictures, and what comes after it is left out.
    void bringingInCanBeStopped() {
        std::vector<ZipEntry> entries{{"mimetype", {}, false}};
        const std::string_view type = "image/openraster";
        entries[0].bytes = {reinterpret_cast<const uint8_t*>(type.data()), type.size()};
        std::vector<std::vector<uint8_t>> pictures;
        std::string xml = "<image w='900' h='900'><stack>";
        for (int i = 0; i < 40; ++i) {
            pictures.push_back(pngOf(900, 900, [=](int x, int y) {
                return std::array<uint8_t, 4>{uint8_t(x * 7 + i), uint8_t(y * 13), uint8_t(x * y), 255};
            }));
            xml += "<layer src='data/" + std::to_string(i) + ".png'/>";
        }
        xml += "</stack></image>";
        entries.push_back({"stack.xml", {reinterpret_cast<const uint8_t*>(xml.data()), xml.size()}, true});
        for (size_t i = 0; i < pictures.size(); ++i)
            entries.push_back({"data/" + std::to_string(i) + ".png", pictures[i], false});
        QVERIFY(writeZip(file("many.ora").toStdString(), entries));
        t->document().selectPanel({t->piece("digital-cover"), "front"});
        t->window->bringIn({file("many.ora")});
        auto* stop = t->window->statusBar()->findChild<QToolButton*>();
        QVERIFY(stop && stop->isVisible());
        QTest::mouseClick(stop, Qt::LeftButton);
        QVERIFY(t->settle());
        QVERIFY(t->layers().empty());
        QVERIFY2(t->notice().contains("Stopped"), qPrintable(t->notice()));
        QVERIFY(!stop->isVisible());
    }
};

GLYPTOS_TEST(SavingTest)
#include "saving_test.moc"
