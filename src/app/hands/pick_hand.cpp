#include "app/hands/pick_hand.h"

#include "app/bench/compose_bench.h"
#include "app/widgets/theme.h"
#include "release/edits/palette_edits.h"

namespace glyptos {

QString PickHand::sentence() const {
    const LayerPtr one = layer();
    return one && withOwnColour(*one, {})
               ? ComposeBench::tr("Click a colour to give it to %1.").arg(QString::fromStdString(one->name))
               : ComposeBench::tr("Click a colour to copy it.");
}

/// The layer in hand shows the colour at once; what is under the pointer must not change by that, so the
/// colour is read before.
void PickHand::pick(QPointF p) {
    at_ = p;
    if (const QColor colour = bench_.colourAt(p); colour.isValid()) picked_ = QColor(colour.rgb());
    bench_.update();
}

void PickHand::press(const QMouseEvent& event, Vec2) {
    picked_ = {};
    picking_ = true;
    pick(event.position());
}

void PickHand::drag(const QMouseEvent& event, Vec2) {
    if (picking_) pick(event.position());
}

void PickHand::release() {
    if (std::exchange(picking_, false)) bench_.giveColour(picked_, bench_.fromView({at_.x(), at_.y()}));
    bench_.update();
}

bool PickHand::cancel() {
    return std::exchange(picking_, false);
}

void PickHand::paint(QPainter& painter) {
    if (!picking_ || !picked_.isValid()) return;
    const QRectF swatch(at_.x() + 14, at_.y() - 40, 74, 26);
    painter.setPen(QPen(Qt::white, 2));
    painter.setBrush(picked_);
    painter.drawRoundedRect(swatch, 6, 6);
    painter.setFont(uiFont(11, 500));
    painter.setPen(picked_.lightnessF() > 0.5 ? Qt::black : Qt::white);
    painter.drawText(swatch, Qt::AlignCenter, picked_.name());
}

} // namespace glyptos
