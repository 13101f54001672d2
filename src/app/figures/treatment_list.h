// The treatments of a layer as a list of rows: a lamp to switch each, its words, its strength along the foot;
// drag to change the order.
#pragma once

#include "release/treatment.h"

#include <QWidget>

namespace glyptos {

class TreatmentList : public QWidget {
    Q_OBJECT
  public:
    explicit TreatmentList(QWidget* parent = nullptr);
    void setTreatments(const Treatments& treatments, int current);
    int current() const { return current_; }
    QRect rowOf(int i) const;
    QRect lampOf(int i) const;
    QSize sizeHint() const override;

  Q_SIGNALS:
    void chosen(int row);
    void toggled(int row);
    void moved(int from, int to);
    void removeAsked(int row);
    void menuAsked(int row, QPoint global);

  protected:
    bool event(QEvent* event) override;
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void contextMenuEvent(QContextMenuEvent* event) override;

  private:
    int rowAt(int y) const;
    Treatments treatments_;
    int current_ = -1, dragged_ = -1, target_ = -1;
    bool moving_ = false;
    QPoint pressed_;
};

/// Its name and what else there is to say: "Soft blur · 50 % · Screen".
QString treatmentSummary(const Treatment& treatment);

} // namespace glyptos
