#include "app/hands/mask_hand.h"

#include "app/bench/compose_bench.h"
#include "app/widgets/theme.h"
#include "raster/brush/paint_mix.h"
#include "release/edits/edits.h"
#include "release/placing.h"

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
    if (bench_.settings().refines && !one->mask)
        return void(Q_EMIT document().refused(
            ComposeBench::tr("There is no mask yet whose edge could be worked out.")));
    const auto mask = paintedMask(one);
    if (!mask) return;
    if (bench_.settings().refines) {
        refining_ = {at};
        return bench_.update();
    }
    if (bench_.settings().maskRuns) {
        run_ = {at, at};
        return bench_.update();
    }
    begin(one, *mask);
    if (!stroke_) return;
    if ((event.modifiers() & Qt::ShiftModifier) && last_ && lastOf_ == one->id) moveTo({*last_});
    moveTo(felt_);
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

void MaskHand::begin(const LayerPtr& one, const Mask& mask) {
    const auto toMask = placementMap(mask.placement).inverse();
    if (!toMask) return;
    const double unit = std::sqrt(1 / std::abs(toMask->determinant()));
    const bool asPaint = bench_.settings().maskAsPaint;
    const Brush brush = asPaint ? bench_.paintBrush(unit) : bench_.tip(unit);
    auto looks = asPaint ? bench_.stampLooks(brush.diameter) : Result<std::vector<StampLook>>();
    if (!looks) return void(Q_EMIT document().refused(QString::fromStdString(looks.error().message)));
    const IntRect whole = pixelsAround(toMask->mapBounds(bench_.panel()->withBleed()));
    stroke_.emplace(Stroke{one, mask, std::get<PaintedMask>(mask.form).tiles, *toMask,
                           PaintedStroke(brush, tipLook(brush, {}, std::move(*looks)), whole),
                           keptValue(mask, bench_.settings().maskValue),
                           asPaint ? brush.opacity : bench_.settings().brush.opacity,
                           bench_.selection().selection()});
}

void MaskHand::moveTo(const PenSample& sample) {
    PenSample there = sample;
    there.at = stroke_->toMask.map(sample.at);
    const IntRect area = stroke_->brush.moveTo(there);
    last_ = sample.at;
    lastOf_ = stroke_->layer->id;
    if (area.empty()) return;
    const Buffer<float> keep = selectedShares(stroke_->keep, stroke_->toMask, area);
    const auto& before = std::get<PaintedMask>(stroke_->mask.form);
    PixelTiles tiles = *stroke_->now;
    mixDabs(tiles, *before.tiles, stroke_->brush.cover(),
            MaskPaint{stroke_->value, stroke_->opacity, stroke_->keep ? keep.data() : nullptr}, area);
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
    if (stroke_) moveTo(felt_);
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
        const Brush tip = bench_.tip(std::sqrt(1 / std::abs(toMask->determinant())));
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
