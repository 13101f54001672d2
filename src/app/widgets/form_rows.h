// Small building blocks of side panels.
#pragma once

#include "app/widgets/number_field.h"
#include "color/ink.h"

#include <QColor>
#include <QFormLayout>
#include <QLabel>
#include <QPushButton>
#include <QScrollArea>
#include <QToolButton>

class QColorDialog;

namespace glyptos {

/// A heading in capitals.
QLabel* heading(const QString& text, QWidget* parent = nullptr);
/// A label with a role of the style sheet: "soft", "good", "caution", "fault", "title".
QLabel* roleLabel(const QString& text, const char* role, QWidget* parent = nullptr);
/// Changes the role of a label that is shown already.
void setRole(QLabel* label, const char* role);
/// The widget in an area that scrolls upright when there is too little room for it.
QScrollArea* scrolling(QWidget* inside);
/// An empty form of figures without margins, laid on `parent` when there is one.
QFormLayout* figuresForm(QWidget* parent = nullptr);
/// Several fields in one row of a form.
QWidget* inOneRow(std::initializer_list<QWidget*> widgets);

/// A word to press, with the reason why one would.
QToolButton* wordButton(const QString& text, const QString& why, bool checkable = false);
/// A word that opens a widget under it.
QToolButton* opening(const QString& text, const QString& why, QWidget* inside);
/// A chooser of colours that is not shown yet and goes when it is closed.
QColorDialog* colourChooser(const QColor& colour, QWidget* parent);

/// A spot of a colour that opens the release's palette, or a chooser where that is empty.
class ColourButton : public QPushButton {
    Q_OBJECT
  public:
    explicit ColourButton(const QString& accessibleName, QWidget* parent = nullptr);
    void setColour(const Ink& colour, const std::vector<Swatch>& palette);
    QColor colour() const;

  Q_SIGNALS:
    void chosen(const glyptos::Ink& colour);

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    void ask();
    void askOther();
    Ink colour_;
    std::vector<Swatch> palette_;
};

} // namespace glyptos
