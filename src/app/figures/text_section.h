// Words, type and colour of a text.
#pragma once

#include "app/figures/layer_section.h"
#include "app/widgets/words_box.h"

#include <QCheckBox>
#include <QComboBox>

namespace glyptos {

class Engine;

class TextSection : public LayerSection {
    Q_OBJECT
  public:
    explicit TextSection(Engine& engine);

  protected:
    bool fits(const Layer& layer) const override { return layer.as<TextContent>(); }
    void refresh(const Layer& layer) override;

  private:
    void changeText(const QString& what, const std::function<void(TextContent&)>& edit,
                    const QString& merge = {});
    void fillStyles(const std::string& family);

    WordsBox* words_;
    QComboBox *family_, *style_, *align_;
    QLabel* faceNote_;
    NumberField *size_, *tracking_, *leading_, *measure_;
    ColourButton* textColour_;
    QCheckBox* capitals_;
};

} // namespace glyptos
