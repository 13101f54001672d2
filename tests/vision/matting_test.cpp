// The parts of cutting out, each against its own truth: the matting equations against a dense solution by the
// formula, sampled alpha against colours that were mixed, bands against distances.
#include "vision/cutout/matting.h"

#include "support/register.h"
#include "vision/cutout/colour_density.h"
#include "vision/cutout/sampling.h"

#include <cmath>
#include <opencv2/core.hpp>
#include <random>

using namespace glyptos;

namespace {

Reduced noisy(int width, int height, uint32_t seed) {
    std::mt19937 random(seed);
    std::uniform_real_distribution<float> value(0, 1);
    Reduced out{width, height, {}};
    for (int i = 0; i < width * height; ++i)
        out.pixels.push_back({value(random), value(random), value(random), 1});
    return out;
}

/// Levin, Lischinski and Weiss (2008), equation 12, entry by entry over all windows, solved as a whole.
cv::Mat denseAlpha(const Reduced& picture, const AlphaMap& trimap, const std::vector<AlphaGuess>& guesses) {
    const int n = picture.width * picture.height;
    cv::Mat matrix(n, n, CV_64F, cv::Scalar(0)), right(n, 1, CV_64F, cv::Scalar(0)), out;
    for (int wy = 1; wy + 1 < picture.height; ++wy)
        for (int wx = 1; wx + 1 < picture.width; ++wx) {
            std::vector<int> places;
            cv::Matx33d spread = cv::Matx33d::zeros();
            cv::Vec3d mean(0, 0, 0);
            const auto colour = [&](int i) {
                const Rgba& c = picture.pixels[size_t(i)];
                return cv::Vec3d(double(c.r), double(c.g), double(c.b));
            };
            for (int y = wy - 1; y <= wy + 1; ++y)
                for (int x = wx - 1; x <= wx + 1; ++x) places.push_back(y * picture.width + x);
            for (const int i : places) mean += colour(i) / 9.0;
            for (const int i : places) spread += (colour(i) - mean) * (colour(i) - mean).t() * (1.0 / 9);
            const cv::Matx33d inverse = (spread + cv::Matx33d::eye() * (1e-5 / 9)).inv();
            for (const int i : places)
                for (const int j : places)
                    matrix.at<double>(i, j) +=
                        (i == j ? 1.0 : 0.0) - (1 + (colour(i) - mean).dot(inverse * (colour(j) - mean))) / 9;
        }
    for (int i = 0; i < n; ++i) {
        const uint8_t kind = trimap.values[size_t(i)];
        const double weight = isUncertain(kind) ? double(guesses[size_t(i)].weight) + 1e-6 : 1e9;
        const double alpha =
            isUncertain(kind) ? double(guesses[size_t(i)].alpha) * (weight - 1e-6) / weight : kind / 255.0;
        matrix.at<double>(i, i) += weight;
        right.at<double>(i) = weight * alpha;
    }
    cv::solve(matrix, right, out, cv::DECOMP_CHOLESKY);
    return out;
}

} // namespace

class MattingTest : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void asTheDenseEquations() {
        const int w = 17, h = 14;
        const Reduced picture = noisy(w, h, 4);
        AlphaMap trimap(w, h, kUncertain);
        std::vector<AlphaGuess> guesses(trimap.values.size());
        std::mt19937 random(9);
        for (int y = 0; y < h; ++y)
            for (int x = 0; x < w; ++x) {
                if (x < 3) trimap.at(x, y) = 0;
                if (x > 13) trimap.at(x, y) = 255;
                guesses[size_t(y * w + x)] = {float(random() % 100) / 99, float(random() % 10) / 100};
            }
        trimap.at(8, 7) = 255; // one alone
        const auto solved = solvedAlpha(picture, trimap, guesses, nullptr);
        const cv::Mat dense = denseAlpha(picture, trimap, guesses);
        for (int i = 0; i < w * h; ++i) {
            const double want = std::clamp(dense.at<double>(i), 0.0, 1.0);
            QVERIFY2(
                std::abs(double(solved[size_t(i)]) - want) < 2e-3,
                qPrintable(QString("%1: %2 instead of %3").arg(i).arg(double(solved[size_t(i)])).arg(want)));
        }
    }

    /// Windows of two colours only, on which single precision breaks down.
    void windowsOfOneLineOfColours() {
        const int side = 40;
        Reduced picture{side, side, {}};
        AlphaMap trimap(side, side, kUncertain);
        for (int y = 0; y < side; ++y)
            for (int x = 0; x < side; ++x) {
                const float a = std::clamp((float(x) - 10) / 20, 0.0f, 1.0f);
                picture.pixels.push_back({0.78f - 0.6f * a, 0.84f - 0.7f * a, 0.86f - 0.8f * a, 1});
                if (x < 6) trimap.at(x, y) = 0;
                if (x > 33) trimap.at(x, y) = 255;
            }
        const std::vector<AlphaGuess> none(trimap.values.size());
        const auto solved = solvedAlpha(picture, trimap, none, nullptr);
        for (int x = 0; x < side; ++x) {
            const float want = std::clamp((float(x) - 10) / 20, 0.0f, 1.0f);
            QVERIFY(std::abs(solved[size_t(20 * side + x)] - want) < 0.02f);
        }
    }

    void mixedColoursAreTakenApart() {
        const int side = 60;
        Reduced picture{side, side, {}};
        AlphaMap trimap(side, side, kUncertain);
        const auto alphaAt = [](int x, int y) { return float((x * 7 + y * 13) % 11) / 10; };
        for (int y = 0; y < side; ++y)
            for (int x = 0; x < side; ++x) {
                const bool ground = x < 15, figure = x >= 45;
                const float a = ground ? 0 : figure ? 1 : alphaAt(x, y);
                picture.pixels.push_back(
                    {0.9f * a + 0.1f * (1 - a), 0.2f * a + 0.5f * (1 - a), 0.1f * a + 0.8f * (1 - a), 1});
                if (ground) trimap.at(x, y) = 0;
                if (figure) trimap.at(x, y) = 255;
            }
        const auto guesses = sampledAlpha(picture, trimap);
        for (int y = 0; y < side; ++y)
            for (int x = 15; x < 45; ++x) {
                const AlphaGuess& g = guesses[size_t(y * side + x)];
                QVERIFY(std::abs(g.alpha - alphaAt(x, y)) < 1e-3f);
                // Colours that one of the two has by itself say nothing, those between them are sure.
                if (alphaAt(x, y) > 0.25f && alphaAt(x, y) < 0.75f) QVERIFY(g.weight > 0.5f);
            }
        QVERIFY(sampledAlpha(picture, trimap)[1000].alpha == guesses[1000].alpha);
    }

    void bandsAreAsWideAsAsked() {
        AlphaMap mask(80, 60);
        for (int y = 0; y < 60; ++y)
            for (int x = 40; x < 80; ++x) mask.at(x, y) = 255;
        const AlphaMap trimap = trimapAround(mask, 4, 7);
        for (int x = 0; x < 80; ++x) {
            const int want = x < 33 ? 0 : x < 44 ? int(kUncertain) : 255;
            QCOMPARE(int(trimap.at(x, 30)), want);
        }
        QVERIFY(uncertainArea(trimap) == (IntRect{33, 0, 11, 60}));
        QVERIFY(uncertainArea(mask).empty());
        const AlphaMap half = resizedTrimap(trimap, 40, 30, 0), wide = resizedTrimap(trimap, 40, 30, 2);
        QCOMPARE(half.at(15, 10), uint8_t(0));
        QCOMPARE(half.at(18, 10), kUncertain);
        QCOMPARE(wide.at(15, 10), kUncertain);
        QCOMPARE(wide.at(5, 10), uint8_t(0));
    }

    void whatIsInABoxWithoutItsGround() {
        std::vector<Rgba> ground(3000, Rgba{0.2f, 0.5f, 0.8f, 1}), inside(2000, Rgba{0.2f, 0.5f, 0.8f, 1});
        inside.insert(inside.end(), 1000, Rgba{0.8f, 0.3f, 0.2f, 1});
        const ColourDensity g(ground), figure = ColourDensity(inside).without(g);
        QVERIFY(leaning(figure, g, {0.8f, 0.3f, 0.2f, 1}) > 4);
        QVERIFY(leaning(figure, g, {0.2f, 0.5f, 0.8f, 1}) < -4);
        QVERIFY(std::abs(leaning(figure, g, {0.5f, 0.9f, 0.1f, 1})) < 1); // neither has it
        QCOMPARE(ColourDensity().at({0.1f, 0.1f, 0.1f, 1}), 0.0f);
    }
};

GLYPTOS_TEST(MattingTest)
#include "matting_test.moc"
