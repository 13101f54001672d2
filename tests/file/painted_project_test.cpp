// Painted pixels in project files: there and back, each tile once, and what is said when one is spoilt.
#include "file/project.h"

#include "file/release_json/release_json.h"
#include "file/zip_archive.h"
#include "release/edits/mend_edits.h"
#include "release/edits/selection_edits.h"
#include "release/placing.h"
#include "release/warp.h"
#include "support/pictures.h"
#include "support/register.h"

#include <set>

using namespace glyptos;
using namespace glyptos::test;

class PaintedProjectTest : public QObject {
    Q_OBJECT
    QTemporaryDir folder;
    const std::filesystem::path file = std::filesystem::path(folder.path().toStdString()) / "painted.glyptos";
    FormList forms;

    static PixelTilesPtr values(int side) {
        auto out = std::make_shared<PixelTiles>(kMaskPixels);
        out->change({0, 0, side, side}, [](const PixelPart& part) {
            for (int y = part.area.y; y < part.area.bottom(); ++y)
                for (int x = 0; x < part.area.w; ++x) part.row(y)[x] = uint8_t(part.area.x + x + 3 * y);
        });
        return out;
    }
    /// Two layers under one mask, and a selection of the same pixels.
    ReleasePtr painted() {
        ReleasePtr release = screenRelease(600, 600);
        forms = {release->pieces[0]->form};
        for (const char* name : {"One", "Other"}) {
            Layer layer;
            layer.name = name;
            layer.content = FillContent{Ink{0.5f, 0.5f, 0.5f, 1}};
            Mask mask;
            mask.form = PaintedMask{values(300), true};
            layer.mask = std::make_shared<const Mask>(mask);
            release = withLayer(release, frontOf(release), layer);
        }
        return withSelection(release, frontOf(release), Selection{values(300), 1});
    }
    /// The tiles that the text of a release names.
    static std::set<std::string> namesIn(const ReleasePtr& release) {
        std::set<std::string> out;
        for (const auto& [place, tile] : selectionOf(*release, frontOf(release))->tiles->tiles())
            out.insert(tileName(tile->hash()));
        return out;
    }
    /// The file with some entries of tiles other than they were.
    void rewrite(const ReleasePtr& release,
                 const std::function<void(std::map<std::string, std::vector<uint8_t>>&)>& change) {
        const auto zip = ZipReader::open(file, "a release").value();
        std::map<std::string, std::vector<uint8_t>> all;
        for (const std::string name : {"mimetype", "release.json"})
            all[name] = zip.read(name, 1 << 24).value();
        for (const std::string& name : namesIn(release))
            all["tiles/" + name] = zip.read("tiles/" + name, 1 << 24).value();
        change(all);
        std::vector<ZipEntry> entries;
        for (const auto& [name, bytes] : all) entries.push_back({name, bytes, true});
        QVERIFY(writeZip(file, entries));
    }

  private Q_SLOTS:
    /// A kneaded layer's field is written as tiles, read as it was, and refused when a spoilt one would reach
    /// too far.
    void kneadedLayers() {
        KneadTip tip;
        KneadStroke stroke({}, tip);
        for (const double x : {0.3, 0.35, 0.5}) stroke.moveTo({x, 0.4});
        stroke.finish();
        Warp warp;
        warp.box = {0, 0, 600, 600};
        KneadField field = stroke.field();
        field.strength = 0.7, field.pulledIn = PulledIn::Nothing;
        warp.knead = std::make_shared<const KneadField>(field);
        ReleasePtr release = painted();
        const Made made = withLayer(release, frontOf(release), Layer{});
        release = withChangedLayer(made.release, frontOf(release), made.id, [&](Layer& l) {
            l.content = PaintedContent{std::make_shared<const PixelTiles>(kPaintPixels), nullptr};
            l = withWarp(l, std::make_shared<const Warp>(warp));
        });
        QVERIFY(saveProject(*release, file));
        const auto back = openProject(file, forms);
        QVERIFY2(back, qPrintable(sentence(back)));
        const LayerPtr layer = findLayer(stackOf(**back, frontOf(*back)), made.id);
        QVERIFY(layer && layer->warp && *layer->warp == warp);
        const std::string name = "tiles/" + tileName(field.shifts->tiles().begin()->second->hash());
        QVERIFY(ZipReader::open(file, "a release").value().read(name, 1 << 24));
        // A field that says NaN, or beyond all bounds, under a name that fits.
        for (const float bad : {std::numeric_limits<float>::quiet_NaN(), 1e9F}) {
            PixelTiles tiles(kShiftPixels);
            tiles.change({5, 5, 1, 1}, [&](const PixelPart& part) {
                auto* p = reinterpret_cast<float*>(part.row(5));
                p[0] = bad, p[1] = 0;
            });
            field.shifts = std::make_shared<const PixelTiles>(tiles);
            warp.knead = std::make_shared<const KneadField>(field);
            const ReleasePtr spoilt = withChangedLayer(release, frontOf(release), made.id, [&](Layer& l) {
                l.warp = std::make_shared<const Warp>(warp);
            });
            QVERIFY(saveProject(*spoilt, file));
            const auto read = openProject(file, forms);
            QVERIFY(!read);
            QVERIFY2(sentence(read).contains("too far"), qPrintable(sentence(read)));
        }
    }

    void eachTileIsWrittenOnceAndReadOnce() {
        const ReleasePtr release = painted();
        QVERIFY(saveProject(*release, file));
        QCOMPARE(namesIn(release).size(), size_t(4));
        const auto back = openProject(file, forms);
        QVERIFY2(back, qPrintable(sentence(back)));
        QCOMPARE(releaseToJson(**back), releaseToJson(*release));
        const Stack& stack = stackOf(**back, frontOf(*back));
        const auto tilesOf = [](const Layer& l) { return std::get<PaintedMask>(l.mask->form).tiles; };
        QVERIFY(*tilesOf(*stack[0]) == *values(300));
        // One tile in memory too, wherever it is used.
        QVERIFY(tilesOf(*stack[0])->tile({0, 0}) == tilesOf(*stack[1])->tile({0, 0}));
        QVERIFY(tilesOf(*stack[0])->tile({0, 0}) == selectionOf(**back, frontOf(*back))->tiles->tile({0, 0}));
    }

    void aTileThatIsGone() {
        const ReleasePtr release = painted();
        QVERIFY(saveProject(*release, file));
        rewrite(release, [](auto& all) { all.erase(std::prev(all.end())); });
        const auto back = openProject(file, forms);
        QVERIFY(!back && sentence(back).contains("was not opened"));
    }

    void aTileOfOtherPixels() {
        const ReleasePtr release = painted();
        QVERIFY(saveProject(*release, file));
        rewrite(release, [](auto& all) { std::prev(all.end())->second[100] ^= 1; });
        const auto back = openProject(file, forms);
        QVERIFY(!back && sentence(back).contains("is not the one it was saved with"));
        rewrite(release, [](auto& all) { std::prev(all.end())->second.resize(7); });
        const auto cut = openProject(file, forms);
        QVERIFY(!cut && sentence(cut).contains("another size"));
    }

    void aMendComesBack() {
        ReleasePtr release = painted();
        const PanelRef front = frontOf(release);
        const std::string below = stackOf(*release, front)[1]->id;
        const Made made = withMender(release, front, below, 1);
        QCOMPARE(menderOf(stackOf(*made.release, front), below, 1)->id, made.id);
        QCOMPARE(stackOf(*made.release, front)[1]->id, made.id);
        QVERIFY(withMender(made.release, front, below, 1).release == made.release);
        QCOMPARE(stackBelow(stackOf(*made.release, front), made.id).size(), size_t(1));
        QVERIFY(saveProject(*made.release, file));
        const auto back = openProject(file, forms);
        QVERIFY(back && stackOf(**back, front)[1]->as<PaintedContent>()->holes);
    }

    void selectionsAreKeptByName() {
        ReleasePtr release = painted();
        const PanelRef front = frontOf(release);
        release = withKeptSelection(release, front, "Hár og húfa");
        release = withSelection(release, front, std::nullopt);
        QVERIFY(saveProject(*release, file));
        const auto back = openProject(file, forms);
        QVERIFY(back && !selectionOf(**back, front));
        const auto& kept = (*back)->pieces[0]->selections.at(front.panel).kept;
        QCOMPARE(kept.size(), size_t(1));
        QCOMPARE(kept[0].name, std::string("Hár og húfa"));
        const ReleasePtr none = withoutKeptSelection(*back, front, "Hár og húfa");
        QVERIFY(none->pieces[0]->selections.empty());
        QVERIFY(withoutKeptSelection(none, front, "gone") == none);
    }
};

GLYPTOS_TEST(PaintedProjectTest)
#include "painted_project_test.moc"
