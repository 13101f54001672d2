// Words in a table: how wide, on which grid, in how many strips, with what between the columns.
#pragma once

#include "app/figures/layer_section.h"

#include <QCheckBox>
#include <QComboBox>

namespace glyptos {

class TableSection : public LayerSection {
    Q_OBJECT
  public:
    explicit TableSection(Engine& engine);

  protected:
    bool fits(const Layer& layer) const override;
    void refresh(const Layer& layer) override;

  private:
    using Change = std::function<void(InTable&)>;
    void changeTable(const QString& name, const Change& edit);
    void bindTable(NumberField* field, const QString& name, std::function<void(InTable&, double)> set);

    NumberField *width_, *height_, *grid_, *gap_, *strips_, *gutter_;
    QComboBox* leader_;
    QCheckBox* hangs_;
    QLabel* centred_;
};

} // namespace glyptos
