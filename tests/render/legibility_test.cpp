#include "render/legible/legibility.h"

#include "support/register.h"

#include <cmath>
#include <vector>

using namespace glyptos;

namespace {

constexpr int kSide = 40;

/// A bar in the middle, and what is behind it by column.
template <class Behind>
std::optional<EdgeContrast> measured(const Rgba& ink, Behind behind) {
    Path bar;
    bar.addRect({4, 15, 32, 10});
    std::vector<uint8_t> pixels;
    for (int y = 0; y < kSide; ++y)
        for (int x = 0; x < kSide; ++x)
            for (const int v : behind(x)) pixels.push_back(uint8_t(v));
    return edgeContrast(pixels, coverage(bar, {}, kSide, kSide), kSide, kSide, ink);
}

/// WCAG 2.1, written out.
double ratio(double a, double b) {
    const auto linear = [](double v) {
        return v <= 0.03928 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4);
    };
    const double x = linear(a), y = linear(b);
    return (std::max(x, y) + 0.05) / (std::min(x, y) + 0.05);
}

} // namespace

class LegibilityTest : public QObject {
    Q_OBJECT

  private Q_SLOTS:
    void blackOnWhite() {
        const auto out = measured({0, 0, 0, 1}, [](int) { return std::array{255, 255, 255, 255}; });
        QVERIFY(out && std::abs(out->worst - 21) < 1e-6 && std::abs(out->typical - 21) < 1e-6);
    }

    void worstIsWhereTheGroundIsLikeTheWords() {
        // White on black, but for the last fifth of the bar, which is on light grey.
        const auto out = measured({1, 1, 1, 1}, [](int x) {
            return x < 30 ? std::array{0, 0, 0, 255} : std::array{200, 200, 200, 255};
        });
        QVERIFY(out && std::abs(out->typical - 21) < 1e-6);
        QVERIFY(std::abs(out->worst - ratio(1, 200 / 255.0)) < 1e-3);
    }

    void seeThroughWordsAreWhatIsSeen() {
        const auto out = measured({0, 0, 0, 0.5F}, [](int) { return std::array{255, 255, 255, 255}; });
        QVERIFY(out && std::abs(out->typical - ratio(1, 0.5)) < 1e-3);
        const auto onNothing = measured({0, 0, 0, 1}, [](int) { return std::array{0, 0, 0, 0}; });
        QVERIFY(onNothing && std::abs(onNothing->typical - 21) < 1e-6); // paper
    }

    void noWordsNoContrast() {
        const std::vector<uint8_t> pixels(size_t(4) * kSide * kSide, 255);
        QVERIFY(!edgeContrast(pixels, coverage(Path(), {}, kSide, kSide), kSide, kSide, {0, 0, 0, 1}));
    }
};

GLYPTOS_TEST(LegibilityTest)
#include "legibility_test.moc"
