#include "app/hands/mend_work.h"

#include "app/session/settled_pictures.h"
#include "raster/cropped.h"
#include "release/edits/mend_edits.h"
#include "render/mending.h"
#include "render/painting.h"
#include "vision/mend/mend.h"

#include <algorithm>
#include <functional>

namespace glyptos {
namespace {

AlphaMap wholly(AlphaMap map) {
    for (uint8_t& v : map.values) v = v ? 255 : 0;
    return map;
}

/// What there is to fill, and what is looked at for it; pixels of the mend.
struct MendAreas {
    IntRect hole, reach;
};

Result<Mended> filled(Engine& engine, const MendPlace& place, const PixelTiles& covered,
                      const MendAreas& areas, bool isHole, const WorkControl& control,
                      const std::function<Result<Picture>(const Picture&, const AlphaMap&)>& fill) {
    const auto& [hole, reach] = areas;
    if (hole.empty() || reach.empty()) return cancelled();
    const auto below = settledRendering(engine, place.below, reach, control);
    if (!below) return cancelled();
    const auto whole = fill(*below, wholly(valuesOf(covered, reach)));
    if (!whole) return tl::unexpected(whole.error());
    const Picture part = croppedTo(*whole, {hole.x - reach.x, hole.y - reach.y, hole.w, hole.h});
    const AlphaMap cover = valuesOf(covered, hole);
    return Mended{place.mender, withPixels(place.mender, {part, cover, hole.x, hole.y, isHole})};
}

} // namespace

MendPlace mendPlace(const ReleasePtr& release, const PanelRef& panel, const std::string& layer,
                    double pixel) {
    const Made made = withMender(release, panel, layer, pixel);
    const LayerPtr mender = findLayer(stackOf(*made.release, panel), made.id);
    return {panel, layer, pixel, sceneBelow(made, panel, made.id, pixel), *mender->as<PaintedContent>()};
}

Result<Mended> filledFromAround(Engine& engine, const MendPlace& place, const PixelTiles& covered,
                                const WorkControl& control) {
    const IntRect hole = covered.bounds().intersected(place.below.bounds());
    return filled(engine, place, covered, {hole, mendReach(hole, place.below.bounds())}, true, control,
                  [&](const Picture& below, const AlphaMap& cover) {
                      MendOptions options;
                      options.cancel = &control.cancel;
                      options.progress = control.progress;
                      return mended(below, cover, options);
                  });
}

Result<Mended> filledFromThere(Engine& engine, const MendPlace& place, const PixelTiles& covered, int dx,
                               int dy, const WorkControl& control) {
    const IntRect hole = covered.bounds().intersected(place.below.bounds());
    const Rect there{double(hole.x + dx), double(hole.y + dy), double(hole.w), double(hole.h)};
    const IntRect reach =
        pixelsAround(hole.toRect().united(there).grown(2)).intersected(place.below.bounds());
    return filled(engine, place, covered, {hole, reach}, false, control,
                  [&](const Picture& below, const AlphaMap& cover) { return patched(below, cover, dx, dy); });
}

std::optional<Made> withMend(const ReleasePtr& release, const MendPlace& place, const Mended& mended) {
    if (!findLayer(stackOf(*release, place.panel), place.layer)) return std::nullopt;
    const Made made = withMender(release, place.panel, place.layer, place.pixel);
    const LayerPtr mender = findLayer(stackOf(*made.release, place.panel), made.id);
    if (!mender || !(*mender->as<PaintedContent>() == mended.before)) return std::nullopt;
    return Made{
        withChangedLayer(made.release, place.panel, made.id, [&](Layer& l) { l.content = mended.after; }),
        made.id};
}

} // namespace glyptos
