// What the Mask hand works out in the background: runs, edges, masks that can be painted on.
#include "app/bench/compose_bench.h"
#include "app/hands/mask_hand.h"
#include "app/session/settled_pictures.h"
#include "raster/brush/paint_mix.h"
#include "release/edits/cutout_edits.h"
#include "release/placing.h"
#include "render/cut_figure.h"
#include "vision/select/edge_refine.h"

#include <cmath>

namespace glyptos {

/// A mask of another form is drawn once; the next stroke finds one that can be painted on.
void MaskHand::makePaintable(const LayerPtr& one) {
    Engine& engine = bench_.engine();
    const QString name = QString::fromStdString(one->name);
    bench_.work().start(
        ComposeBench::tr("Making the mask of %1 one to paint on").arg(name),
        [=, &engine, mask = one->mask, pixel = bench_.paintPixel(), area = bench_.panel()->withBleed(),
         release = document().release()](WorkControl& control) -> Result<Mask> {
            if (const auto* picture = std::get_if<PictureContent>(&mask->form))
                if (const SourcePtr source = release->source(picture->source))
                    if (const auto whole = settledPicture(engine, *source, control); !whole)
                        return tl::unexpected(whole.error());
            return paintable(mask, pixel, area, *release, engine.pictures);
        },
        [this, id = one->id, panel = document().panel(), name](const Mask& mask) {
            document().edit(ComposeBench::tr("Mask of %1 to paint on").arg(name),
                            withChangedLayer(document().release(), panel, id,
                                             [&](Layer& l) { l.mask = std::make_shared<const Mask>(mask); }));
        });
}

namespace {

/// As a mask shows, from what it keeps, and the other way round.
AlphaMap turned(AlphaMap map, const Mask& mask) {
    if (keepsHidden(mask))
        for (uint8_t& v : map.values) v = static_cast<uint8_t>(255 - v);
    return map;
}

/// The tiles of a mask with values, as they show, in an area of its pixels.
PixelTiles withShown(const Mask& mask, const IntRect& area, const AlphaMap& shown) {
    const AlphaMap kept = turned(shown, mask);
    PixelTiles tiles = *std::get<PaintedMask>(mask.form).tiles;
    tiles.change(area, [&](const PixelPart& part) {
        for (int y = part.area.y; y < part.area.bottom(); ++y)
            std::copy_n(kept.values.data() + size_t(y - area.y) * size_t(area.w) +
                            size_t(part.area.x - area.x),
                        part.area.w, part.row(y));
    });
    return tiles;
}

/// A mask as worked out, and the colours of the edge that it makes.
struct Repainted {
    PixelTilesPtr tiles, edges;
};

} // namespace

void MaskHand::repaint(const LayerPtr& one, const Mask& mask, const Repaint& repaint, bool edgesToo) {
    const auto* content = one->as<PictureContent>();
    const bool hasEdges = edgesToo && content && isCutOut(*one, *document().release());
    const SourcePtr source = hasEdges ? document().release()->source(content->source) : nullptr;
    Engine& engine = bench_.engine();
    bench_.work().start(
        repaint.what,
        [=, &engine, work = repaint.work](WorkControl& control) -> Result<Repainted> {
            auto tiles = work(mask, control);
            if (!tiles) return tl::unexpected(tiles.error());
            Repainted out{std::make_shared<const PixelTiles>(std::move(*tiles)), nullptr};
            if (!source) return out;
            const auto picture = settledPicture(engine, *source, control);
            if (!picture) return tl::unexpected(picture.error());
            const AlphaMap alpha = valuesOf(*out.tiles, {0, 0, source->width, source->height});
            out.edges = cutFigure(**picture, turned(alpha, mask)).edges;
            return control.cancel ? Result<Repainted>(cancelled()) : out;
        },
        [this, mask, hasEdges, before = one->mask, id = one->id, panel = document().panel(),
         name = repaint.name](const Repainted& made) {
            const ReleasePtr now = document().release();
            const LayerPtr layer = findLayer(stackOf(*now, panel), id);
            if (!layer || layer->mask != before)
                return void(Q_EMIT document().refused(
                    ComposeBench::tr("The mask was changed meanwhile; do it once more.")));
            Mask next = mask;
            next.form = PaintedMask{made.tiles, std::get<PaintedMask>(mask.form).shows};
            const ReleasePtr masked = withChangedLayer(
                now, panel, id, [&](Layer& l) { l.mask = std::make_shared<const Mask>(next); });
            document().edit(name, hasEdges ? withEdgeColours(masked, panel, id, made.edges) : masked);
        });
}

void MaskHand::paintRun(Vec2 from, Vec2 to) {
    const LayerPtr one = document().selectedLayer();
    const auto mask = paintedMask(one);
    const auto toMask = mask ? placementMap(mask->placement).inverse() : std::nullopt;
    if (!toMask) return;
    const IntRect area =
        pixelsAround(toMask->mapBounds(frame(*one).bounds().united(bench_.panel()->withBleed())));
    const QString name = ComposeBench::tr("A run on the mask of %1").arg(QString::fromStdString(one->name));
    const auto run = [=, begin = toMask->map(from), end = toMask->map(to),
                      keep = bench_.selection().selection(), opacity = bench_.settings().brush.opacity,
                      value = keptValue(*mask, bench_.settings().maskValue)](const Mask& before,
                                                                             WorkControl&) {
        const PixelTilesPtr& there = std::get<PaintedMask>(before.form).tiles;
        const Buffer<float> shares = selectedShares(keep, *toMask, area);
        PixelTiles tiles = *there;
        mixRun(tiles, *there, begin, end, {value, opacity, keep ? shares.data() : nullptr}, area);
        return Result<PixelTiles>(std::move(tiles));
    };
    repaint(one, *mask, {name, name, run}, false);
}

void MaskHand::refineEdge() {
    if (const QString why = whyNot(); !why.isEmpty()) return void(Q_EMIT document().refused(why));
    refine(std::nullopt);
}

void MaskHand::refine(std::optional<PixelTiles> brushed) {
    const LayerPtr one = document().selectedLayer();
    if (!one->mask)
        return void(Q_EMIT document().refused(
            ComposeBench::tr("There is no mask yet whose edge could be worked out.")));
    const auto mask = paintedMask(one);
    if (!mask) return;
    const auto toMask = placementMap(mask->placement).inverse();
    const Rect bounds = frame(*one).bounds();
    if (!toMask || bounds.empty()) return;
    const IntRect whole = pixelsAround(toMask->mapBounds(bounds));
    IntRect area = whole;
    if (brushed) {
        const IntRect b = brushed->bounds();
        const int round = 32 + std::max(b.w, b.h) / 4;
        area = IntRect{b.x - round, b.y - round, b.w + 2 * round, b.h + 2 * round}.intersected(whole);
    }
    if (area.empty())
        return void(Q_EMIT document().refused(ComposeBench::tr("The brush did not meet the layer.")));
    Engine& engine = bench_.engine();
    const QString name = QString::fromStdString(one->name);
    const auto work = [=, &engine, scene = aloneScene(document().release(), *one, false, *toMask, bounds),
                       band = bench_.settings().edgeBand](const Mask& before,
                                                          WorkControl& control) -> Result<PixelTiles> {
        auto shown = settledRendering(engine, scene, area, control);
        if (!shown) return cancelled();
        const Pyramid picture(std::move(*shown));
        CutoutOptions options;
        options.cancel = &control.cancel;
        options.progress = control.progress;
        const AlphaMap alpha = turned(valuesOf(*std::get<PaintedMask>(before.form).tiles, area), before);
        const auto refined = brushed ? refinedWhere(picture, alpha, valuesOf(*brushed, area), options)
                                     : refinedEdge(picture, alpha, band, options);
        if (!refined) return tl::unexpected(refined.error());
        return withShown(before, area, *refined);
    };
    repaint(one, *mask,
            {ComposeBench::tr("Working out the edge of %1").arg(name),
             ComposeBench::tr("Work out the edge of %1").arg(name), work},
            true);
}

void MaskHand::firmEdge() {
    const LayerPtr one = document().selectedLayer();
    if (!one || one->locked || !one->mask || !std::holds_alternative<PaintedMask>(one->mask->form))
        return void(Q_EMIT document().refused(
            ComposeBench::tr("Take a layer with a painted mask in hand, not locked.")));
    const HandSettings& settings = bench_.settings();
    const auto work = [firmness = settings.edgeFirmness, outwards = settings.edgeOutwards](const Mask& before,
                                                                                           WorkControl&) {
        const PixelTilesPtr& tiles = std::get<PaintedMask>(before.form).tiles;
        const IntRect area = tiles->bounds();
        return Result<PixelTiles>(
            withShown(before, area, firmed(turned(valuesOf(*tiles, area), before), firmness, outwards)));
    };
    repaint(one, *one->mask,
            {ComposeBench::tr("Changing the edge"),
             ComposeBench::tr("Firmer edge of %1").arg(QString::fromStdString(one->name)), work},
            true);
}

} // namespace glyptos
