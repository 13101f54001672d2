// One tile of painted pixels: shared, never changed, and in memory or on disk.
#pragma once

#include "base/geometry.h"
#include "raster/buffer.h"

#include <array>
#include <atomic>
#include <cstdint>
#include <filesystem>
#include <memory>
#include <mutex>
#include <optional>

namespace glyptos {

/// What one pixel is: straight RGBA or one value (a mask, a selection), 8 or 16 bits each; or two floats (how
/// far something is moved).
struct PixelFormat {
    int channels = 4;       ///< 1, 2 or 4
    int bytesPerSample = 1; ///< 1 or 2; 4 of two floats
    size_t pixelBytes() const { return size_t(channels) * size_t(bytesPerSample); }
    bool operator==(const PixelFormat&) const = default;
};

inline constexpr int kPixelTileSide = 256; ///< pixels

/// XXH3's 128 bits (Y. Collet) of a tile's bytes: tiles of one hash hold the same pixels.
using PixelHash = std::array<uint64_t, 2>;

inline constexpr int kPixelTileLevels = 9; ///< halves of a tile, down to one pixel

/// Rows without gaps: kPixelTileSide of them, then half as many, … Each pixel of a level is the mean of
/// the four above it; colours count by their alpha. Of floats there is the first level alone.
using TileLevels = std::array<Buffer<uint8_t>, kPixelTileLevels>;

TileLevels tileLevels(const PixelFormat& format, Buffer<uint8_t> bytes);

/// Where pixels of tiles are kept that are not in memory. Safe to use from any thread.
struct TileStore {
    virtual ~TileStore() = default;
    /// Reads them again, sizes as they are. Throws std::runtime_error when that fails.
    virtual void get(size_t at, TileLevels& levels) const = 0;
    /// They are not needed any more.
    virtual void forget(size_t at, size_t bytes) = 0;
};

/// A file without a name that tiles are put away in; its room is given back as they go. Safe to use from any
/// thread.
class TileFile : public TileStore {
  public:
    /// In that folder. Nothing when it cannot be made there.
    static std::shared_ptr<TileFile> in(const std::filesystem::path& folder);
    ~TileFile() override;
    TileFile(const TileFile&) = delete;
    TileFile& operator=(const TileFile&) = delete;

    /// Where so many bytes were put; nothing when the disk is full.
    std::optional<size_t> put(const TileLevels& levels);
    void get(size_t at, TileLevels& levels) const override;
    void forget(size_t at, size_t bytes) override;

  private:
    explicit TileFile(int file)
        : file_(file) {}
    int file_;
    std::atomic<size_t> end_ = 0;
};

/// What is known of a tile without its pixels.
struct TileFacts {
    PixelFormat format;
    PixelHash hash{};
    IntRect used;       ///< see PixelTile
    float farthest = 0; ///< see PixelTile
};

class PixelTile {
  public:
    PixelTile(const PixelFormat& format, Buffer<uint8_t> bytes);
    /// One whose pixels are in a store.
    PixelTile(const TileFacts& facts, std::shared_ptr<TileStore> store, size_t at);
    ~PixelTile();
    PixelTile(const PixelTile&) = delete;
    PixelTile& operator=(const PixelTile&) = delete;

    /// Its pixels, which stay as long as this is held. Read from disk when they had been put away; throws
    /// std::runtime_error when that fails.
    std::shared_ptr<const TileLevels> pixels() const;
    /// Puts the pixels away: memory keeps them no longer than whoever reads them just now. False when the
    /// disk is full.
    bool putAway(const std::shared_ptr<TileFile>& file) const;
    bool isInMemory() const { return inMemory_; }
    /// Memory of all levels.
    size_t bytes() const { return bytes_; }

    const PixelHash& hash() const { return hash_; }
    /// Pixels of the tile that are not all zero.
    const IntRect& used() const { return used_; }
    /// Of floats: the largest, without its sign.
    float farthest() const { return farthest_; }

  private:
    PixelHash hash_{};
    IntRect used_;
    float farthest_ = 0;
    std::array<size_t, kPixelTileLevels> sizes_{};
    size_t bytes_ = 0;
    // Where the pixels are is no part of what the tile is.
    mutable std::mutex mutex_;
    mutable std::shared_ptr<const TileLevels> levels_;
    mutable std::shared_ptr<TileStore> store_; ///< since it was put away
    mutable size_t at_ = 0;
    mutable std::atomic<bool> inMemory_ = true;
};
using PixelTilePtr = std::shared_ptr<const PixelTile>;

/// A tile of those pixels, kPixelTileSide rows without gaps.
PixelTilePtr pixelTile(const PixelFormat& format, Buffer<uint8_t> bytes);

} // namespace glyptos
