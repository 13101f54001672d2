#include "app/layout/form/form_bench.h"

#include "app/widgets/theme.h"
#include "base/text.h"

#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

namespace glyptos {
namespace {

constexpr double kReach = 6; // px of a grip, an edge or a line that is snapped to

QPen pen(const QColor& colour, double width, Qt::PenStyle style = Qt::SolidLine) {
    QPen out(colour, width, style);
    out.setCosmetic(true);
    return out;
}

QColor colourOf(PartKind kind) {
    switch (kind) {
    case PartKind::Fold:
        return theme().fold;
    case PartKind::Zone:
        return {74, 92, 140};
    case PartKind::Cutout:
        return theme().fault;
    default:
        return theme().ink;
    }
}

double distanceTo(QPointF p, Vec2 a, Vec2 b) {
    const Vec2 at{p.x(), p.y()}, way = b - a;
    const double square = way.x * way.x + way.y * way.y;
    const double share =
        square < 1e-9 ? 0 : std::clamp(((at.x - a.x) * way.x + (at.y - a.y) * way.y) / square, 0.0, 1.0);
    return (at - (a + way * share)).length();
}

} // namespace

FormBench::FormBench(Engine& engine, RenderService& service, QWidget* parent)
    : BenchView(engine, service, parent) {
    setAccessibleName(tr("Form"));
}

void FormBench::setParts(std::vector<FormPart> parts) {
    parts_ = std::move(parts);
    refresh();
}

void FormBench::setLines(std::vector<DielineLine> lines) {
    lines_ = std::move(lines);
    refresh();
}

void FormBench::setInHand(const std::optional<PartRef>& part) {
    inHand_ = part;
    update();
}

void FormBench::setMeasuring(bool on) {
    measuring_ = on;
    measure_.reset();
    setCursor(on ? Qt::CrossCursor : Qt::ArrowCursor);
    update();
}

/// The printer's sheet, which lies under the form and is never printed.
Scene FormBench::sceneAt(double pxPerUnit) const {
    const ReleasePtr release = document_->shown();
    Scene scene{release, {}, {}};
    const PanelRef whole{document_->panel().piece, {}};
    const auto reference = referenceOf(*release, whole);
    if (!reference || !release->source(reference->source)) return scene;
    Layer layer;
    layer.id = "printer's sheet";
    layer.placement = reference->placement;
    layer.content = PictureContent{reference->source, {0, 0, 1, 1}};
    PanelView view;
    view.stack = {std::make_shared<const Layer>(std::move(layer))};
    view.toOutput = Affine::scaling(pxPerUnit, pxPerUnit);
    view.area = extent();
    view.clip = pixelsAround(view.toOutput.mapBounds(view.area));
    scene.panels.push_back(std::move(view));
    return scene;
}

Rect FormBench::extent() const {
    if (hold_) return extentHeld_;
    Rect all;
    for (const FormPart& p : parts_)
        if (p.ref.kind != PartKind::Fold) all = all.united(p.outline.box);
    for (const DielineLine& l : lines_)
        for (const Vec2& p : l.line.points) all = all.united({p.x, p.y, 1e-6, 1e-6});
    constexpr double kRoom = 0.04; // of the longer side, round all of it
    return all.empty() ? Rect{0, 0, 100, 100} : all.grown(kRoom * std::max(all.w, all.h));
}

QPainterPath FormBench::paper() const {
    QPainterPath all;
    all.setFillRule(Qt::WindingFill);
    for (const FormPart& p : parts_)
        if (p.ref.kind == PartKind::Panel || p.ref.kind == PartKind::Flap)
            all.addPath(toQt(toWidget()).map(toQt(p.outline.path())));
    return all;
}

/// The printer's sheet on paper of its own, and the form's paper even where none lies.
void FormBench::paintUnderArt(QPainter& painter) {
    const auto reference = referenceOf(*document_->shown(), {document_->panel().piece, {}});
    if (const SourcePtr sheet = reference ? document_->shown()->source(reference->source) : nullptr) {
        const Placement& p = reference->placement;
        const double w = sheet->width * p.scaleX, h = sheet->height * p.scaleY;
        painter.fillRect(toQt(toWidget().mapBounds({p.position.x - w / 2, p.position.y - h / 2, w, h})),
                         theme().sheet);
    }
    painter.fillPath(paper(), Qt::white);
}

void FormBench::paintLines(QPainter& painter) {
    painter.setBrush(Qt::NoBrush);
    for (const FormPart& p : parts_) {
        const bool held = inHand_ == p.ref;
        const QColor colour = held ? theme().accent : colourOf(p.ref.kind);
        if (p.ref.kind == PartKind::Fold) {
            painter.setPen(pen(colour, held ? 2.4 : 1.6, Qt::DashLine));
            painter.drawLine(toQt(toWidget().map(p.from)), toQt(toWidget().map(p.to)));
            continue;
        }
        const QPainterPath path = toQt(toWidget()).map(toQt(p.outline.path()));
        painter.setPen(pen(colour, held ? 2.4 : 1.3,
                           p.ref.kind == PartKind::Flap   ? Qt::DashDotLine
                           : p.ref.kind == PartKind::Zone ? Qt::DotLine
                                                          : Qt::SolidLine));
        painter.drawPath(path);
        if (p.ref.kind != PartKind::Panel && !held) continue;
        painter.setFont(uiFont(11, 600));
        const QRectF box = path.boundingRect();
        const QString name = QString::fromStdString(p.name);
        if (box.width() > painter.fontMetrics().horizontalAdvance(name) + 6 && box.height() > 20)
            painter.drawText(box.adjusted(6, 4, -4, -4), Qt::AlignLeft | Qt::AlignTop, name);
    }
    paintMeasure(painter);
}

void FormBench::paintMeasure(QPainter& painter) const {
    if (!measure_) return;
    const QPointF a = toQt(toWidget().map(measure_->first)), b = toQt(toWidget().map(measure_->second));
    painter.setPen(pen(QColor(255, 255, 255, 200), 4));
    painter.drawLine(a, b);
    painter.setPen(pen(theme().accent, 2));
    painter.drawLine(a, b);
    const QString said = tr("%1 mm").arg(
        QString::fromStdString(shortNumber((measure_->second - measure_->first).length(), 2)));
    painter.setFont(uiFont(12, 600));
    const QRectF place((a.x() + b.x()) / 2 + 8, (a.y() + b.y()) / 2 - 22,
                       painter.fontMetrics().horizontalAdvance(said) + 12, 20);
    painter.setPen(Qt::NoPen);
    painter.setBrush(theme().accent);
    painter.drawRoundedRect(place, 6, 6);
    painter.setPen(Qt::white);
    painter.drawText(place, Qt::AlignCenter, said);
}

void FormBench::paintHandles(QPainter& painter) {
    const FormPart* held = part(inHand_);
    if (!held || held->repeats || measuring_) return;
    painter.setPen(pen(theme().accent, 1.6));
    painter.setBrush(Qt::white);
    const auto grip = [&](Vec2 at) {
        const QPointF p = toQt(toWidget().map(at));
        painter.drawRect(QRectF(p.x() - 3.5, p.y() - 3.5, 7, 7));
    };
    if (held->ref.kind == PartKind::Fold) return grip(held->from), grip(held->to);
    const Rect& r = held->outline.box;
    for (const double x : {r.x, r.centre().x, r.right()})
        for (const double y : {r.y, r.centre().y, r.bottom()})
            if (x != r.centre().x || y != r.centre().y) grip({x, y});
}

const FormPart* FormBench::part(const std::optional<PartRef>& ref) const {
    if (!ref) return nullptr;
    const auto found =
        std::find_if(parts_.begin(), parts_.end(), [&](const FormPart& p) { return p.ref == *ref; });
    return found == parts_.end() ? nullptr : &*found;
}

std::optional<FormBench::Hold> FormBench::gripAt(const FormPart& held, QPointF p) const {
    if (held.repeats) return std::nullopt;
    Hold hold{held.ref};
    hold.box = held.outline.box, hold.from = held.from, hold.to = held.to, hold.at = fromView(p);
    const auto near = [&](Vec2 at) {
        return distanceTo(p, toWidget().map(at), toWidget().map(at)) <= kReach;
    };
    if (held.ref.kind == PartKind::Fold) {
        hold.end = near(held.from) ? 0 : near(held.to) ? 1 : -1;
        return hold.end >= 0 ? std::optional(hold) : std::nullopt;
    }
    const Rect r = toWidget().mapBounds(held.outline.box);
    const bool across = p.x() > r.x - kReach && p.x()<r.right() + kReach, along = p.y()> r.y - kReach &&
                        p.y() < r.bottom() + kReach;
    hold.left = along && std::abs(p.x() - r.x) <= kReach;
    hold.right = along && !hold.left && std::abs(p.x() - r.right()) <= kReach;
    hold.top = across && std::abs(p.y() - r.y) <= kReach;
    hold.bottom = across && !hold.top && std::abs(p.y() - r.bottom()) <= kReach;
    return hold.left || hold.right || hold.top || hold.bottom ? std::optional(hold) : std::nullopt;
}

/// The grips of the part in hand go first, then lines, then the smallest part that is there.
std::optional<FormBench::Hold> FormBench::holdAt(QPointF p) const {
    if (const FormPart* held = part(inHand_))
        if (auto grip = gripAt(*held, p)) return grip;
    const auto area = [](const FormPart& p) { return p.outline.box.w * p.outline.box.h; };
    const FormPart *found = nullptr, *line = nullptr;
    for (const FormPart& one : parts_) {
        if (one.ref.kind == PartKind::Fold) {
            if (distanceTo(p, toWidget().map(one.from), toWidget().map(one.to)) <= kReach) line = &one;
        } else if (one.outline.box.contains(fromView(p)) && (!found || area(one) < area(*found))) {
            found = &one;
        }
    }
    if (line) found = line;
    if (!found) return std::nullopt;
    Hold hold{found->ref};
    hold.box = found->outline.box, hold.from = found->from, hold.to = found->to, hold.at = fromView(p);
    return hold;
}

Vec2 FormBench::snapped(Vec2 at, const std::optional<PartRef>& own) const {
    const double reach = kReach / zoom();
    double x = at.x, y = at.y, offX = reach, offY = reach;
    const auto tryX = [&](double v) {
        if (std::abs(v - at.x) < offX) offX = std::abs(v - at.x), x = v;
    };
    const auto tryY = [&](double v) {
        if (std::abs(v - at.y) < offY) offY = std::abs(v - at.y), y = v;
    };
    for (const FormPart& p : parts_) {
        if (own == p.ref) continue;
        const bool fold = p.ref.kind == PartKind::Fold;
        const Rect& r = p.outline.box;
        for (const double v : fold ? std::array{p.from.x, p.to.x} : std::array{r.x, r.right()}) tryX(v);
        for (const double v : fold ? std::array{p.from.y, p.to.y} : std::array{r.y, r.bottom()}) tryY(v);
    }
    for (const DielineLine& l : lines_)
        for (const Vec2& p : l.line.points) tryX(p.x), tryY(p.y);
    return {x, y};
}

Rect FormBench::dragged(const Hold& hold, Vec2 at) const {
    const Vec2 way = at - hold.at;
    Rect r = hold.box;
    if (!hold.left && !hold.right && !hold.top && !hold.bottom) {
        const Vec2 corner = snapped({r.x + way.x, r.y + way.y}, hold.part),
                   far = snapped({r.right() + way.x, r.bottom() + way.y}, hold.part);
        const Vec2 free{r.x + way.x, r.y + way.y};
        r.x = corner.x != free.x ? corner.x : far.x - r.w;
        r.y = corner.y != free.y ? corner.y : far.y - r.h;
        return r;
    }
    const Vec2 to = snapped(at, hold.part);
    constexpr double kLeast = 0.5;
    const double right = r.right(), bottom = r.bottom();
    if (hold.left) r.x = std::min(to.x, right - kLeast), r.w = right - r.x;
    if (hold.right) r.w = std::max(to.x - r.x, kLeast);
    if (hold.top) r.y = std::min(to.y, bottom - kLeast), r.h = bottom - r.y;
    if (hold.bottom) r.h = std::max(to.y - r.y, kLeast);
    return r;
}

void FormBench::drag(Vec2 at, bool settled) {
    const Hold& hold = *hold_;
    if (hold.part.kind != PartKind::Fold) {
        Q_EMIT boxDragged(hold.part, hold.box, dragged(hold, at), settled);
        return;
    }
    Vec2 from = hold.from, to = hold.to;
    const Vec2 way = at - hold.at;
    if (hold.end == 0) from = snapped(at, hold.part);
    if (hold.end == 1) to = snapped(at, hold.part);
    if (hold.end < 0) {
        const Vec2 moved = snapped(from + way, hold.part);
        to = to + (moved - from), from = moved;
    }
    Q_EMIT lineDragged(hold.part.index, from, to, settled);
}

void FormBench::mousePressEvent(QMouseEvent* event) {
    BenchView::mousePressEvent(event);
    if (isPanning() || event->button() != Qt::LeftButton) return;
    if (measuring_) {
        const Vec2 at = snapped(fromView(event->position()), std::nullopt);
        measure_ = {at, at};
        return update();
    }
    extentHeld_ = extent();
    hold_ = holdAt(event->position());
    const std::optional<PartRef> ref = hold_ ? std::optional(hold_->part) : std::nullopt;
    if (hold_ && part(ref) && part(ref)->repeats) hold_.reset();
    setInHand(ref);
    Q_EMIT taken(ref);
}

void FormBench::mouseMoveEvent(QMouseEvent* event) {
    BenchView::mouseMoveEvent(event);
    if (isPanning() || !(event->buttons() & Qt::LeftButton)) return;
    const Vec2 at = fromView(event->position());
    if (measuring_ && measure_) {
        measure_->second = snapped(at, std::nullopt);
        measured_ = (measure_->second - measure_->first).length();
        Q_EMIT lengthMeasured(measured_);
        update();
    } else if (hold_) {
        hold_->moved = true;
        drag(at, false);
    }
}

void FormBench::mouseReleaseEvent(QMouseEvent* event) {
    const bool panning = isPanning();
    BenchView::mouseReleaseEvent(event);
    if (panning || event->button() != Qt::LeftButton) return;
    if (hold_ && hold_->moved) drag(fromView(event->position()), true);
    hold_.reset();
}

/// Arrow keys move the part in hand by 0.1, with Shift by 1.
void FormBench::keyPressEvent(QKeyEvent* event) {
    const FormPart* held = part(inHand_);
    const double step = event->modifiers() & Qt::ShiftModifier ? 1 : 0.1;
    const Vec2 way{event->key() == Qt::Key_Left    ? -step
                   : event->key() == Qt::Key_Right ? step
                                                   : 0,
                   event->key() == Qt::Key_Up     ? -step
                   : event->key() == Qt::Key_Down ? step
                                                  : 0};
    if (!held || held->repeats || way == Vec2{}) return BenchView::keyPressEvent(event);
    if (held->ref.kind == PartKind::Fold) {
        Q_EMIT lineDragged(held->ref.index, held->from + way, held->to + way, true);
        return;
    }
    const Rect r = held->outline.box;
    Q_EMIT boxDragged(held->ref, r, {r.x + way.x, r.y + way.y, r.w, r.h}, true);
}

} // namespace glyptos
