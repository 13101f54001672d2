// Finished tiles, kept under a memory limit, least recently used out first.
#pragma once

#include "raster/tile.h"

#include <list>
#include <memory>
#include <mutex>
#include <unordered_map>

namespace glyptos {

/// 128-bit hash of everything that a tile depends on.
struct TileKey {
    uint64_t low = 0, high = 0;
    bool operator==(const TileKey&) const = default;
};

/// Values that know their bytes(). Safe to use from any thread.
template <class Value>
class KeyedCache {
  public:
    using Pointer = std::shared_ptr<const Value>;

    explicit KeyedCache(size_t budgetBytes)
        : budget_(budgetBytes) {}

    Pointer find(const TileKey& key) {
        const std::lock_guard lock(mutex_);
        const auto found = index_.find(key);
        if (found == index_.end()) return nullptr;
        recent_.splice(recent_.begin(), recent_, found->second);
        return found->second->value;
    }

    void insert(const TileKey& key, Pointer value) {
        const std::lock_guard lock(mutex_);
        if (index_.contains(key)) return;
        bytes_ += value->bytes();
        recent_.push_front({key, std::move(value)});
        index_[key] = recent_.begin();
        shrink();
    }

    size_t bytes() const {
        const std::lock_guard lock(mutex_);
        return bytes_;
    }

    size_t budget() const {
        const std::lock_guard lock(mutex_);
        return budget_;
    }

    /// Smaller than before: the oldest go at once.
    void setBudget(size_t bytes) {
        const std::lock_guard lock(mutex_);
        budget_ = bytes;
        shrink();
    }

  private:
    void shrink() {
        while (bytes_ > budget_ && recent_.size() > 1) {
            bytes_ -= recent_.back().value->bytes();
            index_.erase(recent_.back().key);
            recent_.pop_back();
        }
    }
    struct Entry {
        TileKey key;
        Pointer value;
    };
    struct Hash {
        size_t operator()(const TileKey& k) const { return k.low; }
    };
    mutable std::mutex mutex_;
    std::list<Entry> recent_; ///< most recently used first
    std::unordered_map<TileKey, typename std::list<Entry>::iterator, Hash> index_;
    size_t bytes_ = 0, budget_;
};

/// What a layer contributes to one tile.
using TileCache = KeyedCache<Tile>;

/// A finished tile as it is shown: premultiplied BGRA, rows of 4·w bytes without gaps.
struct ShownTile {
    Buffer<uint8_t> bgra;
    size_t bytes() const { return bgra.size() + sizeof(ShownTile); }
};
using ShownTileCache = KeyedCache<ShownTile>;

} // namespace glyptos
