// Internal to render: what brushed lines are drawn from, kept by what it depends on. Safe to use from any
// thread.
#pragma once

#include "raster/brush/dab.h"
#include "raster/brush/tip_look.h"
#include "release/shape.h"
#include "render/tiles/tile_cache.h"

namespace glyptos {

struct KeptDabs {
    Dabs dabs;
    size_t bytes() const { return dabs.size() * sizeof(Dab) + sizeof *this; }
};

class BrushCache {
  public:
    /// The dabs of a shape's brushed line, in its own frame.
    std::shared_ptr<const KeptDabs> dabs(const ShapeContent& shape);
    /// An outline as a stamp.
    StampLook stamp(const std::vector<Contour>& outline);

  private:
    struct KeptStamp {
        StampLook look;
        size_t bytes() const { return look.picture->bytes() + sizeof *this; }
    };
    KeyedCache<KeptDabs> dabs_{size_t(32) << 20};
    KeyedCache<KeptStamp> stamps_{size_t(32) << 20};
};

} // namespace glyptos
