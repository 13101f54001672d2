// Shape: draws shapes by dragging and free paths node by node, and moves the nodes of a free path in hand.
#pragma once

#include "app/bench/bench_hand.h"

namespace glyptos {

class ShapeHand : public BenchHand {
  public:
    using BenchHand::BenchHand;
    void press(const QMouseEvent& event, Vec2 at) override;
    void drag(const QMouseEvent& event, Vec2 at) override;
    void hover(Vec2 at) override;
    void release() override;
    void doubleClick(Vec2 at) override;
    void paint(QPainter& painter) override;
    bool wants(const QKeyEvent& event) const override;
    bool key(const QKeyEvent& event) override;
    bool cancel() override;
    Qt::CursorShape cursor() const override { return Qt::CrossCursor; }
    QString sentence() const override;

  private:
    enum class Doing { Nothing, Drawing, Pathing, Node };
    enum class Part { At, Before, After };
    struct NodeRef {
        size_t contour = 0, node = 0;
        Part part = Part::At;
    };

    /// The free path in hand whose nodes are shown: while paths are drawn, and of one that was
    /// double-clicked.
    const ShapeContent* path() const;
    bool hasNodeInHand() const;
    std::optional<NodeRef> nodeAt(QPointF p) const;
    Layer drawn(Vec2 to, Qt::KeyboardModifiers keys) const;
    void finishPath(bool closed);
    void addNode(Vec2 at);
    void changePath(const LayerPtr& start, const QString& name,
                    const std::function<void(ShapeContent&)>& edit, bool settled);
    void showDrawn(const Layer& layer);
    void paintPath(QPainter& painter) const;
    void paintNodes(QPainter& painter) const;

    Doing doing_ = Doing::Nothing;
    Vec2 from_, pointer_;
    bool moving_ = false, handling_ = false;
    Contour sketch_; ///< the free path being drawn, panel units
    LayerPtr start_;
    NodeRef held_;
    std::optional<NodeRef> inHand_; ///< node that Delete removes
    std::string drawing_;           ///< layer that is being drawn
    std::string nodesOf_;           ///< path whose nodes were asked for
};

} // namespace glyptos
