// A small square of one colour to press.
#pragma once

#include <QColor>
#include <QToolButton>

namespace glyptos {

class ColourChip : public QToolButton {
    Q_OBJECT
  public:
    explicit ColourChip(const QColor& colour, const QString& name, QWidget* parent = nullptr);
    void setColour(const QColor& colour, const QString& name);
    QColor colour() const { return colour_; }
    /// Words written on it.
    void setMark(const QString& mark) { mark_ = mark; }
    QSize sizeHint() const override { return {30, 28}; }

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    QColor colour_;
    QString mark_;
};

/// Black or white, whichever is easier to read on a colour.
QColor readableOn(const QColor& colour);

} // namespace glyptos
