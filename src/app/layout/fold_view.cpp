#include "app/layout/fold_view.h"

#include "app/session/background.h"
#include "app/session/engine.h"
#include "app/session/words.h"
#include "app/widgets/theme.h"
#include "scene/draw/rasterize.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QWheelEvent>

namespace glyptos {
namespace {

constexpr double kYaw = 28, kPitch = -20; // degrees, at first
constexpr double kDegreesAPixel = 0.4, kLeastNear = 0.4, kMostNear = 6, kNearer = 1.15;
constexpr int kRestMs = 140, kFinest = 2;

} // namespace

FoldView::FoldView(Engine& engine, QWidget* parent)
    : QWidget(parent)
    , engine_(engine) {
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    setMinimumSize(240, 200);
    setAccessibleName(tr("The piece folded"));
    setAccessibleDescription(
        tr("Arrow keys turn it, with Shift they move the lamp, plus and minus come nearer and go away, Home "
           "looks from the front"));
    lookFromTheFront();
    rest_.setSingleShot(true);
    rest_.setInterval(kRestMs);
    connect(&rest_, &QTimer::timeout, this, [this] { draw(kFinest); });
    connect(&printing_, &QFutureWatcherBase::finished, this, [this] {
        if (const auto object = printing_.future().result()) takeObject(*object);
        if (printAgain_) print();
    });
    connect(&drawing_, &QFutureWatcherBase::finished, this, [this] {
        if (const auto shown = drawing_.future().result()) {
            const Shown& s = **shown;
            picture_ = QImage(s.pixels.data(), s.width, s.height, qsizetype(s.width) * 4,
                              QImage::Format_ARGB32_Premultiplied)
                           .copy();
            picture_.setDevicePixelRatio(devicePixelRatioF());
            drawn_ = s.number, drawnFiner_ = s.finer;
            update();
        }
        if (drawn_ != wanted_)
            draw(1);
        else if (!rest_.isActive())
            draw(kFinest);
    });
    connect(&engine_, &Engine::pictureReady, this, [this] {
        stale_ = true;
        print();
    });
}

FoldView::~FoldView() {
    *stop_ = true;
    printing_.waitForFinished();
    drawing_.waitForFinished();
}

void FoldView::setDocument(Document* document) {
    if (document_) document_->disconnect(this);
    document_ = document;
    connect(document_, &Document::changed, this, &FoldView::refresh);
    connect(document_, &Document::selectionChanged, this, &FoldView::refresh);
    refresh();
}

void FoldView::lookFromTheFront() {
    yaw_ = kYaw, pitch_ = kPitch, nearness_ = 1;
    lamp_ = Lamp{};
    moved();
}

void FoldView::takeObject(ObjectPtr object) {
    if (object->flat == flat_ && object->package.has_value() == isPacked()) {
        const bool sameParts = object_ && object_->assembly && object->assembly &&
                               object_->assembly->parts.size() == object->assembly->parts.size();
        if (object->assembly && !sameParts) letGo();
        if (object->assembly && packShares_.size() != object->assembly->steps.size())
            packShares_ = object->assembly->sharesAt(at_);
        object_ = std::move(object);
        Q_EMIT foldsChanged();
    }
    object_ ? moved() : update();
}

void FoldView::setPacked(bool packed) {
    if (packed_ == packed) return;
    packed_ = packed;
    object_.reset();
    packShares_.clear();
    letGo();
    print();
    Q_EMIT foldsChanged();
}

void FoldView::letGo() {
    grab_.reset(), partGrab_.reset(), held_.reset();
}

bool FoldView::hasSteps() const {
    return isPacked() || !shares_.empty();
}

void FoldView::refresh() {
    if (!document_ || !isVisible()) return;
    const PiecePtr piece = document_->piece();
    if (!piece) return;
    package_ = packageOf(*document_->shown(), piece->id);
    if (flat_ != piece->flat) {
        flat_ = piece->flat;
        folding_ = std::make_shared<const Folding>(*flat_);
        shares_ = folding_->sharesAt(at_);
        object_.reset();
        packShares_.clear();
        letGo();
        Q_EMIT foldsChanged();
    }
    print();
}

double FoldView::pxPerUnit() const {
    const Rect all = flat_->trim();
    const double px = std::max(width(), height()) * devicePixelRatioF();
    constexpr double kSharper = 1.5; // a folded piece is seen larger than its flat
    return kSharper * px / (isPacked() ? reachOf(*package_) : std::max({all.w, all.h, 1e-9}));
}

void FoldView::print() {
    printAgain_ = printing_.isRunning();
    if (printAgain_ || !document_ || !flat_ || !isVisible()) return;
    Object object{document_->shown(), document_->panel().piece, flat_, folding_, {}, pxPerUnit(), {}, {}};
    if (isPacked()) object.package = package_;
    const bool same = object_ && object_->release == object.release && object_->piece == object.piece &&
                      object_->pxPerUnit == object.pxPerUnit &&
                      object_->package.has_value() == object.package.has_value();
    if (same && !stale_) return;
    stale_ = false;
    printing_.setFuture(inBackground([&renderer = engine_.renderer, stop = stop_, object]() mutable {
        if (object.package)
            object.assembly = std::make_shared<const Assembly>(
                assembled(renderer, object.release, *object.package, object.pxPerUnit, stop.get()));
        else
            object.pictures = boardPictures(renderer, object.release, object.piece, *object.folding,
                                            object.pxPerUnit, stop.get());
        return std::make_shared<const Object>(std::move(object));
    }));
}

void FoldView::setAt(double at) {
    at_ = at;
    if (folding_) shares_ = folding_->sharesAt(at);
    if (object_ && object_->assembly) packShares_ = object_->assembly->sharesAt(at);
    moved();
}

QString FoldView::sentence() const {
    if (isPacked()) {
        if (!object_ || !object_->assembly) return tr("Being packed…");
        QStringList steps;
        for (const std::string& step : object_->assembly->steps) steps << q(step);
        return steps.isEmpty()
                   ? tr("Drag to turn it.")
                   : tr("Drag a part to take it out, or beside it to turn it all; the right button "
                        "moves the lamp. On the way out: %1.")
                         .arg(steps.join(tr(", ")));
    }
    if (!folding_ || folding_->folds() == 0) return tr("This piece has no folds: drag to turn it.");
    if (flat_->bound)
        return tr("Leaves: %1. Drag one to turn it over, or drag beside them to turn the booklet.")
            .arg(folding_->folds());
    return tr("Steps to fold it: %1. Drag a panel to fold it, or drag beside it to turn the piece.")
        .arg(folding_->steps());
}

void FoldView::moved() {
    ++wanted_;
    draw(1);
    rest_.start();
}

Pose FoldView::turnNow() const {
    return turnedAbout({}, {1, 0, 0}, pitch_) * turnedAbout({}, {0, 1, 0}, yaw_);
}

Eye FoldView::eyeNow() const {
    if (held_) return *held_;
    if (object_ && object_->assembly)
        return eyeOn(object_->assembly->facets(packShares_), turnNow(), nearness_,
                     int(width() * devicePixelRatioF()), int(height() * devicePixelRatioF()));
    return eyeFor(*folding_, shares_, turnNow(), nearness_, int(width() * devicePixelRatioF()),
                  int(height() * devicePixelRatioF()));
}

std::function<std::vector<Facet>()> FoldView::facetsNow() const {
    if (object_->assembly)
        return [object = object_, shares = packShares_] { return object->assembly->facets(shares); };
    return [object = object_, shares = shares_] {
        return foldedFacets(*object->flat, *object->folding, shares, object->pictures);
    };
}

void FoldView::draw(int finer) {
    if (drawing_.isRunning() || !object_ || !isVisible()) return;
    if (drawn_ == wanted_ && drawnFiner_ >= finer) return;
    const int w = int(width() * devicePixelRatioF()), h = int(height() * devicePixelRatioF());
    drawing_.setFuture(inBackground(
        [facetsOf = facetsNow(), eye = eyeNow(), lamp = lamp_, w, h, finer, number = wanted_, stop = stop_] {
            const std::vector<Facet> facets = facetsOf();
            auto out = std::make_shared<Shown>();
            out->pixels = drawFacets(facets, eye, lamp, {w, h, finer}, stop.get());
            out->width = w, out->height = h, out->finer = finer, out->number = number;
            return std::shared_ptr<const Shown>(std::move(out));
        }));
}

bool FoldView::isSettled() const {
    return object_ && document_ && object_->release == document_->shown() && !stale_ &&
           !engine_.pictures.busy() && !printing_.isRunning() && !drawing_.isRunning() && drawn_ == wanted_ &&
           drawnFiner_ == kFinest;
}

Vec2 FoldView::fromMiddle(QPointF point) const {
    const double ratio = devicePixelRatioF();
    return {(point.x() - width() / 2.0) * ratio, (point.y() - height() / 2.0) * ratio};
}

std::optional<Grab> FoldView::boardAt(QPointF point) const {
    if (!object_ || object_->assembly) return std::nullopt;
    return glyptos::boardAt(*folding_, shares_, eyeNow(), fromMiddle(point));
}

QString FoldView::partAt(QPointF point) const {
    if (!object_ || !object_->assembly) return {};
    const auto grab = glyptos::partAt(*object_->assembly, packShares_, eyeNow(), fromMiddle(point));
    return grab ? q(object_->assembly->parts[grab->part].name) : QString();
}

bool FoldView::isMovable(QPointF point) const {
    if (object_ && object_->assembly) {
        const auto part = glyptos::partAt(*object_->assembly, packShares_, eyeNow(), fromMiddle(point));
        return part && isMoved(*object_->assembly, part->part);
    }
    const auto board = boardAt(point);
    return board && std::any_of(folding_->hinges().begin(), folding_->hinges().end(),
                                [&](const Hinge& hinge) { return hinge.child == board->board; });
}

bool FoldView::grabAt(QPointF point) {
    letGo();
    if (!isMovable(point)) return false;
    held_ = eyeNow();
    if (object_->assembly)
        partGrab_ = glyptos::partAt(*object_->assembly, packShares_, *held_, fromMiddle(point));
    else
        grab_ = boardAt(point);
    return true;
}

void FoldView::dragTo(QPointF point) {
    if (partGrab_) {
        const auto to = stepTowards(*object_->assembly, packShares_, *partGrab_, eyeNow(), fromMiddle(point));
        if (!to || packShares_[to->step] == to->share) return;
        packShares_[to->step] = to->share;
    } else {
        const auto to = foldTowards(*folding_, shares_, *grab_, eyeNow(), fromMiddle(point));
        if (!to || shares_[to->fold] == to->share) return;
        shares_[to->fold] = to->share;
    }
    Q_EMIT foldsChanged();
    moved();
}

/// As on a half dome round the piece.
void FoldView::turnLamp(QPointF by) {
    constexpr double kLowest = 0.25; // of its height over the piece
    const Pose turn = turnedAbout({}, {1, 0, 0}, -by.y() * kDegreesAPixel) *
                      turnedAbout({}, {0, 1, 0}, by.x() * kDegreesAPixel);
    Vec3 from = turn.mapVector(lamp_.from.unit());
    from.z = std::max(from.z, kLowest);
    lamp_.from = from.unit();
    moved();
}

void FoldView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.fillRect(rect(), theme().bench);
    if (!picture_.isNull()) painter.drawImage(QRectF(rect()), picture_);
    if (hasFocus()) {
        painter.setPen(QPen(theme().accent, 1));
        painter.drawRect(rect().adjusted(0, 0, -1, -1));
    }
}

void FoldView::resizeEvent(QResizeEvent*) {
    print();
    moved();
}

void FoldView::showEvent(QShowEvent*) {
    refresh();
    moved();
}

void FoldView::mousePressEvent(QMouseEvent* event) {
    last_ = event->position();
    if (event->button() != Qt::LeftButton) return;
    setCursor(grabAt(event->position()) ? Qt::ClosedHandCursor : Qt::SizeAllCursor);
}

void FoldView::mouseMoveEvent(QMouseEvent* event) {
    if (event->buttons() == Qt::NoButton)
        return setCursor(isMovable(event->position()) ? Qt::OpenHandCursor : Qt::ArrowCursor);
    const QPointF by = event->position() - last_;
    last_ = event->position();
    if (event->buttons() & Qt::RightButton) return turnLamp(by);
    if (!(event->buttons() & Qt::LeftButton)) return;
    if (grab_ || partGrab_) return dragTo(event->position());
    yaw_ = std::remainder(yaw_ + by.x() * kDegreesAPixel, 360.0);
    pitch_ = std::clamp(pitch_ - by.y() * kDegreesAPixel, -90.0, 90.0);
    moved();
}

void FoldView::mouseReleaseEvent(QMouseEvent*) {
    unsetCursor();
    grab_.reset(), partGrab_.reset();
    if (!held_) return;
    held_.reset();
    moved();
}

void FoldView::wheelEvent(QWheelEvent* event) {
    constexpr double kNotch = 120;
    nearness_ =
        std::clamp(nearness_ * std::pow(kNearer, event->angleDelta().y() / kNotch), kLeastNear, kMostNear);
    moved();
}

void FoldView::keyPressEvent(QKeyEvent* event) {
    constexpr double kStep = 6;      // degrees
    constexpr double kLampStep = 20; // px of a drag
    if (event->modifiers() & Qt::ShiftModifier) {
        const QPointF by = event->key() == Qt::Key_Left    ? QPointF(-kLampStep, 0)
                           : event->key() == Qt::Key_Right ? QPointF(kLampStep, 0)
                           : event->key() == Qt::Key_Up    ? QPointF(0, -kLampStep)
                           : event->key() == Qt::Key_Down  ? QPointF(0, kLampStep)
                                                           : QPointF();
        if (!by.isNull()) return turnLamp(by);
    }
    switch (event->key()) {
    case Qt::Key_Left:
        yaw_ = std::remainder(yaw_ - kStep, 360.0);
        break;
    case Qt::Key_Right:
        yaw_ = std::remainder(yaw_ + kStep, 360.0);
        break;
    case Qt::Key_Up:
        pitch_ = std::min(pitch_ + kStep, 90.0);
        break;
    case Qt::Key_Down:
        pitch_ = std::max(pitch_ - kStep, -90.0);
        break;
    case Qt::Key_Plus:
    case Qt::Key_Equal:
        nearness_ = std::min(nearness_ * kNearer, kMostNear);
        break;
    case Qt::Key_Minus:
        nearness_ = std::max(nearness_ / kNearer, kLeastNear);
        break;
    case Qt::Key_Home:
        return lookFromTheFront();
    default:
        return QWidget::keyPressEvent(event);
    }
    moved();
}

} // namespace glyptos
