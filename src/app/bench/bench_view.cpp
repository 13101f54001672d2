#include "app/bench/bench_view.h"

#include "app/bench/proof/proof_strip.h"

#include "app/session/engine.h"
#include "app/widgets/theme.h"

#include <QMouseEvent>
#include <QPainter>
#include <cmath>

namespace glyptos {
namespace {

constexpr int kRuler = 20;         // px
constexpr double kMargin = 12;     // px round a fitted sheet
constexpr double kWheelStep = 1.2; // times larger for a notch of the wheel
constexpr int kRungs = 12;         // of the ladder for such a step

/// The scale on the ladder nearest to one; its rungs are `actual` times powers of a root of the wheel's step.
double nearestRung(double scale, double actual) {
    const double rung = std::log(kWheelStep) / kRungs;
    return actual * std::exp(std::round(std::log(scale / actual) / rung) * rung);
}

} // namespace

BenchView::BenchView(Engine& engine, RenderService& service, QWidget* parent)
    : QWidget(parent)
    , engine_(engine)
    , service_(service)
    , picture_(service, nullptr)
    , proof_(picture_, service) {
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    setMinimumSize(300, 200);
    setAttribute(Qt::WA_OpaquePaintEvent);
    connect(&engine_, &Engine::pictureReady, this, &BenchView::requestPicture);
    connect(&picture_, &BenchPicture::arrived, this, [this] {
        update();
        Q_EMIT firstShown();
        if (isFinished()) Q_EMIT rendered();
    });
}

bool BenchView::isFinished() const {
    return picture_.isWhole() && !engine_.pictures.busy() && proof_.isSettled();
}

void BenchView::setDocument(Document* document) {
    if (document_) document_->disconnect(this);
    document_ = document;
    picture_.clear();
    connect(document_, &Document::changed, this, [this] { refresh(); });
    connect(document_, &Document::selectionChanged, this, [this] { refresh(); });
    zoomToFit();
}

void BenchView::refresh() {
    // A free space would shrink while something is dragged outwards.
    if (fitted_ && isSheet() && fit()) return showMoved();
    requestChanged();
    update();
}

/// Takes the scale and place at which all of the extent is seen; whether they are others than before.
bool BenchView::fit() {
    const Rect area = extent();
    if (area.empty() || width() < 10) return false;
    const double roomX = std::max(40.0, width() - kRuler - 2 * kMargin),
                 top = kRuler + (strip_ && !strip_->isHidden() ? ProofStrip::kHeight : 0),
                 roomY = std::max(40.0, height() - top - 2 * kMargin);
    const double scale = std::min(roomX / area.w, roomY / area.h);
    const Vec2 origin{std::round(kRuler + (width() - kRuler) / 2.0 - area.centre().x * scale),
                      std::round(top + (height() - top) / 2.0 - area.centre().y * scale)};
    const bool moved = std::exchange(scale_, scale) != scale,
               shifted = !(std::exchange(origin_, origin) == origin);
    return moved || shifted;
}

void BenchView::zoomToFit() {
    fitted_ = true;
    (void)fit();
    showMoved();
}

void BenchView::showMoved() {
    requestPicture();
    Q_EMIT zoomChanged();
    Q_EMIT viewMoved();
    update();
}

double BenchView::actualScale() const {
    const PiecePtr piece = document_ ? document_->piece() : nullptr;
    if (!piece) return 1;
    return (piece->flat->unit == Unit::Px ? 1 : pxPerMm({piece->flat->ppi})) / devicePixelRatioF();
}

void BenchView::zoomToActualPixels() {
    if (document_ && document_->piece()) zoomTo(actualScale(), QPointF(width() / 2.0, height() / 2.0));
}

void BenchView::zoomBy(double factor, QPointF about) {
    // Small steps of a wheel add up, though each may be less than half a rung.
    if (nearestRung(wanted_, actualScale()) != scale_) wanted_ = scale_;
    wanted_ *= factor;
    zoomTo(nearestRung(wanted_, actualScale()), about);
}

void BenchView::zoomTo(double scale, QPointF about) {
    const Vec2 at = fromView(about);
    const Rect area = extent();
    const double smallest = 20 / std::max({area.w, area.h, 1e-9}),
                 largest = 64 * std::max(1.0, 1000 / std::max({area.w, area.h, 1e-9}));
    scale_ = std::clamp(scale, smallest, largest);
    origin_ = {about.x() - at.x * scale_, about.y() - at.y * scale_};
    fitted_ = false;
    showMoved();
}

void BenchView::setKey(const LineKey& key) {
    key_ = key;
    Q_EMIT viewMoved();
    update();
}

void BenchView::setRulerUnit(RulerUnit unit) {
    rulerUnit_ = unit;
    update();
}

/// Until the new picture is there the last one is shown, moved and scaled to fit.
void BenchView::requestPicture() {
    requested_ = nullptr;
    requestChanged();
}

std::optional<Rect> BenchView::changedSince(const ReleasePtr&) const {
    return std::nullopt;
}

void BenchView::requestChanged() {
    if (!document_ || !isVisible() || width() < 2) return;
    const bool same = requested_ && requestedPanel_ == document_->panel();
    const std::optional<Rect> changed = same ? changedSince(requested_) : std::nullopt;
    requested_ = document_->shown();
    requestedPanel_ = document_->panel();
    requestOf(
        picture_, [this](double scale) { return sceneAt(scale); }, changed);
    requestMore();
}

void BenchView::requestOf(BenchPicture& picture, const BenchPicture::SceneAt& sceneAt,
                          const std::optional<Rect>& changed) const {
    const double ratio = devicePixelRatioF();
    // Whole device pixels, so that the finished picture lies exactly on the screen's pixels.
    const QPoint origin(int(std::lround(origin_.x * ratio)), int(std::lround(origin_.y * ratio)));
    picture.request(sceneAt, scale_ * ratio,
                    {-origin, QSize(int(std::ceil(width() * ratio)), int(std::ceil(height() * ratio)))},
                    changed);
}

/// The art on paper, with the one shadow that the bench allows.
void BenchView::paintArt(QPainter& painter) {
    if (picture_.isEmpty()) return;
    if (!isSheet()) return picture_.paint(painter, origin_, scale_);
    QPainterPath place = paper();
    if (place.isEmpty()) place.addRect(picture_.placeAt(origin_, scale_));
    painter.setPen(Qt::NoPen);
    painter.setBrush(QColor(0, 0, 0, 22));
    for (int i = 1; i <= 3; ++i)
        for (const int side : {-1, 1}) painter.drawPath(place.translated(side * i * 0.5, 1.5 * i));
    painter.fillPath(place, proof_.paper());
    picture_.paint(painter, origin_, scale_);
    proof_.paint(painter, origin_, scale_, rect());
}

void BenchView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.fillRect(rect(), theme().bench);
    painter.setRenderHint(QPainter::Antialiasing);
    if (document_ && !extent().empty()) {
        paintUnderArt(painter);
        paintArt(painter);
        paintOverArt(painter);
        paintLines(painter);
        paintHandles(painter);
    }
    if (isSheet()) paintRulers(painter);
}

double BenchView::unitFactor() const {
    const PiecePtr piece = document_ ? document_->piece() : nullptr;
    if (!piece) return 1;
    const double perMm = pxPerMm({piece->flat->ppi});
    if (piece->flat->unit == Unit::Px) return 1; // a screen piece has no other measure than its pixels
    return rulerUnit_ == RulerUnit::Mm ? 1 : rulerUnit_ == RulerUnit::Inch ? 1 / kMmPerInch : perMm;
}

/// Distance of labelled marks in ruler units: 1, 2 or 5 times a power of ten, at least 55 px apart.
double BenchView::unitsPerMark() const {
    const double least = 55 / (scale_ / unitFactor()), power = std::pow(10, std::floor(std::log10(least)));
    for (const double k : {1, 2, 5})
        if (k * power >= least) return k * power;
    return 10 * power;
}

void BenchView::paintRulers(QPainter& painter) {
    painter.setRenderHint(QPainter::Antialiasing, false);
    painter.fillRect(0, 0, width(), kRuler, theme().sheet);
    painter.fillRect(0, 0, kRuler, height(), theme().sheet);
    painter.setFont(uiFont(9));
    const double mark = unitsPerMark(), px = scale_ / unitFactor(), fine = mark / 5;
    const auto draw = [&](bool across) {
        const double from = (kRuler - (across ? origin_.x : origin_.y)) / px,
                     to = ((across ? width() : height()) - (across ? origin_.x : origin_.y)) / px;
        for (double i = std::ceil(from / fine); i * fine <= to; ++i) {
            const bool labelled = std::fmod(std::abs(i), 5) == 0;
            const int at = int(std::lround((across ? origin_.x : origin_.y) + i * fine * px)),
                      length = labelled ? 9 : 4;
            painter.setPen(labelled ? theme().softInk : theme().hairline);
            if (across)
                painter.drawLine(at, kRuler - length, at, kRuler);
            else
                painter.drawLine(kRuler - length, at, kRuler, at);
            if (!labelled) continue;
            painter.setPen(theme().softInk);
            const QString text = QString::number(i * fine, 'g', 6);
            if (across) {
                painter.drawText(at + 3, 10, text);
            } else {
                painter.save();
                painter.translate(10, at - 3);
                painter.rotate(-90);
                painter.drawText(0, 0, text);
                painter.restore();
            }
        }
    };
    draw(true);
    draw(false);
    painter.fillRect(0, 0, kRuler, kRuler, theme().sheet);
    const PiecePtr piece = document_ ? document_->piece() : nullptr;
    const bool screen = piece && piece->flat->unit == Unit::Px;
    painter.setPen(theme().softInk);
    painter.drawText(QRect(0, 0, kRuler, kRuler), Qt::AlignCenter,
                     screen || rulerUnit_ == RulerUnit::Px ? tr("px")
                     : rulerUnit_ == RulerUnit::Inch       ? tr("in")
                                                           : tr("mm"));
    painter.setPen(theme().hairline);
    painter.drawLine(0, kRuler, width(), kRuler);
    painter.drawLine(kRuler, 0, kRuler, height());
}

void BenchView::showEvent(QShowEvent*) {
    refresh();
}

void BenchView::setProofing(Proofing* proofing) {
    proof_.setProofing(proofing);
    strip_ = new ProofStrip(*proofing, proof_, this);
    connect(proofing, &Proofing::changed, this, [this] {
        if (fitted_ && fit()) showMoved(); // the strip takes room
    });
    connect(&proof_, &BenchProof::shown, this, [this] {
        update();
        if (isFinished()) Q_EMIT rendered();
    });
}

void BenchView::resizeEvent(QResizeEvent*) {
    if (strip_) strip_->stand();
    if (fitted_)
        zoomToFit();
    else
        requestPicture();
    Q_EMIT resized();
}

void BenchView::wheelEvent(QWheelEvent* event) {
    if (event->modifiers() & (Qt::ShiftModifier | Qt::AltModifier)) {
        const QPoint way = event->angleDelta();
        moveBy({(way.x() + way.y()) / 2.0, 0});
    } else {
        zoomBy(std::pow(kWheelStep, event->angleDelta().y() / 120.0), event->position());
    }
    event->accept();
}

void BenchView::mousePressEvent(QMouseEvent* event) {
    if (event->button() == Qt::MiddleButton || (event->button() == Qt::LeftButton && spaceHeld_)) {
        panning_ = true;
        last_ = event->position();
        setCursor(Qt::ClosedHandCursor);
    }
}

QColor BenchView::colourAt(QPointF p) const {
    return picture_.colourAt(p, origin_, scale_, sampleSide_);
}

void BenchView::moveBy(Vec2 way) {
    origin_ = origin_ + way;
    fitted_ = false;
    requestPicture();
    Q_EMIT viewMoved();
    update();
}

void BenchView::follow(const BenchView& other) {
    const Vec2 middle = other.fromView(QPointF(other.width() / 2.0, other.height() / 2.0));
    key_ = other.key_;
    sampleSide_ = other.sampleSide_;
    scale_ = other.scale_;
    origin_ = Vec2{width() / 2.0, height() / 2.0} - middle * scale_;
    fitted_ = false;
    requestPicture();
    update();
}

void BenchView::mouseMoveEvent(QMouseEvent* event) {
    if (panning_) {
        const QPointF way = event->position() - std::exchange(last_, event->position());
        return moveBy({way.x(), way.y()});
    }
    Q_EMIT pointerMoved(fromView(event->position()), colourAt(event->position()));
}

void BenchView::mouseReleaseEvent(QMouseEvent*) {
    if (!panning_) return;
    panning_ = false;
    unsetCursor();
}

void BenchView::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Space && !event->isAutoRepeat()) {
        spaceHeld_ = true;
        setCursor(Qt::OpenHandCursor);
    } else {
        QWidget::keyPressEvent(event);
    }
}

void BenchView::keyReleaseEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Space && !event->isAutoRepeat()) {
        spaceHeld_ = false;
        unsetCursor();
    }
    QWidget::keyReleaseEvent(event);
}

} // namespace glyptos
