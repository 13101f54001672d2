// What Shape draws: a figure, a line, a free path, or one of the ornaments.
#pragma once

#include "app/bench/compose_bench.h"
#include "file/ornaments.h"

#include <QComboBox>
#include <QToolButton>

namespace glyptos {

class ShapeChoice : public QWidget {
    Q_OBJECT
  public:
    explicit ShapeChoice(ComposeBench& bench);

  private:
    void choose();
    void chooseOrnament(const Ornament& ornament);
    void fillOrnaments();

    ComposeBench& bench_;
    QComboBox* kind_;
    QToolButton* ornaments_;
    QWidget* board_;
};

} // namespace glyptos
