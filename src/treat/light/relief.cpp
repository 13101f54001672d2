#include "treat/light/relief.h"

namespace glyptos {

Slopes slopesOf(const Plane& height, const IntRect& area, int step) {
    const float k = 0.5f / float(step);
    Slopes out{Plane(area), Plane(area)};
    for (int y = area.y; y < area.bottom(); ++y) {
        const float *up = height.row(y - step) + (area.x - height.area.x),
                    *here = height.row(y) + (area.x - height.area.x),
                    *down = height.row(y + step) + (area.x - height.area.x);
        float *sx = out.x.row(y), *sy = out.y.row(y);
        for (int x = 0; x < area.w; ++x) {
            sx[x] = k * (here[x + step] - here[x - step]);
            sy[x] = k * (down[x] - up[x]);
        }
    }
    return out;
}

} // namespace glyptos
