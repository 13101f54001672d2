// Where the layer in hand lies, its size, turn and lean.
#pragma once

#include "app/figures/layer_section.h"

#include <QCheckBox>

namespace glyptos {

class Engine;

class PlaceSection : public LayerSection {
    Q_OBJECT
  public:
    explicit PlaceSection(Engine& engine);

  protected:
    bool fits(const Layer& layer) const override { return !isFrameless(layer); }
    void refresh(const Layer& layer) override;

  private:
    void resize(Layer& layer, double to, bool wide) const;
    void flip(bool upDown);

    NumberField *x_, *y_, *w_, *h_, *turn_, *skew_;
    QCheckBox* proportional_;
};

} // namespace glyptos
