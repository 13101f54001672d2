#include "app/bench/compose_bench.h"

#include "app/bench/side_bench.h"
#include "app/session/engine.h"
#include "app/session/words.h"
#include "app/widgets/colours.h"
#include "app/widgets/theme.h"
#include "release/edits/edits.h"
#include "release/edits/palette_edits.h"
#include "render/changed_area.h"

#include <QApplication>
#include <QClipboard>
#include <QGuiApplication>
#include <QMimeData>
#include <QTabletEvent>

namespace glyptos {
namespace {

constexpr double kLeastAlpha = 0.03; // of what a click still meets

} // namespace

ComposeBench::ComposeBench(Engine& engine, RenderService& service, QWidget* parent)
    : BenchView(engine, service, parent)
    , words_(*this)
    , reference_(*this, service)
    , selection_(*this) {
    qApp->installEventFilter(this);
    connect(&work_, &LongWork::changed, this, &ComposeBench::handChanged);
    connect(&work_, &LongWork::failed, this, [this](const QString& why) { Q_EMIT document_->refused(why); });
}

ComposeBench::~ComposeBench() = default;

void ComposeBench::setHands(Hands hands) {
    hands_ = std::move(hands);
}

ParagraphCache& ComposeBench::paragraphs() const {
    return engine_.renderer.paragraphs();
}

const Panel* ComposeBench::panel() const {
    return document_ ? document_->shownPanel() : nullptr;
}

bool ComposeBench::isMoving() const {
    return document_->shown() != document_->release();
}

Scene ComposeBench::sceneAt(double pxPerUnit) const {
    Scene scene = panelScene(document_->shown(), document_->panel(), {pxPerUnit, true});
    scene.inHand = document_->layer();
    scene.moving = isMoving();
    const LayerPtr layer = document_->selectedLayer();
    return layer ? withMaskShown(std::move(scene), *layer, maskLook_) : scene;
}

std::optional<Rect> ComposeBench::changedSince(const ReleasePtr& before) const {
    // What rests now is drawn anew, if it was warped.
    if (maskLook_ != MaskLook::Art || wasMoving_ != isMoving()) return std::nullopt;
    return changedArea(before, document_->shown(), document_->panel(), paragraphs());
}

Rect ComposeBench::extent() const {
    const Panel* p = panel();
    return p ? p->withBleed() : Rect{};
}

void ComposeBench::refresh() {
    BenchView::refresh();
    words_.follow();
    Q_EMIT handChanged();
}

void ComposeBench::requestMore() {
    wasMoving_ = isMoving();
    reference_.request();
}

void ComposeBench::setHand(Hand hand) {
    if (hand == hand_) return;
    inUse().cancel();
    hand_ = hand;
    setCursor(inUse().cursor());
    update();
    Q_EMIT handChanged();
}

bool ComposeBench::isBusy() const {
    return work_.isGoingOn() ||
           std::any_of(hands_.begin(), hands_.end(), [](const auto& hand) { return hand && hand->isBusy(); });
}

QString ComposeBench::sentence() const {
    return document_ ? inUse().sentence() : QString();
}

void ComposeBench::setShapeToDraw(const ShapeContent& shape, const QString& name) {
    shapeToDraw_ = shape;
    shapeName_ = name;
    Q_EMIT handChanged();
}

void ComposeBench::setMaskLook(MaskLook look) {
    maskLook_ = look;
    requestPicture();
}

void ComposeBench::setSettings(const HandSettings& settings) {
    if (settings.selectBy != settings_.selectBy || settings.bend.by != settings_.bend.by) inUse().cancel();
    settings_ = settings;
    update();
    Q_EMIT handChanged();
}

double ComposeBench::paintPixel() const {
    const PiecePtr piece = document_->piece();
    return piece ? glyptos::paintPixel(*piece->flat) : 1;
}

Brush ComposeBench::tip(double pixel) const {
    constexpr double kStandard = 20; // of them across a panel
    const BrushSettings& brush = settings_.brush;
    const double across =
        brush.diameter > 0 ? brush.diameter : std::max(panel()->width, panel()->height) / kStandard;
    Brush out;
    out.diameter = std::max(across / pixel, 1.0), out.hardness = brush.hardness, out.flow = brush.flow;
    return out;
}

SliceStyle ComposeBench::sliceStyle() const {
    constexpr double kGap = 40, kShade = 25; // of them across a panel
    const SliceSettings& slice = settings_.slice;
    const double side = std::max(panel()->width, panel()->height);
    return {slice.gap >= 0 ? slice.gap : side / kGap, slice.shade,
            slice.shadeWidth > 0 ? slice.shadeWidth : side / kShade};
}

double ComposeBench::brushUnit() const {
    return std::max(panel()->width, panel()->height) / kBrushSide;
}

Brush ComposeBench::paintBrush(double pixel) const {
    Brush out = settings_.paint.brush.brush;
    out.diameter *= brushUnit() / pixel;
    return out;
}

Result<std::vector<StampLook>> ComposeBench::stampLooks(double px) const {
    const PaintSettings& paint = settings_.paint;
    std::vector<StampLook> out;
    if (paint.brush.brush.tip != TipKind::Stamp) return out;
    for (const Stamp& stamp : paint.brush.stamps) {
        if (stamp.source.empty()) {
            ShapeContent shape;
            shape.kind = ShapeKind::Free, shape.contours = stamp.outline;
            out.push_back(stampOf(outlineOf(shape)));
            continue;
        }
        SourcePtr source = document_->release()->source(stamp.source);
        for (const SourcePtr& own : paint.sources)
            if (!source && own->id == stamp.source) source = own;
        if (!source)
            return fail(Fault::NotFound,
                        tr("A picture of the brush %1 is neither in this release nor in the crate any "
                           "more. Choose its stamps anew.")
                            .arg(QString::fromStdString(paint.brush.name))
                            .toStdString());
        const PyramidPtr picture =
            engine_.pictures.picture(*source, px / std::max({source->width, source->height, 1}));
        if (!picture)
            return fail(Fault::NotFound, tr("%1 is still being read; in a moment it can be painted with.")
                                             .arg(QString::fromStdString(source->name))
                                             .toStdString());
        out.push_back({picture});
    }
    return out;
}

void ComposeBench::paintTip(QPainter& painter, Vec2 at) const {
    const Brush round = tip(1 / zoom());
    const QPointF middle = toQt(toView().map(at));
    painter.setBrush(Qt::NoBrush);
    for (const double share : {1.0, settings_.brush.hardness}) {
        const double radius = round.diameter / 2 * share;
        if (radius < 1) continue;
        painter.setPen(QPen(QColor(255, 255, 255, 170), 2.4));
        painter.drawEllipse(middle, radius, radius);
        painter.setPen(QPen(theme().accent, 1, share < 1 ? Qt::DotLine : Qt::SolidLine));
        painter.drawEllipse(middle, radius, radius);
    }
}

bool ComposeBench::wantsBrushKey(const QKeyEvent& event) {
    switch (event.key()) {
    case Qt::Key_Comma:
    case Qt::Key_Period:
    case Qt::Key_Semicolon:
    case Qt::Key_Colon:
    case Qt::Key_Less:
    case Qt::Key_Greater:
        return !(event.modifiers() & (Qt::ControlModifier | Qt::AltModifier));
    default:
        return false;
    }
}

bool ComposeBench::brushKey(const QKeyEvent& event) {
    if (!wantsBrushKey(event)) return false;
    constexpr double kLarger = 1.2, kHarder = 0.1;
    const int key = event.key();
    const bool more = key == Qt::Key_Period || key == Qt::Key_Colon || key == Qt::Key_Greater;
    HandSettings next = settings_;
    const bool paints = hand_ == Hand::Paint || (hand_ == Hand::Mask && settings_.maskAsPaint);
    double& hardness = paints ? next.paint.brush.brush.hardness : next.brush.hardness;
    double& diameter = paints ? next.paint.brush.brush.diameter : next.brush.diameter;
    if (event.modifiers() & Qt::ShiftModifier)
        hardness = std::clamp(hardness + (more ? kHarder : -kHarder), 0.0, 1.0);
    else
        diameter = (paints ? diameter : tip(1).diameter) * (more ? kLarger : 1 / kLarger);
    setSettings(next);
    return true;
}

Frame ComposeBench::frame(const Layer& layer) const {
    return frameOf(layer, *document_->shown(), panel()->withBleed(), paragraphs());
}

/// Inside the frame, and where a picture is not see-through there, as far as it has been decoded.
bool ComposeBench::isHit(const Layer& layer, Vec2 at) const {
    const Frame f = frame(layer);
    if (!f.contains(at)) return false;
    const auto* content = layer.as<PictureContent>();
    const SourcePtr source = content ? document_->shown()->source(content->source) : nullptr;
    const PyramidPtr picture =
        source ? engine_.pictures.picture(*source, f.toPanel.scaleX() * zoom() * devicePixelRatioF())
               : nullptr;
    const auto back = f.toPanel.inverse();
    if (!picture || !back) return true;
    const Vec2 px = back->map(at);
    return alphaAt(*picture, px.x / source->width, px.y / source->height) > kLeastAlpha;
}

std::vector<std::string> ComposeBench::layersAt(Vec2 at) const {
    std::vector<std::string> out;
    if (!panel()) return out;
    const std::function<void(const Stack&)> collect = [&](const Stack& stack) {
        for (const LayerPtr& layer : stack) {
            if (!layer->on || layer->locked || layer->as<FillContent>() || !isHit(*layer, at)) continue;
            const auto* group = layer->as<GroupContent>();
            if (!group) {
                out.push_back(layer->id);
                continue;
            }
            // A group is hit where something in it is.
            const size_t before = out.size();
            collect(group->layers);
            if (out.size() > before) out.insert(out.begin() + ptrdiff_t(before), layer->id);
        }
    };
    collect(stackOf(*document_->shown(), document_->panel()));
    return out;
}

std::vector<std::string> ComposeBench::layersInside(const Rect& area) const {
    std::vector<std::string> out;
    for (const LayerPtr& layer : stackOf(*document_->shown(), document_->panel())) {
        if (!panel() || !layer->on || layer->locked || layer->as<FillContent>()) continue;
        const Rect bounds = frame(*layer).bounds();
        const bool inside = bounds.x >= area.x && bounds.y >= area.y && bounds.right() <= area.right() &&
                            bounds.bottom() <= area.bottom();
        if (!bounds.empty() && inside) out.push_back(layer->id);
    }
    return out;
}

QColor ComposeBench::colourAt(QPointF p) const {
    const QColor ofReference = document_ ? reference_.colourAt(p) : QColor();
    return ofReference.isValid() ? ofReference : BenchView::colourAt(p);
}

void ComposeBench::giveColour(const QColor& colour) {
    if (!colour.isValid()) return;
    QGuiApplication::clipboard()->setText(colour.name());
    const LayerPtr layer = document_->layers().size() == 1 ? document_->selectedLayer() : nullptr;
    const auto next = layer && !layer->locked ? withOwnColour(*layer, fromQt(colour)) : std::nullopt;
    if (next)
        document_->edit(tr("Colour of %1").arg(QString::fromStdString(layer->name)),
                        withChangedLayer(document_->release(), document_->panel(), layer->id,
                                         [&](Layer& l) { l = *next; }));
    Q_EMIT colourPicked(colour, next.has_value());
}

void ComposeBench::setCaption(const QString& words) {
    caption_ = words;
    update();
}

void ComposeBench::paintOverArt(QPainter& painter) {
    reference_.paint(painter);
}

void ComposeBench::paintLines(QPainter& painter) {
    if (const Panel* p = panel()) paintPanelLines(painter, *p, toView(), key());
}

void ComposeBench::paintHandles(QPainter& painter) {
    selection_.paint(painter);
    inUse().paint(painter);
    if (!caption_.isEmpty()) paintBenchCaption(painter, caption_, true);
}

void ComposeBench::mousePressEvent(QMouseEvent* event) {
    BenchView::mousePressEvent(event);
    if (isPanning() || event->button() != Qt::LeftButton || !panel()) return;
    const Vec2 at = fromView(event->position());
    inUse().feel({at});
    if (!reference_.press(event->position())) inUse().press(*event, at);
}

void ComposeBench::mouseMoveEvent(QMouseEvent* event) {
    BenchView::mouseMoveEvent(event);
    if (isPanning() || !panel()) return;
    const Vec2 at = fromView(event->position());
    if (reference_.isDragging())
        reference_.drag(event->position());
    else if (event->buttons() & Qt::LeftButton) {
        inUse().feel({at});
        inUse().drag(*event, at);
    } else
        inUse().hover(at);
}

void ComposeBench::mouseReleaseEvent(QMouseEvent* event) {
    const bool panning = isPanning();
    BenchView::mouseReleaseEvent(event);
    if (panning) return setCursor(inUse().cursor());
    if (event->button() != Qt::LeftButton || !panel()) return;
    reference_.isDragging() ? reference_.release() : inUse().release();
}

void ComposeBench::mouseDoubleClickEvent(QMouseEvent* event) {
    if (event->button() == Qt::LeftButton && panel()) inUse().doubleClick(fromView(event->position()));
}

namespace {

PenSample sampleOf(const QTabletEvent& event, Vec2 at) {
    constexpr double kLying = 60; // degrees from upright, about what tablets can tell
    const double x = std::tan(event.xTilt() * std::numbers::pi / 180),
                 y = std::tan(event.yTilt() * std::numbers::pi / 180);
    const double away = std::atan(std::hypot(x, y)) * 180 / std::numbers::pi;
    return {at, event.pressure(), std::min(away / kLying, 1.0), std::atan2(y, x) * 180 / std::numbers::pi,
            event.rotation()};
}

} // namespace

/// A pen does what a mouse does, and says more of it.
void ComposeBench::tabletEvent(QTabletEvent* event) {
    event->accept();
    if (!panel()) return;
    penErases_ = event->pointerType() == QPointingDevice::PointerType::Eraser;
    const Vec2 at = fromView(event->position());
    const auto asMouse = [&](QEvent::Type type, Qt::MouseButton button, Qt::MouseButtons buttons) {
        return QMouseEvent(type, event->position(), event->globalPosition(), button, buttons,
                           event->modifiers());
    };
    switch (event->type()) {
    case QEvent::TabletPress:
        if (penIsDown_) inUse().release(); // it had gone unseen
        setFocus(Qt::MouseFocusReason);
        penIsDown_ = true;
        inUse().feel(sampleOf(*event, at));
        return inUse().press(asMouse(QEvent::MouseButtonPress, Qt::LeftButton, Qt::LeftButton), at);
    case QEvent::TabletMove:
        if (!penIsDown_) return inUse().hover(at);
        inUse().feel(sampleOf(*event, at));
        return inUse().drag(asMouse(QEvent::MouseMove, Qt::NoButton, Qt::LeftButton), at);
    default:
        if (std::exchange(penIsDown_, false)) inUse().release();
    }
}

/// A pen that is taken away in the middle of a stroke ends it.
bool ComposeBench::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() == QEvent::TabletLeaveProximity && std::exchange(penIsDown_, false)) inUse().release();
    return BenchView::eventFilter(watched, event);
}

bool ComposeBench::event(QEvent* event) {
    if (event->type() == QEvent::ShortcutOverride && panel() &&
        inUse().wants(static_cast<QKeyEvent&>(*event))) {
        event->accept();
        return true;
    }
    return BenchView::event(event);
}

void ComposeBench::keyPressEvent(QKeyEvent* event) {
    if (panel() && inUse().key(*event)) return;
    switch (event->key()) {
    case Qt::Key_M:
        return setHand(Hand::Move);
    case Qt::Key_C:
        return setHand(Hand::Crop);
    case Qt::Key_E:
        return setHand(Hand::Select);
    case Qt::Key_K:
        return setHand(Hand::Mask);
    case Qt::Key_N:
        return setHand(Hand::Mend);
    case Qt::Key_J:
        return setHand(Hand::Slice);
    case Qt::Key_A:
        return setHand(Hand::Paint);
    case Qt::Key_D:
        return setHand(Hand::Knead);
    case Qt::Key_G:
        return setHand(Hand::Bend);
    case Qt::Key_L:
        return setHand(Hand::Letter);
    case Qt::Key_S:
        return setHand(Hand::Shape);
    case Qt::Key_F:
        return setHand(Hand::Fill);
    case Qt::Key_P:
        return setHand(Hand::Pick);
    case Qt::Key_Return:
    case Qt::Key_Enter:
        return editWords();
    case Qt::Key_Escape:
        if (inUse().cancel()) return;
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
    const QStringList files = localFiles(*event->mimeData());
    if (!files.isEmpty()) Q_EMIT picturesArrived(files, fromView(event->position()));
    event->acceptProposedAction();
}

} // namespace glyptos
