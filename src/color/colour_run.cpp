#include "color/colour_run.h"

#include <algorithm>

namespace glyptos {

Rgba colourAlong(const std::vector<GradientStop>& stops, double t) {
    if (stops.empty()) return {};
    if (t <= stops.front().at) return stops.front().colour;
    for (size_t i = 1; i < stops.size(); ++i) {
        if (t > stops[i].at) continue;
        const Rgba &a = stops[i - 1].colour, &b = stops[i].colour;
        const auto k = float((t - stops[i - 1].at) / std::max(stops[i].at - stops[i - 1].at, 1e-9));
        const float alpha = a.a + (b.a - a.a) * k;
        const auto mix = [&](float p, float q) {
            return alpha > 0 ? (p * a.a * (1 - k) + q * b.a * k) / alpha : q;
        };
        return {mix(a.r, b.r), mix(a.g, b.g), mix(a.b, b.b), alpha};
    }
    return stops.back().colour;
}

size_t putStop(std::vector<GradientStop>& stops, const GradientStop& stop) {
    const auto behind =
        std::upper_bound(stops.begin(), stops.end(), stop,
                         [](const GradientStop& a, const GradientStop& b) { return a.at < b.at; });
    const auto index = size_t(behind - stops.begin());
    stops.insert(behind, stop);
    return index;
}

} // namespace glyptos
