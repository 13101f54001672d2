// A field with a slider for each axis of a variable face.
#pragma once

#include "app/widgets/number_field.h"
#include "type/font_library.h"

#include <QSlider>

class QFormLayout;

namespace glyptos {

class AxisFields : public QWidget {
    Q_OBJECT
  public:
    explicit AxisFields(QWidget* parent = nullptr);
    /// Of a face as it stands on its axes; hides for one that has none.
    void show(const Face& face);

  Q_SIGNALS:
    /// `settled` is false while a drag goes on.
    void moved(const glyptos::AxisValue& place, bool settled);

  private:
    struct Row {
        FaceAxis axis;
        NumberField* field;
        QSlider* slider;
    };
    void makeRows(const std::vector<FaceAxis>& axes);
    QFormLayout* form_;
    std::vector<Row> rows_;
    bool showing_ = false;
};

} // namespace glyptos
