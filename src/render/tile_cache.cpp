#include "render/tile_cache.h"

namespace glyptos {

TilePtr TileCache::find(const TileKey& key) {
    const std::lock_guard lock(mutex_);
    const auto found = index_.find(key);
    if (found == index_.end()) return nullptr;
    recent_.splice(recent_.begin(), recent_, found->second);
    return found->second->tile;
}

void TileCache::insert(const TileKey& key, TilePtr tile) {
    const std::lock_guard lock(mutex_);
    if (index_.contains(key)) return;
    bytes_ += tile->bytes();
    recent_.push_front({key, std::move(tile)});
    index_[key] = recent_.begin();
    shrink();
}

void TileCache::setBudget(size_t bytes) {
    const std::lock_guard lock(mutex_);
    budget_ = bytes;
    shrink();
}

void TileCache::shrink() {
    while (bytes_ > budget_ && recent_.size() > 1) {
        bytes_ -= recent_.back().tile->bytes();
        index_.erase(recent_.back().key);
        recent_.pop_back();
    }
}

size_t TileCache::bytes() const {
    const std::lock_guard lock(mutex_);
    return bytes_;
}

} // namespace glyptos
