// Letters that leave their places by a rule, and marked ones by hand.
#pragma once

#include "app/figures/layer_section.h"

#include <QComboBox>

namespace glyptos {

/// Shows the first rule of a text; a file may have several, which it leaves alone.
class RuleSection : public LayerSection {
    Q_OBJECT
  public:
    explicit RuleSection(Engine& engine);

  protected:
    bool fits(const Layer& layer) const override { return layer.as<TextContent>(); }
    void refresh(const Layer& layer) override;

  private:
    void choose(int kind);
    void bindRule(NumberField* field, void (*set)(LetterRule&, double));
    void makeMarked(QFormLayout* form);
    void bindPose(NumberField* field, void (*set)(LetterPose&, double));
    void refreshMarked(const TextContent& text);
    void changeRule(const QString& name, const std::function<void(LetterRule&)>& edit);

    QComboBox* kind_;
    NumberField *rise_, *turn_, *spread_, *fade_, *period_;
    NumberField *markedTurn_, *markedScale_, *markedOpacity_, *kern_;
    std::vector<QWidget*> markedRows_;
    QPushButton* again_;
    std::vector<std::pair<QWidget*, std::vector<LetterRule::Kind>>> rows_; ///< and for which kinds they are
};

} // namespace glyptos
