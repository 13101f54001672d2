// The figures of one treatment, made from the table of its kind.
#pragma once

#include "app/widgets/form_rows.h"
#include "app/widgets/gradient_bar.h"
#include "app/widgets/tone_curve_editor.h"
#include "release/treatment.h"

#include <QCheckBox>
#include <QComboBox>
#include <QSlider>
#include <QWidget>

namespace glyptos {

/// What figures are shown with.
struct FigureSurroundings {
    FieldUnit length;     ///< of lengths on the panel
    double longest = 100; ///< length at the far end of a slider: of the panel's shorter side
    std::vector<Swatch> palette;
    std::vector<std::pair<QString, std::string>> pictures; ///< name and id
};

class TreatmentFigures : public QWidget {
    Q_OBJECT
  public:
    explicit TreatmentFigures(QWidget* parent = nullptr);
    /// Shows a treatment without reporting it. Rows stay while the kind does.
    void show(const Treatment& treatment, const FigureSurroundings& surroundings);
    /// Behind the curves.
    void setHistogram(const Histogram& histogram);
    ToneCurveEditor* curveEditor() const { return curve_; }
    /// The figure whose curve is shown.
    size_t curveInHand() const { return curveInHand_; }
    QWidget* fieldOf(size_t figure) const { return rows_[figure].widget; }

  Q_SIGNALS:
    /// Another value of a figure. `settled` is false while a drag goes on.
    void edited(size_t figure, const glyptos::FigureValue& value, bool settled);
    void lookFileAsked(size_t figure);
    void pointPickAsked(); ///< a point of the curve is to be picked in the picture
    void colourPickAsked(size_t figure);
    void pathAsked(size_t figure);

  private:
    struct Row {
        QWidget* widget = nullptr; ///< that holds the value
        QWidget* slider = nullptr;
        double by = 1; ///< shown figure for a value of 1
        QString group; ///< of those whose labels begin alike
        std::vector<QWidget*> all;
    };
    void rebuild();
    void addRow(size_t i);
    void addNumber(size_t i, const QString& label);
    QToolButton* pickButton(size_t i);
    void addCurves(const std::vector<size_t>& figures);
    void addRun(size_t i, const QString& label);
    void put(size_t i, QWidget* label, QWidget* field);
    void showValue(size_t i);
    void showGroup();
    FieldUnit unitOf(const Figure& figure, double& by) const;
    QString labelOf(const Figure& figure) const;

    const TreatmentKind* kind_ = nullptr;
    Treatment treatment_;
    FigureSurroundings around_;
    std::vector<Row> rows_;
    QWidget* holder_ = nullptr;
    QFormLayout* form_ = nullptr;
    QComboBox *groups_ = nullptr, *curves_ = nullptr;
    ToneCurveEditor* curve_ = nullptr;
    std::vector<size_t> curveFigures_;
    size_t curveInHand_ = 0;
    Histogram histogram_{};
    bool showing_ = false;
};

/// A treatment's name, a figure's label, a choice, as the window shows them.
QString treatmentWord(std::string_view english);

} // namespace glyptos
