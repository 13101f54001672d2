#include "paintwork.h"

#include "file/brushes.h"
#include "release/edits/area_edits.h"
#include "release/edits/brush_edits.h"
#include "release/edits/light_edits.h"
#include "release/placing.h"
#include "release/walks.h"
#include "render/layer_way.h"
#include "render/mending.h"
#include "render/selected_layers.h"
#include "vision/lines/line_areas.h"
#include "work.h"

namespace glyptos::demo {
namespace {

constexpr Vec2 kWhirl{1480, 1960}; // its middle

class Paintwork : public Work {
  public:
    using Work::Work;
    Result<void> all() {
        const std::string first = release_->pieces.front()->take().id;
        if (auto done = inNewTake(first, [this] { return whirl(); }); !done) return done;
        if (auto done = inNewTake(first, [this] { return colouredChart(); }); !done) return done;
        if (auto done = inNewTake("C", [this] { return hairInAWave(); }); !done) return done;
        return inNewTake(first, [this, first] { return coverOnTheWall(first); });
    }

  private:
    Result<void> whirl();
    Result<void> colouredChart();
    Result<void> hairInAWave();
    Result<void> coverOnTheWall(const std::string& take);
    void change(const std::string& id, const LayerChange& change) {
        release_ = withChangedLayer(release_, panel_, id, change);
    }
    /// A line along a way, drawn with a brush that is shipped, that many px wide.
    Result<std::string> draw(const char* brush, const std::string& above, const std::string& name,
                             const Way& way, double width, const Ink& ink,
                             const std::function<void(Brush&)>& set = {});
};

Result<std::string> Paintwork::draw(const char* brush, const std::string& above, const std::string& name,
                                    const Way& way, double width, const Ink& ink,
                                    const std::function<void(Brush&)>& set) {
    for (const NamedBrush& one : shippedBrushes()) {
        if (one.name != brush) continue;
        BrushedLine line{one.brush, one.stamps, {}};
        if (set) set(line.brush);
        const Made made = withBrushedLine(release_, panel_, above, name, way, width, ink, line);
        release_ = made.release;
        return made.id;
    }
    return fail(Fault::NotFound, std::string("there is no brush ") + brush);
}

/// The sea turned round a point, gulls along the turns of a spiral there, and a thin light along them.
Result<void> Paintwork::whirl() {
    keepOnly({"Lettering", "Edge fade", "Sea and sky"});
    const std::string sea = named("Sea and sky");
    const SourcePtr photo = source("sea-and-sky.jpg");
    KneadTip tip;
    tip.way = KneadWay::Spin, tip.radius = 0.36, tip.strength = 0.9, tip.holdEdges = true;
    const Affine toPicture = *pictureToPanel(findLayer(stack(), sea)->placement, *photo).inverse();
    const Vec2 middle = toPicture.map(kWhirl) * (1.0 / photo->width);
    KneadField field;
    for (const double radius : {0.42, 0.3, 0.2, 0.12}) {
        tip.radius = radius;
        KneadStroke stroke(field, tip);
        stroke.moveTo(middle);
        for (int i = 0; i < 26; ++i) stroke.dwell();
        stroke.finish();
        field = stroke.field();
    }
    change(sea, [&](Layer& l) {
        Warp warp;
        warp.box = {0, 0, double(photo->width), double(photo->height)};
        warp.knead = std::make_shared<const KneadField>(field);
        l = withWarp(std::move(l), std::make_shared<const Warp>(std::move(warp)));
    });
    Gradient turns;
    turns.kind = GradientKind::Spiral;
    turns.from = kWhirl, turns.to = kWhirl + Vec2{1350, -260}, turns.turns = -2.6;
    turns.stops = {
        {0, Ink{1, 1, 1, 0.5f}}, {0.5, Ink{0.6f, 0.8f, 0.9f, 0}}, {1, Ink{0.05f, 0.1f, 0.2f, 0.5f}}};
    Layer spiral;
    spiral.name = "Whirl", spiral.content = FillContent{turns};
    spiral.blend = BlendMode::SoftLight, spiral.opacity = 0.7;
    const std::string whirl = put(std::move(spiral), sea);
    ParagraphCache paragraphs(fonts_);
    const auto way = wayAlong(*findLayer(stack(), whirl), *release_, kPanel, paragraphs);
    if (!way) return fail(Fault::Internal, "the whirl has no turns");
    const Ink lamp({0.953f, 0.914f, 0.824f, 1}, "s1");
    const auto light = draw("Thin light", whirl, "Light along the turns", *way, 26, lamp,
                            [](Brush& b) { b.taperIn = 90, b.taperOut = 60; });
    if (!light) return tl::unexpected(light.error());
    const auto gulls = draw("Gulls", *light, "Gulls along the turns", *way, 70, lamp,
                            [](Brush& b) { b.spacing = 3.1, b.spread = 0.9, b.sizeAtEnd = 2.6, b.seed = 5; });
    if (!gulls) return tl::unexpected(gulls.error());
    return {};
}

/// Coasts as a path, in ink; each area filled up to the middle of the lines: land with paper and rust, shoals
/// with runs.
Result<void> Paintwork::colouredChart() {
    keepOnly({"Lettering"});
    Layer paper;
    paper.name = "Paper", paper.content = FillContent{Paper{Ink{0.92f, 0.88f, 0.78f, 1}, 0.12, 4, 3}};
    const std::string ground = put(std::move(paper), {});
    release_ = withOrder(release_, panel_, {ground}, Nearer::Back);
    const auto coast = [](Vec2 middle, double radius, double rough, int seed) {
        Contour out;
        constexpr int kNodes = 22;
        for (int i = 0; i < kNodes; ++i) {
            const double a = 2 * std::numbers::pi * i / kNodes,
                         r = radius *
                             (1 + rough * (std::sin(3 * a + seed) + 0.6 * std::sin(7 * a + 2.1 * seed) +
                                           0.35 * std::sin(12 * a + seed * seed)));
            const Vec2 at{middle.x + r * std::cos(a), middle.y + 0.8 * r * std::sin(a)};
            const Vec2 on = Vec2{-std::sin(a), 0.8 * std::cos(a)} * (r * 0.09);
            out.nodes.push_back({at, on * -1, on});
        }
        return out;
    };
    // The scale of the chart ends in bars of a compass round.
    const auto ring = [](Vec2 middle, double radius, int nodes, double inner) {
        Contour out;
        for (int i = 0; i < nodes; ++i) {
            const double a = 2 * std::numbers::pi * i / nodes, r = i % 2 ? radius * inner : radius;
            out.nodes.push_back({{middle.x + r * std::sin(a), middle.y - r * std::cos(a)}, {}, {}});
        }
        return out;
    };
    const Vec2 island{1050, 1080}, rock{2250, 760}, rose{2260, 1980};
    std::vector<Contour> lines{coast(island, 620, 0.12, 1), coast(island, 820, 0.1, 1),
                               coast(rock, 260, 0.14, 4),   coast(rock, 420, 0.11, 4),
                               ring(rose, 520, 32, 1),      ring(rose, 470, 16, 0.36),
                               ring(rose, 140, 24, 1)};
    const Way way = wayOf(std::move(lines));
    const auto drawn = draw("Ink", ground, "Chart", way, 26, Ink{0.07f, 0.15f, 0.18f, 1}, [](Brush& b) {
        b.tip = TipKind::Round, b.hardness = 0.95, b.spacing = 0.05, b.sizeJitter = 0.25, b.taperOut = 0;
    });
    if (!drawn) return tl::unexpected(drawn.error());
    const Scene scene = sceneAlone(release_, panel_, *findLayer(stack(), *drawn), 1);
    const IntRect all = scene.bounds();
    const Picture picture = rendered(scene, all);
    const LineAreas areas = lineAreas(picture, groundAt(picture, 80, 80), {0.25, 12, 6, nullptr});
    const auto fill = [&](const std::vector<Vec2>& seeds, const Paint& paint) {
        std::vector<int> which;
        which.reserve(seeds.size());
        for (const Vec2& seed : seeds) which.push_back(areas.at(int(seed.x) - all.x, int(seed.y) - all.y));
        const AlphaMap mask = areas.mask(which, {0, 0, areas.width, areas.height});
        release_ = withAreaFilled(release_, panel_, *drawn, *tilesOf(mask, all.x, all.y), 1, paint);
    };
    Gradient sea;
    sea.from = {0, 200}, sea.to = {0, 2900};
    sea.stops = {{0, Ink{0.30f, 0.52f, 0.56f, 1}}, {1, Ink{0.07f, 0.2f, 0.27f, 1}}};
    fill({{80, 80}}, sea);
    fill({{island.x, island.y + 575}, {rock.x, rock.y + 285}}, Ink{0.55f, 0.72f, 0.70f, 1});
    Pattern hull;
    hull.source = source("rust.jpg")->id, hull.scale = 0.3, hull.mirrored = true;
    fill({island}, hull);
    Pattern log;
    log.source = source("paper.jpg")->id, log.scale = 0.4, log.mirrored = true;
    fill({rock, {rose.x + 153, rose.y - 370}}, log);
    fill({rose}, Ink({0.953f, 0.914f, 0.824f, 1}, "s1"));
    std::vector<Vec2> winds, between;
    for (int i = 0; i < 4; ++i) {
        winds.push_back(rose + Affine::rotation(90.0 * i).mapVector({0, -300}));
        between.push_back(rose + Affine::rotation(90.0 * i + 45).mapVector({0, -300}));
    }
    fill(winds, Ink({0.722f, 0.251f, 0.165f, 1}, "s2"));
    fill(between, Ink({0.071f, 0.145f, 0.18f, 1}, "s3"));
    return {};
}

/// His hair once more, larger, and bent by a grid.
Result<void> Paintwork::hairInAWave() {
    keepOnly({"Lettering", "Edge fade", "Sea and sky", "Moon"});
    const std::string keeper = put(pictureLayer("Keeper", "keeper.jpg", {1330, 1760}, 1.12), named("Moon"));
    const SourcePtr photo = source("keeper.jpg");
    // As the take before this one cut him out.
    const PiecePtr cover = release_->pieces.front();
    const auto cutOut = firstLayer(cover->take("C")->stack("front"), [](const Layer& l) {
        return l.name == "Keeper" && l.mask && std::holds_alternative<PaintedMask>(l.mask->form);
    });
    if (!cutOut) return fail(Fault::Internal, "the keeper is not cut out");
    change(keeper, [&](Layer& l) {
        Mask mask = *cutOut->mask;
        mask.placement = {};
        const Affine map = pictureToPanel(l.placement, *photo);
        mask.placement.position = map.map({0, 0});
        mask.placement.scaleX = mask.placement.scaleY = l.placement.scaleX;
        l.mask = std::make_shared<const Mask>(std::move(mask));
    });
    const Affine map = pictureToPanel(findLayer(stack(), keeper)->placement, *photo);
    std::vector<Vec2> hair;
    for (const Vec2& p : {Vec2{1600, 170},
                          {1700, 60},
                          {2400, 60},
                          {2400, 1950},
                          {2000, 1800},
                          {1560, 1560},
                          {1260, 1120},
                          {1290, 880},
                          {1800, 860},
                          {1920, 760},
                          {1910, 620},
                          {1850, 460},
                          {1750, 320}})
        hair.push_back(map.map(p));
    const Made part = withPart({release_, panel_, along(hair, 40), pictures_}, keeper, false);
    release_ = part.release;
    const LayerPtr held = findLayer(stack(), part.id);
    if (!held) return fail(Fault::Internal, "the keeper has no hair");
    change(part.id, [&](Layer& l) {
        l.name = "Hair, larger and bent";
        Warp warp;
        warp.box = {0, 0, double(photo->width), double(photo->height)};
        warp.bend = std::make_shared<const BendSurface>(readyBend(ReadyBend::Wave, 0.35, 1, 6, 6));
        l = withWarp(std::move(l), std::make_shared<const Warp>(std::move(warp)));
        l = scaled(std::move(l), map.map({1400, 900}), 1.35);
    });
    return {};
}

/// The first take itself, tilted, before the harbour wall, with its shadow on the stones.
Result<void> Paintwork::coverOnTheWall(const std::string& take) {
    keepOnly({});
    Layer wall = pictureLayer("Harbour wall", "harbour-wall.jpg", {1500, 1500}, 1.2);
    const std::string ground = put(std::move(wall));
    const std::array<Vec2, 4> corners{Vec2{0.17, 0.25}, {0.83, 0.16}, {0.9, 0.84}, {0.08, 0.9}};
    const auto tilted = [&](Layer layer) {
        Warp warp;
        warp.box = {0, 0, 3000, 3000};
        warp.corners = corners;
        return withWarp(std::move(layer), std::make_shared<const Warp>(std::move(warp)));
    };
    ShapeContent dark;
    dark.kind = ShapeKind::Free;
    Contour outline;
    for (const Vec2& c : corners)
        outline.nodes.push_back({(c - Vec2{0.5, 0.5}) * 3000 + Vec2{70, 110}, {}, {}});
    dark.contours = {outline};
    Mask soft;
    soft.form = dark;
    soft.placement.position = {1500, 1500}, soft.feather = 130;
    Layer shadow;
    shadow.name = "Shadow", shadow.content = FillContent{Ink{0.02f, 0.03f, 0.05f, 1}};
    shadow.opacity = 0.75, shadow.blend = BlendMode::Multiply;
    shadow.mask = std::make_shared<const Mask>(std::move(soft));
    const std::string below = put(std::move(shadow), ground);
    Layer cover;
    cover.name = "The cover, laid down";
    cover.content = EchoContent{panel_.piece, panel_.panel, take, false};
    cover.placement.position = {1500, 1500};
    const auto echo = withEcho(release_, panel_, tilted(std::move(cover)), below);
    if (!echo) return tl::unexpected(echo.error());
    release_ = echo->release;
    put(darkCorners(kPanel, Ink{0.05f, 0.06f, 0.1f, 1}), echo->id);
    return {};
}

} // namespace

Result<ReleasePtr> withPaintwork(const ReleasePtr& release) {
    Paintwork work(release);
    if (auto done = work.all(); !done) return tl::unexpected(done.error());
    return work.release();
}

} // namespace glyptos::demo
