// What goes with bending: corners or a grid, ready bends, a tilt by angles.
#pragma once

#include "app/bench/compose_bench.h"
#include "app/widgets/number_field.h"

#include <QComboBox>
#include <QToolButton>
#include <QWidget>

namespace glyptos {

class BendHand;

class BendOptions : public QWidget {
    Q_OBJECT
  public:
    explicit BendOptions(ComposeBench& bench, QWidget* parent = nullptr);

  private:
    void makeGrid(QLayout* row);
    void makeTilt(QLayout* row);
    void refresh();
    void set(const std::function<void(BendSettings&)>& change);
    BendHand& hand() const;

    ComposeBench& bench_;
    QComboBox *by_, *ready_;
    NumberField *columns_, *rows_, *amount_, *around_, *over_, *eye_;
    std::vector<QWidget*> ofGrid_, ofCorners_;
};

} // namespace glyptos
