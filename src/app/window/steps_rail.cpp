#include "app/window/steps_rail.h"

#include "app/widgets/theme.h"

#include <QFile>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QSvgRenderer>

namespace glyptos {
namespace {

constexpr int kSteps = 5, kTab = 62, kTop = 12, kRail = 76;
constexpr const char* kIcons[kSteps] = {":/icons/brief.svg", ":/icons/gather.svg", ":/icons/compose.svg",
                                        ":/icons/layout.svg", ":/icons/deliver.svg"};

void paintIcon(QPainter& painter, const char* file, const QRectF& area, const QColor& colour) {
    QFile source(QString::fromLatin1(file));
    if (!source.open(QIODevice::ReadOnly)) return;
    QByteArray svg = source.readAll();
    svg.replace("currentColor", colour.name().toLatin1());
    QSvgRenderer(svg).render(&painter, area);
}

} // namespace

StepsRail::StepsRail(QWidget* parent)
    : QWidget(parent) {
    setFixedWidth(kRail);
    setFocusPolicy(Qt::TabFocus);
    setAccessibleName(tr("Steps of the work"));
}

QString StepsRail::nameOf(Step step) {
    switch (step) {
    case Step::Brief:
        return tr("Brief");
    case Step::Gather:
        return tr("Gather");
    case Step::Compose:
        return tr("Compose");
    case Step::LayOut:
        return tr("Lay out");
    default:
        return tr("Deliver");
    }
}

void StepsRail::setCurrent(Step step) {
    current_ = step;
    update();
}

QRect StepsRail::tabOf(Step step) const {
    return {6, kTop + int(step) * kTab, kRail - 6, kTab - 2};
}

void StepsRail::paintEvent(QPaintEvent*) {
    const Theme& t = theme();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.fillRect(rect(), t.rail);
    for (int i = 0; i < kSteps; ++i) {
        const Step step = static_cast<Step>(i);
        const QRect tab = tabOf(step);
        const bool here = step == current_;
        if (here) {
            QPainterPath shape;
            shape.addRoundedRect(QRectF(tab).adjusted(0, 0, 12, 0), 8, 8);
            painter.fillPath(shape, t.paper);
        }
        paintIcon(painter, kIcons[i], QRectF(tab.center().x() - 12, tab.top() + 9, 24, 24),
                  here ? t.accent : t.railInk);
        painter.setFont(uiFont(11, here ? 600 : 400));
        painter.setPen(here ? t.ink : t.railInk);
        painter.drawText(QRect(tab.left(), tab.top() + 36, tab.width() - 4, 18), Qt::AlignCenter,
                         nameOf(step));
        if (here && hasFocus()) {
            painter.setPen(QPen(t.accent, 1, Qt::DotLine));
            painter.drawRect(tab.adjusted(4, 3, -6, -4));
        }
    }
}

void StepsRail::mousePressEvent(QMouseEvent* event) {
    for (int i = 0; i < kSteps; ++i)
        if (tabOf(static_cast<Step>(i)).contains(event->position().toPoint()))
            Q_EMIT chosen(static_cast<Step>(i));
}

void StepsRail::keyPressEvent(QKeyEvent* event) {
    const int at = int(current_);
    if (event->key() == Qt::Key_Down && at + 1 < kSteps)
        Q_EMIT chosen(static_cast<Step>(at + 1));
    else if (event->key() == Qt::Key_Up && at > 0)
        Q_EMIT chosen(static_cast<Step>(at - 1));
    else
        QWidget::keyPressEvent(event);
}

} // namespace glyptos
