// In the real window: a job that runs out of memory says so, and the release and its journal are whole.
#include "file/journal/journal_reader.h"
#include "file/release_json/release_json.h"
#include "support/register.h"
#include "support/window.h"

#include <QLabel>
#include <QScopeGuard>
#include <QSignalSpy>
#include <fstream>
#include <sys/resource.h>

using namespace glyptos;
using namespace glyptos::test;

class MemoryTest : public QObject {
    Q_OBJECT
    std::unique_ptr<TestWindow> t;

    static size_t addressSpace() {
        std::ifstream pages("/proc/self/statm");
        size_t all = 0;
        pages >> all;
        return all * size_t(sysconf(_SC_PAGESIZE));
    }
    /// Until the end of the scope no more than that can be had.
    static auto allowed(size_t bytes) {
        rlimit old{};
        getrlimit(RLIMIT_AS, &old);
        const rlimit tight{addressSpace() + bytes, old.rlim_max};
        setrlimit(RLIMIT_AS, &tight);
        return qScopeGuard([old] { setrlimit(RLIMIT_AS, &old); });
    }

  private Q_SLOTS:
    void initTestCase() {
#ifdef __SANITIZE_ADDRESS__
        QSKIP("the address sanitizer takes more address space than can be limited");
#endif
    }
    void init() {
        t = std::make_unique<TestWindow>();
    }
    void cleanup() {
        t.reset();
    }

    void aPictureThatIsTooLarge() {
        const QString file = t->crateHome.filePath("large.png");
        write(file.toStdString(), pngOf(11000, 11000, [](int, int) -> std::array<uint8_t, 4> {
                  return {20, 60, 90, 255};
              }));
        t->putBox("Buoy", {10, 10, 300, 200}, {1, 0, 0, 1});
        const ReleasePtr before = t->document().release();
        {
            const auto tight = allowed(size_t(200) << 20);
            t->window->bringIn({file});
            QTRY_VERIFY_WITH_TIMEOUT(t->notice().contains("not enough memory"), 30000);
        }
        QVERIFY2(t->notice().contains("large.png"), qPrintable(t->notice()));
        QCOMPARE(t->document().release(), before);
        QVERIFY(t->seen({100, 100}).red() > 200);
        QVERIFY(t->window->journal().flush());
        const auto journals = journalsIn((t->stateFolder() + "/glyptos/journals").toStdString());
        QCOMPARE(journals.size(), size_t(1));
        QCOMPARE(journals[0].steps, size_t(1));
        QSignalSpy saved(t->window.get(), &MainWindow::saved);
        t->window->saveTo(t->crateHome.filePath("tide.glyptos"));
        QVERIFY(saved.wait());
        const auto back =
            openProject(t->crateHome.filePath("tide.glyptos").toStdString(), shippedForms().value());
        QVERIFY2(back, qPrintable(sentence(back)));
        QCOMPARE(releaseToJson(**back), releaseToJson(*before));
    }
};

GLYPTOS_TEST(MemoryTest)
#include "memory_test.moc"
