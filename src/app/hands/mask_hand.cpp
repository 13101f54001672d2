#include "app/hands/mask_hand.h"

#include "app/bench/compose_bench.h"
#include "app/session/settled_pictures.h"
#include "app/widgets/theme.h"
#include "raster/stroke_cover.h"
#include "release/edits/cutout_edits.h"
#include "release/placing.h"
#include "render/cut_figure.h"
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
    if (bench_.settings().maskRuns)
        return ComposeBench::tr("Drag on the mask of %1: a run that fades out on the way.").arg(name);
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
    if (bench_.settings().maskRuns) {
        run_ = {at, at};
        return bench_.update();
    }
    begin(one, *paintedMask(one));
    if (!stroke_) return;
    if ((event.modifiers() & Qt::ShiftModifier) && last_ && lastOf_ == one->id) moveTo(*last_);
    moveTo(at);
}

std::optional<Mask> MaskHand::paintedMask(const LayerPtr& one) {
    if (one->mask) {
        if (std::holds_alternative<PaintedMask>(one->mask->form)) return *one->mask;
        makePaintable(one);
        return std::nullopt;
    }
    Mask mask;
    mask.form = PaintedMask{std::make_shared<const PixelTiles>(kMaskPixels), true};
    mask.placement.scaleX = mask.placement.scaleY = bench_.paintPixel();
    return mask;
}

namespace {

/// Whether a mask keeps 255 where it hides: by what a zero stands for, and by an inverted mask.
bool isTurned(const Mask& mask) {
    return std::get<PaintedMask>(mask.form).shows != mask.inverted;
}

/// How much shows, as a mask keeps it.
uint8_t keptValue(const Mask& mask, double shows) {
    return static_cast<uint8_t>(std::lround(255 * (isTurned(mask) ? 1 - shows : shows)));
}

Buffer<float> sharesIn(const std::optional<Selection>& keep, const Affine& toMask, const IntRect& area) {
    if (!keep) return {};
    return paintedShares(*keep->tiles, toMask * Affine::scaling(keep->pixel, keep->pixel), area);
}

} // namespace

void MaskHand::begin(const LayerPtr& one, const Mask& mask) {
    const auto toMask = placementMap(mask.placement).inverse();
    if (!toMask) return;
    const double pixel = std::sqrt(1 / std::abs(toMask->determinant()));
    stroke_.emplace(Stroke{one, mask, std::get<PaintedMask>(mask.form).tiles, *toMask,
                           BrushStroke(bench_.tip(pixel)), keptValue(mask, bench_.settings().maskValue),
                           bench_.selection().selection()});
}

void MaskHand::moveTo(Vec2 at) {
    const IntRect whole = pixelsAround(stroke_->toMask.mapBounds(bench_.panel()->withBleed()));
    const IntRect area = stroke_->brush.moveTo(stroke_->toMask.map(at)).intersected(whole);
    last_ = at;
    lastOf_ = stroke_->layer->id;
    if (area.empty()) return;
    const Buffer<float> keep = sharesIn(stroke_->keep, stroke_->toMask, area);
    const auto& before = std::get<PaintedMask>(stroke_->mask.form);
    PixelTiles tiles = *stroke_->now;
    mixStroke(tiles, *before.tiles, stroke_->brush,
              {stroke_->value, bench_.settings().brush.opacity, stroke_->keep ? keep.data() : nullptr}, area);
    stroke_->now = std::make_shared<const PixelTiles>(std::move(tiles));
    Layer next = *stroke_->layer;
    Mask mask = stroke_->mask;
    mask.form = PaintedMask{stroke_->now, before.shows};
    next.mask = std::make_shared<const Mask>(std::move(mask));
    change(stroke_->layer, next);
}

void MaskHand::drag(const QMouseEvent& event, Vec2 at) {
    pointer_ = at;
    if (!run_.empty()) {
        const Vec2 way = at - run_.front();
        run_.back() = !(event.modifiers() & Qt::ShiftModifier) ? at
                      : std::abs(way.x) > std::abs(way.y)      ? run_.front() + Vec2{way.x, 0}
                                                               : run_.front() + Vec2{0, way.y};
    }
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
    if (const std::vector<Vec2> run = std::exchange(run_, {}); !run.empty()) {
        bench_.update();
        if ((run.back() - run.front()).length() * bench_.zoom() >= kDragStarts) paintRun(run[0], run[1]);
        return;
    }
    if (!stroke_) return;
    const QString name = QString::fromStdString(stroke_->layer->name);
    stroke_.reset();
    settle(ComposeBench::tr("Paint on the mask of %1").arg(name));
}

bool MaskHand::cancel() {
    if (stroke_) document().preview(nullptr);
    const bool was = stroke_.has_value() || !refining_.empty() || !run_.empty();
    stroke_.reset();
    refining_.clear();
    run_.clear();
    bench_.update();
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
    if (isTurned(mask))
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
            std::get<PaintedMask>(next.form).tiles = made.tiles;
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
        const Buffer<float> shares = sharesIn(keep, *toMask, area);
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

bool MaskHand::wants(const QKeyEvent& event) const {
    return bench_.wantsBrushKey(event);
}

bool MaskHand::key(const QKeyEvent& event) {
    return bench_.brushKey(event);
}

void MaskHand::paint(QPainter& painter) {
    if (!refining_.empty()) paintStroke(painter, refining_, theme().accent);
    if (!bench_.settings().maskRuns || bench_.settings().refines) return bench_.paintTip(painter, pointer_);
    if (run_.empty()) return;
    // Where the run paints, and how much.
    const LayerPtr one = document().selectedLayer();
    const QPointF from = toQt(inView(run_[0])), to = toQt(inView(run_[1]));
    if (!one || from == to) return;
    QLinearGradient shade(from, to);
    QColor colour = bench_.settings().maskValue < 0.5 ? QColor(Qt::black) : theme().accent;
    colour.setAlpha(150);
    shade.setColorAt(0, colour);
    colour.setAlpha(0);
    shade.setColorAt(1, colour);
    QPolygonF outline;
    for (const Vec2& c : frame(*one).corners()) outline << toQt(inView(c));
    painter.setPen(Qt::NoPen);
    painter.setBrush(shade);
    painter.drawPolygon(outline);
    paintWay(painter, inView(run_[0]), inView(run_[1]));
    paintRoundGrip(painter, inView(run_[0]));
    paintSmallGrip(painter, inView(run_[1]));
}

} // namespace glyptos
