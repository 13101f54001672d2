// Figures and words of the layer in hand, in parts.
#pragma once

#include "app/figures/mask_section.h"
#include "file/brushes.h"

#include <QWidget>

namespace glyptos {

class Engine;
class RenderService;
class ShapeSection;

class PropertiesPanel : public QWidget {
    Q_OBJECT
  public:
    PropertiesPanel(Engine& engine, RenderService& service, QWidget* parent = nullptr);
    void setDocument(Document* document);
    void setFillInHand(bool inHand);
    /// Those that lines can be drawn with.
    void setBrushes(const std::vector<NamedBrush>& brushes);

  Q_SIGNALS:
    void blendSheetAsked();
    void specimensAsked();
    void briefAsked();
    void replaceAsked();
    void framingAsked();
    void maskLookChosen(MaskLook look);

  private:
    void refresh();
    void alignLabels();

    Document* document_ = nullptr;
    QLabel *title_, *empty_, *locked_;
    ShapeSection* shape_;
    std::vector<LayerSection*> sections_;
};

} // namespace glyptos
