// Internal to render: grades made ready, kept by what they were made from. Safe to use from several threads.
#pragma once

#include "render/tiles/tile_cache.h"
#include "treat/kind.h"

namespace glyptos {

/// Empty: it changes nothing.
struct ReadyGrade {
    ColourOp op;
    size_t bytes() const { return size_t(1) << 16; } // about: the tables it looks up
};

class GradeCache {
  public:
    GradeCache()
        : ready_(size_t(64) << 20) {}
    std::shared_ptr<const ReadyGrade> get(const TileKey& key, const TreatmentKind& kind,
                                          const Figures& figures, const Place& place) {
        if (auto found = ready_.find(key)) return found;
        auto made = std::make_shared<const ReadyGrade>(ReadyGrade{kind.colour(figures, place)});
        ready_.insert(key, made);
        return made;
    }

  private:
    KeyedCache<ReadyGrade> ready_;
};

} // namespace glyptos
