// Internal to treat: matrices of three rows, for colours.
#pragma once

#include <array>
#include <cstddef>

namespace glyptos {

using Triple = std::array<double, 3>;
using Matrix3 = std::array<Triple, 3>;

inline Matrix3 operator*(const Matrix3& a, const Matrix3& b) {
    Matrix3 out{};
    for (size_t i = 0; i < 3; ++i)
        for (size_t j = 0; j < 3; ++j)
            for (size_t k = 0; k < 3; ++k) out[i][j] += a[i][k] * b[k][j];
    return out;
}
inline Triple operator*(const Matrix3& m, const Triple& v) {
    Triple out{};
    for (size_t i = 0; i < 3; ++i) out[i] = m[i][0] * v[0] + m[i][1] * v[1] + m[i][2] * v[2];
    return out;
}

} // namespace glyptos
