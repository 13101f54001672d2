// Sharpness and crop of a picture.
#pragma once

#include "app/figures/layer_section.h"

namespace glyptos {

class Engine;

class PictureSection : public LayerSection {
    Q_OBJECT
  public:
    explicit PictureSection(Engine& engine);

  Q_SIGNALS:
    void replaceAsked();
    void framingAsked();

  protected:
    bool fits(const Layer& layer) const override { return layer.as<PictureContent>(); }
    void refresh(const Layer& layer) override;

  private:
    void showSharpness(const Layer& layer, const Source& source);
    std::array<NumberField*, 4> crop_; ///< left, top, right, bottom
    QLabel* sharpness_;
};

} // namespace glyptos
