#include "app/hands/paint/paint_hand.h"

#include "app/bench/compose_bench.h"
#include "app/widgets/colours.h"
#include "app/widgets/theme.h"
#include "release/edits/brush_edits.h"
#include "release/placing.h"

#include <QTimerEvent>
#include <cmath>

namespace glyptos {
namespace {

constexpr int kBuildMs = 25;
constexpr double kSteadyPx = 160; // of the screen, of the way on which the shakiest hand is smoothed

/// The groups that a layer lies in, outermost first, and the layer itself.
bool wayTo(const Stack& stack, const std::string& id, std::vector<LayerPtr>& out) {
    for (const LayerPtr& layer : stack) {
        out.push_back(layer);
        if (layer->id == id) return true;
        const auto* group = layer->as<GroupContent>();
        if (group && wayTo(group->layers, id, out)) return true;
        out.pop_back();
    }
    return false;
}

} // namespace

QString PaintHand::whyNotOn(const LayerPtr& one) const {
    std::vector<LayerPtr> way;
    wayTo(stackOf(*document().shown(), document().panel()), one->id, way);
    const bool onItself = isPaintLayer(*one) && !bench_.settings().paint.keepsCurves;
    for (const LayerPtr& layer : way) {
        const QString name = QString::fromStdString(layer->name);
        const bool isItself = layer == way.back();
        if (isItself && !onItself) continue; // a new layer in front of it is painted on
        if (!layer->on && isItself)
            return ComposeBench::tr("%1 is switched off, so a stroke would not be seen.").arg(name);
        if (!layer->on)
            return ComposeBench::tr(
                       "The group %1, in which that lies, is switched off, so a stroke would not be seen.")
                .arg(name);
        if (layer->locked && (isItself || onItself))
            return ComposeBench::tr("%1 is locked, so a stroke would do nothing.").arg(name);
        if (layer->warp)
            return ComposeBench::tr(
                       "%1 is bent. Paint on a layer in front of it, and group them to bend both.")
                .arg(name);
    }
    return {};
}

QString PaintHand::whyNot() const {
    if (!bench_.panel()) return ComposeBench::tr("There is no panel to paint on.");
    if (document().layers().size() > 1)
        return ComposeBench::tr("Take one layer in hand to paint on or in front of.");
    if (const LayerPtr one = document().selectedLayer())
        if (QString why = whyNotOn(one); !why.isEmpty()) return why;
    const Brush brush = bench_.paintBrush(1);
    if (!bench_.panel()->withBleed().grown(brush.diameter / 2).contains(pointer_))
        return ComposeBench::tr("Outside the panel there is nothing to paint on.");
    const auto selection = bench_.selection().selection();
    if (selection && bench_.settings().paint.symmetry.kind == Symmetry::Kind::None &&
        !selection->tiles->bounds()
             .toRect()
             .grown(reachOf(brush) / selection->pixel)
             .contains(pointer_ * (1 / selection->pixel)))
        return ComposeBench::tr("Here nothing is selected, so a stroke would do nothing.");
    return {};
}

QString PaintHand::sentence() const {
    if (pointer_.x > -1e5)
        if (QString why = whyNot(); !why.isEmpty()) return why;
    const PaintSettings& paint = bench_.settings().paint;
    const LayerPtr one = document().selectedLayer();
    const QString brush = brushWord();
    if (paint.keepsCurves)
        return ComposeBench::tr("Draws lines of %1 that can be changed afterwards.").arg(brush);
    const QString name = one ? QString::fromStdString(one->name) : QString();
    return one && isPaintLayer(*one)
               ? ComposeBench::tr("%1 on %2. Shift: straight, Ctrl: by 15°. V takes a colour.")
                     .arg(brush, name)
           : one ? ComposeBench::tr("%1 on a new layer in front of %2. V takes a colour.").arg(brush, name)
                 : ComposeBench::tr("%1 on a new layer. V takes a colour.").arg(brush);
}

Symmetry PaintHand::symmetryIn(const Affine& toLayer) const {
    Symmetry out = bench_.settings().paint.symmetry;
    const Panel& panel = *bench_.panel();
    const double k = toLayer.scaleX();
    out.centre = toLayer.map(Vec2{panel.width / 2, panel.height / 2} + out.centre);
    out.tile = {out.tile.x * k, out.tile.y * k};
    return out;
}

bool PaintHand::begin() {
    const PaintSettings& settings = bench_.settings().paint;
    const double pixel = bench_.paintPixel();
    // What is kept as a line is seen while it is drawn, in front of the layer in hand.
    Layer sketch = newPaintLayer(pixel);
    sketch.blend = settings.brush.brush.blend;
    const Made on =
        settings.keepsCurves
            ? withLayer(document().release(), document().panel(), std::move(sketch), document().layer())
            : withPaintLayer(document().release(), document().panel(), document().layer(), pixel);
    const LayerPtr layer = findLayer(stackOf(*on.release, document().panel()), on.id);
    const auto toLayer = layer ? placementMap(layer->placement).inverse() : std::nullopt;
    if (!toLayer) return false;
    const double unit = std::sqrt(1 / std::abs(toLayer->determinant()));
    Brush brush = bench_.paintBrush(unit);
    if (bench_.isPenErasing()) brush.way = PaintWay::Erase;
    auto looks = bench_.stampLooks(brush.diameter);
    if (!looks) {
        Q_EMIT document().refused(QString::fromStdString(looks.error().message));
        return false;
    }
    const Ink& ink = settings.colour;
    const std::array<float, 3> colour{ink.r, ink.g, ink.b};
    const IntRect whole = pixelsAround(toLayer->mapBounds(bench_.panel()->withBleed()));
    const PixelTilesPtr tiles = layer->as<PaintedContent>()->tiles;
    LayerPaint paint{colour, brush.opacity * double(ink.a), brush.way, brush.blend};
    if (settings.keepsCurves) paint.way = PaintWay::Over, paint.blend = BlendMode::Normal;
    stroke_.emplace(Stroke{document().layer(),
                           on,
                           QString::fromStdString(layer->name),
                           tiles,
                           tiles,
                           *toLayer,
                           PaintedStroke(brush, tipLook(brush, colour, std::move(*looks)), whole,
                                         brush.steadying * kSteadyPx / bench_.zoom() / unit,
                                         copiesOf(symmetryIn(*toLayer), whole.toRect())),
                           paint,
                           bench_.selection().selection(),
                           {},
                           {}});
    return true;
}

void PaintHand::press(const QMouseEvent& event, Vec2 at) {
    pointer_ = at;
    if (const QString why = whyNot(); !why.isEmpty()) return void(Q_EMIT document().refused(why));
    if (event.modifiers() & Qt::ShiftModifier) {
        const Vec2 from = last_ && lastOf_ == document().panel() ? *last_ : at;
        line_ = {from, at};
        line_[1] = lineEnd(at, event.modifiers());
        return bench_.update();
    }
    if (!begin()) return;
    moveTo(felt_);
    if (bench_.settings().paint.brush.brush.buildUp > 0) building_.start(kBuildMs, this);
}

/// Where a straight line to there ends: with Ctrl at a multiple of 15°.
Vec2 PaintHand::lineEnd(Vec2 to, Qt::KeyboardModifiers keys) const {
    const Vec2 way = to - line_.front();
    if (!(keys & Qt::ControlModifier) || way.length() == 0) return to;
    constexpr double kStep = std::numbers::pi / 12;
    const double angle = std::round(std::atan2(way.y, way.x) / kStep) * kStep;
    return line_.front() + Vec2{std::cos(angle), std::sin(angle)} * way.length();
}

void PaintHand::moveTo(const PenSample& sample) {
    PenSample there = sample;
    there.at = stroke_->toLayer.map(sample.at);
    show(stroke_->brush.moveTo(there));
    const auto tip = stroke_->brush.tip();
    const auto back = stroke_->toLayer.inverse();
    if (tip && back) {
        stroke_->way.push_back(back->map(*tip));
        stroke_->pressures.push_back(float(std::clamp(sample.pressure, 0.0, 1.0)));
    }
    last_ = sample.at;
    lastOf_ = document().panel();
}

void PaintHand::show(const IntRect& area) {
    if (area.empty()) return;
    const Buffer<float> keep = selectedShares(stroke_->keep, stroke_->toLayer, area);
    stroke_->paint.keep = stroke_->keep ? keep.data() : nullptr;
    PixelTiles tiles = *stroke_->now;
    mixDabs(tiles, *stroke_->before, stroke_->brush.cover(), stroke_->paint, area);
    stroke_->now = std::make_shared<const PixelTiles>(std::move(tiles));
    document().preview(
        withChangedLayer(stroke_->on.release, document().panel(), stroke_->on.id,
                         [&](Layer& l) { std::get<PaintedContent>(l.content).tiles = stroke_->now; }));
}

void PaintHand::timerEvent(QTimerEvent*) {
    if (!stroke_) return building_.stop();
    show(stroke_->brush.dwell(kBuildMs / 1000.0));
}

void PaintHand::drag(const QMouseEvent& event, Vec2 at) {
    pointer_ = at;
    if (!line_.empty()) line_[1] = lineEnd(at, event.modifiers());
    if (stroke_) moveTo(felt_);
    bench_.update();
}

void PaintHand::hover(Vec2 at) {
    pointer_ = at;
    bench_.update();
    Q_EMIT bench_.handChanged();
}

void PaintHand::release() {
    building_.stop();
    if (const std::vector<Vec2> line = std::exchange(line_, {}); !line.empty()) {
        bench_.update();
        if (!begin()) return;
        moveTo({line[0]});
        moveTo({line[1]});
    }
    if (!stroke_) return;
    show(stroke_->brush.finish());
    const Stroke stroke = std::move(*stroke_);
    stroke_.reset();
    bench_.update();
    if (bench_.settings().paint.keepsCurves) return keepAsLine(stroke);
    if (*stroke.now == *stroke.before) {
        document().preview(nullptr);
        return void(Q_EMIT document().refused(ComposeBench::tr("That stroke changed nothing.")));
    }
    // Laid into the release as that is by now: something may have arrived meanwhile.
    const Made now =
        withPaintLayer(document().release(), document().panel(), stroke.inHand, bench_.paintPixel());
    document().editMaking(
        ComposeBench::tr("Paint on %1 with %2").arg(stroke.name, brushWord()),
        Made{withChangedLayer(now.release, document().panel(), now.id,
                              [&](Layer& l) { std::get<PaintedContent>(l.content).tiles = stroke.now; }),
             now.id});
}

bool PaintHand::cancel() {
    building_.stop();
    const bool was = stroke_ || !line_.empty();
    if (stroke_) document().preview(nullptr);
    stroke_.reset();
    line_.clear();
    bench_.update();
    return was;
}

bool PaintHand::wants(const QKeyEvent& event) const {
    return bench_.wantsBrushKey(event) || (event.key() == Qt::Key_V && event.modifiers() == Qt::NoModifier);
}

void PaintHand::pickColour() {
    const QColor colour = bench_.colourAt(toQt(inView(pointer_)));
    if (!colour.isValid()) return;
    HandSettings next = bench_.settings();
    next.paint.colour = Ink(fromQt(QColor(colour.rgb())));
    bench_.setSettings(next);
}

bool PaintHand::key(const QKeyEvent& event) {
    if (event.key() == Qt::Key_V && event.modifiers() == Qt::NoModifier) {
        pickColour();
        return true;
    }
    return bench_.brushKey(event);
}

void PaintHand::paint(QPainter& painter) {
    const Brush brush = bench_.paintBrush(1);
    const double turn = brush.turn * std::numbers::pi / 180, half = brush.diameter / 2;
    const Affine shape = Affine::translation(pointer_.x, pointer_.y) *
                         Affine::rotation(turn * 180 / std::numbers::pi) *
                         Affine::scaling(half, half * brush.roundness);
    painter.setBrush(Qt::NoBrush);
    painter.save();
    QPainterPath rim;
    rim.addEllipse(QPointF(0, 0), 1, 1);
    const QPainterPath seen = toQt(bench_.toView() * shape).map(rim);
    painter.setPen(QPen(QColor(255, 255, 255, 170), 2.4));
    painter.drawPath(seen);
    painter.setPen(QPen(theme().accent, 1));
    painter.drawPath(seen);
    painter.restore();
    const Symmetry symmetry = symmetryIn({});
    if (symmetry.kind != Symmetry::Kind::None) {
        const Vec2 way = Affine::rotation(symmetry.turn).mapVector({0, bench_.panel()->withBleed().h});
        if (symmetry.kind == Symmetry::Kind::Axis)
            paintWay(painter, inView(symmetry.centre - way), inView(symmetry.centre + way));
        paintSmallGrip(painter, inView(symmetry.centre));
    }
    if (!line_.empty()) paintWay(painter, inView(line_[0]), inView(line_[1]));
    // Where the tip lags behind, the pointer's true place and the way between.
    const auto back = stroke_ ? stroke_->toLayer.inverse() : std::nullopt;
    if (back && stroke_->brush.tip())
        if (const Vec2 tip = back->map(*stroke_->brush.tip());
            (tip - pointer_).length() * bench_.zoom() > 3) {
            paintWay(painter, inView(tip), inView(pointer_));
            paintSmallGrip(painter, inView(pointer_));
        }
}

} // namespace glyptos
