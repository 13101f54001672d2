// The style that the words in hand follow, and what of their look is their own.
#pragma once

#include "app/figures/layer_section.h"

#include <QComboBox>
#include <QToolButton>

namespace glyptos {

class StyleSection : public LayerSection {
    Q_OBJECT
  public:
    explicit StyleSection(Engine& engine);

  protected:
    bool fits(const Layer& layer) const override { return layer.as<TextContent>(); }
    void refresh(const Layer& layer) override;

  private:
    const TextContent* text() const;
    const TextStyle* style() const;
    QMenu* makeMenu();
    void choose(int index);
    void makeNew();
    void makeSet();
    void rename();
    void baseOn(const std::string& base);
    void offerInks(QMenu& menu);
    void printIn(const std::string& ink);
    void takeIntoStyle();
    void goBack();

    QComboBox* choice_;
    QLabel* own_;
    QPushButton *back_, *take_;
    QWidget* ownRow_;
    QAction *rename_, *base_, *inks_, *remove_;
};

} // namespace glyptos
