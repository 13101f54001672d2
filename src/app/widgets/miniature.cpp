#include "app/widgets/miniature.h"

#include <cmath>

namespace glyptos {

std::pair<Scene, IntRect> fittedScene(const ReleasePtr& release, const PanelRef& panel, const Rect& area,
                                      QSizeF size) {
    const double k = std::min(size.width() / area.w, size.height() / area.h);
    const IntRect region{0, 0, std::max(1, int(std::lround(area.w * k))),
                         std::max(1, int(std::lround(area.h * k)))};
    return {panelScene(release, panel, {k, true, {-area.x * k, -area.y * k}}), region};
}

} // namespace glyptos
