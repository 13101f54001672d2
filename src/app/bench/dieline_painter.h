// The lines of a form, drawn over the art. Each kind has its own colour and its own pattern.
#pragma once

#include "form/flat.h"

#include <QPainter>
#include <QPainterPath>
#include <QTransform>
#include <array>

namespace glyptos {

/// The kinds of line, in the order of the key.
enum class LineKind { Bleed, Trim, Safety, Fold, Zone };
inline constexpr std::array kLineKinds{LineKind::Bleed, LineKind::Trim, LineKind::Safety, LineKind::Fold,
                                       LineKind::Zone};

/// Which kinds are shown.
class LineKey {
  public:
    bool operator[](LineKind kind) const { return shown_[size_t(kind)]; }
    bool& operator[](LineKind kind) { return shown_[size_t(kind)]; }

  private:
    std::array<bool, kLineKinds.size()> shown_{true, true, true, true, true};
};

QPointF toQt(Vec2 v);
QTransform toQt(const Affine& m);
QRectF toQt(const Rect& r);
QPainterPath toQt(const Path& path);

/// Where there is paper of a panel with its bleed, mapped; an empty path where that is all of its box.
QPainterPath paperOf(const Panel& panel, const Affine& panelToView);
/// The same of all sheets of a flat.
QPainterPath paperOf(const Flat& flat, const Affine& flatToView);

/// One panel by itself, in its own frame.
void paintPanelLines(QPainter& painter, const Panel& panel, const Affine& panelToView, const LineKey& key);
/// All of a flat: panels, folds, flaps.
void paintFlatLines(QPainter& painter, const Flat& flat, const Affine& flatToView, const LineKey& key);
/// The folds of one sheet.
void paintFolds(QPainter& painter, const Flat& flat, size_t sheet, const Affine& flatToView);
/// A sample of one kind of line for the key.
void paintLineSample(QPainter& painter, const QRect& area, LineKind kind);

} // namespace glyptos
