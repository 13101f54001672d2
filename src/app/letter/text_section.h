// Words of a text and the face they are set in.
#pragma once

#include "app/figures/layer_section.h"
#include "app/letter/axis_fields.h"
#include "app/letter/feature_list.h"
#include "app/widgets/words_box.h"

#include <QComboBox>

namespace glyptos {

class Engine;

class TextSection : public LayerSection {
    Q_OBJECT
  public:
    explicit TextSection(Engine& engine);

  Q_SIGNALS:
    /// All faces, to choose one by looking.
    void specimensAsked();

  protected:
    bool fits(const Layer& layer) const override { return layer.as<TextContent>(); }
    void refresh(const Layer& layer) override;

  private:
    void changeText(const QString& what, const std::function<void(TextContent&)>& edit,
                    const QString& merge = {});
    void fillFamilies();
    void fillStyles(const std::string& family);
    void makeTuning();
    void refreshFeatures();

    WordsBox* words_;
    QComboBox *family_, *style_;
    FeatureList* featureList_;
    QPushButton* fields_;
    QToolButton* features_;
    AxisFields* axes_;
    QLabel* faceNote_;
};

} // namespace glyptos
