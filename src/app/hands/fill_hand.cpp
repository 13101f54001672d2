#include "app/hands/fill_hand.h"

#include "app/bench/compose_bench.h"
#include "app/widgets/colour_popup.h"
#include "app/widgets/colours.h"
#include "app/widgets/form_rows.h"
#include "app/widgets/theme.h"
#include "release/edits/edits.h"
#include "release/placing.h"

#include <QColorDialog>
#include <QCursor>
#include <cmath>

namespace glyptos {
namespace {

constexpr double kLetGo = 40; // px from its run at which a stop is let go

Paint* paintOf(Layer& layer) {
    if (auto* fill = std::get_if<FillContent>(&layer.content)) return &fill->paint;
    auto* shape = std::get_if<ShapeContent>(&layer.content);
    return shape && shape->fill ? &*shape->fill : nullptr;
}

} // namespace

bool FillHand::isBetween() const {
    return bench_.settings().fill.between;
}

void FillHand::hover(Vec2) {
    if (isBetween()) Q_EMIT bench_.handChanged();
}

QString FillHand::sentence() const {
    if (isBetween()) return areas_.sentence();
    return gradient()
               ? ComposeBench::tr("Drag the ends and the colours; double-click adds a colour or changes one.")
               : ComposeBench::tr("Drag to lay a gradient from one point to another.");
}

std::optional<FillHand::InHand> FillHand::gradient() const {
    const LayerPtr one = layer();
    if (!one) return std::nullopt;
    if (document().maskInHand()) {
        const auto* run = std::get_if<Gradient>(&one->mask->form);
        return run ? std::optional(InHand{*run, placementMap(one->mask->placement)}) : std::nullopt;
    }
    Layer copy = *one;
    const Paint* paint = paintOf(copy);
    const auto* run = paint ? std::get_if<Gradient>(paint) : nullptr;
    if (!run) return std::nullopt;
    return InHand{*run, one->as<FillContent>() ? Affine{} : placementMap(one->placement)};
}

void FillHand::set(const LayerPtr& layer, const Gradient& gradient) {
    Layer next = *layer;
    if (document().maskInHand()) {
        Mask mask = *next.mask;
        mask.form = gradient;
        next.mask = std::make_shared<const Mask>(std::move(mask));
    } else if (Paint* paint = paintOf(next)) {
        *paint = gradient;
    }
    change(layer, next);
}

std::pair<FillHand::Grip, size_t> FillHand::gripAt(QPointF p) const {
    const auto now = gradient();
    if (!now) return {Grip::None, 0};
    const Affine map = bench_.toView() * now->toPanel;
    const Vec2 at{p.x(), p.y()};
    const Gradient& g = now->gradient;
    // Inner stops can lie on the ends, which are the larger targets.
    for (size_t i = 0; i < g.stops.size(); ++i) {
        const bool end = !goesRound(g) && (g.stops[i].at <= 0 || g.stops[i].at >= 1);
        if (!end && (at - map.map(stopPlace(g, g.stops[i].at))).length() < kGripReach) return {Grip::Stop, i};
    }
    if ((at - map.map(g.to)).length() < kGripReach + 2) return {Grip::To, 0};
    if ((at - map.map(g.from)).length() < kGripReach + 2) return {Grip::From, 0};
    return {Grip::None, 0};
}

void FillHand::press(const QMouseEvent& event, Vec2 at) {
    if (isBetween()) return areas_.press(at);
    std::tie(grip_, stop_) = gripAt(event.position());
    from_ = at;
    moving_ = false;
    start_ = layer();
    made_.clear();
    held_ = gradient();
    if (grip_ == Grip::None && !held_) grip_ = Grip::New;
}

/// A gradient from the layer's colour to nothing; a new fill when the layer in hand has no paint.
void FillHand::start(Vec2 from, Vec2 to) {
    const bool ownPaint = start_ && [this] {
        Layer copy = *start_;
        return paintOf(copy) != nullptr;
    }();
    Ink first = fromQt(Theme::day().ink);
    Affine back;
    if (ownPaint) {
        Layer copy = *start_;
        if (const auto* colour = std::get_if<Ink>(paintOf(copy))) first = *colour;
        if (start_->as<ShapeContent>()) back = placementMap(start_->placement).inverse().value_or(Affine{});
    }
    Ink last = first;
    last.a = 0;
    Gradient run;
    run.from = back.map(from), run.to = back.map(to);
    run.stops = {{0, first}, {1, last}};
    if (ownPaint) return set(start_, run);
    Layer fill;
    fill.name = ComposeBench::tr("Gradient").toStdString();
    fill.content = FillContent{run};
    const Made laid = withLayer(document().release(), document().panel(), fill, document().layer());
    made_ = laid.id;
    document().preview(laid);
}

void FillHand::drag(const QMouseEvent&, Vec2 at) {
    if (isBetween()) return areas_.drag(at);
    if (grip_ == Grip::None || (!moving_ && (at - from_).length() * bench_.zoom() < kDragStarts)) return;
    moving_ = true;
    if (grip_ == Grip::New) return start(from_, at);
    if (!start_) return;
    auto now = held_;
    const auto back = now ? now->toPanel.inverse() : std::nullopt;
    if (!back) return;
    Gradient& g = now->gradient;
    const Vec2 to = back->map(at);
    if (grip_ == Grip::To) {
        g.to = to;
    } else if (grip_ == Grip::From) {
        // What goes round is moved as a whole, a line by its end.
        if (g.kind != GradientKind::Linear) g.to = g.to + (to - g.from);
        g.from = to;
    } else {
        GradientStop held = g.stops[stop_];
        held.at = nearestOnRun(g, to);
        const Affine view = bench_.toView() * now->toPanel;
        const bool away =
            g.stops.size() > 2 && (view.map(to) - view.map(stopPlace(g, held.at))).length() > kLetGo;
        g.stops.erase(g.stops.begin() + ptrdiff_t(stop_));
        if (!away) putStop(g.stops, held);
    }
    set(start_, g);
}

void FillHand::release() {
    if (isBetween()) return areas_.release();
    const Grip done = std::exchange(grip_, Grip::None);
    if (!std::exchange(moving_, false)) return;
    settle(done == Grip::New ? ComposeBench::tr("Lay a gradient") : ComposeBench::tr("Place a gradient"));
    if (!made_.empty()) document().selectLayer(made_);
    Q_EMIT bench_.handChanged();
}

bool FillHand::cancel() {
    if (areas_.cancel()) return true;
    if (!std::exchange(moving_, false)) return false;
    grip_ = Grip::None;
    document().preview(nullptr);
    return true;
}

void FillHand::doubleClick(Vec2 at) {
    if (isBetween()) return;
    auto now = gradient();
    const auto back = now ? now->toPanel.inverse() : std::nullopt;
    if (!back) return;
    const Vec2 here = inView(at);
    const auto [grip, stop] = gripAt({here.x, here.y});
    if (grip == Grip::Stop) return chooseColour(stop);
    if (grip == Grip::From && !goesRound(now->gradient)) return chooseColour(0);
    if (grip == Grip::To && !goesRound(now->gradient)) return chooseColour(now->gradient.stops.size() - 1);
    const double t = nearestOnRun(now->gradient, back->map(at));
    const Affine view = bench_.toView() * now->toPanel;
    if ((view.map(stopPlace(now->gradient, t)) - here).length() > 2 * kGripReach) return;
    auto& stops = now->gradient.stops;
    putStop(stops, {t, colourAlong(stops, t)});
    set(layer(), now->gradient);
    settle(ComposeBench::tr("Add a colour to the gradient"));
}

/// From the release's palette, where there is one, or freely.
void FillHand::chooseColour(size_t stop) {
    const auto& palette = document().release()->palette;
    if (palette.empty()) return chooseFreely(stop);
    const auto now = gradient();
    auto* popup = new ColourPopup(palette, now->gradient.stops[stop].colour, &bench_);
    QObject::connect(popup, &ColourPopup::chosen, &bench_,
                     [this, one = layer(), stop, run = now->gradient](const Ink& ink) {
                         Gradient g = run;
                         g.stops[stop].colour = ink;
                         set(one, g);
                         settle(ComposeBench::tr("Colour of a gradient"));
                     });
    QObject::connect(popup, &ColourPopup::otherAsked, &bench_, [this, stop] { chooseFreely(stop); });
    popup->popUpAt(QCursor::pos());
}

/// The colour of a stop, seen in the art while it is being chosen.
void FillHand::chooseFreely(size_t stop) {
    const auto now = gradient();
    const LayerPtr one = layer();
    QColorDialog* dialog = colourChooser(toQt(now->gradient.stops[stop].colour), &bench_);
    const auto show = [this, one, stop, run = now->gradient](const QColor& colour) {
        Gradient g = run;
        g.stops[stop].colour = fromQt(colour);
        set(one, g);
    };
    QObject::connect(dialog, &QColorDialog::currentColorChanged, &bench_, show);
    QObject::connect(dialog, &QColorDialog::rejected, &bench_, [this] { document().preview(nullptr); });
    QObject::connect(dialog, &QColorDialog::colorSelected, &bench_, [this, show](const QColor& colour) {
        show(colour);
        settle(ComposeBench::tr("Colour of a gradient"));
    });
    dialog->open();
}

void FillHand::paint(QPainter& painter) {
    if (isBetween()) return areas_.paint(painter);
    const auto now = gradient();
    if (!now) return;
    const Gradient& g = now->gradient;
    const Affine map = bench_.toView() * now->toPanel;
    const Vec2 from = map.map(g.from), to = map.map(g.to);
    paintWay(painter, from, to);
    if (g.kind != GradientKind::Linear) {
        painter.setBrush(Qt::NoBrush);
        QPolygonF ring;
        for (int i = 0; i <= 72; ++i) {
            const Vec2 p = map.map(g.from + Affine::rotation(i * 5).mapVector(g.to - g.from));
            ring << QPointF(p.x, p.y);
        }
        painter.setPen(QPen(QColor(255, 255, 255, 150), 3));
        painter.drawPolyline(ring);
        painter.setPen(QPen(theme().accent, 1, Qt::DashLine));
        painter.drawPolyline(ring);
    }
    paintSquareGrip(painter, from);
    if (goesRound(g)) paintSquareGrip(painter, to);
    for (const GradientStop& stop : g.stops) {
        QColor colour = toQt(stop.colour);
        colour.setAlpha(255);
        paintRoundGrip(painter, map.map(stopPlace(g, stop.at)), colour);
    }
}

} // namespace glyptos
