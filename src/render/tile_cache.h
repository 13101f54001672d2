// Finished layer tiles, kept under a memory limit, least recently used out first.
#pragma once

#include "raster/tile.h"

#include <list>
#include <mutex>
#include <unordered_map>

namespace glyptos {

/// 128-bit hash of everything a layer tile depends on.
struct TileKey {
    uint64_t low = 0, high = 0;
    bool operator==(const TileKey&) const = default;
};

class TileCache {
  public:
    explicit TileCache(size_t budgetBytes)
        : budget_(budgetBytes) {}

    TilePtr find(const TileKey& key);
    void insert(const TileKey& key, TilePtr tile);
    size_t bytes() const;
    void setBudget(size_t bytes);

  private:
    void shrink();
    struct Entry {
        TileKey key;
        TilePtr tile;
    };
    struct Hash {
        size_t operator()(const TileKey& k) const { return k.low; }
    };
    mutable std::mutex mutex_;
    std::list<Entry> recent_; ///< most recently used first
    std::unordered_map<TileKey, std::list<Entry>::iterator, Hash> index_;
    size_t bytes_ = 0, budget_;
};

} // namespace glyptos
