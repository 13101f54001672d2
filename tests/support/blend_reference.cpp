#include "support/blend_reference.h"

#include <algorithm>
#include <cmath>
#include <optional>
#include <utility>

namespace glyptos::test {
namespace {

double burn(double cb, double cs) {
    return cb >= 1 ? 1 : cs <= 0 ? 0 : 1 - std::min(1.0, (1 - cb) / cs);
}
double dodge(double cb, double cs) {
    return cb <= 0 ? 0 : cs >= 1 ? 1 : std::min(1.0, cb / (1 - cs));
}
double hardLight(double cb, double cs) {
    return cs <= 0.5 ? cb * 2 * cs : cb + (2 * cs - 1) - cb * (2 * cs - 1);
}
double softLight(double cb, double cs) {
    if (cs <= 0.5) return cb - (1 - 2 * cs) * cb * (1 - cb);
    const double g = cb <= 0.25 ? ((16 * cb - 12) * cb + 4) * cb : std::sqrt(cb);
    return cb + (2 * cs - 1) * (g - cb);
}

/// W3C Compositing and Blending Level 1, section 10.1, straight colours; and the four modes of our own.
double mixed(BlendMode mode, double cb, double cs) {
    switch (mode) {
    case BlendMode::Multiply:
        return cb * cs;
    case BlendMode::Screen:
        return cb + cs - cb * cs;
    case BlendMode::Overlay:
        return hardLight(cs, cb);
    case BlendMode::Darken:
        return std::min(cb, cs);
    case BlendMode::Lighten:
        return std::max(cb, cs);
    case BlendMode::ColourDodge:
        return dodge(cb, cs);
    case BlendMode::ColourBurn:
        return burn(cb, cs);
    case BlendMode::HardLight:
        return hardLight(cb, cs);
    case BlendMode::SoftLight:
        return softLight(cb, cs);
    case BlendMode::Difference:
        return std::abs(cb - cs);
    case BlendMode::Exclusion:
        return cb + cs - 2 * cb * cs;
    case BlendMode::Etch:
        return std::max(0.0, cb + cs - 1);
    case BlendMode::Push:
        return std::clamp(cb + 2 * cs - 1, 0.0, 1.0);
    case BlendMode::Flare:
        return cs <= 0.5 ? burn(cb, 2 * cs) : dodge(cb, 2 * cs - 1);
    case BlendMode::Divide:
        return cb <= 0 ? 0 : cs <= 0 ? 1 : std::min(1.0, cb / cs);
    default:
        return cs;
    }
}

double lum(const Three& c) {
    return 0.3 * c[0] + 0.59 * c[1] + 0.11 * c[2];
}
double sat(const Three& c) {
    return *std::max_element(c.begin(), c.end()) - *std::min_element(c.begin(), c.end());
}

/// Section 10.2, as its pseudo-code says.
Three setLum(Three c, double l) {
    const double d = l - lum(c);
    for (double& v : c) v += d;
    const double L = lum(c), n = *std::min_element(c.begin(), c.end()),
                 x = *std::max_element(c.begin(), c.end());
    if (n < 0)
        for (double& v : c) v = L + (v - L) * L / (L - n);
    if (x > 1)
        for (double& v : c) v = L + (v - L) * (1 - L) / (x - L);
    return c;
}
Three setSat(Three c, double s) {
    std::array<size_t, 3> order{0, 1, 2};
    std::sort(order.begin(), order.end(), [&](size_t a, size_t b) { return c[a] < c[b]; });
    double &low = c[order[0]], &mid = c[order[1]], &high = c[order[2]];
    if (high > low) {
        mid = (mid - low) * s / (high - low);
        high = s;
    } else {
        mid = high = 0;
    }
    low = 0;
    return c;
}

Three mixedColour(BlendMode mode, const Three& cb, const Three& cs) {
    switch (mode) {
    case BlendMode::Hue:
        return setLum(setSat(cs, sat(cb)), lum(cb));
    case BlendMode::Saturation:
        return setLum(setSat(cb, sat(cs)), lum(cb));
    case BlendMode::Colour:
        return setLum(cs, lum(cb));
    case BlendMode::Luminosity:
        return setLum(cb, lum(cs));
    default:
        return {mixed(mode, cb[0], cs[0]), mixed(mode, cb[1], cs[1]), mixed(mode, cb[2], cs[2])};
    }
}

/// Shares of source and backdrop of Porter and Duff's operators, section 9.1.
std::optional<std::pair<double, double>> shares(BlendMode mode, double as, double ab) {
    switch (mode) {
    case BlendMode::DestinationIn:
        return std::pair{0.0, as};
    case BlendMode::DestinationOut:
        return std::pair{0.0, 1 - as};
    case BlendMode::SourceAtop:
        return std::pair{ab, 1 - as};
    case BlendMode::DestinationAtop:
        return std::pair{1 - ab, as};
    default:
        return std::nullopt;
    }
}

} // namespace

StraightPixel composited(BlendMode mode, const StraightPixel& b, const StraightPixel& s) {
    StraightPixel out{};
    if (const auto share = shares(mode, s.a, b.a)) {
        out.a = s.a * share->first + b.a * share->second;
        for (size_t i = 0; i < 3; ++i) out.c[i] = s.a * s.c[i] * share->first + b.a * b.c[i] * share->second;
        return out;
    }
    if (mode == BlendMode::Plus) {
        out.a = std::min(1.0, s.a + b.a);
        for (size_t i = 0; i < 3; ++i) out.c[i] = std::min(1.0, s.a * s.c[i] + b.a * b.c[i]);
        return out;
    }
    out.a = s.a + b.a * (1 - s.a);
    const Three B = mixedColour(mode, b.c, s.c);
    for (size_t i = 0; i < 3; ++i) {
        const double cs = (1 - b.a) * s.c[i] + b.a * B[i];
        out.c[i] = s.a * cs + (1 - s.a) * b.a * b.c[i];
    }
    return out;
}

} // namespace glyptos::test
