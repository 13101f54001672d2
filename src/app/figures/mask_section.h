// The mask of the layer in hand.
#pragma once

#include "app/bench/mask_look.h"
#include "app/figures/layer_section.h"
#include "app/figures/paint_editor.h"

#include <QMenu>

namespace glyptos {

class Engine;

class MaskSection : public LayerSection {
    Q_OBJECT
  public:
    explicit MaskSection(Engine& engine);

  Q_SIGNALS:
    void lookChosen(MaskLook look);

  protected:
    bool fits(const Layer&) const override { return true; }
    void refresh(const Layer& layer) override;

  private:
    void makeMenu();
    void makeFigures(QFormLayout* form);
    void add(const QString& name, Mask mask);
    void addShape(ShapeKind kind);
    void addGradient(GradientKind kind);
    void addPicture(const SourcePtr& source);
    void changeMask(const QString& name, const std::function<void(Mask&)>& edit, bool settled = true,
                    const QString& merge = {});
    QCheckBox* flag(const QString& text, bool Mask::*which, const QString& name);

    QPushButton *add_, *remove_, *inHand_;
    QMenu* menu_;
    QWidget* figures_;
    QCheckBox *on_, *inverted_, *linked_;
    NumberField *strength_, *feather_;
    QComboBox* look_;
    PaintEditor* gradient_;
    QLabel* kind_;
};

} // namespace glyptos
