// Letter: a click puts words where they should stand.
#pragma once

#include "app/bench/bench_hand.h"

namespace glyptos {

class LetterHand : public BenchHand {
  public:
    using BenchHand::BenchHand;
    void press(const QMouseEvent& event, Vec2 at) override;
    Qt::CursorShape cursor() const override { return Qt::IBeamCursor; }
    QString sentence() const override;
};

} // namespace glyptos
