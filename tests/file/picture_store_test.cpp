// Decoded pictures under a memory limit.
#include "file/pictures/picture_store.h"

#include "support/pictures.h"
#include "support/register.h"

using namespace glyptos;
using namespace glyptos::test;

namespace {

constexpr int kSide = 256;
constexpr size_t kWhole = size_t(kSide) * kSide * 4 * 4 / 3; // with its levels, about

SourcePtr noisy(int seed) {
    const auto shade = [=](int x, int y) {
        const auto v = uint32_t(x * 73 + y * 151 + seed * 31) * 2654435761u;
        return std::array<uint8_t, 4>{uint8_t(v >> 24), uint8_t(v >> 16), uint8_t(v >> 8), 255};
    };
    return importBytes(pngOf(kSide, kSide, shade), "n" + std::to_string(seed) + ".png").value().source;
}

} // namespace

class PictureStoreTest : public QObject {
    Q_OBJECT

  private Q_SLOTS:
    void finerLevelsGoFirstAndTheOthersAreTheSame() {
        const SourcePtr a = noisy(1), b = noisy(2);
        PictureStore full, tight(kWhole + kWhole / 3);
        const PyramidPtr whole = full.picture(*a, 0.2);
        tight.picture(*a, 0.2);
        tight.picture(*b, 0.2);
        QVERIFY(tight.bytes() <= kWhole + kWhole / 3);
        const PyramidPtr kept = tight.picture(*a, 0.2);
        QCOMPARE(kept->firstLevel(), 2);
        QCOMPARE(kept->width(), kSide);
        for (int k = 2; k < whole->levels(); ++k)
            for (int y = 0; y < whole->level(k).height; ++y)
                QVERIFY(std::equal(kept->level(k).row<uint8_t>(y),
                                   kept->level(k).row<uint8_t>(y) + size_t(4) * size_t(kept->level(k).width),
                                   whole->level(k).row<uint8_t>(y)));
        // What is asked for closer is read again.
        QCOMPARE(tight.picture(*a, 1)->firstLevel(), 0);
    }

    void aThumbnailDoesNotTakeTheFineLevelFromTheBench() {
        std::vector<SourcePtr> sources;
        for (int i = 0; i < 4; ++i) sources.push_back(noisy(i));
        std::atomic<int> decodes = 0;
        PictureStore store(2 * kWhole + kWhole / 2, [&](const std::string&) { ++decodes; });
        const auto draw = [&] {
            for (const SourcePtr& s : sources) store.picture(*s, 1);
            for (const SourcePtr& s : sources) store.picture(*s, 0.03); // as the stack's cards do, after it
        };
        int drawn = -1;
        QVERIFY(QTest::qWaitFor([&] {
            if (drawn != decodes) drawn = decodes, draw();
            return !store.busy() && drawn == decodes;
        }));
        QCOMPARE(decodes, 4);
        for (const SourcePtr& s : sources) QCOMPARE(store.picture(*s, 1)->firstLevel(), 0);
    }

    void whatHasNoRoomIsReadFromDiskAndStaysTheSame() {
        std::vector<SourcePtr> sources;
        for (int i = 0; i < 6; ++i) sources.push_back(noisy(i));
        PictureStore full, tight(kWhole + kWhole / 2);
        for (const SourcePtr& s : sources) tight.picture(*s, 1);
        QVERIFY(tight.bytes() <= kWhole + kWhole / 2);
        const PyramidPtr first = tight.picture(*sources[0], 1);
        QVERIFY(first == tight.picture(*sources[0], 1)); // not decoded again
        for (const SourcePtr& s : sources) {
            const PyramidPtr a = full.picture(*s, 1), b = tight.picture(*s, 1);
            QCOMPARE(b->firstLevel(), 0);
            for (int k = 0; k < a->levels(); ++k)
                QVERIFY(std::equal(a->level(k).row<uint8_t>(0),
                                   a->level(k).row<uint8_t>(0) + size_t(a->level(k).width) * 4,
                                   b->level(k).row<uint8_t>(0)));
        }
    }

    void withoutADiskWhatIsWaitedForIsWholeAllTheSame() {
        const SourcePtr a = noisy(1), b = noisy(2);
        PictureStore tight(kWhole / 2);
        tight.setSpillFolder("/nowhere");
        for (int i = 0; i < 3; ++i) {
            QCOMPARE(tight.picture(*a, 1)->firstLevel(), 0);
            QCOMPARE(tight.picture(*b, 1)->firstLevel(), 0);
        }
    }

    void inTheBackgroundItComesToRest_data() {
        QTest::addColumn<bool>("disk");
        QTest::newRow("with a disk") << true;
        QTest::newRow("without") << false;
    }

    /// As a bench does that draws all of them again whenever one is ready.
    void inTheBackgroundItComesToRest() {
        QFETCH(bool, disk);
        std::vector<SourcePtr> sources;
        for (int i = 0; i < 6; ++i) sources.push_back(noisy(i));
        std::atomic<int> decodes = 0;
        const size_t budget = 2 * kWhole + kWhole / 2;
        PictureStore store(budget, [&](const std::string&) { ++decodes; });
        if (!disk) store.setSpillFolder("/nowhere");
        const auto draw = [&] {
            for (const SourcePtr& s : sources) store.picture(*s, 1);
        };
        int drawn = -1;
        QVERIFY(QTest::qWaitFor([&] {
            if (drawn != decodes) drawn = decodes, draw();
            return !store.busy() && drawn == decodes;
        }));
        QVERIFY2(decodes <= 12, qPrintable(QString::number(decodes)));
        QVERIFY(store.bytes() <= budget + 6 * 4); // one pixel of each is always kept
        int whole = 0;
        for (const SourcePtr& s : sources) {
            QVERIFY(store.picture(*s, 1));
            whole += store.picture(*s, 1)->firstLevel() == 0;
        }
        QVERIFY(disk ? whole == 6 : whole >= 2);
    }

    void aSmallerBudgetActsAtOnce() {
        const SourcePtr a = noisy(1), b = noisy(2);
        PictureStore store;
        store.picture(*a, 1);
        store.picture(*b, 1);
        QVERIFY(store.bytes() > 3 * kWhole / 2);
        store.setBudget(kWhole + kWhole / 4);
        QVERIFY(store.bytes() <= kWhole + kWhole / 4);
    }
};

GLYPTOS_TEST(PictureStoreTest)
#include "picture_store_test.moc"
