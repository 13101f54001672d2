// In the real window, on a disk that takes its time: saving shows how far it is and can be stopped, and
// quitting waits for it.
#include "file/project.h"
#include "support/register.h"
#include "support/slow_disk.h"
#include "support/window.h"

#include <QLabel>
#include <QScopeGuard>
#include <QToolButton>
#include <random>

using namespace glyptos;
using namespace glyptos::test;

class SlowSavingTest : public QObject {
    Q_OBJECT
    std::unique_ptr<QTemporaryDir> folder_;
    std::unique_ptr<TestWindow> t;

    QString file(const QString& name) const { return folder_->filePath(name); }
    QToolButton* stop() const {
        for (auto* button : t->window->findChildren<QToolButton*>())
            if (button->text() == "Stop saving") return button;
        return nullptr;
    }
    bool says(const QString& words) const {
        const auto labels = t->window->findChildren<QLabel*>();
        return std::any_of(labels.begin(), labels.end(), [&](const QLabel* label) {
            return label->isVisible() && label->text().contains(words);
        });
    }
    std::string titleIn(const QString& name) const {
        const auto release = openProject(file(name).toStdString(), shippedForms().value());
        return release ? (*release)->brief.title : "not there: " + release.error().message;
    }
    /// Twelve pictures of a megabyte that does not pack.
    void putPictures() {
        std::mt19937 chance(3);
        ReleasePtr release = t->document().release();
        for (int i = 0; i < 12; ++i) {
            const auto made =
                importBytes(pngOf(512, 512,
                                  [&](int, int) -> std::array<uint8_t, 4> {
                                      return {uint8_t(chance()), uint8_t(chance()), uint8_t(chance()), 255};
                                  }),
                            "Gull " + std::to_string(i) + ".png");
            release = withSource(release, made->source);
            Layer layer;
            layer.name = "Gull";
            layer.content = PictureContent{made->source->id, {0, 0, 1, 1}};
            release = withLayer(release, t->document().panel(), layer).release;
        }
        t->document().edit("Gulls", release);
        QVERIFY(t->settle());
    }
    void saveFirst() {
        t->title("First");
        putPictures();
        t->window->saveTo(file("tide.glyptos"));
        QVERIFY(t->settle());
        QVERIFY(!stop()->isVisible());
        t->title("Second");
    }

  private Q_SLOTS:
    void init() {
        folder_ = std::make_unique<QTemporaryDir>();
        t = std::make_unique<TestWindow>();
    }
    void cleanup() {
        setWriteMs(0);
        t.reset();
    }

    void showsHowFarItIs() {
        saveFirst();
        setWriteMs(150);
        t->window->saveTo(file("tide.glyptos"));
        QVERIFY(says("saving…"));
        QTRY_VERIFY(stop()->isVisible());
        QVERIFY(says(" %"));
        t->title("Third"); // the window goes on meanwhile
        setWriteMs(0);
        QVERIFY(t->settle());
        QVERIFY(!stop()->isVisible());
        QCOMPARE(titleIn("tide.glyptos"), std::string("Second"));
        QVERIFY(t->document().isModified());
    }

    void canBeStopped() {
        saveFirst();
        setWriteMs(150);
        t->window->saveTo(file("tide.glyptos"));
        QTRY_VERIFY(stop()->isVisible());
        QTest::mouseClick(stop(), Qt::LeftButton);
        QTRY_VERIFY(!t->window->isBusy());
        QVERIFY(!stop()->isVisible());
        QVERIFY2(t->notice().contains("Saving was stopped; “tide.glyptos” is as it was before."),
                 qPrintable(t->notice()));
        QCOMPARE(titleIn("tide.glyptos"), std::string("First"));
        QVERIFY(t->document().isModified());
        QCOMPARE(QDir(folder_->path()).entryList(QDir::Files | QDir::Hidden), QStringList("tide.glyptos"));
        setWriteMs(0);
        t->window->saveTo(file("tide.glyptos"));
        QVERIFY(t->settle());
        QCOMPARE(titleIn("tide.glyptos"), std::string("Second"));
    }

    void quittingWaitsForIt() {
        saveFirst();
        setWriteMs(150);
        t->window->saveTo(file("tide.glyptos"));
        t->window->close();
        QVERIFY(t->window->isVisible());
        QTRY_VERIFY(stop()->isVisible());
        QVERIFY(says(" %"));
        setWriteMs(0);
        QTRY_VERIFY(!t->window->isVisible());
        QCOMPARE(titleIn("tide.glyptos"), std::string("Second"));
    }

    /// Whoever stops saving does not want to be quit without it.
    void aStoppedSaveKeepsTheWindowOpen() {
        saveFirst();
        setWriteMs(150);
        t->window->saveTo(file("tide.glyptos"));
        t->window->close();
        QTRY_VERIFY(stop()->isVisible());
        QTest::mouseClick(stop(), Qt::LeftButton);
        QTRY_VERIFY(!t->window->isBusy());
        QTest::qWait(50);
        QVERIFY(t->window->isVisible());
        QVERIFY(t->document().isModified());
    }
};

GLYPTOS_TEST(SlowSavingTest)
#include "slow_saving_test.moc"
