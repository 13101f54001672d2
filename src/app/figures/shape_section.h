// Outline, fill and stroke of a shape; paint of a fill.
#pragma once

#include "app/figures/layer_section.h"
#include "app/figures/paint_editor.h"
#include "app/widgets/brush_figures.h"
#include "file/brushes.h"

namespace glyptos {

class Engine;

class ShapeSection : public LayerSection {
    Q_OBJECT
  public:
    explicit ShapeSection(Engine& engine);
    /// Those that a line can be drawn with.
    void setBrushes(std::vector<NamedBrush> brushes);

  protected:
    bool fits(const Layer& layer) const override { return layer.as<ShapeContent>(); }
    void refresh(const Layer& layer) override;

  private:
    void changeShape(const QString& name, const std::function<void(ShapeContent&)>& edit, bool settled = true,
                     const QString& merge = {});
    void changeStroke(const std::function<void(StrokeStyle&)>& edit, bool settled = true);
    void makeStroke(QFormLayout* form);
    void makeBrushed(QFormLayout* rows);
    /// Draws the line with a brush by name, or as a pen does.
    void drawWith(int choice);
    void refreshBrushed(const ShapeContent& shape);

    NumberField *corner_, *points_, *inner_, *width_;
    QPushButton* free_;
    QCheckBox *filled_, *stroked_;
    QComboBox *place_, *join_, *startCap_, *endCap_;
    PaintEditor *fill_, *stroke_;
    QWidget *strokeRows_, *cornerRow_, *endsRow_;
    QComboBox* drawn_; ///< by a pen, by a brush, by one of brushes_
    BrushFigures* brush_;
    std::vector<NamedBrush> brushes_;
    QFormLayout* form_;
};

class FillSection : public LayerSection {
    Q_OBJECT
  public:
    explicit FillSection(Engine& engine);

  protected:
    bool fits(const Layer& layer) const override { return layer.as<FillContent>(); }
    void refresh(const Layer& layer) override;

  private:
    PaintEditor* paint_;
};

} // namespace glyptos
