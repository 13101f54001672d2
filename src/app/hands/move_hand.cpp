#include "app/hands/move_hand.h"

#include "app/bench/compose_bench.h"
#include "app/widgets/theme.h"
#include "release/edits/edits.h"
#include "release/placing.h"

#include <cmath>
#include <numbers>

namespace glyptos {
namespace {

constexpr double kTurnStem = 26;   // px from the frame to the turn grip
constexpr double kSmallFrame = 44; // px: the grips of a smaller frame would cover what is in it
constexpr double kGripOutside = 9; // px
constexpr double kSnapReach = 7;   // px
constexpr double kLeastScale = 0.01;

double angleOf(Vec2 v) {
    return std::atan2(v.y, v.x) * 180 / std::numbers::pi;
}

double dot(Vec2 a, Vec2 b) {
    return a.x * b.x + a.y * b.y;
}

/// The mask mapped as a linked one would be with its layer.
Layer withMovedMask(const Layer& layer, const std::function<Layer(Layer)>& motion) {
    Mask mask = *layer.mask;
    mask.linked = true;
    Layer carrier;
    carrier.mask = std::make_shared<const Mask>(std::move(mask));
    Mask moved = *motion(std::move(carrier)).mask;
    moved.linked = layer.mask->linked;
    Layer out = layer;
    out.mask = std::make_shared<const Mask>(std::move(moved));
    return out;
}

} // namespace

/// Layers in hand that the hand may move. What lies in a group that is in hand too goes with it.
std::vector<LayerPtr> MoveHand::movable() const {
    std::vector<LayerPtr> out;
    const Stack& stack = stackOf(*document().shown(), document().panel());
    for (const std::string& id : document().layers()) {
        const LayerPtr layer = findLayer(stack, id);
        if (!layer || layer->locked || (isFrameless(*layer) && !document().maskInHand())) continue;
        const bool inside = std::any_of(out.begin(), out.end(), [&](const LayerPtr& other) {
            const auto* group = other->as<GroupContent>();
            return group && findLayer(group->layers, id);
        });
        if (!inside) out.push_back(layer);
    }
    return out;
}

std::optional<Frame> MoveHand::handFrame() const {
    const auto layers = movable();
    if (layers.empty()) return std::nullopt;
    if (document().maskInHand()) return frameOf(*layers.back()->mask, *document().shown());
    if (layers.size() == 1) {
        const Frame one = frame(*layers[0]);
        return one.bounds().empty() && one.box.w <= 0 ? std::nullopt : std::optional(one);
    }
    Rect all;
    for (const LayerPtr& layer : layers) all = all.united(frame(*layer).bounds());
    return all.empty() ? std::nullopt : std::optional(Frame{all, {}});
}

std::array<Vec2, 4> MoveHand::cornersInView(const Frame& frame) const {
    auto corners = frame.corners();
    for (Vec2& c : corners) c = inView(c);
    return corners;
}

/// Where the grips are: at the corners, or a little outside those of a small frame, so that what is in it can
/// be seen.
std::array<Vec2, 4> MoveHand::gripsInView(const Frame& frame) const {
    auto c = cornersInView(frame);
    const Vec2 across = c[1] - c[0], down = c[3] - c[0];
    if (std::min(across.length(), down.length()) >= kSmallFrame) return c;
    const auto outwards = [](const Vec2& way) { return way * (kGripOutside / std::max(way.length(), 1e-6)); };
    const Vec2 x = outwards(across), y = outwards(down);
    return {c[0] - x - y, c[1] + x - y, c[2] + x + y, c[3] - x + y};
}

Vec2 MoveHand::turnGripInView(const Frame& frame) const {
    const auto c = gripsInView(frame);
    const Vec2 top = (c[0] + c[1]) * 0.5, up = top - (c[2] + c[3]) * 0.5;
    return up.length() > 1 ? top + up * (kTurnStem / up.length()) : top - Vec2{0, kTurnStem};
}

std::pair<MoveHand::Grip, int> MoveHand::gripAt(QPointF p) const {
    const auto frame = handFrame();
    if (!frame) return {Grip::None, 0};
    const Vec2 at{p.x(), p.y()};
    const auto c = gripsInView(*frame);
    if ((at - turnGripInView(*frame)).length() < kGripReach) return {Grip::Turn, 0};
    for (int i = 0; i < 4; ++i)
        if ((at - c[size_t(i)]).length() < kGripReach) return {Grip::Corner, i};
    for (int i = 0; i < 4; ++i)
        if ((at - (c[size_t(i)] + c[size_t(i + 1) % 4]) * 0.5).length() < kGripReach) return {Grip::Side, i};
    return {Grip::None, 0};
}

void MoveHand::takeInHand(const QMouseEvent& event, Vec2 at) {
    if (document().maskInHand()) {
        drag_.grip = Grip::Body;
        return;
    }
    const std::vector<std::string> under = bench_.layersAt(at);
    if (event.modifiers() & Qt::ShiftModifier) {
        // One that is in hand already may be about to be dragged straight; a mere click lets go of it.
        drag_.letsGo = !under.empty() && document().isInHand(under.front()) ? under.front() : std::string();
        if (!under.empty() && drag_.letsGo.empty()) document().toggleLayer(under.front());
    } else {
        drag_.again =
            std::any_of(under.begin(), under.end(), [&](const auto& id) { return document().isInHand(id); });
        if (!drag_.again) document().selectLayer(under.empty() ? std::string() : under.front());
    }
    drag_.grip = under.empty() ? Grip::Band : movable().empty() ? Grip::None : Grip::Body;
}

void MoveHand::press(const QMouseEvent& event, Vec2 at) {
    drag_ = {};
    std::tie(drag_.grip, drag_.which) = gripAt(event.position());
    if (drag_.grip == Grip::None) takeInHand(event, at);
    drag_.from = drag_.to = at;
    drag_.start = document().release();
    drag_.layers = document().layers();
    if (drag_.grip == Grip::None || drag_.grip == Grip::Band) return;
    const auto frame = handFrame();
    if (!frame) {
        drag_.grip = Grip::None;
        return;
    }
    drag_.frame = *frame;
    const auto layers = movable();
    if (layers.size() == 1 && !layers[0]->as<GroupContent>())
        drag_.turn = document().maskInHand() ? layers[0]->mask->placement.turn : layers[0]->placement.turn;
    drag_.copies =
        drag_.grip == Grip::Body && (event.modifiers() & Qt::AltModifier) && !document().maskInHand();
}

void MoveHand::drag(const QMouseEvent& event, Vec2 at) {
    if (drag_.grip == Grip::None) return;
    if (!drag_.moving && (at - drag_.from).length() * bench_.zoom() < kDragStarts) return;
    if (!drag_.moving && drag_.copies) {
        // The layers stay where they are; their copies are dragged on in front of them.
        ReleasePtr next = drag_.start;
        for (const LayerPtr& layer : movable()) {
            const Made copy = withDuplicate(next, document().panel(), layer->id);
            std::replace(drag_.layers.begin(), drag_.layers.end(), layer->id, copy.id);
            next = copy;
        }
        drag_.start = next;
    }
    drag_.moving = true;
    drag_.to = at;
    if (drag_.grip == Grip::Band) return bench_.update();
    caught_.clear();
    apply(motion(at, event.modifiers()));
}

void MoveHand::apply(const Motion& motion) {
    const std::vector<std::string> ids = drag_.copies ? drag_.layers : [this] {
        std::vector<std::string> out;
        for (const LayerPtr& layer : movable()) out.push_back(layer->id);
        return out;
    }();
    ReleasePtr next = drag_.start;
    for (const std::string& id : ids)
        next = withChangedLayer(next, document().panel(), id, [&](Layer& l) {
            if (!l.locked) l = document().maskInHand() ? withMovedMask(l, motion) : motion(l);
        });
    document().preview(next);
}

QString MoveHand::what() const {
    const auto layers = movable();
    return layers.size() == 1 ? QString::fromStdString(layers[0]->name)
                              : ComposeBench::tr("%1 layers").arg(layers.size());
}

MoveHand::Motion MoveHand::motion(Vec2 at, Qt::KeyboardModifiers keys) {
    switch (drag_.grip) {
    case Grip::Corner:
        return scaling(at, keys);
    case Grip::Side:
        return siding(at, keys);
    case Grip::Turn:
        return turning(at, keys);
    default:
        return moving(at, keys);
    }
}

MoveHand::Motion MoveHand::moving(Vec2 at, Qt::KeyboardModifiers keys) {
    drag_.name = (drag_.copies ? ComposeBench::tr("Copy %1") : ComposeBench::tr("Move %1")).arg(what());
    Vec2 by = at - drag_.from;
    if (keys & Qt::ShiftModifier) (std::abs(by.x) > std::abs(by.y) ? by.y : by.x) = 0;
    if (!(keys & Qt::ControlModifier)) {
        Rect bounds = drag_.frame.bounds();
        bounds.x += by.x, bounds.y += by.y;
        const Snapped rest = snap(bounds,
                                  snapLines(*drag_.start, document().panel(), document().layers(),
                                            bench_.snapOptions(), bench_.paragraphs()),
                                  kSnapReach / bench_.zoom());
        by = by + rest.by;
        caught_ = rest.caught;
    }
    return [by](Layer l) { return moved(std::move(l), by); };
}

/// About the opposite corner, or with Alt about the middle; keeping the proportions, or with Shift not.
MoveHand::Motion MoveHand::scaling(Vec2 at, Qt::KeyboardModifiers keys) {
    drag_.name = ComposeBench::tr("Scale %1").arg(what());
    const auto corners = drag_.frame.corners();
    const Vec2 about = keys & Qt::AltModifier ? drag_.frame.toPanel.map(drag_.frame.box.centre())
                                              : corners[size_t(drag_.which + 2) % 4];
    const Vec2 before = corners[size_t(drag_.which)] - about, after = at - about;
    if (keys & Qt::ShiftModifier) {
        const Affine upright = Affine::rotation(-drag_.turn);
        const Vec2 b = upright.mapVector(before), a = upright.mapVector(after);
        const double kx = std::max(a.x / (std::abs(b.x) > 1e-9 ? b.x : 1), kLeastScale),
                     ky = std::max(a.y / (std::abs(b.y) > 1e-9 ? b.y : 1), kLeastScale);
        return [=, turn = drag_.turn](Layer l) { return stretchedAlong(std::move(l), about, turn, kx, ky); };
    }
    const double factor = std::max(dot(before, after) / std::max(dot(before, before), 1e-12), kLeastScale);
    return [=](Layer l) { return scaled(std::move(l), about, factor); };
}

/// A side stretches across itself, and with Ctrl leans along itself.
MoveHand::Motion MoveHand::siding(Vec2 at, Qt::KeyboardModifiers keys) {
    const auto c = drag_.frame.corners();
    const auto i = size_t(drag_.which);
    const Vec2 side = (c[i] + c[(i + 1) % 4]) * 0.5, other = (c[(i + 2) % 4] + c[(i + 3) % 4]) * 0.5;
    const bool centred = keys & Qt::AltModifier;
    const Vec2 about = centred ? (side + other) * 0.5 : other;
    const bool upDown = i % 2 == 0;
    const Affine upright = Affine::rotation(-drag_.turn);
    const Vec2 before = upright.mapVector(side - about), after = upright.mapVector(at - about);
    const double across = upDown ? before.y : before.x, now = upDown ? after.y : after.x;
    if (std::abs(across) < 1e-9) return [](Layer l) { return l; };
    if (keys & Qt::ControlModifier) {
        drag_.name = ComposeBench::tr("Skew %1").arg(what());
        const double slide = upDown ? (after.x - before.x) / across : (after.y - before.y) / across;
        const Affine lean = upDown ? Affine{1, 0, slide, 1, 0, 0} : Affine{1, slide, 0, 1, 0, 0};
        const Affine map = Affine::translation(about.x, about.y) * Affine::rotation(drag_.turn) * lean *
                           upright * Affine::translation(-about.x, -about.y);
        return [=](Layer l) { return transformed(std::move(l), map); };
    }
    drag_.name = ComposeBench::tr("Stretch %1").arg(what());
    const double k = std::max(now / across, kLeastScale);
    return [=, turn = drag_.turn](Layer l) {
        return stretchedAlong(std::move(l), about, turn, upDown ? 1 : k, upDown ? k : 1);
    };
}

MoveHand::Motion MoveHand::turning(Vec2 at, Qt::KeyboardModifiers keys) {
    const Vec2 about = drag_.frame.toPanel.map(drag_.frame.box.centre());
    double turn = angleOf(at - about) - angleOf(drag_.from - about);
    // Rests at every quarter turn, and with Shift at every 15 degrees.
    const double to = drag_.turn + turn, step = keys & Qt::ShiftModifier ? 15 : 90,
                 rest = std::round(to / step) * step;
    if ((keys & Qt::ShiftModifier) || std::abs(to - rest) < 2) turn = rest - drag_.turn;
    drag_.name = ComposeBench::tr("Turn %1 by %2°").arg(what()).arg(std::remainder(turn, 360.0), 0, 'f', 1);
    return [=](Layer l) { return turned(std::move(l), about, turn); };
}

void MoveHand::release() {
    const Drag done = std::exchange(drag_, {});
    caught_.clear();
    bench_.update();
    if (done.grip == Grip::Band && done.moving) {
        const Rect band{std::min(done.from.x, done.to.x), std::min(done.from.y, done.to.y),
                        std::abs(done.from.x - done.to.x), std::abs(done.from.y - done.to.y)};
        return document().selectLayers(bench_.layersInside(band));
    }
    if (done.moving) {
        settle(done.name);
        if (done.copies) document().selectLayers(done.layers);
    } else if (!done.letsGo.empty()) {
        document().toggleLayer(done.letsGo);
    } else if (done.grip == Grip::Body && done.again && document().layers().size() == 1) {
        // Clicked again where it is: what lies under it is next.
        const auto under = bench_.layersAt(done.from);
        const auto now = std::find(under.begin(), under.end(), document().layer());
        if (under.size() > 1 && now != under.end())
            document().selectLayer(now + 1 == under.end() ? under.front() : *(now + 1));
    }
}

void MoveHand::doubleClick(Vec2) {
    bench_.editWords();
}

bool MoveHand::cancel() {
    if (!drag_.moving) return false;
    drag_ = {};
    caught_.clear();
    document().preview(nullptr);
    bench_.update();
    return true;
}

QString MoveHand::sentence() const {
    return document().maskInHand() ? ComposeBench::tr("Drag the mask; hold Ctrl to go free.")
                                   : ComposeBench::tr("Drag a layer; Alt copies it, Ctrl goes free.");
}

void MoveHand::nudge(Vec2 by) {
    const auto layers = movable();
    if (layers.empty()) return;
    drag_ = {};
    drag_.start = document().release();
    ReleasePtr next = drag_.start;
    for (const LayerPtr& layer : layers)
        next = withChangedLayer(next, document().panel(), layer->id, [&](Layer& l) {
            const auto motion = [by](Layer one) { return moved(std::move(one), by); };
            l = document().maskInHand() ? withMovedMask(l, motion) : motion(l);
        });
    document().edit(ComposeBench::tr("Nudge %1").arg(what()), next,
                    QStringLiteral("nudge") + QString::fromStdString(layers[0]->id));
}

bool MoveHand::key(const QKeyEvent& event) {
    // One unit of a print piece is much, so nudges are of a tenth of a mm there.
    const PiecePtr piece = document().piece();
    const double unit = piece && piece->flat->unit == Unit::Mm ? 0.1 : 1;
    const double step = unit * (event.modifiers() & Qt::ShiftModifier ? 10 : 1);
    switch (event.key()) {
    case Qt::Key_Left:
        return nudge({-step, 0}), true;
    case Qt::Key_Right:
        return nudge({step, 0}), true;
    case Qt::Key_Up:
        return nudge({0, -step}), true;
    case Qt::Key_Down:
        return nudge({0, step}), true;
    default:
        return false;
    }
}

void MoveHand::paint(QPainter& painter) {
    for (const SnapLine& line : caught_) paintSnapLine(painter, line, bench_);
    if (drag_.grip == Grip::Band && drag_.moving) {
        const QRectF band = QRectF(toQt(inView(drag_.from)), toQt(inView(drag_.to))).normalized();
        QColor wash = theme().accent;
        wash.setAlpha(40);
        painter.setPen(QPen(theme().accent, 1, Qt::DashLine));
        painter.setBrush(wash);
        painter.drawRect(band);
        return;
    }
    const auto whole = handFrame();
    if (!whole || bench_.isWriting()) return;
    if (document().layers().size() > 1)
        for (const LayerPtr& layer : movable()) paintOutline(painter, cornersInView(frame(*layer)));
    paintOutline(painter, cornersInView(*whole));
    const auto c = gripsInView(*whole);
    const Vec2 grip = turnGripInView(*whole);
    paintWay(painter, (c[0] + c[1]) * 0.5, grip);
    paintRoundGrip(painter, grip);
    for (size_t i = 0; i < 4; ++i) {
        paintSquareGrip(painter, c[i]);
        const Vec2 side = c[(i + 1) % 4] - c[i];
        if (side.length() > 40) paintSquareGrip(painter, c[i] + side * 0.5);
    }
}

} // namespace glyptos
