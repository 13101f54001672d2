// The colour of the light: warmth along the colours of glowing bodies, tint across them; or so that a colour
// picked in the picture becomes grey.
//
// Warmth moves white by mired from 6504 K along the Planckian locus (B. Kang et al., "Design of advanced
// color temperature control system", 2002), tint at right angles to it in CIE 1960 (u, v); the change between
// both whites is that of von Kries in the cone space of Bradford (K. M. Lam, 1985), in linear light.

#include "color/oklab.h"
#include "treat/kind.h"
#include "treat/matrix3.h"
#include "treat/vector_math.h"

#include <algorithm>
#include <array>

namespace glyptos {
namespace {

enum { Warmth, Tint, Grey, UseGrey };
constexpr Figure kFigures[]{
    share("warmth", "Warmth", 0, -1, 1),
    share("tint", "Tint", 0, -1, 1),
    colour("grey", "Becomes grey", {0.5f, 0.5f, 0.5f, 1}),
    flag("useGrey", "Grey from the picture", false),
};

Matrix3 inverse(const Matrix3& m) {
    Matrix3 out{};
    double det = 0;
    for (size_t i = 0; i < 3; ++i) {
        const size_t a = (i + 1) % 3, b = (i + 2) % 3;
        det += m[0][i] * (m[1][a] * m[2][b] - m[1][b] * m[2][a]);
        for (size_t j = 0; j < 3; ++j) {
            const size_t c = (j + 1) % 3, d = (j + 2) % 3;
            out[i][j] = m[c][a] * m[d][b] - m[c][b] * m[d][a];
        }
    }
    for (auto& row : out)
        for (double& v : row) v /= det;
    return out;
}

/// IEC 61966-2-1, and the cones of Bradford.
constexpr Matrix3 kToXyz{{{0.4124, 0.3576, 0.1805}, {0.2126, 0.7152, 0.0722}, {0.0193, 0.1192, 0.9505}}};
constexpr Matrix3 kToCones{{{0.8951, 0.2664, -0.1614}, {-0.7502, 1.7135, 0.0367}, {0.0389, -0.0685, 1.0296}}};

/// Chromaticity of a glowing body of T kelvin, 1667…25000, in CIE 1960 u, v.
std::array<double, 2> planckian(double kelvin) {
    const double t = 1000 / kelvin;
    const double x = kelvin < 4000 ? ((-0.2661239 * t - 0.2343589) * t + 0.8776956) * t + 0.179910
                                   : ((-3.0258469 * t + 2.1070379) * t + 0.2226347) * t + 0.240390;
    const double y = kelvin < 2222   ? ((-1.1063814 * x - 1.34811020) * x + 2.18555832) * x - 0.20219683
                     : kelvin < 4000 ? ((-0.9549476 * x - 1.37418593) * x + 2.09137015) * x - 0.16748867
                                     : ((3.0817580 * x - 5.87338670) * x + 3.75112997) * x - 0.37001483;
    const double d = -2 * x + 12 * y + 3;
    return {4 * x / d, 6 * y / d};
}

Triple xyzOfUv(double u, double v) {
    const double d = 2 * u - 8 * v + 4, x = 3 * u / d, y = 2 * v / d;
    return {x / y, 1, (1 - x - y) / y};
}

/// The light that the picture is taken to have been seen in, XYZ with Y = 1.
Triple lightOf(const Figures& f) {
    if (f.flag(UseGrey)) {
        const Ink& c = f.colour(Grey);
        const Triple xyz = kToXyz * Triple{std::max<double>(linearFromEncoded(c.r), 1e-4),
                                           std::max<double>(linearFromEncoded(c.g), 1e-4),
                                           std::max<double>(linearFromEncoded(c.b), 1e-4)};
        return {xyz[0] / xyz[1], 1, xyz[2] / xyz[1]};
    }
    return {0.95047, 1, 1.08883}; // D65
}

/// The light that it is shown in: 6504 K moved by warmth and tint. 100 mired and 0.02 in v for a figure of 1.
Triple shownIn(const Figures& f, const Triple& white) {
    constexpr double kMired = 1e6 / 6504, kWarmest = 200, kWidest = 0.04, kStep = 1;
    const double mired = std::clamp(kMired + kWarmest * f.number(Warmth), 40.0, 590.0);
    const auto at = planckian(1e6 / mired), before = planckian(1e6 / (mired - kStep)), from = planckian(6504);
    // What the locus says of 6504 K lies a little off D65, so ways are taken and not places.
    const double du = at[0] - before[0], dv = at[1] - before[1], length = std::hypot(du, dv);
    const double tint = -kWidest * f.number(Tint);
    const double X = white[0], Z = white[2], d = X + 15 + 3 * Z;
    const double u = 4 * X / d + at[0] - from[0] - dv / length * tint;
    const double v = 6 / d + at[1] - from[1] + du / length * tint;
    return xyzOfUv(u, v);
}

struct Cast {
    float m[9];
};

GLYPTOS_ROWS void castRow(const ColourRow& row, const Cast& cast) {
    float* __restrict r = row.r, * __restrict g = row.g, * __restrict b = row.b;
    const float* m = cast.m;
    for (size_t i = 0; i < row.n; ++i) {
        const float x = r[i], y = g[i], z = b[i];
        r[i] = m[0] * x + m[1] * y + m[2] * z;
        g[i] = m[3] * x + m[4] * y + m[5] * z;
        b[i] = m[6] * x + m[7] * y + m[8] * z;
    }
}

ColourOp warmth(const Figures& f, const Place&) {
    if (f.number(Warmth) == 0 && f.number(Tint) == 0 && !f.flag(UseGrey)) return {};
    const Triple white{0.95047, 1, 1.08883};
    const Triple from = kToCones * lightOf(f), to = kToCones * shownIn(f, white);
    const Matrix3 gains{{{to[0] / from[0], 0, 0}, {0, to[1] / from[1], 0}, {0, 0, to[2] / from[2]}}};
    const Matrix3 all = inverse(kToXyz) * inverse(kToCones) * gains * kToCones * kToXyz;
    Cast cast{};
    for (size_t i = 0; i < 9; ++i) cast.m[i] = float(all[i / 3][i % 3]);
    return {[cast](const ColourRow& row) { castRow(row, cast); }, ColourSpace::Linear};
}

/// The mean of the quarter of the middle tones that has the least chroma becomes grey.
void greyByPicture(Figures& f, std::span<const Rgba> colours) {
    std::vector<std::pair<double, const Rgba*>> middles;
    for (const Rgba& c : colours) {
        const double luma = 0.2126 * c.r + 0.7152 * c.g + 0.0722 * c.b;
        if (c.a < 0.5f || luma < 0.15 || luma > 0.95) continue;
        const Oklab lab = toOklab(c);
        middles.emplace_back(std::hypot(lab.a, lab.b), &c);
    }
    if (middles.empty()) return;
    std::sort(middles.begin(), middles.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
    const size_t n = std::max<size_t>(middles.size() / 4, 1);
    double sum[3]{};
    for (size_t i = 0; i < n; ++i)
        sum[0] += middles[i].second->r, sum[1] += middles[i].second->g, sum[2] += middles[i].second->b;
    f.set(Grey, Ink(float(sum[0] / double(n)), float(sum[1] / double(n)), float(sum[2] / double(n)), 1));
    f.set(UseGrey, 1.0);
}

} // namespace

extern const TreatmentKind kWarmth{.id = "warmth",
                                   .title = "Warmth and tint",
                                   .family = TreatmentFamily::Grade,
                                   .figures = kFigures,
                                   .colour = warmth,
                                   .byPicture = greyByPicture};

} // namespace glyptos
