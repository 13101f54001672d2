// What goes with kneading: the way, the tip, the edges, and how much of it all shows.
#pragma once

#include "app/bench/compose_bench.h"
#include "app/widgets/number_field.h"

#include <QComboBox>
#include <QToolButton>
#include <QWidget>

namespace glyptos {

class KneadOptions : public QWidget {
    Q_OBJECT
  public:
    explicit KneadOptions(ComposeBench& bench, QWidget* parent = nullptr);

  private:
    void refresh();
    void set(const std::function<void(HandSettings&)>& change);

    ComposeBench& bench_;
    QComboBox *way_, *edges_, *pulledIn_;
    NumberField *size_, *strength_, *all_;
    QToolButton* unknead_;
};

} // namespace glyptos
