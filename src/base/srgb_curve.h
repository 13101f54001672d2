// The transfer curve of sRGB (IEC 61966-2-1).
#pragma once

#include <cmath>

namespace glyptos {

/// Linear light of an encoded value, both 0…1.
inline double decodedSrgb(double v) {
    return v <= 0.04045 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4);
}
/// The other way.
inline double encodedSrgb(double v) {
    return v <= 0.0031308 ? v * 12.92 : 1.055 * std::pow(v, 1 / 2.4) - 0.055;
}

} // namespace glyptos
