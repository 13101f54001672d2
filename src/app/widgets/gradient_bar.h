// A gradient's run with its stops: drag to place, click to add, drag away to remove, double-click to colour.
#pragma once

#include "release/paint.h"

#include <QWidget>

namespace glyptos {

class GradientBar : public QWidget {
    Q_OBJECT
  public:
    explicit GradientBar(QWidget* parent = nullptr);
    void setStops(const std::vector<GradientStop>& stops);
    const std::vector<GradientStop>& stops() const { return stops_; }
    /// Index of the stop in hand.
    size_t current() const { return current_; }
    void setCurrent(size_t stop);
    /// Where a stop's handle stands, in px of the widget.
    QPointF handleOf(size_t stop) const;
    QSize sizeHint() const override { return {200, 40}; }

  Q_SIGNALS:
    void edited(bool settled); ///< not settled while a drag goes on
    void currentChanged();
    void colourAsked(); ///< of the stop in hand

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    QRectF bar() const;
    double placeAt(double x) const;
    std::optional<size_t> stopAt(QPointF p) const;
    void moveCurrent(double to);
    void removeCurrent();

    std::vector<GradientStop> stops_;
    size_t current_ = 0;
    bool dragging_ = false;
    std::optional<GradientStop> lifted_; ///< dragged away from the bar: gone when let go there
};

} // namespace glyptos
