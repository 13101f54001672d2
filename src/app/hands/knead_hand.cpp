#include "app/hands/knead_hand.h"

#include "app/bench/compose_bench.h"
#include "release/edits/edits.h"
#include "vision/select/alpha_edges.h"

#include <QTimerEvent>
#include <cmath>

namespace glyptos {
namespace {

constexpr int kDwellMs = 40;

QString nameOf(KneadWay way) {
    switch (way) {
    case KneadWay::Push:
        return ComposeBench::tr("Push");
    case KneadWay::Spin:
    case KneadWay::SpinBack:
        return ComposeBench::tr("Spin");
    case KneadWay::Gather:
        return ComposeBench::tr("Gather");
    case KneadWay::Spread:
        return ComposeBench::tr("Spread");
    case KneadWay::Smooth:
        return ComposeBench::tr("Smooth the kneading of");
    case KneadWay::Restore:
        return ComposeBench::tr("Restore");
    }
    return {};
}

/// With Alt each does what undoes it.
KneadWay turnedRound(KneadWay way) {
    switch (way) {
    case KneadWay::Spin:
        return KneadWay::SpinBack;
    case KneadWay::SpinBack:
        return KneadWay::Spin;
    case KneadWay::Gather:
        return KneadWay::Spread;
    case KneadWay::Spread:
        return KneadWay::Gather;
    default:
        return KneadWay::Restore;
    }
}

} // namespace

QString KneadHand::sentence() const {
    if (QString why = whyNotWarped(bench_); !why.isEmpty()) return why;
    const QString name = QString::fromStdString(document().selectedLayer()->name);
    switch (bench_.settings().knead.way) {
    case KneadWay::Push:
        return ComposeBench::tr("Drag to push %1 along. Alt restores what is under the tip.").arg(name);
    case KneadWay::Smooth:
        return ComposeBench::tr("Drag or hold to calm the kneading of %1.").arg(name);
    case KneadWay::Restore:
        return ComposeBench::tr("Drag or hold to bring %1 back to what it was.").arg(name);
    default:
        return ComposeBench::tr("Drag or hold on %1. Alt does it the other way round.").arg(name);
    }
}

std::function<float(Vec2)> KneadHand::freedom(const WarpedLayer& meant, double radius) const {
    const auto selection = bench_.selection().selection();
    if (!selection) return {};
    constexpr int kAcross = 192; // samples: it falls off over several of them
    const int down = std::max(2, int(std::lround(kAcross * meant.box.h / meant.box.w)));
    Warp seen = meant.warp;
    seen.knead = nullptr;
    const Mapping toPixels = Mapping(Affine::scaling(1 / selection->pixel, 1 / selection->pixel)) *
                             Mapping(meant.placed) * mappingOf(seen, meant.box);
    auto values = std::make_shared<AlphaMap>(kAcross, down);
    for (int y = 0; y < down; ++y)
        for (int x = 0; x < kAcross; ++x) {
            const Vec2 at{meant.box.x + (x + 0.5) / kAcross * meant.box.w,
                          meant.box.y + (y + 0.5) / down * meant.box.h};
            const auto there = toPixels.map(at);
            uint8_t value = 0;
            if (there)
                selection->tiles->readRow(wholePixel(std::floor(there->x)), wholePixel(std::floor(there->y)),
                                          1, &value);
            values->at(x, y) = value;
        }
    // Inwards, so that what is not selected stays.
    const double soft = std::clamp(radius * kAcross / 8, 2.0, 12.0);
    *values = feathered(grown(*values, -soft), soft);
    return [values, across = double(kAcross)](Vec2 at) {
        const double x = std::clamp(at.x * across - 0.5, 0.0, values->width - 1.001),
                     y = std::clamp(at.y * across - 0.5, 0.0, values->height - 1.001);
        const int left = int(x), top = int(y);
        const double fx = x - left, fy = y - top;
        const auto row = [&](int j) { return values->at(left, j) * (1 - fx) + values->at(left + 1, j) * fx; };
        return float((row(top) * (1 - fy) + row(top + 1) * fy) / 255);
    };
}

KneadTip KneadHand::tip(const WarpedLayer& meant, bool isTurnedRound) const {
    const KneadSettings& settings = bench_.settings().knead;
    KneadTip out;
    out.way = isTurnedRound ? turnedRound(settings.way) : settings.way;
    const double scale = std::sqrt(std::abs(meant.placed.determinant())); // panel units for one of the frame
    out.radius = std::max(bench_.tip(1).diameter / 2 / scale / meant.box.w, 1e-4);
    out.strength = settings.strength;
    out.height = meant.box.h / meant.box.w;
    out.holdEdges = settings.holdEdges;
    out.freedom = freedom(meant, out.radius);
    return out;
}

void KneadHand::press(const QMouseEvent& event, Vec2 at) {
    pointer_ = at;
    if (const QString why = whyNotWarped(bench_); !why.isEmpty()) return void(Q_EMIT document().refused(why));
    const auto meant = warpedLayer(bench_);
    const KneadField before = meant->warp.knead ? *meant->warp.knead : KneadField{};
    const KneadTip how = tip(*meant, event.modifiers() & Qt::AltModifier);
    stroke_.emplace(Stroke{*meant, KneadStroke(before, how), how.way});
    moveTo(at);
    dwelling_.start(kDwellMs, this);
}

void KneadHand::moveTo(Vec2 at) {
    const auto share = stroke_->meant.toKneaded(at);
    if (!share) return;
    stroke_->stroke.moveTo({share->x, share->y * stroke_->meant.box.h / stroke_->meant.box.w});
    show();
}

void KneadHand::show() {
    Warp next = stroke_->meant.warp;
    const KneadField& field = stroke_->stroke.field();
    next.knead = field.empty() ? nullptr : std::make_shared<const KneadField>(field);
    change(stroke_->meant.layer, stroke_->meant.with(std::move(next)));
}

void KneadHand::timerEvent(QTimerEvent*) {
    if (!stroke_) return dwelling_.stop();
    if (stroke_->way == KneadWay::Push) return;
    stroke_->stroke.dwell();
    show();
}

void KneadHand::drag(const QMouseEvent&, Vec2 at) {
    pointer_ = at;
    if (stroke_) moveTo(at);
    bench_.update();
}

void KneadHand::hover(Vec2 at) {
    pointer_ = at;
    bench_.update();
    Q_EMIT bench_.handChanged();
}

void KneadHand::release() {
    dwelling_.stop();
    if (!stroke_) return;
    stroke_->stroke.finish();
    show();
    const QString name = QString::fromStdString(stroke_->meant.layer->name);
    const KneadWay way = stroke_->way;
    const auto& before = stroke_->meant.warp.knead;
    const KneadField now = stroke_->stroke.field();
    const bool isAsBefore = before ? *before->shifts == *now.shifts : now.empty();
    stroke_.reset();
    if (isAsBefore) return document().preview(nullptr);
    settle(ComposeBench::tr("%1 %2").arg(nameOf(way), name));
}

bool KneadHand::cancel() {
    dwelling_.stop();
    if (!stroke_) return false;
    stroke_.reset();
    document().preview(nullptr);
    return true;
}

bool KneadHand::wants(const QKeyEvent& event) const {
    return bench_.wantsBrushKey(event);
}

bool KneadHand::key(const QKeyEvent& event) {
    return bench_.brushKey(event);
}

void KneadHand::paint(QPainter& painter) {
    bench_.paintTip(painter, pointer_);
}

std::shared_ptr<const KneadField> KneadHand::field() const {
    const auto meant = bench_.panel() ? warpedLayer(bench_) : std::nullopt;
    return meant ? meant->warp.knead : nullptr;
}

void KneadHand::changeField(const QString& name, const QString& merge,
                            const std::function<void(KneadField&)>& change) {
    const auto meant = warpedLayer(bench_);
    if (!meant || !meant->warp.knead || meant->layer->locked)
        return void(Q_EMIT document().refused(ComposeBench::tr("The layer in hand is not kneaded.")));
    KneadField field = *meant->warp.knead;
    change(field);
    Warp next = meant->warp;
    next.knead = field.empty() ? nullptr : std::make_shared<const KneadField>(field);
    document().edit(name.arg(QString::fromStdString(meant->layer->name)),
                    withChangedLayer(document().release(), document().panel(), meant->layer->id,
                                     [&](Layer& l) { l = meant->with(std::move(next)); }),
                    merge);
}

void KneadHand::setStrength(double strength, bool settled) {
    changeField(ComposeBench::tr("Strength of the kneading of %1"), QStringLiteral("kneading"),
                [&](KneadField& f) { f.strength = strength; });
    if (settled) document().settle();
}

void KneadHand::setPulledIn(PulledIn how) {
    changeField(ComposeBench::tr("Edge of the kneaded %1"), {}, [&](KneadField& f) { f.pulledIn = how; });
}

void KneadHand::unknead() {
    changeField(ComposeBench::tr("Unknead %1"), {}, [](KneadField& f) { f = {}; });
}

} // namespace glyptos
