// What goes with filling: runs of colour, or areas between lines.
#pragma once

#include "app/bench/compose_bench.h"
#include "app/figures/paint_editor.h"
#include "app/widgets/number_field.h"

#include <QComboBox>
#include <QToolButton>
#include <QWidget>

namespace glyptos {

class FillHand;

class FillOptions : public QWidget {
    Q_OBJECT
  public:
    explicit FillOptions(ComposeBench& bench, QWidget* parent = nullptr);

  private:
    void refresh();
    void set(const std::function<void(FillSettings&)>& change);
    FillHand& hand() const;

    ComposeBench& bench_;
    QComboBox* what_;
    ColourButton* colour_;
    PaintEditor* paint_;
    NumberField *gap_, *speck_, *tolerance_;
    std::vector<QWidget*> ofAreas_;
};

} // namespace glyptos
