#include "release/history/history_memory.h"

#include "release/walks.h"

#include <algorithm>
#include <malloc.h>

namespace glyptos {

void HistoryMemory::add(const Release& release) {
    eachPainted(release, [&](const PixelTiles& painted) {
        for (const auto& [place, tile] : painted.tiles())
            if (known_.insert(tile.get()).second) tiles_.push_back(tile);
    });
}

size_t HistoryMemory::bytes() const {
    size_t sum = 0;
    for (const auto& weak : tiles_)
        if (const PixelTilePtr tile = weak.lock(); tile && tile->isInMemory()) sum += tile->bytes();
    return sum;
}

std::vector<PixelTilePtr> HistoryMemory::excess(const Release& current) {
    // An address may be of another tile once its own is gone.
    if (std::erase_if(tiles_, [](const auto& weak) { return weak.expired(); }) > 0) {
        known_.clear();
        for (const auto& weak : tiles_)
            if (const PixelTilePtr tile = weak.lock()) known_.insert(tile.get());
    }
    size_t held = bytes();
    std::vector<PixelTilePtr> out;
    if (held <= budget_) return out;
    std::unordered_set<const PixelTile*> shown;
    eachPainted(current, [&](const PixelTiles& painted) {
        for (const auto& [place, tile] : painted.tiles()) shown.insert(tile.get());
    });
    for (const auto& weak : tiles_) {
        const PixelTilePtr tile = weak.lock();
        if (!tile || !tile->isInMemory() || shown.contains(tile.get())) continue;
        if (held <= budget_ / 2) break;
        held -= std::min(held, tile->bytes());
        out.push_back(tile);
    }
    return out;
}

bool HistoryMemory::putAway(const std::vector<PixelTilePtr>& tiles, const std::shared_ptr<TileFile>& file) {
    const bool done = file && std::all_of(tiles.begin(), tiles.end(),
                                          [&](const auto& tile) { return tile->putAway(file); });
    // What lies between blocks that are still in use is given back only when asked for.
    if (!tiles.empty()) ::malloc_trim(0);
    return done;
}

std::shared_ptr<TileFile> HistoryMemory::file() {
    if (!file_) file_ = makeFile_();
    return file_;
}

} // namespace glyptos
