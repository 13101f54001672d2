// A field for one figure that takes units and sums, and turns by wheel, arrows and a drag on its label.
#pragma once

#include <QLabel>
#include <QLineEdit>
#include <functional>

namespace glyptos {

/// What a field's figures mean and how they are shown.
struct FieldUnit {
    QString suffix; ///< shown behind the figure
    int decimals = 1;
    double step = 1;                 ///< of one wheel notch or arrow
    double least = -1e9, most = 1e9; ///< refused outside, never clamped
    bool length = false;             ///< understands mm, cm, in, pt, and px at `pxPerMm`
    double pxPerMm = 11.8110236;
    double perMm = 1; ///< field units in one mm, for lengths that are not shown in mm
};

class NumberField : public QLineEdit {
    Q_OBJECT
  public:
    explicit NumberField(const QString& accessibleName, const FieldUnit& unit = {},
                         QWidget* parent = nullptr);
    void setUnit(const FieldUnit& unit);
    /// Shows a figure without reporting it.
    void setValue(double value);
    double value() const { return value_; }
    /// Changes the figure as a turn of the wheel would.
    void stepBy(double steps);

  Q_SIGNALS:
    /// The user set another figure. `settled` is false while a wheel or drag goes on.
    void edited(double value, bool settled);
    /// A drag on the label is about to turn the figure.
    void turning();

  protected:
    void wheelEvent(QWheelEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void focusInEvent(QFocusEvent* event) override;

  private:
    void readText();
    void showValue(double value);
    double value_ = 0;
    FieldUnit unit_;
};

/// A label that turns its field when dragged sideways.
class FieldLabel : public QLabel {
  public:
    FieldLabel(const QString& text, NumberField* field, QWidget* parent = nullptr);

  protected:
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;

  private:
    NumberField* field_;
    double lastX_ = 0;
};

} // namespace glyptos
