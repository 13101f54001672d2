// Painted pixels of old steps are put away, and are there again when they are looked at.
#include "release/edits/brush_edits.h"
#include "release/history/history.h"
#include "release/history/history_memory.h"
#include "support/pictures.h"
#include "support/register.h"

#include <QTemporaryDir>
#include <QTest>

using namespace glyptos;
using namespace glyptos::test;

class HistoryMemoryTest : public QObject {
    Q_OBJECT
    static constexpr size_t kTile = 349'524; ///< bytes of one with its halves

    QTemporaryDir folder;
    ReleasePtr start;
    PanelRef front;
    std::string layer;

    /// A history of so many strokes, each on a tile of its own.
    History painted(int strokes) {
        History out(start);
        PixelTiles tiles(kPaintPixels);
        for (int i = 0; i < strokes; ++i) {
            tiles.change({i * kPixelTileSide, 0, kPixelTileSide, kPixelTileSide}, [&](const PixelPart& part) {
                for (int y = part.area.y; y < part.area.bottom(); ++y)
                    std::fill_n(part.row(y), part.area.w * 4, uint8_t(40 + i));
            });
            const auto now = std::make_shared<const PixelTiles>(tiles);
            out.push("Stroke", withChangedLayer(out.current(), front, layer, [&](Layer& l) {
                         l.content = PaintedContent{now, nullptr};
                     }));
        }
        return out;
    }

  private Q_SLOTS:
    void init() {
        start = screenRelease(3000, 3000);
        front = frontOf(start);
        const Made made = withPaintLayer(start, front, {}, 1);
        start = made.release, layer = made.id;
    }

    /// Within its budget nothing is put away; beyond it the oldest that the current step does not show.
    void oldStepsGo() {
        History history(start);
        HistoryMemory memory(10 * kTile, [&] { return TileFile::in(folder.path().toStdString()); });
        // Each step paints the whole of one tile anew.
        std::vector<PixelTilePtr> tiles;
        for (int i = 0; i < 16; ++i) {
            PixelTiles one(kPaintPixels);
            one.change({0, 0, kPixelTileSide, kPixelTileSide}, [&](const PixelPart& part) {
                for (int y = part.area.y; y < part.area.bottom(); ++y)
                    std::fill_n(part.row(y), part.area.w * 4, uint8_t(40 + i));
            });
            tiles.push_back(one.tiles().begin()->second);
            const auto now = std::make_shared<const PixelTiles>(one);
            history.push("Stroke", withChangedLayer(history.current(), front, layer, [&](Layer& l) {
                             l.content = PaintedContent{now, nullptr};
                         }));
            memory.add(*history.current());
            const auto excess = memory.excess(*history.current());
            QVERIFY(i < 10 ? excess.empty() : true);
            QVERIFY(HistoryMemory::putAway(excess, memory.file()));
            QVERIFY(memory.bytes() <= 10 * kTile);
        }
        QVERIFY(!tiles[0]->isInMemory() && tiles[15]->isInMemory());
        history.go(1);
        const auto* shown = findLayer(stackOf(*history.current(), front), layer)->as<PaintedContent>();
        std::array<uint8_t, 4> pixel{};
        shown->tiles->readRow(7, 7, 1, pixel.data());
        QCOMPARE(int(pixel[0]), 40);
        QVERIFY(tiles[0]->isInMemory());
    }

    /// What the current step shows stays in memory, however much that is.
    void whatIsShownStays() {
        const History history = painted(20);
        HistoryMemory memory(4 * kTile, [&] { return TileFile::in(folder.path().toStdString()); });
        for (const HistoryStep& step : history.steps()) memory.add(*step.release);
        QVERIFY(memory.excess(*history.current()).empty());
        // Seen from the start, all of it is old.
        QCOMPARE(memory.excess(*start).size(), size_t(18));
    }

    /// Without a disk the pixels stay where they are.
    void noDisk() {
        const History history = painted(4);
        HistoryMemory memory(kTile, [] { return TileFile::in("/dev/null/folder"); });
        for (const HistoryStep& step : history.steps()) memory.add(*step.release);
        QVERIFY(!HistoryMemory::putAway(memory.excess(*start), memory.file()));
        QCOMPARE(memory.bytes(), 4 * kTile);
    }

    /// Steps that are gone count no longer.
    void whatIsGoneIsForgotten() {
        HistoryMemory memory(kTile, [&] { return TileFile::in(folder.path().toStdString()); });
        {
            const History history = painted(4);
            for (const HistoryStep& step : history.steps()) memory.add(*step.release);
            QCOMPARE(memory.bytes(), 4 * kTile);
        }
        QCOMPARE(memory.bytes(), size_t(0));
        QVERIFY(memory.excess(*start).empty());
    }
};

GLYPTOS_TEST(HistoryMemoryTest)
#include "history_memory_test.moc"
