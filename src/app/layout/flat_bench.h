// The flat on the bench; a click takes a panel in hand.
#pragma once

#include "app/bench/bench_view.h"
#include "render/fit/seams.h"

namespace glyptos {

class FlatBench : public BenchView {
    Q_OBJECT
  public:
    using BenchView::BenchView;
    /// Those that do not meet are marked.
    void setSeams(std::vector<Seam> seams);

  protected:
    Scene sceneAt(double pxPerUnit) const override;
    Rect extent() const override;
    void paintLines(QPainter& painter) override;
    QPainterPath paper() const override;
    void mousePressEvent(QMouseEvent* event) override;

  private:
    const Flat* flat() const;
    void paintName(QPainter& painter, const Panel& panel) const;
    QString nameWithSize(const Panel& panel) const;
    /// Whether the name of another narrow panel of the same row would lie on one of that width.
    bool isCrowded(const Panel& panel, double width, const QFontMetrics& metrics) const;
    void paintSeam(QPainter& painter, const Seam& seam) const;
    std::vector<Seam> seams_;
};

} // namespace glyptos
