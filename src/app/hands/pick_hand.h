// Pick: takes the colour under the pointer, of the reference where that is seen.
#pragma once

#include "app/bench/bench_hand.h"

namespace glyptos {

class PickHand : public BenchHand {
  public:
    using BenchHand::BenchHand;
    void press(const QMouseEvent& event, Vec2 at) override;
    void drag(const QMouseEvent& event, Vec2 at) override;
    void release() override;
    bool cancel() override;
    void paint(QPainter& painter) override;
    Qt::CursorShape cursor() const override { return Qt::CrossCursor; }
    QString sentence() const override;

  private:
    void pick(QPointF p);
    QColor picked_;
    QPointF at_;
    bool picking_ = false;
};

} // namespace glyptos
