// Figures of a paint: one colour, a gradient, clouds, paper or a pattern.
#pragma once

#include "app/widgets/form_rows.h"
#include "app/widgets/gradient_bar.h"
#include "base/units.h"
#include "release/release.h"

#include <QCheckBox>
#include <QComboBox>
#include <QWidget>

namespace glyptos {

class PaintEditor : public QWidget {
    Q_OBJECT
  public:
    /// `what` names the paint for those who cannot see it, as in "Fill".
    explicit PaintEditor(const QString& what, QWidget* parent = nullptr);
    /// Shows a paint without reporting it. `area` is where a new gradient would run; `length` is the unit of
    /// its figures; `release` has the pictures to make patterns of.
    void show(const Paint& paint, const Rect& area, const FieldUnit& length, const Release& release);
    const Paint& paint() const { return paint_; }
    /// Whether the hand that places gradients is the one in use: the hint then says what it does.
    void setFillInHand(bool inHand);

  Q_SIGNALS:
    void edited(const Paint& paint, bool settled);

  private:
    enum Kind { Colour, Linear, Radial, Conic, Spiral, CloudNoise, PaperGrain, PatternOf };
    void choose(int kind);
    void makeGradientRows();
    void makeNoiseRows();
    void makePatternRows();
    NumberField* field(const QString& name, const FieldUnit& unit, const std::function<void(double)>& set);
    void set(bool settled = true);
    void refresh();
    int kindOf() const;
    void chooseStopColour(const Ink& colour);

    Paint paint_;
    std::vector<Swatch> palette_;
    Rect area_;
    FieldUnit length_;
    std::vector<std::pair<QString, std::string>> pictures_; ///< name and id
    QFormLayout* form_;
    QComboBox *kind_, *spread_, *picture_;
    ColourButton *colour_, *stopColour_, *low_, *high_;
    GradientBar* bar_;
    NumberField *turns_, *stopAt_, *size_, *detail_, *contrast_, *grain_, *scale_, *shift_, *turn_;
    QCheckBox* mirrored_;
    QPushButton* other_;
    QLabel* hint_;
    std::vector<QWidget*> gradientRows_, noiseRows_, patternRows_;
    QString what_;
};

} // namespace glyptos
