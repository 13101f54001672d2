// Functions for loops over rows that the compiler turns into vector code, and the mark of such loops. All are
// plain arithmetic without calls or branches.
#pragma once

#include <bit>
#include <cstdint>

// Compiled once for each instruction set; the best one is taken at run time.
#if defined(__x86_64__) && defined(__GNUC__) && !defined(__clang__) && !defined(__SANITIZE_ADDRESS__)
#define GLYPTOS_ROWS __attribute__((target_clones("arch=x86-64-v4", "arch=x86-64-v3", "default")))
#else
#define GLYPTOS_ROWS
#endif

// Part of such a loop: what is not inlined there is not turned into vector code.
#define GLYPTOS_IN_ROWS inline __attribute__((always_inline))

namespace glyptos::rows {

/// Logarithm to base 2 of a normal positive number, by a polynomial through Chebyshev's points of the
/// mantissa. Error at most 3e-7 or 1 ULP.
GLYPTOS_IN_ROWS float log2(float x) {
    const auto bits = std::bit_cast<uint32_t>(x);
    constexpr uint32_t kRootHalf = 0x3f3504f3; // √½: the mantissa lies round 1
    const int32_t exponent = int32_t(bits - kRootHalf) >> 23;
    const float t = std::bit_cast<float>(bits - (uint32_t(exponent) << 23)) - 1;
    const float p =
        1.44269500f +
        t * (-0.72134747f +
             t * (0.48091075f +
                  t * (-0.36069327f +
                       t * (0.28790326f +
                            t * (-0.23916988f + t * (0.21607823f + t * (-0.20586188f + t * 0.12310969f)))))));
    return float(exponent) + t * p;
}

/// 2 to the power of x, |x| < 126. Relative error at most 3e-7.
GLYPTOS_IN_ROWS float exp2(float x) {
    constexpr float kRound = 12582912.0f; // 1.5 · 2^23: adding it rounds to a whole number
    const float whole = (x + kRound) - kRound, f = x - whole;
    const float p =
        1 + f * (0.6931471806f +
                 f * (0.2402265070f +
                      f * (0.0555041087f + f * (0.0096181291f + f * (0.0013333558f + f * 0.0001540353f)))));
    return p * std::bit_cast<float>((int32_t(whole) + 127) << 23);
}

GLYPTOS_IN_ROWS float clamp(float v, float least, float most) {
    const float above = v > least ? v : least;
    return above < most ? above : most;
}
/// 0…most, which is not negative. In whole numbers, in whose order such floats are: choices between floats
/// one after another become many more instructions.
GLYPTOS_IN_ROWS float upTo(float most, float v) {
    const auto bits = std::bit_cast<int32_t>(v), highest = std::bit_cast<int32_t>(most);
    const int32_t above = bits > 0 ? bits : 0;
    return std::bit_cast<float>(above < highest ? above : highest);
}
GLYPTOS_IN_ROWS float clamp01(float v) {
    return upTo(1, v);
}
GLYPTOS_IN_ROWS float absolute(float v) {
    return __builtin_fabsf(v);
}
/// 0 at or below `from`, 1 at or above `to`, smooth between.
GLYPTOS_IN_ROWS float smooth(float from, float to, float v) {
    const float t = clamp01((v - from) * (1 / (to - from))); // one division for a whole row
    return t * t * (3 - 2 * t);
}

/// To a power, for a base that is not negative; 0 of 0.
GLYPTOS_IN_ROWS float power(float base, float exponent) {
    const float safe = base > 1e-12f ? base : 1e-12f;
    const float out = exp2(exponent * log2(safe));
    return base > 1e-12f ? out : 0.0f;
}

/// Cube root, of either sign. Newton's steps for 1 / ∛v from a guess by the bits, which need no division.
/// Relative error at most 5e-7 for |v| from 1e-30.
GLYPTOS_IN_ROWS float cubeRoot(float v) {
    const float x = absolute(v), third = x * (1 / 3.0f);
    float y = std::bit_cast<float>(0x54a21d2a - int32_t(float(std::bit_cast<int32_t>(x)) * (1 / 3.0f)));
    for (int step = 0; step < 3; ++step) y = y * (4 / 3.0f - third * y * y * y);
    return v * y * y;
}

/// sRGB-encoded to linear light and back (IEC 61966-2-1), mirrored below 0.
GLYPTOS_IN_ROWS float toLinear(float v) {
    const float a = absolute(v);
    const float bent = exp2(2.4f * log2((a + 0.055f) * (1 / 1.055f)));
    const float out = a <= 0.04045f ? a * (1 / 12.92f) : bent;
    return v < 0 ? -out : out;
}
/// The same of 0…1, by a polynomial through Chebyshev's points. Error at most 6e-7.
GLYPTOS_IN_ROWS float toLinearWithin(float v) {
    const float v2 = v * v, v4 = v2 * v2;
    const float p = ((0.000847002694f + v * 0.0356495511f) + v2 * (0.479566396f + v * 0.909067485f)) +
                    v4 * (((-1.07081494f + v * 1.47726675f) + v2 * (-1.56004191f + v * 1.09987183f)) +
                          v4 * (-0.453696899f + v * 0.0822848277f));
    return v <= 0.04045f ? v * (1 / 12.92f) : p;
}
GLYPTOS_IN_ROWS float toEncoded(float v) {
    const float a = absolute(v), safe = a > 1e-12f ? a : 1e-12f;
    const float bent = 1.055f * exp2(log2(safe) * (1 / 2.4f)) - 0.055f;
    const float out = a <= 0.0031308f ? a * 12.92f : bent;
    return v < 0 ? -out : out;
}
/// The same of 0…1, by a polynomial of the fourth root through Chebyshev's points. Error at most 7e-7.
GLYPTOS_IN_ROWS float toEncodedWithin(float v) {
    const float t = __builtin_sqrtf(__builtin_sqrtf(v));
    const float t2 = t * t, t4 = t2 * t2;
    const float p = ((-0.0585816804f + t * 0.125506082f) + t2 * (1.45024210f + t * -1.12084929f)) +
                    t4 * ((1.14651502f + t * -0.833786523f) + t2 * (0.358946374f + t * -0.0679922621f));
    return v <= 0.0031308f ? v * 12.92f : p;
}

/// Oklab (color/oklab.h) of a colour in linear light, and back.
struct Lab {
    float L, a, b;
};
struct Linear {
    float r, g, b;
};
GLYPTOS_IN_ROWS Lab toLab(const Linear& c) {
    const float l = cubeRoot(0.4122214708f * c.r + 0.5363325363f * c.g + 0.0514459929f * c.b);
    const float m = cubeRoot(0.2119034982f * c.r + 0.6806995451f * c.g + 0.1073969566f * c.b);
    const float s = cubeRoot(0.0883024619f * c.r + 0.2817188376f * c.g + 0.6299787005f * c.b);
    return {0.2104542553f * l + 0.7936177850f * m - 0.0040720468f * s,
            1.9779984951f * l - 2.4285922050f * m + 0.4505937099f * s,
            0.0259040371f * l + 0.7827717662f * m - 0.8086757660f * s};
}
GLYPTOS_IN_ROWS Linear fromLab(const Lab& c) {
    const float l = c.L + 0.3963377774f * c.a + 0.2158037573f * c.b;
    const float m = c.L - 0.1055613458f * c.a - 0.0638541728f * c.b;
    const float s = c.L - 0.0894841775f * c.a - 1.2914855480f * c.b;
    const float l3 = l * l * l, m3 = m * m * m, s3 = s * s * s;
    return {4.0767416621f * l3 - 3.3077115913f * m3 + 0.2309699292f * s3,
            -1.2684380046f * l3 + 2.6097574011f * m3 - 0.3413193965f * s3,
            -0.0041960863f * l3 - 0.7034186147f * m3 + 1.7076147010f * s3};
}
/// Of encoded colours, as wide as they come.
GLYPTOS_IN_ROWS Lab labOf(float r, float g, float b) {
    return toLab({toLinear(r), toLinear(g), toLinear(b)});
}

/// Angle of (x, y) in turns, 0…1; 0 of (0, 0). Error at most 2e-6: the polynomial for atan on 0…1 of
/// C. Hastings, "Approximations for Digital Computers" (1955), with six terms.
GLYPTOS_IN_ROWS float turnOf(float y, float x) {
    const float ax = absolute(x), ay = absolute(y);
    const float most = ax > ay ? ax : ay, least = ax > ay ? ay : ax;
    const float t = least / (most > 1e-12f ? most : 1e-12f), u = t * t;
    float angle =
        t *
        (0.99997726f +
         u * (-0.33262347f + u * (0.19354346f + u * (-0.11643287f + u * (0.05265332f + u * -0.01172120f)))));
    angle = ay > ax ? 1.5707963268f - angle : angle;
    angle = x < 0 ? 3.1415926536f - angle : angle;
    angle = y < 0 ? 6.2831853072f - angle : angle;
    return angle * 0.1591549431f;
}

/// Sine and cosine of an angle in turns, −2…2. Error at most 1e-6.
GLYPTOS_IN_ROWS float sineOf(float turns) {
    constexpr float kRound = 12582912.0f;
    const float f = turns - ((turns + kRound) - kRound);                       // −½…½
    const float folded = absolute(f) > 0.25f ? (f < 0 ? -0.5f : 0.5f) - f : f; // −¼…¼
    const float x = folded * 6.2831853072f, u = x * x;
    return x * (1 + u * (-1 / 6.0f + u * (1 / 120.0f + u * (-1 / 5040.0f + u * (1 / 362880.0f)))));
}
GLYPTOS_IN_ROWS float cosineOf(float turns) {
    return sineOf(turns + 0.25f);
}

} // namespace glyptos::rows
