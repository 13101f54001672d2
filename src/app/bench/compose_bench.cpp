#include "app/bench/compose_bench.h"

#include "app/bench/side_bench.h"
#include "app/session/engine.h"
#include "app/session/words.h"
#include "app/widgets/colours.h"
#include "app/widgets/theme.h"
#include "release/edits/edits.h"
#include "release/edits/palette_edits.h"
#include "release/edits/treatment_edits.h"
#include "render/changed_area.h"

#include <QApplication>
#include <QClipboard>
#include <QGuiApplication>
#include <QMimeData>

namespace glyptos {
namespace {

constexpr double kLeastAlpha = 0.03; // of what a click still meets

} // namespace

ComposeBench::ComposeBench(Engine& engine, RenderService& service, QWidget* parent)
    : BenchView(engine, service, parent)
    , words_(*this)
    , reference_(*this, service)
    , treatments_(*this, service)
    , around_(*this, service)
    , selection_(*this) {
    qApp->installEventFilter(this);
    connect(&around_, &PieceAround::changed, this, &ComposeBench::zoomToFit);
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
    const bool rest = treatmentsRest_ && isMoving();
    Scene scene = panelScene(rest ? untreated(document_->shown(), document_->panel(), document_->layers())
                                  : document_->shown(),
                             document_->panel(), {pxPerUnit, true});
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
    return panel() ? around_.extent() : Rect{};
}

void ComposeBench::refresh() {
    BenchView::refresh();
    words_.follow();
    Q_EMIT handChanged();
}

void ComposeBench::requestMore() {
    wasMoving_ = isMoving();
    words_.follow();
    reference_.request();
    treatments_.request();
    around_.request();
}

void ComposeBench::setHand(Hand hand) {
    if (hand == hand_) return;
    inUse().cancel();
    if (hand != Hand::Pick) picked_ = nullptr;
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

SliceStyle ComposeBench::sliceStyle() const {
    constexpr double kGap = 40, kShade = 25; // of them across a panel
    const SliceSettings& slice = settings_.slice;
    const double side = std::max(panel()->width, panel()->height);
    return {slice.gap >= 0 ? slice.gap : side / kGap, slice.shade,
            slice.shadeWidth > 0 ? slice.shadeWidth : side / kShade};
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
            if (!layer->on || layer->locked || isFrameless(*layer) || !isHit(*layer, at)) continue;
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
        if (!panel() || !layer->on || layer->locked || isFrameless(*layer)) continue;
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

void ComposeBench::pickFor(Picked picked) {
    picked_ = std::move(picked);
    handBefore_ = hand_;
    setHand(Hand::Pick);
}

void ComposeBench::giveColour(const QColor& colour, Vec2 at) {
    if (!colour.isValid()) return;
    if (const Picked picked = std::exchange(picked_, nullptr)) {
        picked(colour, at);
        return setHand(handBefore_);
    }
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

void ComposeBench::paintUnderArt(QPainter& painter) {
    around_.paintUnder(painter);
}

void ComposeBench::paintOverArt(QPainter& painter) {
    reference_.paint(painter);
    treatments_.paint(painter);
}

QPainterPath ComposeBench::paper() const {
    const Panel* p = panel();
    return p ? paperOf(*p, toView()) : QPainterPath();
}

void ComposeBench::paintLines(QPainter& painter) {
    const Panel* p = panel();
    if (!p) return;
    paintPanelLines(painter, *p, toView(), key());
    around_.paintLines(painter);
}

void ComposeBench::paintHandles(QPainter& painter) {
    selection_.paint(painter);
    treatments_.paintGrips(painter);
    inUse().paint(painter);
    if (treatmentsRest_ && isMoving() && caption_.isEmpty())
        paintBenchCaption(painter, tr("Its treatments rest while it is moved"), true);
    if (!caption_.isEmpty()) paintBenchCaption(painter, caption_, true);
}

void ComposeBench::mousePressEvent(QMouseEvent* event) {
    BenchView::mousePressEvent(event);
    if (isPanning() || event->button() != Qt::LeftButton || !panel()) return;
    const Vec2 at = fromView(event->position());
    if (const Panel* other = around_.neighbourAt(at); other && hand_ == Hand::Move && !isOnLayers(at))
        return goTo(*other);
    inUse().feel(pen_.value_or(PenSample{at}));
    if (!reference_.press(event->position()) && !treatments_.press(event->position()))
        inUse().press(*event, at);
}

bool ComposeBench::isOnLayers(Vec2 at) const {
    constexpr double kGrips = 36; // px round what is in hand
    for (const std::string& id : document_->layers())
        if (const LayerPtr layer = findLayer(stackOf(*document_->shown(), document_->panel()), id);
            layer && !isFrameless(*layer) && frame(*layer).bounds().grown(kGrips / zoom()).contains(at))
            return true;
    return !layersAt(at).empty();
}

void ComposeBench::goTo(const Panel& neighbour) {
    const Affine way = panelToPanel(neighbour, *panel());
    const bool turns = neighbour.turn != panel()->turn;
    document_->selectPanel({document_->panel().piece, neighbour.id});
    if (turns)
        zoomToFit();
    else if (!isFitted())
        moveBy(Vec2{way.e, way.f} * zoom());
}

void ComposeBench::mouseMoveEvent(QMouseEvent* event) {
    BenchView::mouseMoveEvent(event);
    if (isPanning() || !panel()) return;
    const Vec2 at = fromView(event->position());
    if (reference_.isDragging())
        reference_.drag(event->position());
    else if (treatments_.isDragging())
        treatments_.drag(event->position());
    else if (event->buttons() & Qt::LeftButton) {
        inUse().feel(pen_.value_or(PenSample{at}));
        inUse().drag(*event, at);
    } else
        inUse().hover(at);
}

void ComposeBench::mouseReleaseEvent(QMouseEvent* event) {
    const bool panning = isPanning();
    BenchView::mouseReleaseEvent(event);
    if (panning) return setCursor(inUse().cursor());
    if (event->button() != Qt::LeftButton || !panel()) return;
    reference_.isDragging()    ? reference_.release()
    : treatments_.isDragging() ? treatments_.release()
                               : inUse().release();
}

void ComposeBench::mouseDoubleClickEvent(QMouseEvent* event) {
    if (event->button() == Qt::LeftButton && panel()) inUse().doubleClick(fromView(event->position()));
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
    QStringList tables, files;
    for (const QString& file : localFiles(*event->mimeData()))
        (file.endsWith(QStringLiteral(".cube"), Qt::CaseInsensitive) ? tables : files) << file;
    if (!tables.isEmpty()) Q_EMIT lookTablesArrived(tables);
    if (!files.isEmpty()) Q_EMIT picturesArrived(files, fromView(event->position()));
    event->acceptProposedAction();
}

} // namespace glyptos
