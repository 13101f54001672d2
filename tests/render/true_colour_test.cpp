// What is blended are the colours of the files, whatever their alpha: straight PNGs of every alpha and of
// extreme colours, through reading, compositing and writing, against the W3C formulas in double.
#include "render/renderer.h"

#include "file/data_folder.h"
#include "file/pictures/picture_writer.h"
#include "support/blend_reference.h"
#include "support/noting.h"
#include "support/pictures.h"
#include "support/register.h"

#include <QRandomGenerator>

using namespace glyptos;
using namespace glyptos::test;

namespace {

// Of a byte, premultiplied: the result is rounded to bytes once, and kernels work in single precision.
constexpr double kWorst = 2, kMean = 0.35;
constexpr int kWidth = 256, kHeight = 32; // every alpha in each row

using Pixels = std::vector<std::array<uint8_t, 4>>;

/// Row by row other colours; one in four channels is extreme.
Pixels randomPixels(QRandomGenerator& random, bool alphaInOrder) {
    constexpr std::array<uint8_t, 6> kExtremes{0, 1, 254, 255, 127, 128};
    Pixels out(size_t(kWidth) * kHeight);
    for (size_t i = 0; i < out.size(); ++i) {
        for (size_t c = 0; c < 4; ++c)
            out[i][c] = random.bounded(4) == 0 ? kExtremes[random.bounded(quint32(kExtremes.size()))]
                                               : uint8_t(random.bounded(256));
        if (random.bounded(8) == 0) out[i][1] = out[i][2] = out[i][0]; // greys
        if (alphaInOrder) out[i][3] = uint8_t(i % kWidth);
    }
    return out;
}

/// How a layer stands in its stack.
struct Laid {
    Pixels pixels;
    BlendMode blend = BlendMode::Normal;
    double opacity = 1;
    int dx = 0, dy = 0;

    StraightPixel at(int x, int y) const {
        x -= dx, y -= dy;
        if (x < 0 || y < 0 || x >= kWidth || y >= kHeight) return {};
        const auto& p = pixels[size_t(y) * kWidth + size_t(x)];
        return {{p[0] / 255.0, p[1] / 255.0, p[2] / 255.0}, p[3] / 255.0};
    }
};

StraightPixel straight(StraightPixel premultiplied) {
    for (double& v : premultiplied.c) v = premultiplied.a > 0 ? v / premultiplied.a : 0;
    return premultiplied;
}

StraightPixel blended(const StraightPixel& backdrop, StraightPixel source, const Laid& how) {
    source.a *= how.opacity;
    return straight(composited(how.blend, backdrop, source));
}

class Stage {
  public:
    Stage()
        : release(screenRelease(kWidth, kHeight)) {}

    /// On top of what is there; returns its id.
    std::string lay(const Laid& laid, bool clipped = false) {
        const auto png =
            pngOf(kWidth, kHeight, [&](int x, int y) { return laid.pixels[size_t(y) * kWidth + size_t(x)]; });
        Layer layer;
        layer.id = layer.name = "l" + std::to_string(++count_);
        release = pictures.add(release, layer.id, *decodePicture(png, layer.id, {}));
        layer.content = PictureContent{layer.id, {0, 0, 1, 1}};
        layer.placement.position = {kWidth / 2.0 + laid.dx, kHeight / 2.0 + laid.dy};
        layer.blend = laid.blend, layer.opacity = laid.opacity, layer.clipped = clipped;
        release = withLayer(release, frontOf(release), layer);
        return layer.id;
    }

    void group(const std::vector<std::string>& ids, const Laid& how, bool passing) {
        std::string id;
        release = noting(id, *withGrouped(release, frontOf(release), {ids.begin(), ids.end()}));
        release = withChangedLayer(release, frontOf(release), id, [&](Layer& l) {
            l.blend = how.blend, l.opacity = how.opacity;
            std::get<GroupContent>(l.content).passing = passing;
        });
    }

    /// Compares what is drawn with what `want` (straight) says, and what is written to a PNG as well.
    void compare(const std::function<StraightPixel(int, int)>& want, const std::string& what) {
        Renderer renderer(pictures, fonts_);
        const Scene scene = panelScene(release, frontOf(release), {1, false});
        const auto shown = renderer.renderBgra8(scene, scene.bounds());
        const auto written = renderer.renderStraightRgba8(scene, scene.bounds());
        const auto png = encodePng({written.data(), written.size()}, kWidth, kHeight, {72});
        const Picture read = *decodePicture(*png, "out", {});
        double worst = 0, sum = 0;
        for (int y = 0; y < kHeight; ++y)
            for (int x = 0; x < kWidth; ++x) {
                const StraightPixel w = want(x, y);
                const uint8_t* p = shown.data() + (size_t(y) * kWidth + size_t(x)) * 4;
                const auto file = pixel(read, x, y);
                for (size_t c = 0; c < 4; ++c) {
                    const double full = c < 3 ? w.c[c] * w.a * 255 : w.a * 255;
                    const double off = std::abs(p[c < 3 ? 2 - c : 3] - full);
                    const double fileOff = std::abs((c < 3 ? file[c] * file[3] / 255.0 : file[3]) - full);
                    worst = std::max({worst, off, fileOff});
                    sum += off;
                }
            }
        const double mean = sum / (4.0 * kWidth * kHeight);
        QVERIFY2(worst <= kWorst && mean <= kMean,
                 (what + ": worst " + std::to_string(worst) + ", mean " + std::to_string(mean)).c_str());
    }

    HeldPictures pictures;
    ReleasePtr release;

  private:
    FontLibrary fonts_{dataFolder() / "fonts", true};
    int count_ = 0;
};

} // namespace

class TrueColourTest : public QObject {
    Q_OBJECT
    QRandomGenerator random{20};

    Laid any(BlendMode blend = BlendMode::Normal, double opacity = 1, int dx = 0, int dy = 0) {
        return {randomPixels(random, blend != BlendMode::Normal), blend, opacity, dx, dy};
    }
    static std::string named(size_t mode, const char* what) {
        return std::string(kBlendModes[mode].id) + " " + what;
    }

  private Q_SLOTS:
    void everyModeAloneWithOpacityAndOffset() {
        for (size_t m = 0; m < kBlendModeCount; ++m)
            for (const auto& [opacity, dx] : {std::pair{1.0, 0}, {0.37, 0}, {0.8, 13}}) {
                const Laid below = any(), above = any(BlendMode(m), opacity, dx, dx / 2);
                Stage stage;
                stage.lay(below), stage.lay(above);
                stage.compare([&](int x, int y) { return blended(below.at(x, y), above.at(x, y), above); },
                              named(m, "alone"));
                if (QTest::currentTestFailed()) return;
            }
    }

    void everyModeInGroups() {
        for (size_t m = 0; m < kBlendModeCount; ++m) {
            const Laid ground = any(), low = any(), high = any(BlendMode(m), 0.9);
            const Laid group{{}, BlendMode(m), 0.7, 0, 0}, plain{{}, BlendMode::Normal, 0.7, 0, 0};
            const auto inner = [&](int x, int y) {
                return blended(blended({}, low.at(x, y), low), high.at(x, y), high);
            };
            Stage isolated;
            isolated.lay(ground);
            isolated.group({isolated.lay(low), isolated.lay(high)}, group, false);
            isolated.compare([&](int x, int y) { return blended(ground.at(x, y), inner(x, y), group); },
                             named(m, "in and on an isolated group"));
            Stage passing;
            passing.lay(ground);
            passing.group({passing.lay(low), passing.lay(high)}, plain, true);
            passing.compare(
                [&](int x, int y) {
                    StraightPixel b = ground.at(x, y);
                    StraightPixel changed = blended(blended(b, low.at(x, y), low), high.at(x, y), high);
                    for (size_t c = 0; c < 3; ++c)
                        b.c[c] = b.c[c] * b.a * 0.3 + changed.c[c] * changed.a * 0.7;
                    b.a = b.a * 0.3 + changed.a * 0.7;
                    return straight(b);
                },
                named(m, "in a passing group"));
            if (QTest::currentTestFailed()) return;
        }
    }

    void everyModeClipped() {
        for (size_t m = 0; m < kBlendModeCount; ++m) {
            const Laid ground = any(), base = any(BlendMode::Normal, 0.8), inside = any(BlendMode(m), 0.9);
            Stage stage;
            stage.lay(ground), stage.lay(base), stage.lay(inside, true);
            stage.compare(
                [&](int x, int y) {
                    // Inside its base a layer meets the base's colour as if that were opaque.
                    const StraightPixel b = base.at(x, y);
                    StraightPixel s = inside.at(x, y);
                    s.a *= inside.opacity;
                    StraightPixel in = composited(BlendMode(m), {b.c, 1}, s);
                    if (b.a == 0) in = {};
                    for (double& v : in.c) v *= b.a;
                    in.a *= b.a;
                    return blended(ground.at(x, y), straight(in), base);
                },
                named(m, "clipped"));
            if (QTest::currentTestFailed()) return;
        }
    }

    void twelveDeep() {
        for (size_t m = 0; m < kBlendModeCount; ++m) {
            Stage stage;
            std::vector<Laid> layers;
            for (int i = 0; i < 12; ++i) {
                layers.push_back(i % 3 ? any(BlendMode(m), i % 2 ? 1 : 0.6, i % 5, 0) : any());
                stage.lay(layers.back());
            }
            stage.compare(
                [&](int x, int y) {
                    StraightPixel out;
                    for (const Laid& l : layers) out = blended(out, l.at(x, y), l);
                    return out;
                },
                named(m, "twelve deep"));
            if (QTest::currentTestFailed()) return;
        }
    }

    /// The small levels of a see-through picture: colours count by their alpha, nothing bleeds in from what
    /// does not show.
    void smallLevelsAreWeighedByAlpha() {
        const auto png = pngOf(64, 64, [](int x, int y) {
            return (x + y) % 2 ? std::array<uint8_t, 4>{255, 40, 9, 3}
                               : std::array<uint8_t, 4>{0, 255, 255, 0};
        });
        const Pyramid pyramid(*decodePicture(png, "checks", {}));
        for (int level = 1; level < pyramid.levels(); ++level) {
            const auto p = pixel(pyramid.level(level), 0, 0);
            QCOMPARE(p[0], 255);
            QCOMPARE(p[1], 40);
            QCOMPARE(p[2], 9);
            QVERIFY(p[3] == 2); // the mean of 3, 0, 0, 3, rounded up
        }
    }
};

GLYPTOS_TEST(TrueColourTest)
#include "true_colour_test.moc"
