#include "app/widgets/colour_chip.h"

#include "app/widgets/colours.h"
#include "app/widgets/theme.h"
#include "color/colour_words.h"

#include <QPainter>

namespace glyptos {

ColourChip::ColourChip(const QColor& colour, const QString& name, QWidget* parent)
    : QToolButton(parent) {
    setCursor(Qt::PointingHandCursor);
    setColour(colour, name);
}

void ColourChip::setColour(const QColor& colour, const QString& name) {
    colour_ = colour;
    setAccessibleName(name);
    setToolTip(name == colour.name() ? name : name + QStringLiteral("  ") + colour.name());
    update();
}

void ColourChip::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const bool marked = isChecked() || hasFocus() || underMouse();
    painter.setPen(QPen(marked ? theme().ink : theme().hairline, marked ? 2 : 1));
    painter.setBrush(colour_);
    painter.drawRoundedRect(QRectF(rect()).adjusted(2, 2, -2, -2), 5, 5);
    if (mark_.isEmpty()) return;
    painter.setPen(readableOn(colour_));
    painter.setFont(uiFont(11, 500));
    painter.drawText(rect(), Qt::AlignCenter, mark_);
}

QColor readableOn(const QColor& colour) {
    const Rgba c = fromQt(colour);
    return contrastRatio(c, {0, 0, 0, 1}) > contrastRatio(c, {1, 1, 1, 1}) ? Qt::black : Qt::white;
}

} // namespace glyptos
