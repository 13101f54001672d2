// How the layer in hand meets what lies below it.
#pragma once

#include "app/figures/layer_section.h"

#include <QCheckBox>
#include <QComboBox>
#include <QSlider>

namespace glyptos {

class Engine;

class BlendSection : public LayerSection {
    Q_OBJECT
  public:
    explicit BlendSection(Engine& engine);

  Q_SIGNALS:
    void sheetAsked(); ///< all modes at once

  protected:
    bool fits(const Layer&) const override { return true; }
    void refresh(const Layer& layer) override;

  private:
    void refreshSpot(const Layer& layer);

    QFormLayout* form_;
    QComboBox* mode_;
    QComboBox* spot_;
    QSlider* opacity_;
    NumberField* opacityField_;
    QCheckBox *passing_, *clipped_;
};

} // namespace glyptos
