// Filling areas of a drawing between its lines, a click or a drag through several at a time.
#pragma once

#include "app/bench/bench_hand.h"
#include "vision/lines/line_areas.h"

#include <memory>

namespace glyptos {

class AreaFill {
  public:
    explicit AreaFill(ComposeBench& bench)
        : bench_(bench) {}
    void press(Vec2 at);
    void drag(Vec2 at);
    void release();
    void paint(QPainter& painter);
    bool cancel();
    QString sentence() const;
    /// The lines of the picture in hand on a layer of their own, its paper lifted off; the picture is
    /// switched off.
    void liftPaper();
    /// In px of the panel's own pixels, as set or as suits its size.
    double gapPx() const;
    double speckPx() const;

  private:
    struct Drawing;
    void find();
    void light();
    /// `asked`: what runs out is kept, too.
    void keep(bool asked = false);
    Document& document() const;
    QString whyNot() const;

    ComposeBench& bench_;
    std::vector<Vec2> seeds_; ///< where was pressed and dragged, on the panel
    bool pressed_ = false;
    std::shared_ptr<const Drawing> drawing_; ///< whose areas are known
    std::vector<int> lit_;                   ///< areas that are about to be filled
    bool asks_ = false;                      ///< they run out: only another click keeps them
};

} // namespace glyptos
