#include "app/figures/treatment_list.h"

#include "app/figures/treatment_figures.h"
#include "app/widgets/theme.h"

#include <QApplication>
#include <QContextMenuEvent>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <cmath>

namespace glyptos {
namespace {

constexpr int kRow = 30, kGap = 3, kLamp = 12;

} // namespace

QString treatmentSummary(const Treatment& t) {
    QStringList words{t.kind ? treatmentWord(t.kind->title) : TreatmentList::tr("Of a newer Glyptos")};
    if (t.opacity < 1) words << QStringLiteral("%1 %").arg(std::lround(t.opacity * 100));
    if (t.blend != BlendMode::Normal) {
        const auto& label = infoOf(t.blend).label;
        words << QString::fromUtf8(label.data(), qsizetype(label.size()));
    }
    if (t.mask) words << TreatmentList::tr("mask");
    return words.join(QStringLiteral(" · "));
}

TreatmentList::TreatmentList(QWidget* parent)
    : QWidget(parent) {
    setAccessibleName(tr("Treatments of the layer"));
    setFocusPolicy(Qt::StrongFocus);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
}

void TreatmentList::setTreatments(const Treatments& treatments, int current) {
    treatments_ = treatments;
    current_ = current;
    updateGeometry();
    update();
}

QSize TreatmentList::sizeHint() const {
    return {200, std::max(0, int(treatments_.size()) * (kRow + kGap) - kGap)};
}

QRect TreatmentList::rowOf(int i) const {
    return {0, i * (kRow + kGap), width(), kRow};
}

QRect TreatmentList::lampOf(int i) const {
    const QRect row = rowOf(i);
    return {row.right() - kLamp - 10, row.center().y() - kLamp / 2, kLamp, kLamp};
}

int TreatmentList::rowAt(int y) const {
    const int i = y / (kRow + kGap);
    return y >= 0 && i < int(treatments_.size()) ? i : -1;
}

void TreatmentList::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    for (int i = 0; i < int(treatments_.size()); ++i) {
        const Treatment& t = treatments_[size_t(i)];
        const QRectF card = QRectF(rowOf(i)).adjusted(0.5, 0.5, -0.5, -0.5);
        painter.setPen(QPen(i == current_ ? theme().accent : theme().hairline, 1));
        painter.setBrush(i == current_ ? theme().accentWash : theme().sheet);
        painter.drawRoundedRect(card, 6, 6);
        painter.setFont(uiFont(12, 500));
        painter.setPen(t.on ? theme().ink : theme().softInk);
        const QRectF words = card.adjusted(10, 0, -kLamp - 20, -2);
        painter.drawText(
            words, Qt::AlignVCenter,
            painter.fontMetrics().elidedText(treatmentSummary(t), Qt::ElideRight, int(words.width())));
        painter.setPen(Qt::NoPen);
        painter.setBrush(theme().accent);
        painter.drawRect(QRectF(card.left() + 6, card.bottom() - 2.5, (card.width() - 12) * t.opacity, 2));
        painter.setPen(QPen(t.on ? theme().caution : theme().softInk, 1.4));
        painter.setBrush(t.on ? QBrush(theme().caution.lighter(150)) : QBrush(Qt::NoBrush));
        painter.drawEllipse(QRectF(lampOf(i)).adjusted(1, 1, -1, -1));
    }
    if (target_ >= 0) {
        painter.setPen(QPen(theme().accent, 2));
        const int y = std::max(1, target_ * (kRow + kGap) - kGap / 2 - 1);
        painter.drawLine(0, y, width(), y);
    }
    if (hasFocus() && current_ >= 0) {
        painter.setPen(QPen(theme().accent, 1, Qt::DotLine));
        painter.setBrush(Qt::NoBrush);
        painter.drawRoundedRect(QRectF(rowOf(current_)).adjusted(2.5, 2.5, -2.5, -2.5), 5, 5);
    }
}

void TreatmentList::mousePressEvent(QMouseEvent* event) {
    const int row = rowAt(int(event->position().y()));
    if (row < 0 || event->button() != Qt::LeftButton) return;
    if (lampOf(row).adjusted(-5, -5, 5, 5).contains(event->position().toPoint())) return Q_EMIT toggled(row);
    dragged_ = row;
    moving_ = false;
    pressed_ = event->position().toPoint();
    Q_EMIT chosen(row);
}

void TreatmentList::mouseMoveEvent(QMouseEvent* event) {
    if (dragged_ < 0) return;
    const QPoint at = event->position().toPoint();
    if (!moving_ && (at - pressed_).manhattanLength() < QApplication::startDragDistance()) return;
    moving_ = true;
    target_ = std::clamp((at.y() + kRow / 2) / (kRow + kGap), 0, int(treatments_.size()));
    update();
}

void TreatmentList::mouseReleaseEvent(QMouseEvent*) {
    const int from = std::exchange(dragged_, -1), to = std::exchange(target_, -1);
    update();
    if (from < 0 || !std::exchange(moving_, false) || to < 0) return;
    const int index = to > from ? to - 1 : to;
    if (index != from) Q_EMIT moved(from, index);
}

/// Keys that take a layer away elsewhere take away a treatment here.
bool TreatmentList::event(QEvent* event) {
    if (event->type() == QEvent::ShortcutOverride) {
        const int key = static_cast<QKeyEvent*>(event)->key();
        if (key == Qt::Key_Delete || key == Qt::Key_Backspace || key == Qt::Key_Up || key == Qt::Key_Down ||
            key == Qt::Key_Space) {
            event->accept();
            return true;
        }
    }
    return QWidget::event(event);
}

void TreatmentList::keyPressEvent(QKeyEvent* event) {
    const int last = int(treatments_.size()) - 1;
    const bool moves = event->modifiers() & Qt::AltModifier;
    const int by = event->key() == Qt::Key_Up ? -1 : event->key() == Qt::Key_Down ? 1 : 0;
    if (by != 0 && last >= 0) {
        const int to = std::clamp(current_ + by, 0, last);
        if (!moves) return Q_EMIT chosen(to);
        if (to != current_) Q_EMIT moved(current_, to);
        return;
    }
    if (current_ < 0) return QWidget::keyPressEvent(event);
    if (event->key() == Qt::Key_Space) return Q_EMIT toggled(current_);
    if (event->key() == Qt::Key_Delete || event->key() == Qt::Key_Backspace)
        return Q_EMIT removeAsked(current_);
    QWidget::keyPressEvent(event);
}

void TreatmentList::contextMenuEvent(QContextMenuEvent* event) {
    const int row = event->reason() == QContextMenuEvent::Mouse ? rowAt(event->y()) : current_;
    if (row < 0) return;
    Q_EMIT chosen(row);
    Q_EMIT menuAsked(row, event->globalPos());
}

} // namespace glyptos
