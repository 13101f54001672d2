// Tiles that stay: they lie on a lattice of the scene, so that moving about finds them again, shows the same
// pixels as rendering at once, and never shows what was there before a change.
#include "file/data_folder.h"
#include "release/edits/edits.h"
#include "release/edits/palette_edits.h"
#include "render/renderer.h"
#include "render/tiles/blend_bands.h"
#include "support/every_kind.h"
#include "support/register.h"

#include <QRandomGenerator>
#include <mutex>
#include <set>

using namespace glyptos;
using namespace glyptos::test;

namespace {

constexpr IntRect kView{0, 0, 300, 220};

std::vector<uint8_t> bytesOf(const Buffer<uint8_t>& buffer) {
    return {buffer.data(), buffer.data() + buffer.size()};
}

} // namespace

class TilesTest : public QObject {
    Q_OBJECT
    FontLibrary fonts{dataFolder() / "fonts", true};
    HeldPictures pictures;
    ReleasePtr release = releaseOfEveryKind(pictures);
    PanelRef front = frontOf(release);

    Scene scene(const ReleasePtr& r, double scale = 1) const { return panelScene(r, front, {scale, false}); }
    /// What a renderer that has never drawn anything makes of it.
    std::vector<uint8_t> fresh(const Scene& s, const IntRect& region) {
        Renderer renderer(pictures, fonts);
        return bytesOf(renderer.renderBgra8(s, region));
    }

  private Q_SLOTS:
    void anyWindowShowsWhatTheWholeShows() {
        for (const double scale : {1.0, 0.37, 1.9}) {
            const Scene s = scene(release, scale);
            const IntRect all = s.bounds();
            const auto whole = fresh(s, all);
            Renderer renderer(pictures, fonts);
            QRandomGenerator random(5);
            for (int i = 0; i < 25; ++i) {
                const IntRect window{int(random.bounded(all.w + 200)) - 200,
                                     int(random.bounded(all.h + 200)) - 200, 1 + int(random.bounded(400)),
                                     1 + int(random.bounded(400))};
                const auto part = renderer.renderBgra8(s, window);
                std::vector<uint8_t> want(part.size());
                const IntRect both = window.intersected(all);
                for (int y = both.y; y < both.bottom(); ++y)
                    std::copy_n(whole.begin() + ptrdiff_t((y - all.y) * all.w + both.x - all.x) * 4,
                                both.w * 4,
                                want.begin() + ptrdiff_t((y - window.y) * window.w + both.x - window.x) * 4);
                QVERIFY(bytesOf(part) == want);
            }
        }
    }

    /// What is too large to keep is made in wide parts, and looks the same to the last bit but one.
    void whatIsRenderedOnceLooksTheSame() {
        for (const bool linear : {false, true})
            for (const double scale : {1.0, 2.9}) {
                const Scene s = scene(withLinearLight(release, linear), scale);
                Renderer once(pictures, fonts, 0);
                const auto wide = bytesOf(once.renderBgra8(s, s.bounds())), kept = fresh(s, s.bounds());
                QCOMPARE(wide.size(), kept.size());
                int most = 0;
                for (size_t i = 0; i < wide.size(); ++i) most = std::max(most, std::abs(wide[i] - kept[i]));
                QVERIFY2(most <= 1, qPrintable(QString::number(most)));
            }
    }

    void movingAboutRendersOnlyWhatIsNew() {
        Renderer renderer(pictures, fonts);
        const Scene s = scene(release);
        renderer.renderBgra8(s, kView); // two cells wide, one high
        const size_t first = renderer.tilesRendered();
        QCOMPARE(first, size_t(2));
        renderer.renderBgra8(s, {1, 3, 300, 220}); // by a pixel or so: the same cells
        QCOMPARE(renderer.tilesRendered(), first);
        renderer.renderBgra8(s, {100, 100, 300, 220}); // one row of cells more
        QCOMPARE(renderer.tilesRendered(), first + 2);
        renderer.renderBgra8(s, kView);
        QCOMPARE(renderer.tilesRendered(), first + 2);
    }

    void aScaleThatIsComeBackToIsFoundAgain() {
        Renderer renderer(pictures, fonts);
        renderer.renderBgra8(scene(release, 0.5), kView);
        const size_t small = renderer.tilesRendered();
        renderer.renderBgra8(scene(release, 1), kView);
        const size_t both = renderer.tilesRendered();
        QVERIFY(both > small);
        renderer.renderBgra8(scene(release, 0.5), kView);
        QCOMPARE(renderer.tilesRendered(), both);
    }

    /// Every change that can be seen is seen at once, with the tiles of before still kept.
    void changesAreSeen_data() {
        QTest::addColumn<QString>("what");
        for (const char* what : {"opacity", "blend", "order", "off", "name of a field", "swatch",
                                 "other piece", "light", "mask", "words in a group", "sharper picture"})
            QTest::newRow(what) << what;
    }
    void changesAreSeen() {
        QFETCH(QString, what);
        HeldPictures own = pictures;
        Renderer renderer(own, fonts);
        const auto shown = [&](const ReleasePtr& r) {
            return bytesOf(renderer.renderBgra8(scene(r), scene(r).bounds()));
        };
        const auto before = shown(release);
        const auto change = [&](const char* layer, const LayerChange& act) {
            return withChangedLayer(release, front, layer, act);
        };
        ReleasePtr next = release;
        if (what == "opacity") next = change("star", [](Layer& l) { l.opacity = 0.5; });
        if (what == "blend") next = change("star", [](Layer& l) { l.blend = BlendMode::Difference; });
        if (what == "order") next = withOrder(release, front, {"photo"}, Nearer::Front);
        if (what == "off") next = change("isolated", [](Layer& l) { l.on = false; });
        if (what == "name of a field") {
            Brief brief = release->brief;
            brief.title = "Ebb";
            next = withBrief(release, brief);
        }
        if (what == "swatch") next = withSwatchColour(release, "tide", {0.7f, 0.1f, 0.1f, 1});
        if (what == "other piece")
            next = withChangedLayer(release, {release->pieces[1]->id, "front"}, "weave of the other",
                                    [](Layer& l) { l.on = false; });
        if (what == "light") next = withLinearLight(release, true);
        if (what == "mask")
            next = change("clouds", [](Layer& l) {
                Mask mask = *l.mask;
                mask.inverted = true;
                l.mask = std::make_shared<const Mask>(mask);
            });
        if (what == "words in a group")
            next = change("words", [](Layer& l) {
                std::get<TextContent>(l.content).spec.letters.letterCase = LetterCase::Capitals;
            });
        if (what == "sharper picture")
            own.held[kPhoto] = std::make_shared<const Pyramid>(
                pictureOf(450, 350, [](int x, int y) { return quarters(x, y, 450, 350); }));
        const auto after = shown(next);
        QVERIFY(after != before);
        Renderer clean(own, fonts);
        QVERIFY(after == bytesOf(clean.renderBgra8(scene(next), scene(next).bounds())));
        if (next != release) QVERIFY(shown(release) == before);
    }

    /// Taking a layer in hand keeps what lies round it composited, which must not show.
    void theLayerInHandLooksTheSame() {
        const auto plain = fresh(scene(release), scene(release).bounds());
        for (const char* id : {"photo", "spiral", "glow", "words", "tint"}) {
            Scene s = scene(release);
            s.inHand = id;
            const auto held = fresh(s, s.bounds());
            int most = 0;
            for (size_t i = 0; i < held.size(); ++i)
                most = std::max(most, std::abs(int(held[i]) - int(plain[i])));
            QVERIFY2(most <= 1, qPrintable(QString("%1: %2").arg(id).arg(most)));
        }
    }

    /// A picture that is hidden is not even asked for: decoding it would cost memory for nothing.
    void whatIsHiddenIsNotAskedFor() {
        class Asked : public PictureProvider {
          public:
            PyramidPtr picture(const Source& source, double) override {
                const std::lock_guard lock(mutex);
                ids.insert(source.id);
                return std::make_shared<const Pyramid>(pictureOf(64, 64, [](int, int) {
                    return std::array<uint8_t, 4>{9, 9, 9, 255};
                }));
            }
            std::mutex mutex;
            std::set<std::string> ids;
        } asked;
        Layer cover;
        cover.content = PictureContent{kPhoto, {0, 0, 1, 1}};
        cover.placement.position = {350, 260};
        Renderer renderer(asked, fonts);
        const ReleasePtr covered = withLayer(release, front, cover);
        renderer.renderBgra8(scene(covered), scene(covered).bounds());
        QCOMPARE(asked.ids, std::set<std::string>{kPhoto});
    }

    void aPictureTooLargeToKeepLeavesTheRest() {
        Renderer renderer(pictures, fonts, size_t(4) << 20); // a quarter of it for what is shown
        const Scene s = scene(release);
        renderer.renderBgra8(s, kView);
        const size_t before = renderer.tilesRendered();
        renderer.renderBgra8(s, s.bounds());
        QVERIFY(renderer.tilesRendered() > before + 2);
        const size_t after = renderer.tilesRendered();
        renderer.renderBgra8(s, kView);
        QCOMPARE(renderer.tilesRendered(), after);
        QVERIFY(renderer.cachedBytes() <= (size_t(4) << 20) + size_t(kTileSize) * kTileSize * 12);
    }
};

GLYPTOS_TEST(TilesTest)
#include "tiles_test.moc"
