// What goes with picking a colour: over how much it is averaged, and keeping it.
#pragma once

#include "app/bench/compose_bench.h"

#include <QComboBox>
#include <QToolButton>

namespace glyptos {

class PickOptions : public QWidget {
    Q_OBJECT
  public:
    explicit PickOptions(ComposeBench& bench, QWidget* parent = nullptr);

  private:
    void keep();
    ComposeBench& bench_;
    QComboBox* side_;
    QToolButton* keep_;
    QColor picked_;
};

} // namespace glyptos
