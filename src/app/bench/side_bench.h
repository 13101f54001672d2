// A bench beside the Compose bench that is only looked at: another take, or the reference.
#pragma once

#include "app/bench/bench_view.h"

namespace glyptos {

class SideBench : public BenchView {
    Q_OBJECT
  public:
    using BenchView::BenchView;
    /// Shows that take of the panel in hand; an empty one: the reference.
    void setTake(const std::string& take);
    const std::string& take() const { return take_; }

  Q_SIGNALS:
    void taken(QPointF at); ///< clicked

  protected:
    Scene sceneAt(double pxPerUnit) const override;
    Rect extent() const override;
    void paintLines(QPainter& painter) override;
    QPainterPath paper() const override;
    void mousePressEvent(QMouseEvent* event) override;

  private:
    const Panel* panel() const;
    std::string take_;
};

/// A word on a bench that says what it shows.
void paintBenchCaption(QPainter& painter, const QString& words, bool inHand);

} // namespace glyptos
