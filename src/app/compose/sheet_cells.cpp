#include "app/compose/sheet_cells.h"

#include "app/session/document.h"
#include "app/session/engine.h"
#include "render/layer_geometry.h"

#include <QKeyEvent>
#include <algorithm>

namespace glyptos {
namespace {

constexpr double kRoundTheLayer = 0.2; // of its size, shown on each side
constexpr double kLeastShown = 0.5;    // of the panel's sides

} // namespace

QToolButton* cellByKey(QObject* watched, QEvent* event, const std::vector<QToolButton*>& cells, int columns) {
    const auto at = std::find(cells.begin(), cells.end(), watched);
    if (event->type() != QEvent::KeyPress || at == cells.end()) return nullptr;
    const auto step = [&](int by) {
        const int to = std::clamp(int(at - cells.begin()) + by, 0, int(cells.size()) - 1);
        cells[size_t(to)]->setFocus();
        return cells[size_t(to)];
    };
    switch (static_cast<QKeyEvent*>(event)->key()) {
    case Qt::Key_Left:
        return step(-1);
    case Qt::Key_Right:
        return step(1);
    case Qt::Key_Up:
        return step(-columns);
    case Qt::Key_Down:
        return step(columns);
    case Qt::Key_Return:
    case Qt::Key_Enter: {
        QToolButton* const taken = *at;
        taken->click();
        return taken;
    }
    default:
        return nullptr;
    }
}

Rect roundTheLayer(const Document& document, Engine& engine) {
    const Panel* panel = document.shownPanel();
    const LayerPtr layer = panel ? document.selectedLayer() : nullptr;
    if (!layer) return {};
    const Rect all = panel->trim();
    if (isFrameless(*layer)) return all;
    const Rect b =
        frameOf(*layer, *document.shown(), panel->withBleed(), engine.renderer.paragraphs()).bounds();
    const double w = std::clamp(b.w * (1 + 2 * kRoundTheLayer), all.w * kLeastShown, all.w),
                 h = std::clamp(b.h * (1 + 2 * kRoundTheLayer), all.h * kLeastShown, all.h);
    const double share = std::max(w / all.w, h / all.h);
    const Vec2 size{all.w * share, all.h * share};
    return {std::clamp(b.centre().x - size.x / 2, all.x, all.right() - size.x),
            std::clamp(b.centre().y - size.y / 2, all.y, all.bottom() - size.y), size.x, size.y};
}

} // namespace glyptos
