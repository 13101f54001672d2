// A curve of tones on a histogram: drag a point, click to add one, drag it off the field to remove it.
#pragma once

#include "treat/tone_curve.h"

#include <QColor>
#include <QWidget>
#include <array>
#include <vector>

namespace glyptos {

/// How much there is of each tone, 256 each of red, green, blue and luma.
using Histogram = std::array<std::array<float, 256>, 4>;

class ToneCurveEditor : public QWidget {
    Q_OBJECT
  public:
    explicit ToneCurveEditor(const QString& accessibleName, QWidget* parent = nullptr);
    void setCurve(const ToneCurve& curve);
    const ToneCurve& curve() const { return curve_; }
    /// What stands behind the curve, in the colour of the channel that it is about.
    void setHistogram(const Histogram& histogram, int channel);
    /// Puts a point on the curve at a tone, or takes the one there in hand.
    void addPointAt(double tone);
    /// Where a point stands, in px of the widget.
    QPointF placeOf(Vec2 point) const;
    QSize sizeHint() const override { return {240, 180}; }
    bool hasHeightForWidth() const override { return true; }
    int heightForWidth(int width) const override { return width * 3 / 4; }

  Q_SIGNALS:
    void edited(bool settled); ///< not settled while a drag goes on

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    QRectF field() const;
    Vec2 pointAt(QPointF p) const;
    size_t nearest(QPointF p) const;
    size_t insert(Vec2 point);
    void moveCurrent(Vec2 to);
    void removeCurrent();

    ToneCurve curve_; ///< never empty here: the identity has its two ends
    size_t current_ = 0;
    bool dragging_ = false, lifted_ = false;
    Histogram histogram_{};
    int channel_ = 3;
};

} // namespace glyptos
