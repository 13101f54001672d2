#include "handwork.h"

#include "release/edits/cutout_edits.h"
#include "release/edits/mend_edits.h"
#include "release/placing.h"
#include "render/cut_figure.h"
#include "render/mending.h"
#include "render/selected_layers.h"
#include "render/slices.h"
#include "vision/mend/mend.h"
#include "work.h"

namespace glyptos::demo {
namespace {

class Handwork : public Work {
  public:
    using Work::Work;
    Result<void> all() {
        return inNewTake(release_->pieces.front()->take().id, [this]() -> Result<void> {
            if (auto done = cutTheKeeper(); !done) return done;
            moveAGull();
            if (auto done = mendTheRope(); !done) return done;
            return sliceTheLight();
        });
    }

  private:
    Result<void> cutTheKeeper();
    void moveAGull();
    Result<void> mendTheRope();
    Result<void> sliceTheLight();
};

/// From a box and a few strokes, laid over the sea; rust lies on his coat alone.
Result<void> Handwork::cutTheKeeper() {
    const std::string keeper =
        put(pictureLayer("Keeper", "keeper.jpg", {2130, 2140}, 0.72), named("Lighthouse"));
    const SourcePtr photo = source("keeper.jpg");
    const auto stroke = [](bool figure, std::vector<Vec2> points, double radius = 45) {
        return HintStroke{figure, std::move(points), radius};
    };
    const CutoutHints hints{
        {560, 60, 1840, 2340},
        {stroke(
             true,
             {{1300, 1500}, {1300, 950}, {950, 900}, {900, 1050}, {860, 1180}, {1050, 1300}, {1000, 1000}}),
         stroke(true, {{1000, 500}, {1300, 400}, {1650, 500}, {1750, 650}, {1830, 715}, {1500, 640}}),
         stroke(true, {{800, 2300}, {1000, 2000}, {1600, 2050}, {2000, 2180}}),
         stroke(false, {{2250, 2000}, {2330, 2150}}), stroke(false, {{1790, 1700}, {1800, 1800}}),
         stroke(false, {{2250, 150}, {2330, 250}}),
         // His profile, which has the colour of the wall before it.
         stroke(true,
                {{920, 840}, {922, 930}, {862, 1045}, {800, 1160}, {860, 1190}, {840, 1300}, {860, 1345}},
                14),
         stroke(false,
                {{862, 885}, {870, 930}, {808, 1040}, {740, 1150}, {745, 1200}, {785, 1300}, {760, 1390}},
                14)}};
    const auto figure = cutFigure(*decoded(*photo), hints, {});
    if (!figure) return tl::unexpected(figure.error());
    release_ = withCutOut(release_, panel_, keeper, figure->alpha, figure->edges,
                          std::make_shared<const CutoutHints>(hints));
    const Affine map = pictureToPanel(findLayer(stack(), keeper)->placement, *photo);
    std::vector<Vec2> coat;
    for (const Vec2& p : {Vec2{560, 2440},
                          {620, 2213},
                          {780, 2020},
                          {960, 1900},
                          {1060, 1950},
                          {1180, 2020},
                          {1330, 2130},
                          {1420, 2160},
                          {1460, 2060},
                          {1475, 1980},
                          {1722, 1975},
                          {1730, 1850},
                          {1930, 1915},
                          {2150, 2055},
                          {2290, 2260},
                          {2330, 2440}})
        coat.push_back(map.map(p));
    Layer rust = pictureLayer("Rust on the coat", "rust.jpg", {2000, 2500}, 0.75);
    rust.blend = BlendMode::Normal;
    rust.opacity = 0.6;
    rust.clipped = true;
    rust.mask = std::make_shared<const Mask>(maskOf(along(coat, 9)));
    const LayerPtr edges = edgeColoursOf(stack(), keeper);
    put(std::move(rust), edges ? edges->id : keeper);
    return {};
}

void Handwork::moveAGull() {
    const Selection gull = along({{1820, 1040}, {2040, 1040}, {2040, 1180}, {1820, 1180}}, 2);
    const Made made = withPart({release_, panel_, gull, pictures_}, named("Gulls"), true);
    release_ = withChangedLayer(made.release, panel_, made.id, [](Layer& l) {
        l = moved(std::move(l), {-640, -180});
        l.name = "The gull that was moved";
    });
}

/// It hangs into the picture from the left.
Result<void> Handwork::mendTheRope() {
    const std::string rope = put(pictureLayer("Rope", "rope.png", {-390, 1500}, 0.6), named("Beam"));
    const Selection hole = along({{-40, 1400}, {370, 1400}, {370, 1600}, {-40, 1600}}, 0.5);
    const Made made = withMender(release_, panel_, rope, 1);
    const Scene below = sceneBelow(made, panel_, made.id, 1);
    const IntRect area = hole.tiles->bounds().intersected(below.bounds()),
                  reach = mendReach(area, below.bounds());
    AlphaMap cover = valuesOf(*hole.tiles, reach);
    for (uint8_t& v : cover.values) v = v ? 255 : 0;
    const auto filled = mended(rendered(below, reach), cover);
    if (!filled) return tl::unexpected(filled.error());
    release_ = withChangedLayer(made.release, panel_, made.id, [&](Layer& l) {
        l.content = withPixels(std::get<PaintedContent>(l.content), {*filled, cover, reach.x, reach.y, true});
    });
    return {};
}

Result<void> Handwork::sliceTheLight() {
    const std::string light = named("Lighthouse");
    const Rect bounds = boundsOf(light);
    const double left = bounds.x - 50, right = bounds.right() + 50;
    const auto made =
        withSlices(release_, panel_, light, bounds,
                   {{{left, 1330}, {right, 1250}}, {{left, 1800}, {right, 1880}}}, {64, 0.5, 70});
    if (!made) return tl::unexpected(made.error());
    release_ = *made;
    return {};
}

} // namespace

Result<ReleasePtr> withHandwork(const ReleasePtr& release) {
    Handwork work(release);
    if (auto done = work.all(); !done) return tl::unexpected(done.error());
    return work.release();
}

} // namespace glyptos::demo
