// Every kernel on every instruction set that this machine has gives what the best of them gives, which the
// other tests compare with plain formulas.
#include "raster/buffer.h"
#include "raster/composite.h"
#include "raster/light.h"
#include "raster/resample.h"
#include "support/blend_reference.h"
#include "support/pictures.h"
#include "support/register.h"

#include <QRandomGenerator>
#include <hwy/targets.h>

using namespace glyptos;
using namespace glyptos::test;

namespace {

constexpr size_t kCount = 253;  // no multiple of any vector
constexpr float kClose = 2e-5f; // a step of 16 bits and a little
// Those that the kernels are compiled for, the least first; others that a machine has run one of these.
constexpr std::pair<int64_t, const char*> kTargets[] = {
    {HWY_SSSE3, "SSSE3"}, {HWY_SSE4, "SSE4"}, {HWY_AVX2, "AVX2"}, {HWY_AVX3, "AVX-512"}, {HWY_NEON, "NEON"}};

/// Random straight bytes of every alpha, with all extremes among them.
std::vector<uint8_t> pixels(uint32_t seed) {
    QRandomGenerator random(seed);
    std::vector<uint8_t> out(kCount * 4 + 64);
    const uint8_t extremes[] = {0, 1, 127, 254, 255};
    for (uint8_t& v : out)
        v = random.bounded(3) == 0 ? extremes[random.bounded(5)] : uint8_t(random.bounded(256));
    return out;
}

struct PlaneRows {
    explicit PlaneRows(const std::vector<uint8_t>& rgba) {
        for (size_t c = 0; c < 4; ++c) planes.c[c] = values.data() + c * kStride;
        unpackRow(rgba.data(), planes, kCount);
    }
    std::vector<float> read() const {
        std::vector<float> out;
        for (const float* plane : planes.c) out.insert(out.end(), plane, plane + kCount);
        return out;
    }
    static constexpr size_t kStride = 288;
    Buffer<float> values{4 * kStride};
    RowPlanes planes;
};

std::vector<float> blended(BlendMode mode, bool fromBytes) {
    PlaneRows backdrop(pixels(1));
    const auto source = pixels(2);
    if (fromBytes)
        blendRow(mode, backdrop.planes, source.data(), 0.7f, kCount);
    else
        blendRow(mode, backdrop.planes, PlaneRows(source).planes, 0.7f, kCount);
    return backdrop.read();
}

std::vector<float> packed() {
    const PlaneRows row(pixels(3));
    std::vector<uint8_t> bgra(kCount * 4), rgba(kCount * 4);
    packBgra8(row.planes, bgra.data(), kCount);
    packStraightRgba8(row.planes, rgba.data(), kCount);
    std::vector<float> out(bgra.begin(), bgra.end());
    out.insert(out.end(), rgba.begin(), rgba.end());
    return out;
}

std::vector<float> inLight() {
    PlaneRows row(pixels(4));
    toLinearRow(row.planes, kCount);
    std::vector<float> out = row.read();
    toEncodedRow(row.planes, kCount);
    for (float v : row.read()) out.push_back(v);
    return out;
}

std::vector<float> unpacked16() {
    PlaneRows row(pixels(5));
    std::vector<uint16_t> wide(kCount * 4 + 32);
    const auto bytes = pixels(6);
    for (size_t i = 0; i < kCount * 4; ++i) wide[i] = uint16_t(bytes[i] * 257 ^ (i & 255));
    unpackRow(wide.data(), row.planes, kCount);
    return row.read();
}

/// A picture turned and made smaller, and one enlarged.
std::vector<float> resampled() {
    const Pyramid picture(pictureOf(96, 80, [](int x, int y) {
        const auto v = [&](int k) { return uint8_t((x * x * k + y * 31 * k + x * y) & 255); };
        return std::array<uint8_t, 4>{v(1), v(2), v(3), v(5)};
    }));
    std::vector<float> out;
    for (const double scale : {0.43, 2.7}) {
        Tile tile(61, 47);
        resampleTile(picture, Affine::rotation(0.3) * Affine::scaling(scale, scale), 5, 7, tile);
        for (int c = 0; c < 4; ++c)
            for (int y = 0; y < tile.height; ++y)
                for (int x = 0; x < tile.width; ++x) out.push_back(float(tile.row(c, y)[x]) / 65535);
    }
    return out;
}

/// Everything that the kernels do, in one row of figures.
std::vector<std::vector<float>> everything() {
    std::vector<std::vector<float>> out{packed(), inLight(), unpacked16(), resampled()};
    for (size_t m = 0; m < kBlendModeCount; ++m)
        for (const bool bytes : {false, true}) out.push_back(blended(BlendMode(m), bytes));
    return out;
}

} // namespace

class TargetsTest : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void cleanup() { hwy::SetSupportedTargetsForTest(0); }

    void everyTargetAgrees() {
        const int64_t here = hwy::SupportedTargets();
        const auto best = everything();
        int tried = 0;
        for (const auto& [target, name] : kTargets) {
            if (!(here & target)) continue;
            hwy::SetSupportedTargetsForTest(target);
            const auto got = everything();
            for (size_t k = 0; k < best.size(); ++k)
                for (size_t i = 0; i < best[k].size(); ++i)
                    QVERIFY2(std::abs(got[k][i] - best[k][i]) <= kClose,
                             qPrintable(QString("%1, kernel %2, value %3: %4, not %5")
                                            .arg(name)
                                            .arg(k)
                                            .arg(i)
                                            .arg(double(got[k][i]))
                                            .arg(double(best[k][i]))));
            hwy::SetSupportedTargetsForTest(0);
            ++tried;
        }
        QVERIFY(tried >= 1);
    }

    /// Straight bytes blended where they lie against the formulas in double, at every alpha.
    void bytesBlendByTheFormula() {
        for (size_t m = 0; m < kBlendModeCount; ++m)
            for (int alpha = 0; alpha < 256; ++alpha) {
                const uint8_t from[2][4] = {{255, 1, 128, 200}, {0, 254, 77, uint8_t(alpha)}};
                std::vector<uint8_t> backdrop(kCount * 4 + 64), source(kCount * 4 + 64);
                for (size_t i = 0; i < kCount; ++i)
                    for (size_t c = 0; c < 4; ++c)
                        backdrop[4 * i + c] = from[0][c], source[4 * i + c] = from[1][c];
                PlaneRows row(backdrop);
                blendRow(BlendMode(m), row.planes, source.data(), 0.6f, kCount);
                const auto straight = [](const uint8_t(&p)[4], double share) {
                    return StraightPixel{{p[0] / 255.0, p[1] / 255.0, p[2] / 255.0}, p[3] / 255.0 * share};
                };
                const StraightPixel want =
                    composited(BlendMode(m), straight(from[0], 1), straight(from[1], double(0.6f)));
                for (size_t c = 0; c < 4; ++c)
                    QVERIFY2(std::abs(row.planes.c[c][kCount - 1] - (c < 3 ? want.c[c] : want.a)) < 0.1 / 255,
                             kBlendModes[m].id.data());
            }
    }
};

GLYPTOS_TEST(TargetsTest)
#include "targets_test.moc"
