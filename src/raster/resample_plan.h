// Internal to resample: which source pixels a result pixel reads and how much of each.
#pragma once

#include <algorithm>
#include <cmath>
#include <vector>

namespace glyptos {

/// Keys' cubic, a = -1/2; support ±2.
inline double cubicKernel(double x) {
    x = std::abs(x);
    if (x < 1) return (1.5 * x - 2.5) * x * x + 1;
    if (x < 2) return ((-0.5 * x + 2.5) * x - 4) * x + 2;
    return 0;
}

/// Widest kernel in source pixels to each side of a tap. Only pictures squeezed more than 64 times as much in
/// one direction as in the other would need more; they are sampled a little coarsely instead of at any cost.
inline constexpr double kWidest = 64;
/// No picture reaches this far; positions beyond it show its edge all the same.
inline constexpr double kFar = 1e6;

/// Weights along one axis: result pixel i reads `taps` source pixels from first[i] on; indices may lie
/// outside the source.
struct AxisPlan {
    int taps = 0;
    std::vector<int> first;
    std::vector<float> weights; ///< taps for each result pixel, sum 1

    /// Result pixel i (centre i + 1/2 after `from`) sits at source position step·(from + i + 1/2) + offset.
    AxisPlan(double step, double offset, int from, int count)
        : first(size_t(count)) {
        const double widen = std::clamp(std::abs(step), 1.0, kWidest);
        taps = static_cast<int>(std::ceil(4 * widen)) + 1;
        weights.resize(size_t(count) * size_t(taps));
        for (int i = 0; i < count; ++i) {
            const double at = std::clamp(step * (from + i + 0.5) + offset, -kFar, kFar);
            const int start = static_cast<int>(std::ceil(at - 2 * widen - 0.5));
            first[size_t(i)] = start;
            float* w = weights.data() + size_t(i) * size_t(taps);
            double sum = 0;
            for (int k = 0; k < taps; ++k) sum += cubicKernel((start + k + 0.5 - at) / widen);
            for (int k = 0; k < taps; ++k) w[k] = float(cubicKernel((start + k + 0.5 - at) / widen) / sum);
        }
    }
};

} // namespace glyptos
