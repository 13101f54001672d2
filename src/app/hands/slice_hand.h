// Slice: draws lines across the layer in hand, and cuts it along them.
#pragma once

#include "app/bench/bench_hand.h"
#include "render/slices.h"

namespace glyptos {

class SliceHand : public BenchHand {
  public:
    using BenchHand::BenchHand;
    void press(const QMouseEvent& event, Vec2 at) override;
    void drag(const QMouseEvent& event, Vec2 at) override;
    void release() override;
    void paint(QPainter& painter) override;
    bool wants(const QKeyEvent& event) const override;
    bool key(const QKeyEvent& event) override;
    bool cancel() override;
    Qt::CursorShape cursor() const override { return Qt::CrossCursor; }
    QString sentence() const override;

    /// Cuts along the lines that are drawn.
    void slice();

  private:
    QString whyNot() const;
    std::vector<CutLine> lines_;
    CutLine drawing_;
};

} // namespace glyptos
