// The flat on the bench; a click takes a panel in hand.
#pragma once

#include "app/bench/bench_view.h"

namespace glyptos {

class FlatBench : public BenchView {
    Q_OBJECT
  public:
    using BenchView::BenchView;

  protected:
    Scene sceneAt(double pxPerUnit) const override;
    Rect extent() const override;
    void paintLines(QPainter& painter) override;
    void mousePressEvent(QMouseEvent* event) override;

  private:
    const Flat* flat() const;
    void paintName(QPainter& painter, const Panel& panel) const;
};

} // namespace glyptos
