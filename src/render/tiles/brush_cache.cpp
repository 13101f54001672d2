#include "render/tiles/brush_cache.h"

#include "raster/brush/way_dabs.h"
#include "render/tiles/key_hash.h"

namespace glyptos {
namespace {

constexpr double kFine = 400; // pieces of the brush's width, of a curve that is followed

template <class Value, class Make>
std::shared_ptr<const Value> kept(KeyedCache<Value>& cache, const TileKey& key, const Make& make) {
    if (auto found = cache.find(key)) return found;
    auto made = std::make_shared<const Value>(make());
    cache.insert(key, made);
    return made;
}

} // namespace

std::shared_ptr<const KeptDabs> BrushCache::dabs(const ShapeContent& shape) {
    KeyHash hash(0);
    hash.add(shape.kind)
        .add(shape.width)
        .add(shape.height)
        .add(shape.corner)
        .add(shape.points)
        .add(shape.inner);
    hash.add(shape.contours).add(shape.stroke->width).add(shape.stroke->brushed->brush);
    hash.add(shape.stroke->brushed->pressures);
    return kept(dabs_, hash.key(), [&] {
        const Brush brush = brushOf(*shape.stroke);
        const auto lines = flattened(outlineOf(shape), brush.diameter / kFine);
        return KeptDabs{dabsAlong(lines, brush, shape.stroke->brushed->pressures)};
    });
}

StampLook BrushCache::stamp(const std::vector<Contour>& outline) {
    return kept(stamps_, KeyHash(1).add(outline).key(),
                [&] { return KeptStamp{stampOf(outlineOf(outline))}; })
        ->look;
}

} // namespace glyptos
