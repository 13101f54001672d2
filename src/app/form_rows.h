// Small building blocks of side panels.
#pragma once

#include "app/number_field.h"

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
/// Several fields in one row of a form.
QWidget* inOneRow(std::initializer_list<QWidget*> widgets);

/// A word to press, with the reason why one would.
QToolButton* wordButton(const QString& text, const QString& why, bool checkable = false);
/// A chooser of colours that is not shown yet and goes when it is closed.
QColorDialog* colourChooser(const QColor& colour, QWidget* parent);

/// A swatch that opens a colour chooser.
class ColourButton : public QPushButton {
    Q_OBJECT
  public:
    explicit ColourButton(const QString& accessibleName, QWidget* parent = nullptr);
    void setColour(const QColor& colour);
    QColor colour() const { return colour_; }

  Q_SIGNALS:
    void chosen(const QColor& colour);

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    void ask();
    QColor colour_;
};

} // namespace glyptos
