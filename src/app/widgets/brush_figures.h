// Every figure of a brush.
#pragma once

#include "app/widgets/number_field.h"
#include "raster/brush/brush.h"

#include <QCheckBox>
#include <QComboBox>
#include <QFormLayout>
#include <QWidget>

namespace glyptos {

class BrushFigures : public QWidget {
    Q_OBJECT
  public:
    /// `ofLine`: of a line that is kept, on which nothing depends on a hand and the layer blends.
    explicit BrushFigures(bool ofLine, QWidget* parent = nullptr);
    void setBrush(const Brush& brush);
    const Brush& brush() const { return brush_; }

  Q_SIGNALS:
    /// The user set a figure; `settled` is false while a wheel or a drag goes on.
    void edited(const glyptos::Brush& brush, bool settled);

  private:
    struct Shown {
        double Brush::*value;
        NumberField* field;
        double by; ///< figures shown for one
    };
    void addFigures(QFormLayout* form, std::initializer_list<std::pair<double Brush::*, QString>> figures);
    void addFlags(QFormLayout* form, std::initializer_list<std::pair<bool Brush::*, QString>> flags);

    Brush brush_;
    QComboBox *tip_, *blend_ = nullptr;
    std::vector<Shown> figures_;
    std::vector<std::pair<bool Brush::*, QCheckBox*>> flags_;
};

} // namespace glyptos
