// Painted pixels against one plain array that is copied whole.
#include "raster/mean.h"
#include "raster/pixel_tiles.h"

#include "support/register.h"

#include <QRandomGenerator>
#include <QTemporaryDir>
#include <cstring>
#include <tbb/parallel_for.h>

using namespace glyptos;

namespace {

constexpr IntRect kAll{-700, -500, 1500, 1200}; // over both signs, and no multiple of a tile

/// The same pixels, the plain way.
struct Plain {
    explicit Plain(size_t pixel)
        : pixel(pixel)
        , bytes(size_t(kAll.w) * size_t(kAll.h) * pixel) {}
    uint8_t* at(int x, int y) {
        return bytes.data() + (size_t(y - kAll.y) * size_t(kAll.w) + size_t(x - kAll.x)) * pixel;
    }
    size_t pixel;
    std::vector<uint8_t> bytes;
};

std::vector<uint8_t> read(const PixelTiles& tiles) {
    const size_t row = size_t(kAll.w) * tiles.format().pixelBytes();
    std::vector<uint8_t> out(row * size_t(kAll.h));
    for (int y = 0; y < kAll.h; ++y)
        tiles.readRow(kAll.x, kAll.y + y, size_t(kAll.w), out.data() + size_t(y) * row);
    return out;
}

void paint(PixelTiles& tiles, const IntRect& area, uint8_t value) {
    const size_t pixel = tiles.format().pixelBytes();
    tiles.change(area, [&](const PixelPart& part) {
        for (int y = part.area.y; y < part.area.bottom(); ++y)
            std::memset(part.row(y), value, size_t(part.area.w) * pixel);
    });
}

} // namespace

class PixelTilesTest : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void asAPlainArray_data() {
        QTest::addColumn<int>("channels");
        QTest::addColumn<int>("bytes");
        QTest::newRow("RGBA, 8 bits") << 4 << 1;
        QTest::newRow("RGBA, 16 bits") << 4 << 2;
        QTest::newRow("mask, 8 bits") << 1 << 1;
        QTest::newRow("mask, 16 bits") << 1 << 2;
    }
    void asAPlainArray() {
        QFETCH(int, channels);
        QFETCH(int, bytes);
        QRandomGenerator random(11);
        PixelTiles tiles({channels, bytes});
        Plain plain(tiles.format().pixelBytes());
        std::vector<std::pair<PixelTiles, std::vector<uint8_t>>> kept;
        for (int i = 0; i < 40; ++i) {
            const int x = int(random.bounded(kAll.w - 1)), y = int(random.bounded(kAll.h - 1));
            const IntRect area{kAll.x + x, kAll.y + y, 1 + int(random.bounded(kAll.w - x)),
                               1 + int(random.bounded(kAll.h - y))};
            const uint8_t value = i % 5 == 4 ? 0 : uint8_t(random.bounded(256));
            paint(tiles, area, value);
            for (int row = area.y; row < area.bottom(); ++row)
                std::memset(plain.at(area.x, row), value, size_t(area.w) * plain.pixel);
            QVERIFY(read(tiles) == plain.bytes);
            if (i % 10 == 0) kept.emplace_back(tiles, plain.bytes);
        }
        for (const auto& [then, want] : kept)
            QVERIFY(read(then) == want); // nothing written later shows there
    }

    void aCopyCostsNothingAndAStrokeItsTiles() {
        PixelTiles before({4, 1});
        paint(before, {0, 0, 1024, 1024}, 90);
        QCOMPARE(before.tiles().size(), size_t(16));
        PixelTiles after = before;
        paint(after, {250, 10, 12, 12}, 200); // over the border of two tiles
        size_t shared = 0;
        for (const auto& [place, tile] : after.tiles()) shared += tile == before.tile(place);
        QCOMPARE(shared, size_t(14));
        const auto changed = changedTiles(before, after);
        QCOMPARE(changed.size(), size_t(2));
        QVERIFY(changed[0] == (IntRect{0, 0, 256, 256}) && changed[1] == (IntRect{256, 0, 256, 256}));
    }

    void whatIsPaintedAsItWasStaysTheSame() {
        PixelTiles tiles({1, 1});
        paint(tiles, {-5, -5, 20, 20}, 7);
        const PixelTiles before = tiles;
        paint(tiles, {0, 0, 10, 10}, 7);
        for (const auto& [place, tile] : tiles.tiles()) QVERIFY(tile == before.tile(place));
        QVERIFY(changedTiles(before, tiles).empty());
    }

    void theNameIsThatOfThePixels() {
        PixelTiles a({4, 2}), b({4, 2});
        QVERIFY(a.hash() == b.hash());
        paint(a, {10, 10, 300, 30}, 5);
        QVERIFY(a.hash() != b.hash());
        paint(b, {10, 10, 100, 30}, 5); // in two strokes
        paint(b, {110, 10, 200, 30}, 5);
        QVERIFY(a.hash() == b.hash());
        PixelTiles moved({4, 2});
        paint(moved, {10 + kPixelTileSide, 10, 300, 30}, 5);
        QVERIFY(moved.hash() != a.hash());
    }

    /// Every level against plain means of level 0, colours by their alpha.
    void levelsAreMeans() {
        QRandomGenerator random(5);
        for (const int channels : {1, 4}) {
            PixelTiles tiles({channels, 1});
            tiles.change({-256, 0, 512, 256}, [&](const PixelPart& part) {
                for (int y = part.area.y; y < part.area.bottom(); ++y)
                    for (int x = 0; x < part.area.w * channels; ++x)
                        part.row(y)[x] = uint8_t((x * 7 + y * 13 + (x * y) % 251) % 256);
            });
            for (const int level : {1, 3}) {
                const int side = 1 << level;
                for (int i = 0; i < 60; ++i) {
                    const int x = int(random.bounded(512 / side)) - 256 / side,
                              y = int(random.bounded(256 / side));
                    std::array<uint8_t, 4> got{};
                    tiles.readRow(x, y, 1, got.data(), level);
                    std::array<double, 4> sum{};
                    for (int v = 0; v < side; ++v)
                        for (int u = 0; u < side; ++u) {
                            std::array<uint8_t, 4> p{};
                            tiles.readRow(x * side + u, y * side + v, 1, p.data());
                            const double weight = channels == 4 ? p[3] : 1;
                            for (size_t c = 0; c < 3; ++c) sum[c] += p[c] * weight;
                            sum[3] += p[3];
                        }
                    const double n = double(side) * side;
                    // Rounded once a level.
                    if (channels == 1) QVERIFY(std::abs(got[0] - sum[0] / n) <= 0.5 * level + 0.01);
                    if (channels == 4) {
                        QVERIFY(std::abs(got[3] - sum[3] / n) <= 0.5 * level + 0.01);
                        QVERIFY(std::abs(got[1] - sum[1] / sum[3]) <= 1.5 * level);
                    }
                }
            }
        }
    }

    void whatIsWipedAwayIsGivenUp() {
        PixelTiles tiles({1, 2});
        paint(tiles, {100, 100, 900, 900}, 255);
        QVERIFY(tiles.bytes() > 0);
        QVERIFY(tiles.bounds() == (IntRect{100, 100, 900, 900}));
        paint(tiles, {0, 0, 2000, 2000}, 0);
        QVERIFY(tiles.empty());
        QCOMPARE(tiles.bytes(), size_t(0));
        QVERIFY(tiles.bounds().empty());
        QVERIFY(tiles.hash() == PixelTiles({1, 2}).hash());
    }

    /// Halves against the plain mean, on pixels of every alpha and of none, opaque ones too.
    void halvesAreMeans() {
        for (const int kind : {0, 1, 2}) {
            Buffer<uint8_t> bytes(size_t(kPixelTileSide) * kPixelTileSide * 4);
            uint32_t chance = 12345;
            for (size_t i = 0; i < bytes.size(); ++i) {
                chance = chance * 1664525 + 1013904223;
                bytes[i] = uint8_t(chance >> 24);
                if (i % 4 == 3 && kind == 1) bytes[i] = 255;
                if (i % 4 == 3 && kind == 2) bytes[i] = uint8_t(bytes[i] < 200 ? 0 : bytes[i] % 3);
            }
            const auto levels = pixelTile({4, 1}, std::move(bytes))->pixels();
            for (size_t k = 1; k < levels->size(); ++k) {
                const int side = kPixelTileSide >> k;
                const uint8_t* from = (*levels)[k - 1].data();
                for (int y = 0; y < side; ++y)
                    for (int x = 0; x < side; ++x) {
                        const uint8_t* at = from + (ptrdiff_t(2) * y * 2 * side + 2 * x) * 4;
                        const ptrdiff_t row = ptrdiff_t(2) * side * 4;
                        uint8_t want[4];
                        meanOf<uint8_t>({at, at + 4, at + row, at + row + 4}, want);
                        QVERIFY(std::memcmp(want, (*levels)[k].data() + (ptrdiff_t(y) * side + x) * 4, 4) ==
                                0);
                    }
            }
        }
    }

    /// Put away, a tile takes no memory; read again it is the same; whoever reads it meanwhile is not
    /// disturbed.
    void tilesArePutAway() {
        QTemporaryDir folder;
        const auto file = TileFile::in(folder.path().toStdString());
        QVERIFY(file);
        std::vector<PixelTilePtr> tiles;
        for (int i = 0; i < 8; ++i) {
            Buffer<uint8_t> bytes(size_t(kPixelTileSide) * kPixelTileSide * 4);
            for (size_t k = 0; k < bytes.size(); ++k) bytes[k] = uint8_t(k * 7 + k / 999 + size_t(i));
            tiles.push_back(pixelTile({4, 1}, std::move(bytes)));
        }
        const auto held = tiles[3]->pixels();
        const std::vector<uint8_t> before(held->at(2).data(), held->at(2).data() + held->at(2).size());
        for (const PixelTilePtr& tile : tiles) {
            QVERIFY(tile->putAway(file) && !tile->isInMemory());
            QVERIFY(tile->putAway(file)); // it is there already
        }
        QVERIFY(std::equal(before.begin(), before.end(), held->at(2).data()));
        QVERIFY(std::filesystem::is_empty(folder.path().toStdString())); // the file has no name
        std::atomic<int> wrong = 0;
        tbb::parallel_for(0, 64, [&](int i) {
            const PixelTilePtr& tile = tiles[size_t(i) % tiles.size()];
            const auto again = tile->pixels();
            for (size_t k = 0; k < again->at(0).size(); k += 101)
                wrong += again->at(0)[k] != uint8_t(k * 7 + k / 999 + size_t(i) % tiles.size());
            if (i % 3 == 0) tile->putAway(file);
        });
        QCOMPARE(int(wrong), 0);
        QCOMPARE(TileFile::in("/dev/null/folder"), nullptr);
    }
};

GLYPTOS_TEST(PixelTilesTest)
#include "pixel_tiles_test.moc"
