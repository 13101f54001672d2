#include "app/compose_bench.h"

#include "app/theme.h"
#include "release/placing.h"

#include <QMimeData>
#include <QMouseEvent>
#include <QPainter>
#include <cmath>
#include <numbers>

namespace glyptos {
namespace {

constexpr double kGripReach = 8;  // px round a handle
constexpr double kTurnStem = 26;  // px from the frame to the turn handle
constexpr double kSnapReach = 7;  // px
constexpr double kDragStarts = 3; // px

QPointF qt(Vec2 v) {
    return {v.x, v.y};
}

double angleOf(Vec2 v) {
    return std::atan2(v.y, v.x) * 180 / std::numbers::pi;
}

} // namespace

const Panel* ComposeBench::panel() const {
    const PiecePtr piece = document_ ? document_->piece() : nullptr;
    return piece ? piece->flat->panel(document_->panel().panel) : nullptr;
}

Scene ComposeBench::sceneAt(double pxPerUnit, Vec2 offset) const {
    return panelScene(document_->shown(), document_->panel(), pxPerUnit, true, offset);
}

Rect ComposeBench::extent() const {
    const Panel* p = panel();
    return p ? p->withBleed() : Rect{};
}

void ComposeBench::refresh() {
    if (editor_ && document_->layer() != editor_->layer()) editor_->finish(true);
    BenchView::refresh();
    placeEditor();
}

void ComposeBench::setHand(Hand hand) {
    if (hand == hand_) return;
    hand_ = hand;
    setCursor(hand == Hand::Letter ? Qt::IBeamCursor : Qt::ArrowCursor);
    update();
    Q_EMIT handChanged();
}

void ComposeBench::paintLines(QPainter& painter) {
    if (const Panel* p = panel()) paintPanelLines(painter, *p, toView(), key());
}

std::optional<Frame> ComposeBench::selectedFrame() const {
    const LayerPtr layer = document_ ? document_->selectedLayer() : nullptr;
    const Panel* p = panel();
    if (!layer || !p || layer->as<FillContent>()) return std::nullopt;
    const Frame frame = frameOf(*layer, *document_->shown(), p->withBleed(), engine_.renderer.paragraphs());
    return frame.box.empty() ? std::nullopt : std::optional(frame);
}

std::array<Vec2, 4> ComposeBench::cornersInView(const Frame& frame) const {
    auto corners = frame.corners();
    for (Vec2& c : corners) c = toView().map(c);
    return corners;
}

Vec2 ComposeBench::turnGripInView(const Frame& frame) const {
    const auto c = cornersInView(frame);
    const Vec2 top = (c[0] + c[1]) * 0.5, up = top - (c[2] + c[3]) * 0.5;
    return top + up * (kTurnStem / std::max(up.length(), 1e-9));
}

void ComposeBench::paintHandles(QPainter& painter) {
    painter.setBrush(Qt::NoBrush);
    for (const SnapLine& line : caught_) {
        painter.setPen(QPen(theme().accent, 1, Qt::DashLine));
        const Vec2 at = toView().map({line.at, line.at});
        if (line.upright)
            painter.drawLine(QPointF(at.x, 0), QPointF(at.x, height()));
        else
            painter.drawLine(QPointF(0, at.y), QPointF(width(), at.y));
        const QString why = QString::fromStdString(line.reason);
        painter.setFont(uiFont(11, 500));
        const QRectF label = QRectF(painter.fontMetrics().boundingRect(why)).adjusted(-6, -3, 6, 3);
        const QRectF place = label.translated(line.upright ? QPointF(at.x + 8, 40) - label.topLeft()
                                                           : QPointF(30, at.y - 24) - label.topLeft());
        painter.setPen(Qt::NoPen);
        painter.setBrush(theme().accent);
        painter.drawRoundedRect(place, 5, 5);
        painter.setPen(Qt::white);
        painter.drawText(place, Qt::AlignCenter, why);
        painter.setBrush(Qt::NoBrush);
    }
    const auto frame = selectedFrame();
    if (!frame || editor_) return;
    const auto c = cornersInView(*frame);
    painter.setPen(QPen(QColor(255, 255, 255, 160), 3));
    painter.drawPolygon(QPolygonF{qt(c[0]), qt(c[1]), qt(c[2]), qt(c[3])});
    painter.setPen(QPen(theme().accent, 1.4));
    painter.drawPolygon(QPolygonF{qt(c[0]), qt(c[1]), qt(c[2]), qt(c[3])});
    painter.setBrush(Qt::white);
    if (hand_ == Hand::Crop && document_->selectedLayer()->as<PictureContent>()) {
        for (int i = 0; i < 4; ++i) {
            const Vec2 middle = (c[size_t(i)] + c[size_t(i + 1) % 4]) * 0.5,
                       along = c[size_t(i + 1) % 4] - c[size_t(i)];
            const Vec2 half = along * (9 / std::max(along.length(), 1e-9));
            painter.setPen(QPen(Qt::white, 7, Qt::SolidLine, Qt::RoundCap));
            painter.drawLine(qt(middle - half), qt(middle + half));
            painter.setPen(QPen(theme().accent, 4, Qt::SolidLine, Qt::RoundCap));
            painter.drawLine(qt(middle - half), qt(middle + half));
        }
        return;
    }
    const Vec2 grip = turnGripInView(*frame);
    painter.drawLine(qt((c[0] + c[1]) * 0.5), qt(grip));
    painter.drawEllipse(qt(grip), 5, 5);
    for (const Vec2& corner : c) painter.drawRect(QRectF(corner.x - 4, corner.y - 4, 8, 8));
}

std::pair<ComposeBench::Grip, int> ComposeBench::gripAt(QPointF p) const {
    const auto frame = selectedFrame();
    if (!frame) return {Grip::None, 0};
    const Vec2 at{p.x(), p.y()};
    const auto c = cornersInView(*frame);
    if (hand_ == Hand::Crop && document_->selectedLayer()->as<PictureContent>()) {
        for (int i = 0; i < 4; ++i)
            if ((at - (c[size_t(i)] + c[size_t(i + 1) % 4]) * 0.5).length() < kGripReach + 4)
                return {Grip::CropSide, i};
        return {Grip::None, 0};
    }
    if ((at - turnGripInView(*frame)).length() < kGripReach) return {Grip::Turn, 0};
    for (int i = 0; i < 4; ++i)
        if ((at - c[size_t(i)]).length() < kGripReach) return {Grip::Corner, i};
    return {Grip::None, 0};
}

/// Front-most layer under a point. Fills cover everything and are taken in hand from the stack instead.
std::string ComposeBench::layerAt(Vec2 at) const {
    const Panel* p = panel();
    for (const LayerPtr& layer : stackOf(*document_->shown(), document_->panel()))
        if (p && layer->on && !layer->as<FillContent>() &&
            frameOf(*layer, *document_->shown(), p->withBleed(), engine_.renderer.paragraphs()).contains(at))
            return layer->id;
    return {};
}

void ComposeBench::mousePressEvent(QMouseEvent* event) {
    BenchView::mousePressEvent(event);
    if (isPanning() || event->button() != Qt::LeftButton || !panel()) return;
    const Vec2 at = fromView(event->position());
    if (hand_ == Hand::Letter) {
        addWords(tr("Words"), tr("Your words"), at, 0.07);
        editWords();
        if (editor_) editor_->selectAll();
        return;
    }
    drag_ = {};
    std::tie(drag_.grip, drag_.which) = gripAt(event->position());
    if (drag_.grip == Grip::None) {
        const auto frame = selectedFrame();
        if (!frame || !frame->contains(at) || layerAt(at) != document_->layer())
            document_->selectLayer(layerAt(at));
        if (selectedFrame()) drag_.grip = Grip::Body;
    }
    drag_.layer = document_->selectedLayer();
    if (drag_.grip == Grip::None || !drag_.layer) return;
    drag_.from = at;
    drag_.start = document_->release();
    drag_.frame = *selectedFrame();
}

void ComposeBench::mouseMoveEvent(QMouseEvent* event) {
    BenchView::mouseMoveEvent(event);
    if (isPanning() || drag_.grip == Grip::None) return;
    const Vec2 at = fromView(event->position());
    if (!drag_.moving && (at - drag_.from).length() * zoom() < kDragStarts) return;
    drag_.moving = true;
    dragTo(at, event->modifiers());
}

void ComposeBench::dragTo(Vec2 at, Qt::KeyboardModifiers modifiers) {
    caught_.clear();
    Layer next = *drag_.layer;
    switch (drag_.grip) {
    case Grip::Body:
        next = draggedMove(at, modifiers);
        break;
    case Grip::Corner:
        next = draggedScale(at);
        break;
    case Grip::Turn:
        next = draggedTurn(at, modifiers);
        break;
    case Grip::CropSide:
        next = draggedCrop(at);
        break;
    case Grip::None:
        return;
    }
    document_->preview(withChangedLayer(drag_.start, document_->panel(), drag_.layer->id,
                                        [&](Layer& layer) { layer = next; }));
}

Layer ComposeBench::draggedMove(Vec2 at, Qt::KeyboardModifiers modifiers) {
    drag_.name = tr("Move %1").arg(QString::fromStdString(drag_.layer->name));
    Vec2 by = at - drag_.from;
    if (modifiers & Qt::ShiftModifier) (std::abs(by.x) > std::abs(by.y) ? by.y : by.x) = 0;
    if (!(modifiers & Qt::ControlModifier)) {
        Rect bounds = drag_.frame.bounds();
        bounds.x += by.x, bounds.y += by.y;
        const Snapped rest = snap(bounds,
                                  snapLines(*drag_.start, document_->panel(), drag_.layer->id, snap_,
                                            engine_.renderer.paragraphs()),
                                  kSnapReach / zoom());
        by = by + rest.by;
        caught_ = rest.caught;
    }
    return moved(*drag_.layer, by);
}

/// About the opposite corner, keeping the proportions.
Layer ComposeBench::draggedScale(Vec2 at) {
    const Vec2 about = drag_.frame.corners()[size_t(drag_.which + 2) % 4];
    const Vec2 before = drag_.frame.corners()[size_t(drag_.which)] - about, after = at - about;
    const double factor = (before.x * after.x + before.y * after.y) /
                          std::max(before.x * before.x + before.y * before.y, 1e-12);
    drag_.name = tr("Scale %1").arg(QString::fromStdString(drag_.layer->name));
    return scaled(*drag_.layer, about, std::max(factor, 0.01));
}

Layer ComposeBench::draggedTurn(Vec2 at, Qt::KeyboardModifiers modifiers) {
    const Vec2 about = drag_.frame.toPanel.map(drag_.frame.box.centre());
    double turn = angleOf(at - about) - angleOf(drag_.from - about);
    const double now = drag_.layer->placement.turn, to = now + turn;
    // Rests at every quarter turn, and with Shift at every 15 degrees.
    const double step = modifiers & Qt::ShiftModifier ? 15 : 90, rest = std::round(to / step) * step;
    if ((modifiers & Qt::ShiftModifier) || std::abs(to - rest) < 2) turn = rest - now;
    drag_.name = tr("Turn %1 by %2°")
                     .arg(QString::fromStdString(drag_.layer->name))
                     .arg(std::remainder(turn, 360.0), 0, 'f', 1);
    return turned(*drag_.layer, about, turn);
}

Layer ComposeBench::draggedCrop(Vec2 at) {
    const auto* picture = drag_.layer->as<PictureContent>();
    const SourcePtr source = drag_.start->source(picture->source);
    const auto back = drag_.frame.toPanel.inverse();
    Rect crop = picture->crop;
    if (!source || !back) return *drag_.layer;
    const Vec2 px = back->map(at);
    const double x = std::clamp(px.x / source->width, 0.0, 1.0),
                 y = std::clamp(px.y / source->height, 0.0, 1.0), least = 0.01;
    switch (drag_.which) {
    case 0:
        crop = {crop.x, std::min(y, crop.bottom() - least), crop.w,
                crop.bottom() - std::min(y, crop.bottom() - least)};
        break;
    case 1:
        crop.w = std::max(least, x - crop.x);
        break;
    case 2:
        crop.h = std::max(least, y - crop.y);
        break;
    default:
        crop = {std::min(x, crop.right() - least), crop.y, crop.right() - std::min(x, crop.right() - least),
                crop.h};
        break;
    }
    drag_.name = tr("Crop %1").arg(QString::fromStdString(drag_.layer->name));
    return cropped(*drag_.layer, crop);
}

void ComposeBench::finishDrag() {
    caught_.clear();
    const bool moved = drag_.moving;
    const QString name = drag_.name;
    drag_ = {};
    if (moved) document_->edit(name, document_->shown());
    update();
}

void ComposeBench::mouseReleaseEvent(QMouseEvent* event) {
    BenchView::mouseReleaseEvent(event);
    finishDrag();
}

void ComposeBench::mouseDoubleClickEvent(QMouseEvent*) {
    if (const LayerPtr layer = document_ ? document_->selectedLayer() : nullptr;
        layer && layer->as<TextContent>())
        editWords();
}

void ComposeBench::nudge(Vec2 by) {
    const LayerPtr layer = document_->selectedLayer();
    if (!layer || layer->as<FillContent>()) return;
    document_->edit(tr("Nudge %1").arg(QString::fromStdString(layer->name)),
                    withChangedLayer(document_->release(), document_->panel(), layer->id,
                                     [&](Layer& l) { l = moved(l, by); }),
                    QStringLiteral("nudge ") + QString::fromStdString(layer->id));
}

void ComposeBench::keyPressEvent(QKeyEvent* event) {
    const double step = (event->modifiers() & Qt::ShiftModifier ? 10 : 1);
    switch (event->key()) {
    case Qt::Key_Left:
        return nudge({-step, 0});
    case Qt::Key_Right:
        return nudge({step, 0});
    case Qt::Key_Up:
        return nudge({0, -step});
    case Qt::Key_Down:
        return nudge({0, step});
    case Qt::Key_M:
        return setHand(Hand::Move);
    case Qt::Key_C:
        return setHand(Hand::Crop);
    case Qt::Key_L:
        return setHand(Hand::Letter);
    case Qt::Key_Return:
    case Qt::Key_Enter:
        return editWords();
    case Qt::Key_Escape:
        if (drag_.moving) {
            drag_ = {};
            caught_.clear();
            return document_->preview(nullptr);
        }
        if (hand_ != Hand::Move) return setHand(Hand::Move);
        return document_->selectLayer({});
    default:
        BenchView::keyPressEvent(event);
    }
}

void ComposeBench::dragEnterEvent(QDragEnterEvent* event) {
    if (event->mimeData()->hasUrls()) event->acceptProposedAction();
}

void ComposeBench::dropEvent(QDropEvent* event) {
    QStringList files;
    for (const QUrl& url : event->mimeData()->urls())
        if (url.isLocalFile()) files << url.toLocalFile();
    if (!files.isEmpty()) Q_EMIT picturesArrived(files, fromView(event->position()));
    event->acceptProposedAction();
}

/// Large enough to read on the panel, low enough for a spine, in ink or paper, whichever stands out there.
void ComposeBench::addWords(const QString& name, const QString& words, Vec2 at, double share) {
    const Rect area = extent();
    const QColor under = colourAt({toView().map(at).x, toView().map(at).y});
    const double ground = under.isValid() ? 1 - under.alphaF() * (1 - under.lightnessF()) : 1;
    const QColor colour = ground > 0.5 ? Theme::day().ink : Theme::day().paper;
    Layer layer;
    layer.name = name.toStdString();
    TextContent text;
    text.spec.text = words.toStdString();
    text.spec.size = std::max(area.h * share, std::min(area.h * 0.55, area.w / 60));
    text.spec.style = "SemiBold";
    text.colour = {colour.redF(), colour.greenF(), colour.blueF(), 1};
    layer.content = text;
    layer.placement.position = at;
    std::string id;
    document_->edit(tr("Add %1").arg(name),
                    withLayer(document_->release(), document_->panel(), layer, {}, &id));
    setHand(Hand::Move);
    document_->selectLayer(id);
}

void ComposeBench::addField(const FieldInfo& field) {
    const Panel* p = panel();
    if (!p) return;
    const Rect room = p->safeArea().value_or(p->trim());
    const bool list = field.token.starts_with("{tracks");
    addWords(QString::fromUtf8(field.label.data(), qsizetype(field.label.size())),
             QString::fromUtf8(field.token.data(), qsizetype(field.token.size())),
             {room.x + room.w * 0.03, list ? room.y + room.h * 0.1 : room.y + room.h * 0.45},
             list ? 0.03 : 0.07);
}

void ComposeBench::editWords() {
    const LayerPtr layer = document_->selectedLayer();
    if (!layer || !layer->as<TextContent>() || editor_) return;
    editor_ = new WordsEditor(document_, document_->panel(), layer, this);
    connect(editor_, &WordsEditor::finished, this, [this] {
        editor_ = nullptr;
        setFocus();
        update();
    });
    placeEditor();
    editor_->show();
    editor_->setFocus();
    update();
}

/// Under the words, so that they can be seen to change.
void ComposeBench::placeEditor() {
    const auto frame = editor_ ? selectedFrame() : std::nullopt;
    if (!frame) return;
    const Rect box = toView().mapBounds(frame->bounds());
    const int w = std::clamp(int(box.w), 240, 520), h = 66;
    editor_->setGeometry(std::clamp(int(box.x), 24, std::max(24, width() - w - 8)),
                         std::clamp(int(box.bottom()) + 8, 24, std::max(24, height() - h - 8)), w, h);
}

} // namespace glyptos
