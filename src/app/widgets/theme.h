// The look: colours, type and the style sheet, by day and by night.
#pragma once

#include <QColor>
#include <QFont>
#include <QString>

class QApplication;

namespace glyptos {

struct Theme {
    QColor paper, sheet, hairline, ink, softInk, accent, accentWash, fault, caution, fold, bench, rail,
        railInk;
    static Theme day();
    static Theme night();
};

/// The theme in force.
const Theme& theme();
/// Puts a theme into force for the whole application.
void applyTheme(QApplication& app, bool night);
bool isNight();

/// The interface's font at a size in px, with tabular figures.
QFont uiFont(int px = 12, int weight = 400);

} // namespace glyptos
