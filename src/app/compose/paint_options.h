// What goes with painting: the brush, how it paints, its colour, symmetry, lines that are kept.
#pragma once

#include "app/bench/compose_bench.h"
#include "app/compose/brush_board.h"
#include "app/widgets/brush_figures.h"
#include "app/widgets/form_rows.h"

#include <QActionGroup>
#include <QComboBox>
#include <QMenu>
#include <QToolButton>
#include <QWidget>

namespace glyptos {

class PaintOptions : public QWidget {
    Q_OBJECT
  public:
    explicit PaintOptions(ComposeBench& bench, QWidget* parent = nullptr);
    BrushBoard& board() { return *board_; }

  private:
    void makeBrush(QLayout* row);
    void makeFigures(QLayout* row);
    void makeWays(QLayout* row);
    void refresh();
    void set(const std::function<void(PaintSettings&)>& change);

    ComposeBench& bench_;
    QToolButton *brush_, *figuresButton_, *ways_;
    BrushBoard* board_;
    BrushFigures* figures_;
    QComboBox* way_;
    NumberField *size_, *hardness_, *opacity_, *arms_, *axis_, *tileWidth_, *tileHeight_;
    ColourButton* colour_;
    QAction *keeps_, *mirrored_;
    QActionGroup* symmetry_;
};

} // namespace glyptos
