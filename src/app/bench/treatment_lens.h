// Treatments on the bench: the work before and after them, split by a line that is dragged, and the points of
// the treatment in hand.
#pragma once

#include "app/bench/bench_picture.h"
#include "release/release.h"

namespace glyptos {

class ComposeBench;

class TreatmentLens : public QObject {
    Q_OBJECT
  public:
    /// What lies left of the line: the work as it is, without what is done to the layer in hand, or without
    /// any treatment.
    enum class Before { Off, OfLayer, OfAll };
    TreatmentLens(ComposeBench& bench, RenderService& service);

    void setBefore(Before before);
    Before before() const { return before_; }
    /// The row of the list of the layer in hand whose points show, or -1.
    void setTreatment(int row);
    void request();
    void paint(QPainter& painter) const;
    /// Over all else.
    void paintGrips(QPainter& painter) const;
    /// True when the press was on the line or on a point, and a drag of it begins.
    bool press(QPointF p);
    bool isDragging() const { return drag_ != Drag::None; }
    void drag(QPointF p);
    void release();
    /// Where the line stands, px of the widget; nothing when it is not shown.
    std::optional<double> splitX() const;
    /// Where the point of a figure stands, px of the widget.
    std::optional<QPointF> placeOf(size_t figure) const;

  private:
    enum class Drag { None, Line, Point };
    const Treatment* treatment() const;

    ComposeBench& bench_;
    BenchPicture picture_;
    Before before_ = Before::Off;
    double split_ = 0.5; ///< of the panel with its bleed
    int row_ = -1;
    Drag drag_ = Drag::None;
    size_t figure_ = 0;
};

} // namespace glyptos
