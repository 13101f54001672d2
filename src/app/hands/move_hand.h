// Move: takes layers in hand, moves, scales, stretches, leans, turns and copies them.
#pragma once

#include "app/bench/bench_hand.h"
#include "render/snap.h"

namespace glyptos {

class MoveHand : public BenchHand {
  public:
    using BenchHand::BenchHand;
    void press(const QMouseEvent& event, Vec2 at) override;
    void drag(const QMouseEvent& event, Vec2 at) override;
    void release() override;
    void doubleClick(Vec2 at) override;
    void paint(QPainter& painter) override;
    bool key(const QKeyEvent& event) override;
    bool cancel() override;
    QString sentence() const override;

  private:
    enum class Grip { None, Body, Corner, Side, Turn, Band };
    /// What a drag does to each layer in hand.
    using Motion = std::function<Layer(Layer)>;

    struct Drag {
        Grip grip = Grip::None;
        int which = 0;      ///< corner or side 0…3, clockwise from left-top and top
        std::string letsGo; ///< let go of by a click with Shift
        Vec2 from, to;
        bool moving = false, copies = false, again = false; ///< again: the layer was in hand before
        ReleasePtr start;
        std::vector<std::string> layers; ///< in hand before it was copied
        Frame frame;
        double turn = 0; ///< of the layer, when it is one
        QString name;
    };

    std::vector<LayerPtr> movable() const;
    /// Round all that the drag would move; nothing when that is nothing.
    std::optional<Frame> handFrame() const;
    std::array<Vec2, 4> cornersInView(const Frame& frame) const;
    std::array<Vec2, 4> gripsInView(const Frame& frame) const;
    Vec2 turnGripInView(const Frame& frame) const;
    std::pair<Grip, int> gripAt(QPointF p) const;
    void takeInHand(const QMouseEvent& event, Vec2 at);
    Motion motion(Vec2 at, Qt::KeyboardModifiers keys);
    Motion moving(Vec2 at, Qt::KeyboardModifiers keys);
    Motion scaling(Vec2 at, Qt::KeyboardModifiers keys);
    Motion siding(Vec2 at, Qt::KeyboardModifiers keys);
    Motion turning(Vec2 at, Qt::KeyboardModifiers keys);
    void apply(const Motion& motion);
    QString what() const;
    void nudge(Vec2 by);

    Drag drag_;
    std::vector<SnapLine> caught_;
};

} // namespace glyptos
