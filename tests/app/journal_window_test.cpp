// In the real window: what was not saved is found again, a saved release keeps its steps, and nothing that
// happens to the disk stops the work.
#include "app/window/found_sheet.h"
#include "support/random_edits.h"
#include "support/register.h"
#include "support/window.h"

#include <QDateTime>
#include <QDir>
#include <QLabel>
#include <QProcess>
#include <QSignalSpy>
#include <csignal>
#include <random>
#include <sys/resource.h>

using namespace glyptos;
using namespace glyptos::test;

class JournalWindowTest : public QObject {
    Q_OBJECT
    std::unique_ptr<QTemporaryDir> folder_;
    std::unique_ptr<TestWindow> t;

    QString in(const QString& name) const { return folder_->filePath(name); }
    static std::filesystem::path path(const QString& name) { return name.toStdString(); }
    std::vector<std::string> stepNames() const {
        std::vector<std::string> out;
        for (const HistoryStep& step : t->document().history().steps()) out.push_back(step.name);
        return out;
    }
    /// The window goes as in a power cut: its journal stays as it is at this moment.
    void crash() {
        QVERIFY(t->window->journal().flush());
        QVERIFY(QDir().mkpath(in("state")));
        std::filesystem::copy(path(t->stateFolder()), path(in("crashed")),
                              std::filesystem::copy_options::recursive);
        t.reset();
        std::filesystem::remove_all(path(in("state")));
        std::filesystem::rename(path(in("crashed")), path(in("state")));
        t = std::make_unique<TestWindow>();
    }
    void close() {
        t->window->close();
        t.reset();
    }
    FoundSheet* sheet() const { return t->window->findChild<FoundSheet*>(); }
    void press(const QString& button) {
        for (QPushButton* b : sheet()->findChildren<QPushButton*>())
            if (b->text() == button) return b->click();
        QFAIL(qPrintable(button));
    }
    void open(const QString& file) {
        QSignalSpy opened(t->window.get(), &MainWindow::opened);
        t->window->openFile(file);
        QVERIFY(opened.wait());
        QVERIFY(t->settle());
    }
    void save(const QString& file) {
        t->window->saveTo(file);
        QVERIFY(t->settle());
        QVERIFY2(!t->document().isModified(), qPrintable(t->notice()));
        QVERIFY(t->window->journal().flush());
    }

    /// In words, for a state that is too old.
    static QString whenShown(const std::vector<NotedState>& states, uint64_t hash, int64_t killedMs) {
        const auto last = std::find_if(states.rbegin(), states.rend(),
                                       [&](const NotedState& state) { return state.hash == hash; });
        if (last == states.rend()) return QStringLiteral("a state that was never shown");
        return QString("the state of %1 ms before, %2 states of %3 ago")
            .arg(killedMs - last->atMs)
            .arg(last - states.rbegin())
            .arg(states.size());
    }

    /// Killed at any moment, at most two seconds of work are gone.
    static void kill(int kills, int flushMs) {
        std::mt19937 chance(20);
        int found = 0, behindMost = 0;
        for (int i = 0; i < kills; ++i) {
            const QTemporaryDir here;
            const QString log = here.filePath("log"), state = here.filePath("state");
            QProcess window;
            QProcessEnvironment environment = QProcessEnvironment::systemEnvironment();
            environment.insert("GLYPTOS_TEST_STATE", state);
            environment.insert("GLYPTOS_TEST_FLUSH_MS", QString::number(flushMs));
            window.setProcessEnvironment(environment);
            window.start(QCoreApplication::applicationFilePath(),
                         {"--edit-at-random", QString::number(i), here.path(), log});
            QVERIFY(window.waitForStarted());
            QTRY_VERIFY_WITH_TIMEOUT(QFile::exists(log) && QFile(log).size() > 0, 20000);
            QTest::qWait(int(chance() % 3500));
            const int64_t killed = QDateTime::currentMSecsSinceEpoch();
            window.kill();
            QVERIFY(window.waitForFinished());
            const std::vector<NotedState> states = notedStates(log);
            QVERIFY(!states.empty());
            // The latest state that is too old to be gone.
            size_t least = 0;
            while (least + 1 < states.size() && states[least + 1].atMs < killed - 2000) ++least;
            const auto journals = journalsIn(path(state) / "glyptos" / "journals");
            if (journals.empty()) {
                QVERIFY2(least == 0, qPrintable(QString("%1: nothing of %2").arg(i).arg(states.size())));
                continue;
            }
            ++found;
            const auto back = readJournal(journals[0].journal, shippedForms().value());
            QVERIFY2(back, qPrintable(sentence(back)));
            const uint64_t hash = stateHash(*back->start.history.current());
            size_t at = states.size();
            while (at > least && states[at - 1].hash != hash) --at;
            QVERIFY2(at > least, qPrintable(QString("%1: %2").arg(i).arg(whenShown(states, hash, killed))));
            if (at < states.size()) behindMost = std::max(behindMost, int(killed - states[at].atMs));
        }
        qInfo("%d kills, %d found again, at most %d ms behind", kills, found, behindMost);
        QVERIFY(found > kills / 2);
    }

  private Q_SLOTS:
    void init() {
        folder_ = std::make_unique<QTemporaryDir>();
        qputenv("GLYPTOS_TEST_STATE", in("state").toUtf8());
        t = std::make_unique<TestWindow>();
    }
    void cleanup() {
        t.reset();
        qunsetenv("GLYPTOS_TEST_STATE");
    }

    void unsavedWorkIsFoundAgain() {
        t->title("Slack Tide");
        t->putBox("Buoy", {10, 10, 300, 200}, {1, 0, 0, 1});
        t->document().undo();
        t->putBox("Bell", {10, 10, 300, 200}, {0, 1, 0, 1});
        const uint64_t before = stateHash(*t->document().release());
        const auto names = stepNames();
        QTRY_VERIFY(t->settle());
        const auto hasMiniature = [&] {
            const auto journals = journalsIn(path(in("state/glyptos/journals")));
            return !journals.empty() && !journals[0].miniature.empty();
        };
        QTRY_VERIFY_WITH_TIMEOUT(hasMiniature(), 20000); // once it is quiet
        crash();
        t->window->begin();
        QTRY_VERIFY(sheet() && sheet()->isVisible());
        QCOMPARE(sheet()->list()->count(), 1);
        const QListWidgetItem* row = sheet()->list()->item(0);
        const QString says = row->data(Qt::AccessibleTextRole).toString();
        QVERIFY2(says.contains("Slack Tide") && says.contains("2 steps not saved") &&
                     says.contains("never saved in a file") && says.contains("today"),
                 qPrintable(says));
        const auto small = row->data(Qt::DecorationRole).value<QImage>();
        QVERIFY(!small.isNull() && small.pixelColor(4, 4).green() > 200);
        press("Take it up");
        QTRY_COMPARE(t->document().release()->brief.title, std::string("Slack Tide"));
        QCOMPARE(stateHash(*t->document().release()), before);
        QVERIFY(stepNames() == names);
        QCOMPARE(t->document().history().left().size(), size_t(1));
        QVERIFY(t->document().isModified());
        QVERIFY(t->settle());
        QVERIFY(t->seen({100, 100}).green() > 200);
        // It is written down from there on, in the same journal.
        t->title("Slack Tide Almanac");
        crash();
        QCOMPARE(QDir(in("state/glyptos/journals")).entryList(QDir::Files).size(), 1);
        t->window->showFoundAgain();
        QTRY_VERIFY(sheet() && sheet()->isVisible());
        press("Take it up");
        QTRY_COMPARE(t->document().release()->brief.title, std::string("Slack Tide Almanac"));
        save(in("tide.glyptos"));
        crash();
        t->window->showFoundAgain();
        QTRY_VERIFY(sheet() && sheet()->isVisible());
        QCOMPARE(sheet()->list()->count(), 0); // all is saved
    }

    void whatIsLeftIsNotAskedAboutAgain() {
        t->title("Left behind");
        crash();
        t->window->begin();
        QTRY_VERIFY(sheet() && sheet()->isVisible());
        press("Leave them");
        QTRY_VERIFY(t->window->findChild<StartSheet*>()); // a new release comes next
        t->window->findChild<StartSheet*>()->reject();
        QVERIFY(t->settle());
        QTRY_VERIFY(!sheet());
        t->window->begin();
        QTRY_VERIFY(t->window->findChild<StartSheet*>());
        QVERIFY(!sheet());
        t->window->findChild<StartSheet*>()->reject();
        t->action("Found again…")->trigger();
        QTRY_VERIFY(sheet() && sheet()->isVisible());
        QCOMPARE(sheet()->list()->count(), 1);
        press("Take it up");
        QTRY_COMPARE(t->document().release()->brief.title, std::string("Left behind"));
    }

    void stepsComeBackWithASavedRelease() {
        t->title("One");
        t->putBox("Two", {0, 0, 50, 50}, {1, 1, 1, 1});
        t->document().undo();
        t->title("Other");
        save(in("tide.glyptos"));
        const auto names = stepNames();
        const uint64_t saved = stateHash(*t->document().release());
        close();
        t = std::make_unique<TestWindow>();
        open(in("tide.glyptos"));
        QVERIFY2(stepNames() == names, qPrintable(t->notice()));
        QCOMPARE(t->document().history().left().size(), size_t(1));
        QVERIFY(!t->document().isModified());
        QCOMPARE(stateHash(*t->document().release()), saved);
        t->document().undo();
        QCOMPARE(t->document().release()->brief.title, std::string("One"));
        QVERIFY(t->document().isModified());
        t->document().redo();
        QVERIFY(!t->document().isModified());
        // Layers that the steps share are the same ones, so nothing is drawn again.
        const auto& steps = t->document().history().steps();
        QCOMPARE(steps[1].release->pieces[1], steps[2].release->pieces[1]);
        t->title("And on");
        save(in("tide.glyptos"));
        close();
        t = std::make_unique<TestWindow>();
        open(in("tide.glyptos"));
        QCOMPARE(t->document().history().steps().size(), names.size() + 1);
    }

    /// What is done before the earlier steps have been found is written down, and stands behind them.
    void workBeforeTheStepsAreBack() {
        t->title("One");
        t->title("Two");
        save(in("tide.glyptos"));
        close();
        t = std::make_unique<TestWindow>();
        const auto journals = [&] { return journalsIn(path(in("state/glyptos/journals"))); };
        bool wasThere = false;
        connect(t->window.get(), &MainWindow::opened, this, [&] {
            t->title("Quick");
            QVERIFY(t->window->journal().flush());
            QCOMPARE(t->document().history().steps().size(), size_t(2)); // the others are not back
            const auto all = journals();
            wasThere = std::any_of(all.begin(), all.end(), [](const JournalSummary& one) {
                return one.title == "Quick" && one.isModified && one.as;
            });
        });
        open(in("tide.glyptos"));
        QVERIFY(wasThere);
        QTRY_COMPARE(t->document().history().steps().size(), size_t(4));
        QVERIFY(t->window->journal().flush());
        QTRY_COMPARE(journals().size(), size_t(1));
        crash();
        t->window->showFoundAgain();
        QTRY_VERIFY(sheet() && sheet()->isVisible());
        press("Take it up");
        QTRY_COMPARE(t->document().release()->brief.title, std::string("Quick"));
        QCOMPARE(t->document().history().steps().size(), size_t(4));
        QVERIFY(t->settle());
    }

    /// A save that ends under another release is not taken for that one's.
    void aSaveBelongsToItsJournal() {
        t->title("First");
        save(in("first.glyptos"));
        t->window->saveTo(in("copy.glyptos"));
        t->window->newRelease();
        QVERIFY(t->settle());
        t->title("Second");
        QVERIFY(t->window->journal().flush());
        const auto journals = journalsIn(path(in("state/glyptos/journals")));
        const auto second = std::find_if(journals.begin(), journals.end(),
                                         [](const JournalSummary& one) { return one.title == "Second"; });
        QVERIFY(second != journals.end() && !second->as && second->isModified);
    }

    void stepsAreSetAsideWhenTheFileWasChangedElsewhere() {
        t->title("Ours");
        save(in("tide.glyptos"));
        close();
        Release theirs;
        theirs.brief.title = "Theirs";
        QVERIFY(saveProject(theirs, path(in("tide.glyptos"))));
        t = std::make_unique<TestWindow>();
        open(in("tide.glyptos"));
        QCOMPARE(t->document().release()->brief.title, std::string("Theirs"));
        QCOMPARE(t->document().history().steps().size(), size_t(1));
        QVERIFY2(t->notice().contains("“tide.glyptos” was changed elsewhere"), qPrintable(t->notice()));
    }

    void unsavedWorkOfAFileIsOfferedWhenItIsOpened() {
        t->title("Saved");
        save(in("tide.glyptos"));
        t->title("Not saved");
        crash();
        open(in("tide.glyptos"));
        QCOMPARE(t->document().release()->brief.title, std::string("Saved"));
        QTRY_VERIFY(sheet() && sheet()->isVisible());
        press("Take it up");
        QTRY_COMPARE(t->document().release()->brief.title, std::string("Not saved"));
        QCOMPARE(QString::fromStdString(t->document().file().string()), in("tide.glyptos"));
        save(in("tide.glyptos"));
        QCOMPARE(QDir(folder_->path()).entryList(QDir::Files), QStringList("tide.glyptos"));
    }

    /// The file was changed after the crash: what is taken up does not write over it.
    void takenUpWorkDoesNotWriteOverOthers() {
        t->title("Saved");
        save(in("tide.glyptos"));
        t->title("Not saved");
        crash();
        Release theirs;
        theirs.brief.title = "Theirs";
        QVERIFY(saveProject(theirs, path(in("tide.glyptos"))));
        t->window->showFoundAgain();
        QTRY_VERIFY(sheet() && sheet()->isVisible());
        QVERIFY(
            sheet()->list()->item(0)->data(Qt::AccessibleTextRole).toString().contains("changed elsewhere"));
        press("Take it up");
        QTRY_COMPARE(t->document().release()->brief.title, std::string("Not saved"));
        t->window->saveTo(in("tide.glyptos"));
        QVERIFY(t->settle());
        QVERIFY(std::filesystem::exists(path(in("tide 2.glyptos"))));
        QCOMPARE((*openProject(path(in("tide.glyptos")), {}))->brief.title, std::string("Theirs"));
    }

    void theSameFileInTwoWindows() {
        t->title("Shared");
        save(in("tide.glyptos"));
        t->title("Going on");
        QVERIFY(t->window->journal().flush());
        MainWindow other(*t->engine, shippedForms().value(), path(in("crate")));
        QSignalSpy opened(&other, &MainWindow::opened), told(&other.journal(), &JournalKeeper::told);
        other.openFile(in("tide.glyptos"));
        QVERIFY(opened.wait());
        QTRY_COMPARE(told.size(), 1);
        QVERIFY2(told[0][0].toString().contains("is open in another window, too"),
                 qPrintable(told[0][0].toString()));
    }

    void aFullDiskStopsNothing() {
        t->title("Begun");
        QVERIFY(t->window->journal().flush());
        rlimit old{};
        getrlimit(RLIMIT_FSIZE, &old);
        const rlimit tight{500, old.rlim_max};
        const auto before = std::signal(SIGXFSZ, SIG_IGN);
        setrlimit(RLIMIT_FSIZE, &tight);
        QSignalSpy told(&t->window->journal(), &JournalKeeper::told);
        for (int i = 0; i < 4; ++i) {
            t->title("Full " + std::to_string(i));
            QVERIFY(!t->window->journal().flush());
        }
        t->window->saveTo(in("tide.glyptos"));
        QTRY_VERIFY(!t->window->isBusy());
        const bool isSaved = std::filesystem::exists(path(in("tide.glyptos")));
        const QString said = t->notice();
        setrlimit(RLIMIT_FSIZE, &old);
        std::signal(SIGXFSZ, before);
        QVERIFY(!isSaved);
        QVERIFY2(said.contains("tide.glyptos"), qPrintable(said));
        QCOMPARE(told.size(), 1); // once, however often
        QVERIFY(told[0][0].toString().contains("not being written down"));
        QVERIFY(t->window->journal().flush());
        const uint64_t now = stateHash(*t->document().release());
        crash();
        t->window->showFoundAgain();
        QTRY_VERIFY(sheet() && sheet()->isVisible());
        press("Take it up");
        QTRY_COMPARE(t->document().release()->brief.title, std::string("Full 3"));
        QCOMPARE(stateHash(*t->document().release()), now);
    }

    void killedAtAnyMoment() {
        kill(qEnvironmentVariableIsSet("GLYPTOS_KILLS") ? qEnvironmentVariableIntValue("GLYPTOS_KILLS") : 24,
             0);
    }
    void killedOnASlowDisk() { kill(6, 5000); }
};

GLYPTOS_TEST(JournalWindowTest)
#include "journal_window_test.moc"
