// A figure cut off its photo, made larger and laid over that same photo: no seam is seen.
#include "color/difference.h"
#include "file/data_folder.h"
#include "release/edits/cutout_edits.h"
#include "release/placing.h"
#include "render/cut_figure.h"
#include "render/renderer.h"
#include "support/figures.h"
#include "support/pictures.h"
#include "support/register.h"

using namespace glyptos;
using namespace glyptos::test;

namespace {

constexpr int kSide = 600, kBand = 8; // px

Lab labAt(const Buffer<uint8_t>& pixels, int x, int y) {
    const uint8_t* p = pixels.data() + (size_t(y) * kSide + size_t(x)) * 4;
    return toLab({float(p[0]) / 255, float(p[1]) / 255, float(p[2]) / 255, 1});
}

/// The true figure: its own colours with its own alpha.
Picture trueFigure(const KnownFigure& known) {
    return pictureOf(kSide, kSide, [&](int x, int y) {
        const uint8_t* p = known.figure.row<uint8_t>(y) + ptrdiff_t(4) * x;
        const float a = known.alpha[size_t(y) * kSide + size_t(x)];
        return std::array<uint8_t, 4>{p[0], p[1], p[2], static_cast<uint8_t>(std::lround(a * 255))};
    });
}

/// Which pixels lie within kBand of one that is half covered.
std::vector<bool> bandOf(const Buffer<uint8_t>& pixels) {
    std::vector<bool> band(size_t(kSide) * kSide);
    for (int y = kBand; y < kSide - kBand; ++y)
        for (int x = kBand; x < kSide - kBand; ++x) {
            const int a = pixels[(size_t(y) * kSide + size_t(x)) * 4 + 3];
            if (a < 13 || a > 242) continue;
            for (int v = y - kBand; v <= y + kBand; ++v)
                std::fill_n(band.begin() + (ptrdiff_t(v) * kSide + x - kBand), 2 * kBand + 1, true);
        }
    return band;
}

} // namespace

class EnlargedFigureTest : public QObject {
    Q_OBJECT
    const FontLibrary fonts{dataFolder() / "fonts", true};

    static Layer shows(const std::string& source) {
        Layer layer;
        layer.name = source;
        layer.content = PictureContent{source, {0, 0, 1, 1}};
        layer.placement.position = {kSide / 2.0, kSide / 2.0};
        return layer;
    }

  private Q_SLOTS:
    void overItsOwnGround_data() {
        QTest::addColumn<int>("ground");
        QTest::addColumn<double>("factor");
        QTest::newRow("textured, a little larger") << int(Ground::Textured) << 1.08;
        QTest::newRow("textured, much larger") << int(Ground::Textured) << 1.5;
        QTest::newRow("gradient") << int(Ground::Gradient) << 1.25;
    }
    /// Against the true figure as much larger over the same photo.
    void overItsOwnGround() {
        QFETCH(const int, ground);
        QFETCH(const double, factor);
        KnownFigure known = knownFigure(Ground(ground), kSide, 11, 250);
        HeldPictures pictures;
        ReleasePtr release = pictures.add(screenRelease(kSide, kSide), "photo", std::move(known.photo));
        release = pictures.add(release, "figure", trueFigure(known));
        const PanelRef panel = frontOf(release);
        Renderer renderer(pictures, fonts);
        const auto render = [&](const ReleasePtr& r) {
            return renderer.renderStraightRgba8(panelScene(r, panel, {1}), {0, 0, kSide, kSide});
        };
        const Vec2 middle{kSide / 2.0, kSide / 2.0};
        const auto figure = cutFigure(*pictures.held["photo"], {boxOf(known).grown(4), {}}, {});
        QVERIFY(figure);

        const Made photo = withLayer(release, panel, shows("photo"));
        const Made truth = withLayer(photo.release, panel, scaled(shows("figure"), middle, factor));
        const std::vector<bool> band = bandOf(render(withoutLayer(truth.release, panel, photo.id)));

        const Made copy = withLayer(photo.release, panel, shows("photo"));
        const Made cut = withCutOut(copy.release, panel, copy.id, figure->alpha, figure->edges);
        const std::string whole = wholeFigureOf(stackOf(*cut.release, panel), cut.id);
        const ReleasePtr laid =
            withChangedLayer(cut.release, panel, whole, [&](Layer& l) { l = scaled(l, middle, factor); });
        const auto ours = render(laid), theirs = render(truth.release);
        double sum = 0;
        int count = 0;
        for (int y = 0; y < kSide; ++y)
            for (int x = 0; x < kSide; ++x) {
                if (!band[size_t(y) * kSide + size_t(x)]) continue;
                sum += ciede2000(labAt(ours, x, y), labAt(theirs, x, y)), ++count;
            }
        QVERIFY(count > 5000);
        qInfo("enlarged %.2f times over its own ground: CIEDE2000 %.2f on average in the band", factor,
              sum / count);
        QVERIFY(sum / count <= 3);
    }
};

GLYPTOS_TEST(EnlargedFigureTest)
#include "enlarged_figure_test.moc"
