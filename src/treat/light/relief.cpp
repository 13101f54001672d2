#include "treat/light/relief.h"

#include <cmath>
#include <numbers>

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

Answer answerOf(const Direction& n, const Direction& l, float roughness, float facing) {
    const float nl = n.x * l.x + n.y * l.y + n.z * l.z;
    if (nl <= 0) return {0, 0};
    const Direction h = unit(l.x, l.y, l.z + 1); // half way to the viewer
    const float nh = std::max(n.x * h.x + n.y * h.y + n.z * h.z, 0.0f), nv = std::max(n.z, 1e-3f);
    const float a = std::max(roughness * roughness, 0.02f), a2 = a * a;
    const float d = nh * nh * (a2 - 1) + 1;
    const float spread = a2 / (std::numbers::pi_v<float> * d * d);
    const float k = a / 2;
    const float shadowing = (nl / (nl * (1 - k) + k)) * (nv / (nv * (1 - k) + k));
    const float grazing = std::pow(1 - std::max(h.z, 0.0f), 5.0f);
    const float fresnel = facing + (1 - facing) * grazing;
    return {nl, spread * shadowing * fresnel / (4 * nv)};
}

} // namespace glyptos
