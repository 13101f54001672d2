#include "app/widgets/gradient_bar.h"

#include "app/widgets/colours.h"
#include "app/widgets/theme.h"

#include <QLinearGradient>
#include <QMouseEvent>
#include <QPainter>
#include <cmath>

namespace glyptos {
namespace {

constexpr double kHandle = 6; // px, half of a handle's width
constexpr double kAway = 26;  // px below the bar at which a stop is let go

} // namespace

GradientBar::GradientBar(QWidget* parent)
    : QWidget(parent) {
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("Stops of the gradient"));
    setFixedHeight(40);
    setToolTip(
        tr("Click to add a colour, drag it along, drag it away to remove it, double-click to change it"));
}

void GradientBar::setStops(const std::vector<GradientStop>& stops) {
    stops_ = stops;
    current_ = std::min(current_, stops_.empty() ? 0 : stops_.size() - 1);
    update();
}

void GradientBar::setCurrent(size_t stop) {
    current_ = stop;
    update();
}

QRectF GradientBar::bar() const {
    return QRectF(rect()).adjusted(kHandle + 1, 2, -kHandle - 1, -18);
}

QPointF GradientBar::handleOf(size_t stop) const {
    return {bar().left() + stops_[stop].at * bar().width(), bar().bottom() + 8};
}

double GradientBar::placeAt(double x) const {
    return std::clamp((x - bar().left()) / std::max(1.0, bar().width()), 0.0, 1.0);
}

std::optional<size_t> GradientBar::stopAt(QPointF p) const {
    std::optional<size_t> best;
    for (size_t i = 0; i < stops_.size(); ++i)
        if (p.y() > bar().bottom() - 3 && std::abs(p.x() - handleOf(i).x()) <= kHandle + 2 &&
            (!best || i == current_))
            best = i;
    return best;
}

void GradientBar::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    QLinearGradient run(bar().topLeft(), bar().topRight());
    run.setInterpolationMode(QGradient::ColorInterpolation);
    // Every 1/64, since a QGradient mixes straight colours and the art premultiplied ones.
    for (int i = 0; i <= 64; ++i) run.setColorAt(i / 64.0, toQt(colourAlong(stops_, i / 64.0)));
    painter.setPen(QPen(theme().hairline, 1));
    painter.setBrush(QBrush(theme().bench.lighter(130), Qt::BDiagPattern));
    painter.drawRoundedRect(bar(), 4, 4);
    painter.setBrush(run);
    painter.drawRoundedRect(bar(), 4, 4);
    for (size_t i = 0; i < stops_.size(); ++i) {
        const QPointF at = handleOf(i);
        const bool on = i == current_;
        QColor colour = toQt(stops_[i].colour);
        colour.setAlpha(255);
        painter.setPen(QPen(on ? theme().accent : theme().softInk, on ? 2 : 1));
        painter.setBrush(colour);
        painter.drawPolygon(QPolygonF{at + QPointF(0, -8), at + QPointF(kHandle, -2),
                                      at + QPointF(kHandle, 7), at + QPointF(-kHandle, 7),
                                      at + QPointF(-kHandle, -2)});
    }
    if (hasFocus()) {
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(theme().accent, 1, Qt::DotLine));
        painter.drawRect(rect().adjusted(0, 0, -1, -1));
    }
}

void GradientBar::mousePressEvent(QMouseEvent* event) {
    const auto hit = stopAt(event->position());
    dragging_ = true;
    if (hit) {
        current_ = *hit;
    } else {
        const double t = placeAt(event->position().x());
        current_ = putStop(stops_, {t, colourAlong(stops_, t)});
        Q_EMIT edited(false);
    }
    Q_EMIT currentChanged();
    update();
}

void GradientBar::moveCurrent(double to) {
    GradientStop stop = stops_[current_];
    stop.at = to;
    stops_.erase(stops_.begin() + long(current_));
    current_ = putStop(stops_, stop);
}

void GradientBar::mouseMoveEvent(QMouseEvent* event) {
    if (!dragging_ || stops_.empty()) return;
    const bool away = event->position().y() > height() + kAway || event->position().y() < -kAway;
    if (away && !lifted_ && stops_.size() > 1) {
        lifted_ = stops_[current_];
        stops_.erase(stops_.begin() + long(current_));
        current_ = 0;
    } else if (!away && lifted_) {
        stops_.insert(stops_.begin(), *lifted_);
        current_ = 0;
        lifted_.reset();
    }
    if (!lifted_) moveCurrent(placeAt(event->position().x()));
    Q_EMIT edited(false);
    update();
}

void GradientBar::mouseReleaseEvent(QMouseEvent*) {
    if (!dragging_) return;
    dragging_ = false;
    lifted_.reset();
    Q_EMIT currentChanged();
    Q_EMIT edited(true);
}

void GradientBar::mouseDoubleClickEvent(QMouseEvent* event) {
    if (stopAt(event->position())) Q_EMIT colourAsked();
}

void GradientBar::removeCurrent() {
    if (stops_.size() < 2) return;
    stops_.erase(stops_.begin() + long(current_));
    current_ = std::min(current_, stops_.size() - 1);
    Q_EMIT currentChanged();
    Q_EMIT edited(true);
}

void GradientBar::keyPressEvent(QKeyEvent* event) {
    const double step = event->modifiers() & Qt::ShiftModifier ? 0.1 : 0.01;
    if (stops_.empty()) return QWidget::keyPressEvent(event);
    switch (event->key()) {
    case Qt::Key_Left:
    case Qt::Key_Right:
        moveCurrent(
            std::clamp(stops_[current_].at + (event->key() == Qt::Key_Left ? -step : step), 0.0, 1.0));
        Q_EMIT edited(true);
        break;
    case Qt::Key_Delete:
    case Qt::Key_Backspace:
        removeCurrent();
        break;
    case Qt::Key_Return:
        Q_EMIT colourAsked();
        break;
    case Qt::Key_Up:
    case Qt::Key_Down:
        current_ = (current_ + (event->key() == Qt::Key_Up ? 1 : stops_.size() - 1)) % stops_.size();
        Q_EMIT currentChanged();
        break;
    default:
        return QWidget::keyPressEvent(event);
    }
    update();
}

} // namespace glyptos
