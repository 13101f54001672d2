// Internal to raster: means of straight pixels.
#pragma once

#include <cstdint>

namespace glyptos {

/// The mean of four straight pixels. Alphas of 16 bits times colours of 16 bits add up in 64.
template <class T>
void meanOf(const T* const (&pixels)[4], T* out) {
    uint32_t alpha = 0;
    for (const T* p : pixels) alpha += p[3];
    for (int c = 0; c < 3; ++c) {
        uint64_t weighted = 0;
        uint32_t plain = 0;
        for (const T* p : pixels) weighted += uint64_t(p[c]) * p[3], plain += p[c];
        out[c] = static_cast<T>(alpha ? (weighted + alpha / 2) / alpha : (plain + 2) / 4);
    }
    out[3] = static_cast<T>((alpha + 2) / 4);
}

} // namespace glyptos
