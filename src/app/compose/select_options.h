// What goes with selecting: how, what becomes of it, how it is seen.
#pragma once

#include "app/bench/compose_bench.h"
#include "app/widgets/number_field.h"

#include <QCheckBox>
#include <QComboBox>
#include <QMenu>
#include <QToolButton>
#include <QWidget>

namespace glyptos {

struct Selected;

class SelectOptions : public QWidget {
    Q_OBJECT
  public:
    explicit SelectOptions(ComposeBench& bench, QWidget* parent = nullptr);

  Q_SIGNALS:
    /// The figure is to be cut off its ground.
    void cutOutAsked();
    /// What is selected is to be mended from around.
    void mendAsked();
    /// What is selected is to be a layer of its own, with a mend behind it.
    void partOutAsked();

  private:
    void refresh();
    void set(const std::function<void(HandSettings&)>& change);
    void makeChangeMenu();
    void addReshapes(QMenu* menu);
    void addKept(QMenu* menu);
    void makeUseMenu();
    void makeLookMenu();
    void reshape(const QString& name, double reach, const std::function<AlphaMap(const AlphaMap&)>& change);
    void setSelection(const QString& name, const std::optional<Selection>& next);
    void keep();
    /// What the layer in hand covers, or how light it is.
    void selectLayer(bool light);
    /// Makes something of what is selected, in the background; a layer that it makes is taken in hand.
    void use(const QString& name, const std::function<Made(const Selected&)>& make);

    ComposeBench& bench_;
    QComboBox *by_, *combine_, *where_;
    NumberField *tolerance_, *size_;
    QCheckBox* connected_;
    QToolButton *change_, *use_, *look_, *cut_;
};

} // namespace glyptos
