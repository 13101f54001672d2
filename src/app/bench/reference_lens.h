// The reference picture of the panel in hand, laid over the work, split with it, or as a difference.
#pragma once

#include "app/bench/bench_picture.h"

namespace glyptos {

class ComposeBench;

class ReferenceLens : public QObject {
    Q_OBJECT
  public:
    ReferenceLens(ComposeBench& bench, RenderService& service);
    /// The panel's reference; nothing when there is none or it is off.
    std::optional<Reference> shown() const;
    void request();
    void paint(QPainter& painter) const;
    /// The reference's colour where it can be seen at that point; invalid elsewhere.
    QColor colourAt(QPointF p) const;
    /// The line between work and reference, widget px; nothing when they are not split.
    std::optional<double> splitX() const;
    /// True when the press was on that line, and a drag of it begins.
    bool press(QPointF p);
    bool isDragging() const { return dragging_; }
    void drag(QPointF p);
    void release();

  private:
    [[nodiscard]] ReleasePtr withSplitAt(double x) const;

    ComposeBench& bench_;
    BenchPicture picture_;
    bool dragging_ = false;
};

} // namespace glyptos
