#include "app/hands/mask_hand.h"

#include "app/bench/compose_bench.h"
#include "app/session/settled_pictures.h"
#include "app/widgets/theme.h"
#include "raster/stroke_cover.h"
#include "release/edits/edits.h"
#include "release/placing.h"
#include "vision/select/edge_refine.h"

#include <cmath>

namespace glyptos {

QString MaskHand::whyNot() const {
    const LayerPtr one = document().selectedLayer();
    if (!one || document().layers().size() != 1)
        return ComposeBench::tr("Take one layer in hand to paint on its mask.");
    const QString name = QString::fromStdString(one->name);
    if (one->locked) return ComposeBench::tr("%1 is locked, so a stroke would do nothing.").arg(name);
    if (!one->on) return ComposeBench::tr("%1 is switched off, so a stroke would not be seen.").arg(name);
    if (one->mask && !one->mask->on)
        return ComposeBench::tr("The mask of %1 is switched off, so a stroke would not be seen.").arg(name);
    const auto selection = bench_.selection().selection();
    const double k = selection ? 1 / selection->pixel : 1;
    if (selection && !selection->tiles->bounds()
                          .toRect()
                          .grown(bench_.tip(selection->pixel).diameter / 2)
                          .contains(pointer_ * k))
        return ComposeBench::tr("Here nothing is selected, so a stroke would do nothing.");
    return {};
}

QString MaskHand::sentence() const {
    if (!bench_.work().words().isEmpty()) return bench_.work().words();
    if (QString why = whyNot(); !why.isEmpty()) return why;
    const QString name = QString::fromStdString(document().selectedLayer()->name);
    if (bench_.settings().refines)
        return ComposeBench::tr("Brush over hair and soft edges: the mask of %1 is worked out there.")
            .arg(name);
    const double value = bench_.settings().maskValue;
    return value <= 0
               ? ComposeBench::tr("Paints on the mask of %1: hides. Shift draws a straight line.").arg(name)
           : value >= 1
               ? ComposeBench::tr("Paints on the mask of %1: shows. Shift draws a straight line.").arg(name)
               : ComposeBench::tr("Paints on the mask of %1: shows %2 %. Shift draws a straight line.")
                     .arg(name)
                     .arg(std::lround(value * 100));
}

void MaskHand::press(const QMouseEvent& event, Vec2 at) {
    pointer_ = at;
    const LayerPtr one = document().selectedLayer();
    if (const QString why = whyNot(); !why.isEmpty()) return void(Q_EMIT document().refused(why));
    if (one->mask && !std::holds_alternative<PaintedMask>(one->mask->form)) return makePaintable(one);
    if (bench_.settings().refines) {
        if (!one->mask)
            return void(Q_EMIT document().refused(
                ComposeBench::tr("There is no mask yet whose edge could be worked out.")));
        refining_ = {at};
        return bench_.update();
    }
    Mask mask;
    if (one->mask)
        mask = *one->mask;
    else {
        mask.form = PaintedMask{std::make_shared<const PixelTiles>(kMaskPixels), true};
        mask.placement.scaleX = mask.placement.scaleY = bench_.paintPixel();
    }
    begin(one, mask);
    if (!stroke_) return;
    if ((event.modifiers() & Qt::ShiftModifier) && last_ && lastOf_ == one->id) moveTo(*last_);
    moveTo(at);
}

void MaskHand::begin(const LayerPtr& one, const Mask& mask) {
    const auto toMask = placementMap(mask.placement).inverse();
    if (!toMask) return;
    const auto& painted = std::get<PaintedMask>(mask.form);
    const HandSettings& settings = bench_.settings();
    // As it is kept: turned round by what a zero stands for, and by an inverted mask.
    const bool turned = painted.shows != mask.inverted;
    const double value = turned ? 1 - settings.maskValue : settings.maskValue;
    const double pixel = std::sqrt(1 / std::abs(toMask->determinant()));
    stroke_.emplace(Stroke{one, mask, painted.tiles, *toMask, BrushStroke(bench_.tip(pixel)),
                           static_cast<uint8_t>(std::lround(255 * value)), bench_.selection().selection()});
}

void MaskHand::moveTo(Vec2 at) {
    const IntRect whole = pixelsAround(stroke_->toMask.mapBounds(bench_.panel()->withBleed()));
    const IntRect area = stroke_->brush.moveTo(stroke_->toMask.map(at)).intersected(whole);
    last_ = at;
    lastOf_ = stroke_->layer->id;
    if (area.empty()) return;
    Buffer<float> keep;
    if (stroke_->keep)
        keep = paintedShares(*stroke_->keep->tiles,
                             stroke_->toMask * Affine::scaling(stroke_->keep->pixel, stroke_->keep->pixel),
                             area);
    const auto& before = std::get<PaintedMask>(stroke_->mask.form);
    PixelTiles tiles = *stroke_->now;
    mixStroke(tiles, *before.tiles, stroke_->brush, stroke_->value, bench_.settings().brush.opacity, area,
              stroke_->keep ? keep.data() : nullptr);
    stroke_->now = std::make_shared<const PixelTiles>(std::move(tiles));
    Layer next = *stroke_->layer;
    Mask mask = stroke_->mask;
    mask.form = PaintedMask{stroke_->now, before.shows};
    next.mask = std::make_shared<const Mask>(std::move(mask));
    change(stroke_->layer, next);
}

void MaskHand::drag(const QMouseEvent&, Vec2 at) {
    pointer_ = at;
    if (!refining_.empty()) refining_.push_back(at);
    if (stroke_) moveTo(at);
    bench_.update();
}

void MaskHand::hover(Vec2 at) {
    pointer_ = at;
    bench_.update();
    Q_EMIT bench_.handChanged();
}

void MaskHand::release() {
    if (const std::vector<Vec2> way = std::exchange(refining_, {}); !way.empty()) {
        const LayerPtr one = document().selectedLayer();
        const auto toMask = one && one->mask ? placementMap(one->mask->placement).inverse() : std::nullopt;
        if (!toMask) return;
        const RoundTip tip = bench_.tip(std::sqrt(1 / std::abs(toMask->determinant())));
        return refine(strokeCover(way, tip, *toMask, frame(*one).bounds()));
    }
    if (!stroke_) return;
    const QString name = QString::fromStdString(stroke_->layer->name);
    stroke_.reset();
    settle(ComposeBench::tr("Paint on the mask of %1").arg(name));
}

bool MaskHand::cancel() {
    const bool was = stroke_.has_value() || !refining_.empty();
    stroke_.reset();
    refining_.clear();
    if (was) document().preview(nullptr);
    return bench_.work().cancel() || was;
}

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
    if (std::get<PaintedMask>(mask.form).shows != mask.inverted)
        for (uint8_t& v : map.values) v = static_cast<uint8_t>(255 - v);
    return map;
}

} // namespace

void MaskHand::refineEdge() {
    if (const QString why = whyNot(); !why.isEmpty()) return void(Q_EMIT document().refused(why));
    refine(std::nullopt);
}

void MaskHand::refine(std::optional<PixelTiles> brushed) {
    const LayerPtr one = document().selectedLayer();
    if (!one->mask)
        return void(Q_EMIT document().refused(
            ComposeBench::tr("There is no mask yet whose edge could be worked out.")));
    if (!std::holds_alternative<PaintedMask>(one->mask->form)) return makePaintable(one);
    const Mask mask = *one->mask;
    const auto toMask = placementMap(mask.placement).inverse();
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
    bench_.work().start(
        ComposeBench::tr("Working out the edge of %1").arg(name),
        [=, &engine, scene = aloneScene(document().release(), *one, false, *toMask, bounds),
         band = bench_.settings().edgeBand,
         tiles = std::get<PaintedMask>(mask.form).tiles](WorkControl& control) -> Result<AlphaMap> {
            auto shown = settledRendering(engine, scene, area, control);
            if (!shown) return cancelled();
            const Pyramid picture(std::move(*shown));
            CutoutOptions options;
            options.cancel = &control.cancel;
            options.progress = control.progress;
            const AlphaMap alpha = turned(valuesOf(*tiles, area), mask);
            return brushed ? refinedWhere(picture, alpha, valuesOf(*brushed, area), options)
                           : refinedEdge(picture, alpha, band, options);
        },
        [this, area, name, id = one->id, panel = document().panel()](const AlphaMap& shown) {
            setShown(id, panel, area, shown, ComposeBench::tr("Work out the edge of %1").arg(name));
        });
}

void MaskHand::firmEdge() {
    const LayerPtr one = document().selectedLayer();
    const auto* painted = one && one->mask ? std::get_if<PaintedMask>(&one->mask->form) : nullptr;
    if (!painted || one->locked)
        return void(Q_EMIT document().refused(
            ComposeBench::tr("Take a layer with a painted mask in hand, not locked.")));
    const IntRect area = painted->tiles->bounds();
    const HandSettings& settings = bench_.settings();
    bench_.work().start(
        ComposeBench::tr("Changing the edge"),
        [=, mask = *one->mask, tiles = painted->tiles, firmness = settings.edgeFirmness,
         outwards = settings.edgeOutwards](WorkControl&) {
            return Result<AlphaMap>(firmed(turned(valuesOf(*tiles, area), mask), firmness, outwards));
        },
        [this, area, id = one->id, panel = document().panel(),
         name = QString::fromStdString(one->name)](const AlphaMap& shown) {
            setShown(id, panel, area, shown, ComposeBench::tr("Firmer edge of %1").arg(name));
        });
}

void MaskHand::setShown(const std::string& id, const PanelRef& panel, const IntRect& area,
                        const AlphaMap& shown, const QString& name) {
    document().edit(name, withChangedLayer(document().release(), panel, id, [&](Layer& l) {
                        if (!l.mask || !std::holds_alternative<PaintedMask>(l.mask->form)) return;
                        Mask mask = *l.mask;
                        auto& painted = std::get<PaintedMask>(mask.form);
                        const AlphaMap kept = turned(shown, mask);
                        PixelTiles tiles = *painted.tiles;
                        tiles.change(area, [&](const PixelPart& part) {
                            for (int y = part.area.y; y < part.area.bottom(); ++y)
                                std::copy_n(kept.values.data() + size_t(y - area.y) * size_t(area.w) +
                                                size_t(part.area.x - area.x),
                                            part.area.w, part.row(y));
                        });
                        painted.tiles = std::make_shared<const PixelTiles>(std::move(tiles));
                        l.mask = std::make_shared<const Mask>(std::move(mask));
                    }));
}

bool MaskHand::wants(const QKeyEvent& event) const {
    return bench_.wantsBrushKey(event);
}

bool MaskHand::key(const QKeyEvent& event) {
    return bench_.brushKey(event);
}

void MaskHand::paint(QPainter& painter) {
    if (!refining_.empty()) paintStroke(painter, refining_, theme().accent);
    bench_.paintTip(painter, pointer_);
}

} // namespace glyptos
