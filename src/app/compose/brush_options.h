// What goes with painting masks and mending: the brush, and what it does.
#pragma once

#include "app/bench/compose_bench.h"
#include "app/widgets/number_field.h"

#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QToolButton>
#include <QWidget>

namespace glyptos {

class BrushOptions : public QWidget {
    Q_OBJECT
  public:
    explicit BrushOptions(ComposeBench& bench, QWidget* parent = nullptr);

  Q_SIGNALS:
    void mendSelectionAsked();
    void mendAgainAsked();
    void edgeAsked();
    void firmAsked();

  private:
    void makeEdge(QLayout* row);
    void makeMend(QLayout* row);
    void makeBrush(QLayout* row);
    void refresh();
    void set(const std::function<void(HandSettings&)>& change);
    NumberField* share(const QString& name, double BrushSettings::*which);

    ComposeBench& bench_;
    QComboBox *value_, *way_, *by_;
    NumberField *band_, *firmness_, *outwards_;
    QToolButton *edge_, *firm_;
    NumberField *grey_, *size_, *hardness_, *opacity_, *flow_, *turn_, *scale_;
    QCheckBox *aligned_, *asPaint_;
    QToolButton *selected_, *again_;
    std::vector<QWidget*> ofMask_, ofTip_, ofFlow_, ofEdge_, ofMend_, ofClone_;
};

} // namespace glyptos
