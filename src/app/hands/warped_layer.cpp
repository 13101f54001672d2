#include "app/hands/warped_layer.h"

#include "app/bench/compose_bench.h"
#include "release/edits/cutout_edits.h"
#include "release/placing.h"

namespace glyptos {
namespace {

Affine sharesOf(const Rect& box) {
    return Affine::scaling(1 / box.w, 1 / box.h) * Affine::translation(-box.x, -box.y);
}

std::optional<Vec2> backThrough(const Mapping& mapping, Vec2 onPanel) {
    const BackMapping back(mapping, {onPanel.x, onPanel.y, 1e-6, 1e-6});
    BackMapping::Near near;
    return back.isThere() ? back.map(onPanel, near) : std::nullopt;
}

} // namespace

Mapping WarpedLayer::fromShares() const {
    Warp tilt;
    tilt.box = box;
    tilt.corners = warp.corners;
    return Mapping(placed) * mappingOf(tilt, box) * Mapping(*sharesOf(box).inverse());
}

std::optional<Vec2> WarpedLayer::toShares(Vec2 onPanel) const {
    return backThrough(fromShares(), onPanel);
}

std::optional<Vec2> WarpedLayer::toKneaded(Vec2 onPanel) const {
    Warp seen = warp;
    seen.knead = nullptr;
    const auto at = backThrough(Mapping(placed) * mappingOf(seen, box), onPanel);
    return at ? std::optional(sharesOf(box).map(*at)) : std::nullopt;
}

Layer WarpedLayer::with(Warp next) const {
    return withWarp(*layer, std::make_shared<const Warp>(std::move(next)));
}

std::optional<WarpedLayer> warpedLayer(const ComposeBench& bench, const LayerPtr& layer) {
    if (!layer || isFrameless(*layer)) return std::nullopt;
    const Release& release = *bench.document()->shown();
    WarpedLayer out{layer, warpedBox(*layer, release, bench.panel()->withBleed(), bench.paragraphs()),
                    placedOnPanel(*layer, release), layer->warp ? *layer->warp : Warp{}};
    const bool isAsLargeAsItIs = layer->as<TextContent>() || layer->as<ShapeContent>();
    if (!isAsLargeAsItIs) out.warp.box = out.box;
    return out.box.empty() || !out.placed.inverse() ? std::nullopt : std::optional(std::move(out));
}

std::optional<WarpedLayer> warpedLayer(const ComposeBench& bench) {
    const Document& document = *bench.document();
    if (document.layers().size() != 1) return std::nullopt;
    const Stack& stack = stackOf(*document.shown(), document.panel());
    return warpedLayer(bench, findLayer(stack, wholeFigureOf(stack, document.layer())));
}

QString whyNotWarped(const ComposeBench& bench) {
    const Document& document = *bench.document();
    const LayerPtr one = document.selectedLayer();
    if (!one || document.layers().size() != 1)
        return ComposeBench::tr("Take the one layer in hand that is to be kneaded or bent.");
    const QString name = QString::fromStdString(one->name);
    if (one->locked) return ComposeBench::tr("%1 is locked, so it stays as it is.").arg(name);
    if (!one->on) return ComposeBench::tr("%1 is switched off, so nothing would be seen.").arg(name);
    if (isFrameless(*one))
        return ComposeBench::tr("%1 covers the whole panel and has no edge to take hold of; group it with "
                                "something first.")
            .arg(name);
    if (!warpedLayer(bench)) return ComposeBench::tr("There is nothing on %1 yet.").arg(name);
    return {};
}

} // namespace glyptos
