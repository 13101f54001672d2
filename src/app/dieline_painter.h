// The lines of a form, drawn over the art. Each kind has its own colour and its own pattern.
#pragma once

#include "form/form.h"

#include <QPainter>
#include <QTransform>

namespace glyptos {

/// Which lines are shown.
struct LineKey {
    bool bleed = true, trim = true, safety = true, fold = true;
};

QTransform toQt(const Affine& m);
QRectF toQt(const Rect& r);

/// One panel by itself, in its own frame.
void paintPanelLines(QPainter& painter, const Panel& panel, const Affine& panelToView, const LineKey& key);
/// All of a flat: panels, folds, flaps.
void paintFlatLines(QPainter& painter, const Flat& flat, const Affine& flatToView, const LineKey& key);
/// A sample of one kind of line for the key: "bleed", "trim", "safety" or "fold".
void paintLineSample(QPainter& painter, const QRect& area, const QString& kind);

} // namespace glyptos
