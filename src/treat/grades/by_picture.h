// Internal to grades: figures worked out from the colours that are beneath.
#pragma once

#include "treat/kind.h"

#include <algorithm>

namespace glyptos {

/// Luma (ITU-R BT.709) of the colours that show, in order; empty when none do.
inline std::vector<double> sortedLuma(std::span<const Rgba> colours) {
    std::vector<double> out;
    for (const Rgba& c : colours)
        if (c.a >= 0.5f) out.push_back(0.2126 * c.r + 0.7152 * c.g + 0.0722 * c.b);
    std::sort(out.begin(), out.end());
    return out;
}
/// The value that such a share of them lies below.
inline double quantile(const std::vector<double>& sorted, double share) {
    return sorted[size_t(share * double(sorted.size() - 1) + 0.5)];
}

} // namespace glyptos
