// What goes with slicing: how lines are drawn, the gap, and the shade along the cuts.
#pragma once

#include "app/bench/compose_bench.h"
#include "app/widgets/number_field.h"

#include <QComboBox>
#include <QToolButton>
#include <QWidget>

namespace glyptos {

class SliceOptions : public QWidget {
    Q_OBJECT
  public:
    explicit SliceOptions(ComposeBench& bench, QWidget* parent = nullptr);

  Q_SIGNALS:
    /// The lines that are drawn are to be cut along.
    void sliceAsked();

  private:
    void refresh();
    void set(const std::function<void(SliceSettings&)>& change);

    ComposeBench& bench_;
    QComboBox* drawn_;
    NumberField *gap_, *shade_, *width_;
};

} // namespace glyptos
