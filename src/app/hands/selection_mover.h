// The selection itself moved, scaled and turned on the panel, with all that it is a selection of left alone.
#pragma once

#include "app/bench/bench_hand.h"

namespace glyptos {

class SelectionMover {
  public:
    explicit SelectionMover(ComposeBench& bench)
        : bench_(bench) {}
    /// Takes hold of a grip of its frame, or of all of it. False when the press met nothing of it.
    bool press(Vec2 at);
    void drag(Vec2 at, Qt::KeyboardModifiers keys);
    /// What a drag that is over did; nothing when it did nothing.
    std::optional<Affine> release();
    /// False when nothing was being dragged.
    bool cancel();
    void paint(QPainter& painter) const;

  private:
    enum class Grip : unsigned char { None, Body, Corner, Turn };
    std::optional<Rect> frame() const;
    Vec2 inView(Vec2 onPanel) const;
    Vec2 turnGrip(const std::array<Vec2, 4>& corners) const;
    Affine scaling(Vec2 at, Qt::KeyboardModifiers keys) const;
    Affine turning(Vec2 at, Qt::KeyboardModifiers keys) const;

    ComposeBench& bench_;
    Grip grip_ = Grip::None;
    size_t corner_ = 0; ///< clockwise from left-top
    Rect box_;          ///< as it began
    Vec2 from_;
    Affine map_;
};

} // namespace glyptos
