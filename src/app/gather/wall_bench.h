// The wall: a bench without edges, on which what is pinned is moved, scaled and grouped as layers are.
#pragma once

#include "app/bench/compose_bench.h"

namespace glyptos {

class Engine;

class WallBench : public ComposeBench {
    Q_OBJECT
  public:
    WallBench(Engine& engine, RenderService& service, QWidget* parent = nullptr);

    /// Areas of what is pinned, front to back.
    std::vector<Rect> pinned() const;
    /// Whether dragging ends on something outside of the wall: asked with the global position.
    using Elsewhere = std::function<bool(QPoint global)>;
    void setElsewhere(Elsewhere elsewhere) { elsewhere_ = std::move(elsewhere); }

  Q_SIGNALS:
    /// What is dragged is over something outside, or no longer.
    void draggedOver(QPoint global);
    /// The layer in hand was let go outside; it hangs where it hung.
    void droppedElsewhere(QPoint global);

  protected:
    Rect extent() const override;
    bool isSheet() const override { return false; }
    void paintLines(QPainter&) override {}
    void paintHandles(QPainter& painter) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;

  private:
    Elsewhere elsewhere_;
};

} // namespace glyptos
