// Holes of known content are filled, and set against what OpenCV's inpainting makes of them.
#include "vision/mend/mend.h"

#include "support/register.h"
#include "support/textures.h"

#include <opencv2/imgproc.hpp>
#include <opencv2/photo.hpp>
#include <set>

using namespace glyptos;
using namespace glyptos::test;

namespace {

cv::Mat bgrOf(const Picture& p) {
    const cv::Mat rgba(p.height, p.width, CV_8UC4, const_cast<uint8_t*>(p.row<uint8_t>(0)));
    cv::Mat out;
    cv::cvtColor(rgba, out, cv::COLOR_RGBA2BGR);
    return out;
}

double psnr(const cv::Mat& truth, const cv::Mat& filled, const cv::Mat& hole) {
    cv::Mat apart;
    cv::absdiff(truth, filled, apart);
    apart.convertTo(apart, CV_64FC3);
    const cv::Scalar mean = cv::mean(apart.mul(apart), hole);
    return 10 * std::log10(255 * 255 / ((mean[0] + mean[1] + mean[2]) / 3));
}

/// How often steps of each size and direction come in the hole; sizes by half octaves of a Sobel filter.
std::vector<double> stepsOf(const cv::Mat& bgr, const cv::Mat& hole) {
    constexpr int kSizes = 16, kDirections = 12;
    cv::Mat grey, dx, dy;
    cv::cvtColor(bgr, grey, cv::COLOR_BGR2GRAY);
    cv::Sobel(grey, dx, CV_32F, 1, 0, 3, 0.125);
    cv::Sobel(grey, dy, CV_32F, 0, 1, 3, 0.125);
    std::vector<double> out(kSizes * kDirections);
    double count = 0;
    for (int y = 0; y < grey.rows; ++y)
        for (int x = 0; x < grey.cols; ++x) {
            if (!hole.at<uint8_t>(y, x)) continue;
            const double u = dx.at<float>(y, x), v = dy.at<float>(y, x);
            const int size = std::min(kSizes - 1, int(2 * std::log2(1 + std::hypot(u, v))));
            const double turn = (std::atan2(v, u) + M_PI) / (2 * M_PI);
            ++out[size_t(size * kDirections + std::min(kDirections - 1, int(turn * kDirections)))], ++count;
        }
    for (double& v : out) v /= count;
    return out;
}

/// Share of the steps that are others, 0…1.
double apart(const std::vector<double>& a, const std::vector<double>& b) {
    double sum = 0;
    for (size_t i = 0; i < a.size(); ++i) sum += std::abs(a[i] - b[i]);
    return sum / 2;
}

/// The mean step from the hole to what lies round it, against the mean step within 16 px of it.
double seam(const cv::Mat& bgr, const cv::Mat& hole) {
    cv::Mat near;
    cv::dilate(hole, near, cv::Mat::ones(33, 33, CV_8UC1));
    double across = 0, acrossCount = 0, round = 0, roundCount = 0;
    for (int y = 0; y + 1 < bgr.rows; ++y)
        for (int x = 0; x + 1 < bgr.cols; ++x)
            for (const auto& [nx, ny] : {std::pair{x + 1, y}, {x, y + 1}}) {
                const cv::Vec3b a = bgr.at<cv::Vec3b>(y, x), b = bgr.at<cv::Vec3b>(ny, nx);
                const double step = std::abs(a[0] - b[0]) + std::abs(a[1] - b[1]) + std::abs(a[2] - b[2]);
                const bool in = hole.at<uint8_t>(y, x), out = hole.at<uint8_t>(ny, nx);
                if (in != out)
                    across += step, ++acrossCount;
                else if (!in && near.at<uint8_t>(y, x))
                    round += step, ++roundCount;
            }
    return across / acrossCount / (round / roundCount);
}

/// How like the truth a filled hole is: point by point, and in its steps.
struct Likeness {
    double psnr = 0, steps = 0;
    Likeness() = default;
    Likeness(double psnr_, double steps_)
        : psnr(psnr_)
        , steps(steps_) {}
    Likeness(const cv::Mat& truth, const cv::Mat& filled, const cv::Mat& hole)
        : Likeness(::psnr(truth, filled, hole), apart(stepsOf(truth, hole), stepsOf(filled, hole))) {}
    Likeness operator/(double n) const { return {psnr / n, steps / n}; }
    Likeness& operator+=(const Likeness& o) {
        psnr += o.psnr, steps += o.steps;
        return *this;
    }
};

/// Over what the truth by other chance reaches: in shares of its steps, and dB.
constexpr double kSlack = 1.4, kLeastSure = 0.6;

template <class T>
void isSameOutside(const Picture& before, const Picture& after, const AlphaMap& hole) {
    for (int y = 0; y < before.height; ++y)
        for (int x = 0; x < before.width; ++x)
            if (!hole.at(x, y)) {
                const T *a = before.row<T>(y) + 4 * x, *b = after.row<T>(y) + 4 * x;
                QVERIFY(std::equal(a, a + 4, b));
            }
}

bool says(const auto& result, const char* words) {
    return !result && result.error().message.find(words) != std::string::npos;
}

} // namespace

class MendTest : public QObject {
    Q_OBJECT

  private Q_SLOTS:
    void textures_data() {
        QTest::addColumn<int>("texture");
        QTest::addColumn<bool>("chance"); // grain and bark cannot be told from what lies around them
        QTest::addColumn<int>("side");
        QTest::newRow("weave") << int(Texture::Weave) << false << 420;
        QTest::newRow("bricks") << int(Texture::Bricks) << false << 420;
        QTest::newRow("ripples") << int(Texture::Ripples) << false << 420;
        QTest::newRow("bark") << int(Texture::Bark) << true << 420;
        QTest::newRow("bark, larger") << int(Texture::Bark) << true << 1050;
        QTest::newRow("edge") << int(Texture::Edge) << false << 420;
        QTest::newRow("curve") << int(Texture::Curve) << false << 420;
        QTest::newRow("grain") << int(Texture::Grain) << true << 420;
        QTest::newRow("wire") << int(Texture::Wire) << true << 420;
    }
    /// What is by chance has twice the squared error of the best smooth fill as soon as it is as rough as the
    /// truth: 3 dB. So it is also set against the truth by other chance, which is as good as can be expected
    /// of a fill that knows only what lies around.
    void textures() {
        QFETCH(int, texture);
        QFETCH(bool, chance);
        QFETCH(int, side);
        Likeness ours, theirs, other;
        double worstSeam = 0;
        constexpr int kSeeds = 3;
        for (uint32_t seed = 1; seed <= kSeeds; ++seed) {
            KnownTexture known = knownTexture(Texture(texture), side, side / 3, seed);
            const auto filled = mended(known.damaged, known.hole);
            QVERIFY2(filled, filled ? "" : filled.error().message.c_str());
            isSameOutside<uint8_t>(known.damaged, *filled, known.hole);
            const cv::Mat hole(side, side, CV_8UC1, known.hole.values.data());
            const cv::Mat truth = bgrOf(known.truth), damaged = bgrOf(known.damaged), out = bgrOf(*filled);
            cv::Mat marching, flowing;
            cv::inpaint(damaged, hole, marching, 5, cv::INPAINT_TELEA);
            cv::inpaint(damaged, hole, flowing, 5, cv::INPAINT_NS);
            const Likeness a(truth, marching, hole), b(truth, flowing, hole);
            theirs += {std::max(a.psnr, b.psnr) / kSeeds, std::min(a.steps, b.steps) / kSeeds};
            ours += Likeness(truth, out, hole) / kSeeds;
            other += Likeness(truth, bgrOf(byOtherChance(known, Texture(texture), seed)), hole) / kSeeds;
            worstSeam = std::max(worstSeam, seam(out, hole) / std::max(1.0, seam(truth, hole)));
        }
        qInfo("steps apart %.3f, of the peer %.3f, ratio %.2f; PSNR %.1f dB, of the peer %.1f; seam %.2f",
              ours.steps, theirs.steps, ours.steps / theirs.steps, ours.psnr, theirs.psnr, worstSeam);
        if (chance)
            qInfo("by other chance: steps apart %.3f, ratio %.2f; PSNR %.1f dB", other.steps,
                  other.steps / theirs.steps, other.psnr);
        QVERIFY(ours.steps <= std::max(0.2 * theirs.steps, chance ? kSlack * other.steps : 0));
        QVERIFY(worstSeam <= 1.25);
        QVERIFY(ours.psnr >= std::min(theirs.psnr, chance ? other.psnr - kLeastSure : theirs.psnr));
    }

    /// A rim that stands nowhere else runs on along its circle, in 16 bits and half see-through too.
    void aRimRunsOn() {
        const KnownTexture known = knownTexture(Texture::Curve, 420, 140, 2);
        Picture deep = Picture::create<uint16_t>(420, 420);
        for (size_t i = 0; i < size_t(420) * 420 * 4; ++i)
            deep.row<uint16_t>(0)[i] =
                i % 4 == 3 ? uint16_t(30000) : uint16_t(known.damaged.row<uint8_t>(0)[i] * 257);
        const auto filled = mended(deep, known.hole);
        QVERIFY(filled);
        isSameOutside<uint16_t>(deep, *filled, known.hole);
        double squares = 0, n = 0;
        for (int y = 0; y < 420; ++y)
            for (int x = 0; x < 420; ++x) {
                if (!known.hole.at(x, y)) continue;
                const uint16_t* p = filled->row<uint16_t>(y) + 4 * x;
                QVERIFY(std::abs(p[3] - 30000) < 200);
                for (int c = 0; c < 3; ++c, ++n)
                    squares += std::pow(p[c] / 257.0 - known.truth.row<uint8_t>(y)[4 * x + c], 2);
            }
        const double db = 10 * std::log10(255 * 255 * n / squares);
        QVERIFY2(db > 33, qPrintable(QString::number(db)));
    }

    /// 16 bits stay 16 bits, and no level of them is lost.
    void sixteenBitsStay() {
        KnownTexture known = knownTexture(Texture::Weave, 200, 50, 3);
        Picture deep = Picture::create<uint16_t>(200, 200);
        deep.opaque = true;
        const uint8_t* from = known.damaged.row<uint8_t>(0);
        for (size_t i = 0; i < size_t(200) * 200 * 4; ++i)
            deep.row<uint16_t>(0)[i] = uint16_t(i % 4 == 3 ? 65535 : from[i] * 257 - from[i] / 2 + i % 97);
        const auto filled = mended(deep, known.hole);
        QVERIFY(filled && filled->is16());
        isSameOutside<uint16_t>(deep, *filled, known.hole);
        std::set<int> levels;
        for (int y = 0; y < 200; ++y)
            for (int x = 0; x < 200; ++x)
                if (known.hole.at(x, y)) levels.insert(filled->row<uint16_t>(y)[4 * x]);
        QVERIFY(levels.size() > 400);
    }

    /// A see-through picture: what is filled is as see-through as what is around it, and has its colour.
    void alphaIsFilledToo() {
        Picture p = Picture::create<uint8_t>(120, 120);
        AlphaMap hole(120, 120);
        for (int y = 0; y < 120; ++y)
            for (int x = 0; x < 120; ++x) {
                uint8_t* v = p.row<uint8_t>(y) + 4 * x;
                const bool inside = x > 45 && x < 75 && y > 45 && y < 75;
                v[0] = 200, v[1] = 90, v[2] = 30, v[3] = inside ? 255 : 96;
                hole.at(x, y) = inside ? 255 : 0;
            }
        const auto filled = mended(p, hole);
        QVERIFY(filled);
        const uint8_t* middle = filled->row<uint8_t>(60) + 4 * 60;
        QVERIFY(std::abs(middle[3] - 96) <= 1);
        QVERIFY(std::abs(middle[0] - 200) <= 2 && std::abs(middle[1] - 90) <= 2 &&
                std::abs(middle[2] - 30) <= 2);
    }

    /// Grey in the mask mixes.
    void halfCoveredIsMixed() {
        Picture p = Picture::create<uint8_t>(80, 80);
        p.opaque = true;
        AlphaMap hole(80, 80);
        for (int y = 0; y < 80; ++y)
            for (int x = 0; x < 80; ++x) {
                uint8_t* v = p.row<uint8_t>(y) + 4 * x;
                const bool inside = x > 30 && x < 50 && y > 30 && y < 50;
                v[0] = v[1] = v[2] = inside ? 0 : 200, v[3] = 255;
                hole.at(x, y) = inside ? 51 : 0;
            }
        const auto filled = mended(p, hole);
        QVERIFY(filled);
        QVERIFY(std::abs(filled->row<uint8_t>(40)[4 * 40] - 40) <= 1);
    }

    /// A wire across a long picture is mended part by part, and each part runs on from the one before.
    void longAndThin() {
        constexpr int kLong = 3000;
        Picture p = Picture::create<uint8_t>(kLong, 60);
        p.opaque = true;
        AlphaMap hole(kLong, 60);
        for (int y = 0; y < 60; ++y)
            for (int x = 0; x < kLong; ++x) {
                uint8_t* v = p.row<uint8_t>(y) + 4 * x;
                const bool wire = std::abs(y - 30 - x / 300) < 3;
                v[0] = v[1] = v[2] = wire ? 0 : uint8_t(90 + x / 30), v[3] = 255;
                hole.at(x, y) = wire ? 255 : 0;
            }
        const auto filled = mended(p, hole);
        QVERIFY(filled);
        int worst = 0;
        for (int x = 0; x < kLong; ++x)
            for (int y = 0; y < 60; ++y)
                worst = std::max(worst, std::abs(filled->row<uint8_t>(y)[4 * x] - (90 + x / 30)));
        QVERIFY2(worst <= 3, qPrintable(QString::number(worst)));
    }

    void holesAtTheEdge() {
        KnownTexture known = knownTexture(Texture::Ripples, 160, 40, 1);
        AlphaMap hole(160, 160);
        for (int y = 0; y < 160; ++y)
            for (int x = 0; x < 160; ++x) hole.at(x, y) = x < 30 && y < 40 ? 255 : 0;
        const auto filled = mended(known.truth, hole);
        QVERIFY(filled);
        isSameOutside<uint8_t>(known.truth, *filled, hole);
    }

    /// Where nothing whole can be copied it is filled smoothly.
    void smallPictures() {
        for (const auto& [w, h] : {std::pair{2, 1}, {1, 6}, {5, 5}, {9, 400}, {8, 8}}) {
            Picture p = Picture::create<uint8_t>(w, h);
            AlphaMap hole(w, h);
            for (int i = 0; i < w * h; ++i) {
                uint8_t* v = p.row<uint8_t>(0) + 4 * i;
                v[0] = 40, v[1] = 50, v[2] = 60, v[3] = 255;
            }
            hole.values.back() = 255;
            p.row<uint8_t>(h - 1)[4 * (w - 1)] = 250;
            const auto filled = mended(p, hole);
            QVERIFY(filled);
            QVERIFY(std::abs(filled->row<uint8_t>(h - 1)[4 * (w - 1)] - 40) <= 1);
        }
    }

    void sameEveryTime() {
        const KnownTexture known = knownTexture(Texture::Bark, 260, 90, 4);
        const auto once = mended(known.damaged, known.hole), again = mended(known.damaged, known.hole);
        QVERIFY(once && again);
        QVERIFY(
            std::equal(once->row<uint8_t>(0), once->row<uint8_t>(0) + once->bytes(), again->row<uint8_t>(0)));
    }

    /// A patch from brighter ground takes on the light of where it is laid, and keeps its texture.
    void patchTakesOnTheLight() {
        Picture p = Picture::create<uint8_t>(300, 120);
        p.opaque = true;
        AlphaMap hole(300, 120);
        for (int y = 0; y < 120; ++y)
            for (int x = 0; x < 300; ++x) {
                uint8_t* v = p.row<uint8_t>(y) + 4 * x;
                const bool bright = x >= 150;
                const int wave = int(std::lround(10 * std::sin(x * 0.7) * std::sin(y * 0.9)));
                v[0] = v[1] = v[2] = uint8_t((bright ? 170 : 120) + wave), v[3] = 255;
                if (std::hypot(x - 75, y - 60) < 20) hole.at(x, y) = 255;
            }
        const auto out = patched(p, hole, 140, 0);
        QVERIFY(out);
        isSameOutside<uint8_t>(p, *out, hole);
        double sum = 0, squares = 0, n = 0;
        for (int y = 50; y < 70; ++y)
            for (int x = 65; x < 85; ++x) {
                const double v = out->row<uint8_t>(y)[4 * x];
                sum += v, squares += v * v, ++n;
            }
        const double mean = sum / n, spread = std::sqrt(squares / n - mean * mean);
        QVERIFY2(std::abs(mean - 120) < 6, qPrintable(QString::number(mean)));
        QVERIFY(spread > 3.5 && spread < 7);
        // Nothing beyond the edge to be copied: nothing changes.
        const auto outside = patched(p, hole, 0, 500);
        QVERIFY(outside &&
                std::equal(p.row<uint8_t>(0), p.row<uint8_t>(0) + p.bytes(), outside->row<uint8_t>(0)));
    }

    void badInput() {
        const KnownTexture known = knownTexture(Texture::Grain, 60, 20, 1);
        QVERIFY(says(mended(known.damaged, AlphaMap(60, 60)), "empty"));
        QVERIFY(says(mended(known.damaged, AlphaMap(60, 60, 255)), "covers all"));
        QVERIFY(says(mended(known.damaged, AlphaMap(60, 59, 255)), "another size"));
        QVERIFY(says(patched(known.damaged, AlphaMap(60, 60), 5, 5), "empty"));
        std::atomic<bool> cancel = true;
        MendOptions options;
        options.cancel = &cancel;
        QVERIFY(says(mended(known.damaged, known.hole, options), "Cancelled"));
    }
};

GLYPTOS_TEST(MendTest)
#include "mend_test.moc"
