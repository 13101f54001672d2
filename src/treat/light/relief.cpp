#include "treat/light/relief.h"

namespace glyptos {

Slopes slopesOf(const Plane& height, const IntRect& area) {
    Slopes out{Plane(area), Plane(area)};
    for (int y = area.y; y < area.bottom(); ++y) {
        const float *up = height.row(y - 1) + (area.x - height.area.x),
                    *here = height.row(y) + (area.x - height.area.x),
                    *down = height.row(y + 1) + (area.x - height.area.x);
        float *sx = out.x.row(y), *sy = out.y.row(y);
        for (int x = 0; x < area.w; ++x) {
            sx[x] = 0.5f * (here[x + 1] - here[x - 1]);
            sy[x] = 0.5f * (down[x] - up[x]);
        }
    }
    return out;
}

} // namespace glyptos
