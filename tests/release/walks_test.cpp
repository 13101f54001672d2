// The walks over a release that has one of everything.
#include "release/credits.h"
#include "release/edits/palette_edits.h"
#include "release/same.h"
#include "release/walks.h"
#include "support/every_kind.h"
#include "support/register.h"

using namespace glyptos;
using namespace glyptos::test;

class WalksTest : public QObject {
    Q_OBJECT
    HeldPictures pictures;
    ReleasePtr release = releaseOfEveryKind(pictures);

    /// Every colour in it that follows the swatch "tide".
    static std::vector<Ink> followers(const Release& r) {
        std::vector<Ink> out;
        eachLayer(r, [&](const LayerPtr& layer) {
            eachInk(*layer, [&](const Ink& ink) {
                if (ink.swatch == "tide") out.push_back(ink);
            });
        });
        return out;
    }

  private Q_SLOTS:
    void layersFrontToBack() {
        std::vector<std::string> names;
        eachLayer(stackOf(*release, frontOf(release)), [&](const LayerPtr& l) { names.push_back(l->name); });
        QCOMPARE(names, (std::vector<std::string>{
                            "tint",          "qr",         "ean",           "haze",         "grade",
                            "treated group", "dot",        "treated words", "tracks",       "treated photo",
                            "mend",          "painted",    "echo",          "tilted group", "veil",
                            "sign",          "bent words", "bent photo",    "passing",      "clipped",
                            "words",         "isolated",   "hole",          "glow",         "bristled",
                            "brushed",       "star",       "spiral",        "clouds",       "photo"}));
        size_t all = 0;
        eachLayer(*release, [&](const LayerPtr&) { ++all; });
        QCOMPARE(all, names.size() + 2); // the other piece
    }

    void theFirstThatIs() {
        const Stack& stack = stackOf(*release, frontOf(release));
        const auto nameOf = [&](const std::function<bool(const Layer&)>& is) {
            const LayerPtr found = firstLayer(stack, is);
            return found ? found->name : std::string();
        };
        QCOMPARE(nameOf([](const Layer& l) { return l.as<TextContent>(); }), std::string("treated words"));
        QCOMPARE(nameOf([](const Layer& l) { return l.as<PictureContent>(); }), std::string("treated photo"));
        QCOMPARE(nameOf([](const Layer& l) { return l.opacity == 0.123; }), std::string());
    }

    void everyPictureIsFound() {
        auto all = sourcesOf(*release);
        std::sort(all.begin(), all.end());
        QCOMPARE(all, (std::vector<std::string>{kPhoto, kGlow, kWeave, kVeil, kStroke}));
        // Those that print on the first piece: through the echo also the other's.
        std::vector<std::string> credited;
        for (const CreditRow& row : creditsOf(*release)) credited.push_back(row.source->id);
        std::sort(credited.begin(), credited.end());
        QCOMPARE(credited, all);
        QCOMPARE(withoutUnusedSources(release), release);
        HeldPictures more = pictures;
        const ReleasePtr spare = more.add(release, "spare", pictureOf(4, 4, [](int, int) {
                                              return std::array<uint8_t, 4>{1, 2, 3, 4};
                                          }));
        QVERIFY(sameRelease(*withoutUnusedSources(spare), *release));
    }

    void everyColourIsFoundAndChanged() {
        QCOMPARE(int(followers(*release).size()), kInksOfEveryKind);
        const Rgba rust{0.7f, 0.3f, 0.1f, 1};
        const ReleasePtr rusty = withSwatchColour(release, "tide", rust);
        const auto before = followers(*release), after = followers(*rusty);
        QCOMPARE(after.size(), before.size());
        for (size_t i = 0; i < after.size(); ++i)
            QVERIFY(after[i] ==
                    Ink({rust.r, rust.g, rust.b, before[i].a}, "tide")); // as see-through as it was
        QVERIFY(followers(*withoutSwatch(release, "tide")).empty());
    }

    void lookingChangesNothing() {
        for (const LayerPtr& layer : stackOf(*release, frontOf(release))) {
            Layer copy = *layer;
            eachInk(copy, [](Ink&) {});
            QVERIFY(sameLayer(copy, *layer));
            QCOMPARE(copy.mask, layer->mask); // the same node
        }
    }
};

GLYPTOS_TEST(WalksTest)
#include "walks_test.moc"
