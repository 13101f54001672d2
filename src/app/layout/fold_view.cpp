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
        tr("Arrow keys turn it, plus and minus come nearer and go away, Home looks from the front"));
    lookFromTheFront();
    rest_.setSingleShot(true);
    rest_.setInterval(kRestMs);
    connect(&rest_, &QTimer::timeout, this, [this] { draw(kFinest); });
    connect(&printing_, &QFutureWatcherBase::finished, this, [this] {
        const auto object = printing_.future().result();
        if (object && (*object)->flat == flat_) object_ = *object;
        object_ ? moved() : update();
        if (printAgain_) print();
    });
    connect(&drawing_, &QFutureWatcherBase::finished, this, [this] {
        if (const auto shown = drawing_.future().result()) {
            const Shown& s = **shown;
            picture_ =
                QImage(s.pixels.data(), s.width, s.height, s.width * 4, QImage::Format_ARGB32_Premultiplied)
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
    moved();
}

void FoldView::refresh() {
    if (!document_ || !isVisible()) return;
    const PiecePtr piece = document_->piece();
    if (!piece) return;
    if (flat_ != piece->flat) {
        flat_ = piece->flat;
        folding_ = std::make_shared<const Folding>(*flat_);
        shares_ = folding_->sharesAt(at_);
        object_.reset();
        Q_EMIT foldsChanged();
    }
    print();
}

double FoldView::pxPerUnit() const {
    const Rect all = flat_->trim();
    const double px = std::max(width(), height()) * devicePixelRatioF();
    constexpr double kSharper = 1.5; // a folded piece is seen larger than its flat
    return kSharper * px / std::max({all.w, all.h, 1e-9});
}

void FoldView::print() {
    printAgain_ = printing_.isRunning();
    if (printAgain_ || !document_ || !flat_ || !isVisible()) return;
    Object object{document_->shown(), document_->panel().piece, flat_, folding_, {}, pxPerUnit()};
    const bool same = object_ && object_->release == object.release && object_->piece == object.piece &&
                      object_->pxPerUnit == object.pxPerUnit;
    if (same && !stale_) return;
    stale_ = false;
    printing_.setFuture(inBackground([&renderer = engine_.renderer, stop = stop_, object]() mutable {
        object.pictures = boardPictures(renderer, object.release, object.piece, *object.folding,
                                        object.pxPerUnit, stop.get());
        return std::make_shared<const Object>(std::move(object));
    }));
}

void FoldView::setAt(double at) {
    at_ = at;
    if (folding_) shares_ = folding_->sharesAt(at);
    moved();
}

QString FoldView::sentence() const {
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
    return eyeFor(*folding_, shares_, turnNow(), nearness_, int(width() * devicePixelRatioF()),
                  int(height() * devicePixelRatioF()));
}

void FoldView::draw(int finer) {
    if (drawing_.isRunning() || !object_ || !isVisible()) return;
    if (drawn_ == wanted_ && drawnFiner_ >= finer) return;
    const int w = int(width() * devicePixelRatioF()), h = int(height() * devicePixelRatioF());
    drawing_.setFuture(inBackground(
        [object = object_, shares = shares_, eye = eyeNow(), w, h, finer, number = wanted_, stop = stop_] {
            const auto facets = foldedFacets(*object->flat, *object->folding, shares, object->pictures);
            auto out = std::make_shared<Shown>();
            out->pixels = drawFacets(facets, eye, Lamp{}, {w, h, finer}, stop.get());
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
    if (!object_) return std::nullopt;
    return glyptos::boardAt(*folding_, shares_, eyeNow(), fromMiddle(point));
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
    if (event->button() != Qt::LeftButton) return;
    last_ = event->position();
    grab_ = boardAt(event->position());
    if (grab_ && !foldTowards(*folding_, shares_, *grab_, eyeNow(), fromMiddle(last_))) grab_.reset();
    if (grab_) held_ = eyeNow();
    setCursor(grab_ ? Qt::ClosedHandCursor : Qt::SizeAllCursor);
}

void FoldView::mouseMoveEvent(QMouseEvent* event) {
    if (!(event->buttons() & Qt::LeftButton)) {
        const auto over = boardAt(event->position());
        const bool folds = over && std::any_of(folding_->hinges().begin(), folding_->hinges().end(),
                                               [&](const Hinge& h) { return h.child == over->board; });
        setCursor(folds ? Qt::OpenHandCursor : Qt::ArrowCursor);
        return;
    }
    const QPointF by = event->position() - last_;
    last_ = event->position();
    if (!grab_) {
        yaw_ = std::remainder(yaw_ + by.x() * kDegreesAPixel, 360.0);
        pitch_ = std::clamp(pitch_ - by.y() * kDegreesAPixel, -90.0, 90.0);
        return moved();
    }
    const auto to = foldTowards(*folding_, shares_, *grab_, eyeNow(), fromMiddle(last_));
    if (!to || shares_[to->fold] == to->share) return;
    shares_[to->fold] = to->share;
    Q_EMIT foldsChanged();
    moved();
}

void FoldView::mouseReleaseEvent(QMouseEvent*) {
    unsetCursor();
    grab_.reset();
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
    constexpr double kStep = 6; // degrees
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
