// Starting compositions: all that are shipped are usable on every square panel, as layers with fields that
// follow.
#include "file/data_folder.h"
#include "file/project.h"
#include "file/song_feed.h"
#include "file/starts.h"
#include "release/edits/palette_edits.h"
#include "release/walks.h"
#include "render/renderer.h"
#include "support/pictures.h"
#include "support/register.h"

#include <QColor>
#include <QImage>
#include <QRgb>
#include <set>

using namespace glyptos;
using namespace glyptos::test;

class StartsTest : public QObject {
    Q_OBJECT

    static void collect(const Stack& stack, std::vector<LayerPtr>& out) {
        for (const LayerPtr& layer : stack) {
            out.push_back(layer);
            if (const auto* group = layer->as<GroupContent>()) collect(group->layers, out);
        }
    }

  private Q_SLOTS:
    void shippedOnesAreCompositionsWithFields() {
        const auto starts = shippedStarts();
        QVERIFY2(bool(starts), qPrintable(sentence(starts)));
        QVERIFY(starts->size() >= 8);
        std::set<std::string> ids;
        for (const StartingComposition& start : *starts) {
            QVERIFY(ids.insert(start.id).second && !start.name.empty() && !start.note.empty());
            std::vector<LayerPtr> layers;
            collect(start.layers, layers);
            QVERIFY(layers.size() >= 4);
            int fields = 0, following = 0;
            for (const LayerPtr& layer : layers) {
                const auto* text = layer->as<TextContent>();
                fields += text && text->spec.text.find('{') != std::string::npos;
                QVERIFY(!layer->as<PictureContent>()); // data, not pictures
                Layer copy = *layer;
                eachInk(copy, [&](const Ink& ink) {
                    if (ink.swatch.empty()) return;
                    ++following;
                    QVERIFY2(std::any_of(start.palette.begin(), start.palette.end(),
                                         [&](const NamedColour& c) { return c.name == ink.swatch; }),
                             (start.id + ": " + ink.swatch).c_str());
                });
            }
            QVERIFY(fields >= 1 && following >= 3);
        }
    }

    void theyScaleToThePanel() {
        const FontLibrary fonts(dataFolder() / "fonts", true);
        HeldPictures none;
        Renderer renderer(none, fonts);
        const auto forms = shippedForms().value();
        const auto starts = shippedStarts().value();
        for (const StartingComposition& start : starts) {
            std::vector<QImage> looks;
            for (const char* id : {"digital-cover", "sleeve-12"}) {
                const auto form =
                    std::find_if(forms.begin(), forms.end(), [&](const auto& f) { return f->id == id; });
                Brief brief;
                brief.artist = "Máni", brief.title = "Sjávarföll", brief.catalogue = "GSR 031",
                brief.year = "2026";
                ReleasePtr release = *withPiece(withBrief(std::make_shared<const Release>(), brief), *form);
                const PiecePtr piece = release->pieces[0];
                const PanelRef front{piece->id, piece->flat->frontPanel().id};
                QVERIFY(suitsStart(piece->flat->frontPanel()));
                release = withStart(release, front, start);
                QCOMPARE(release->palette.size(), start.palette.size());
                const double k = 100 / piece->flat->frontPanel().width;
                const auto pixels =
                    renderer.renderBgra8(panelScene(release, front, {k, false}), {0, 0, 100, 100});
                looks.emplace_back(pixels.data(), 100, 100, QImage::Format_ARGB32_Premultiplied);
                looks.back().detach();
            }
            // The same on a screen cover and on a sleeve, but for the grain of paper, which is of pixels.
            qint64 apart = 0;
            std::set<QRgb> colours;
            for (int y = 0; y < 100; ++y)
                for (int x = 0; x < 100; ++x) {
                    const QColor a = looks[0].pixelColor(x, y), b = looks[1].pixelColor(x, y);
                    apart += std::abs(a.red() - b.red()) + std::abs(a.green() - b.green()) +
                             std::abs(a.blue() - b.blue());
                    colours.insert(a.rgb());
                    QCOMPARE(a.alpha(), 255);
                }
            QVERIFY2(apart / 30000.0 < 6,
                     qPrintable(QString::fromStdString(start.id) + QString::number(apart / 30000.0)));
            QVERIFY(colours.size() > 10);
        }
    }

    void layersFollowThePaletteOfTheRelease() {
        const auto start = shippedStarts()->front();
        ReleasePtr release = screenRelease(3000, 3000);
        release = withStart(release, frontOf(release), start);
        release = withStart(release, frontOf(release), start); // twice shares the palette
        QCOMPARE(release->palette.size(), start.palette.size());
        std::set<std::string> ids;
        std::vector<LayerPtr> layers;
        collect(stackOf(*release, frontOf(release)), layers);
        for (const LayerPtr& layer : layers) QVERIFY(ids.insert(layer->id).second);
        int followers = 0;
        for (const Swatch& s : release->palette) followers += followersOf(*release, s.id) > 0;
        QCOMPARE(followers, int(start.palette.size()));
    }

    void badOnesAreRefused() {
        for (const char* json :
             {"", "{}",
              R"({"id":"a","name":"b","note":"","palette":[{"name":"x","colour":"blue"}],"layers":[]})",
              R"({"id":"a","name":"b","note":"","palette":[],"layers":[{"kind":"text"}]})",
              R"({"id":"a","name":"b","note":"","palette":[],"layers":{}})"}) {
            const auto start = startFromJson(json, "bad.json");
            QVERIFY(!start && sentence(start).contains("bad.json"));
        }
    }

    void panelsThatAreNotSquareGetNone() {
        const auto forms = shippedForms().value();
        for (const auto& form : forms)
            if (form->id == "sleeve-12") {
                const ReleasePtr release = *withPiece(std::make_shared<const Release>(), form);
                QVERIFY(!suitsStart(*release->pieces[0]->flat->panel("spine")));
            }
    }

    void theSongFeedIsFoundBySongsToo() {
        const auto feed = shippedSongFeed();
        QVERIFY2(bool(feed), qPrintable(sentence(feed)));
        QVERIFY(feed->find("").size() == feed->releases.size() && feed->releases.size() >= 8);
        QCOMPARE(feed->find("öldurót").size(), size_t(1)); // in any case
        QCOMPARE(feed->find("gannet lantern").size(), size_t(2));
        QVERIFY(feed->find("nobody").empty());
        QVERIFY(!songFeedFromJson("{\"name\":\"x\",\"releases\":[{\"artist\":\"a\",\"title\":\"b\",\"year\":"
                                  "\"\",\"tracks\":[[1,2,3]]}]}"));
        QVERIFY(!songFeedFromJson("no"));
    }
};

GLYPTOS_TEST(StartsTest)
#include "starts_test.moc"
