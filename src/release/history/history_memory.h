// Keeps the painted pixels of old steps out of memory.
#pragma once

#include "release/release.h"

#include <functional>
#include <unordered_set>

namespace glyptos {

class HistoryMemory {
  public:
    /// Tiles may take that many bytes; `file` gives the one that others are put away in, when it is needed
    /// first.
    HistoryMemory(size_t budgetBytes, std::function<std::shared_ptr<TileFile>()> file)
        : budget_(budgetBytes)
        , makeFile_(std::move(file)) {}

    /// Another release is in a history: its tiles count from now on.
    void add(const Release& release);
    /// Memory of all tiles that are in it just now.
    size_t bytes() const;
    /// Tiles to be put away so that half the budget is kept to, oldest first, none of `current`; none while
    /// the budget is kept to.
    std::vector<PixelTilePtr> excess(const Release& current);
    /// Puts them away, on any thread. False when the disk is full: they stay in memory.
    static bool putAway(const std::vector<PixelTilePtr>& tiles, const std::shared_ptr<TileFile>& file);
    /// Nothing when it cannot be made. May wait for the disk; one call at a time.
    std::shared_ptr<TileFile> file();

  private:
    size_t budget_;
    std::function<std::shared_ptr<TileFile>()> makeFile_;
    std::shared_ptr<TileFile> file_;
    std::vector<std::weak_ptr<const PixelTile>> tiles_; ///< oldest first
    std::unordered_set<const PixelTile*> known_;
};

} // namespace glyptos
