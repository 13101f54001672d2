// A picture in which words are marked: by a box, whose corners are then dragged to where the words' own are.
#pragma once

#include "type/faces/find_face.h"

#include <QImage>
#include <QPainterPath>
#include <QPolygonF>
#include <QWidget>

namespace glyptos {

class SampleView : public QWidget {
    Q_OBJECT
  public:
    explicit SampleView(QWidget* parent = nullptr);
    void setPicture(const QImage& picture);
    const QImage& picture() const { return picture_; }
    /// The corners in px of the picture, from the left top clockwise; none: nothing is marked.
    const QPolygonF& corners() const { return corners_; }
    void setCorners(const QPolygonF& corners);
    /// What is marked, as if it had been seen from the front. Safe to use on any thread from then on.
    FaceSample sample() const;
    /// Letters to be drawn over the words: a box round them is laid over the ink of the sample, px of that.
    void setOverlay(const QPainterPath& letters, const QRectF& box, const QRectF& ink);

  Q_SIGNALS:
    void marked();

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    QSize sizeHint() const override { return {560, 420}; }

  private:
    QTransform toView() const;
    /// Of the front view of what is marked, px.
    QSize frontSize() const;
    QTransform frontToPicture() const;

    QImage picture_;
    QPolygonF corners_;
    QPainterPath overlay_;
    QRectF overlayBox_, ink_;
    QPointF from_;
    int held_ = -1; ///< a corner; 4: a box is being drawn
};

} // namespace glyptos
