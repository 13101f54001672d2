// The colours of the release, one click away from wherever a colour is chosen.
#pragma once

#include "color/ink.h"

#include <QWidget>
#include <vector>

namespace glyptos {

/// A small sheet that goes when something else is pressed.
class ColourPopup : public QWidget {
    Q_OBJECT
  public:
    ColourPopup(const std::vector<Swatch>& palette, const Ink& now, QWidget* parent);
    /// Shows it under a widget, or above it where there is no room.
    void popUp(QWidget* by);
    /// The same at a place on the screen.
    void popUpAt(QPoint global);

  Q_SIGNALS:
    void chosen(const glyptos::Ink& ink);
    void otherAsked(); ///< a colour that is not in the palette

  protected:
    void paintEvent(QPaintEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
};

} // namespace glyptos
