#include "treat/colour_match.h"

#include "color/oklab.h"
#include "treat/matrix3.h"

#include <algorithm>
#include <cmath>

namespace glyptos {
namespace {

/// V f(λ) Vᵀ of a symmetric matrix with eigenvalues λ and vectors V, by C. G. J. Jacobi's rotations.
template <class F>
Matrix3 ofEigenvalues(Matrix3 m, F f) {
    Matrix3 v{{{1, 0, 0}, {0, 1, 0}, {0, 0, 1}}};
    for (int sweep = 0; sweep < 30; ++sweep)
        for (size_t p = 0; p < 2; ++p)
            for (size_t q = p + 1; q < 3; ++q) {
                if (std::abs(m[p][q]) < 1e-18) continue;
                const double theta = (m[q][q] - m[p][p]) / (2 * m[p][q]);
                const double t = std::copysign(1.0, theta) / (std::abs(theta) + std::hypot(theta, 1.0));
                const double c = 1 / std::hypot(t, 1.0), s = t * c;
                Matrix3 turn{{{1, 0, 0}, {0, 1, 0}, {0, 0, 1}}}, back = turn;
                turn[p][p] = turn[q][q] = c, turn[p][q] = s, turn[q][p] = -s;
                back[p][p] = back[q][q] = c, back[p][q] = -s, back[q][p] = s;
                m = back * m * turn;
                v = v * turn;
            }
    Matrix3 out{};
    for (size_t i = 0; i < 3; ++i)
        for (size_t j = 0; j < 3; ++j)
            for (size_t k = 0; k < 3; ++k) out[i][j] += v[i][k] * f(std::max(m[k][k], 0.0)) * v[j][k];
    return out;
}

Matrix3 mapBetween(Matrix3 from, Matrix3 to) {
    // As if both varied a little in every way, so that what a flat picture has of noise is not drawn out.
    constexpr double kLeast = 0.008;
    for (size_t i = 0; i < 3; ++i) from[i][i] += kLeast * kLeast, to[i][i] += kLeast * kLeast;
    const auto root = [](double v) { return std::sqrt(v); };
    const Matrix3 half = ofEigenvalues(from, root),
                  inverse = ofEigenvalues(from, [](double v) { return 1 / std::sqrt(v); });
    return inverse * ofEigenvalues(half * to * half, root) * inverse;
}

} // namespace

ColourSpread spreadOf(std::span<const Rgba> colours) {
    ColourSpread out;
    std::vector<Triple> all;
    for (const Rgba& c : colours) {
        if (c.a < 0.5f) continue;
        const Oklab lab = toOklab(c);
        all.push_back({double(lab.L), double(lab.a), double(lab.b)});
    }
    out.count = all.size();
    if (all.empty()) return out;
    const auto n = double(all.size());
    for (const Triple& c : all)
        for (size_t i = 0; i < 3; ++i) out.mean[i] += c[i] / n;
    for (const Triple& c : all)
        for (size_t i = 0; i < 3; ++i)
            for (size_t j = 0; j < 3; ++j)
                out.covariance[i][j] += (c[i] - out.mean[i]) * (c[j] - out.mean[j]) / n;
    return out;
}

LookTable matchTable(const ColourSpread& from, const ColourSpread& to, std::string title) {
    constexpr int kSize = 33;
    LookTable out;
    out.title = std::move(title), out.size = kSize;
    const bool nothing = from.count == 0 || to.count == 0;
    const Matrix3 map = nothing ? Matrix3{} : mapBetween(from.covariance, to.covariance);
    for (int b = 0; b < kSize; ++b)
        for (int g = 0; g < kSize; ++g)
            for (int r = 0; r < kSize; ++r) {
                const Rgba c{float(r) / (kSize - 1), float(g) / (kSize - 1), float(b) / (kSize - 1), 1};
                if (nothing) {
                    out.entries.push_back({c.r, c.g, c.b});
                    continue;
                }
                const Oklab lab = toOklab(c);
                const Triple off{lab.L - from.mean[0], lab.a - from.mean[1], lab.b - from.mean[2]};
                Triple moved = map * off;
                for (size_t i = 0; i < 3; ++i) moved[i] += to.mean[i];
                const Rgba shown = toRgba(Oklab{float(moved[0]), float(moved[1]), float(moved[2])});
                out.entries.push_back({std::clamp(shown.r, 0.0f, 1.0f), std::clamp(shown.g, 0.0f, 1.0f),
                                       std::clamp(shown.b, 0.0f, 1.0f)});
            }
    return out;
}

} // namespace glyptos
