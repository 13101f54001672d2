// The steps of the work, top to bottom, as icon and word.
#pragma once

#include <QWidget>
#include <vector>

namespace glyptos {

enum class Step { Brief, Gather, Compose, LayOut, Deliver };

class StepsRail : public QWidget {
    Q_OBJECT
  public:
    explicit StepsRail(QWidget* parent = nullptr);
    Step current() const { return current_; }
    void setCurrent(Step step);
    QRect tabOf(Step step) const;
    static QString nameOf(Step step);

  Q_SIGNALS:
    void chosen(Step step);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    Step current_ = Step::Compose;
};

} // namespace glyptos
