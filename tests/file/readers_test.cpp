// What comes from outside: every reader reads its first inputs, and none is hurt by what once hurt one. With
// $GLYPTOS_SEEDS the first inputs are also written there, a folder a reader, for tools/fuzz.
#include "support/readers.h"

#include "crate/entry.h"
#include "file/cut/cut_paths.h"
#include "file/data_folder.h"
#include "file/disk/atomic_file.h"
#include "file/journal/journal_reader.h"
#include "file/open_raster.h"
#include "file/pictures/picture_store.h"
#include "file/project.h"
#include "file/release_json/release_json.h"
#include "release/walks.h"
#include "support/every_kind.h"
#include "support/register.h"

#include <QFile>
#include <fstream>

using namespace glyptos;
using namespace glyptos::test;

class ReadersTest : public QObject {
    Q_OBJECT
    using Bytes = std::vector<uint8_t>;
    QTemporaryDir folder_;

    std::filesystem::path at(const char* name) const {
        return std::filesystem::path(folder_.path().toStdString()) / name;
    }
    static Bytes bytes(std::string_view text) { return {text.begin(), text.end()}; }
    static Bytes fileOf(const std::filesystem::path& file) {
        return readFile(std::filesystem::path(SOURCE_FOLDER) / file).value();
    }
    static Bytes firstIn(const char* folder, const char* ending) {
        std::set<std::filesystem::path> all;
        for (const auto& one :
             std::filesystem::directory_iterator(std::filesystem::path(SOURCE_FOLDER) / folder))
            if (one.path().extension() == ending) all.insert(one.path());
        return readFile(*all.begin()).value();
    }
    static std::array<uint8_t, 4> soft(int x, int y) {
        return {uint8_t(9 * x), uint8_t(7 * y), uint8_t(x * y), uint8_t(255 - 3 * x)};
    }
    static ReleasePtr release() {
        HeldPictures pictures;
        const ReleasePtr every = releaseOfEveryKind(pictures);
        // Of the forms that are at hand everywhere, and with pictures that are there.
        auto out = std::make_shared<Release>();
        const FormList forms = shippedForms().value();
        ReleasePtr piece = *withPiece(std::make_shared<const Release>(), forms.front());
        auto photo = importBytes(jpegOf(24, 16, [](int x, int y) { return soft(x, y); }), "Mynd.jpg");
        piece = withSource(piece, photo->source);
        const PanelRef panel{piece->pieces[0]->id, piece->pieces[0]->flat->panels[0].id};
        const auto tiles = std::make_shared<PixelTiles>(kPaintPixels);
        tiles->change({3, 3, 20, 20}, [](const PixelPart& part) {
            for (int y = part.area.y; y < part.area.bottom(); ++y)
                std::fill_n(part.row(y), 4 * part.area.w, 9);
        });
        Layer paint, picture;
        paint.name = "paint", picture.name = "picture";
        paint.content = PaintedContent{tiles, nullptr};
        picture.content = PictureContent{photo->source->id, {0, 0, 1, 1}};
        piece = withLayer(withLayer(piece, panel, paint).release, panel, picture).release;
        for (const LayerPtr& layer : every->pieces[0]->take().stack("front"))
            if (sourcesOf(*layer).empty() && !layer->as<EchoContent>()) {
                Layer copy = *layer;
                copy.id.clear();
                piece = withLayer(piece, panel, copy).release;
            }
        return piece;
    }
    Bytes journal() const {
        const ReleasePtr start = release();
        std::filesystem::path path;
        {
            JournalWriter writer(at("journals"), {History(start), start}, [](const std::string&) {});
            writer.step("Light", withLinearLight(start, true), false);
            writer.go(0);
            writer.step("More", withBrief(start, {}), false);
            if (!writer.flush()) return {};
            path = writer.path();
        }
        return readFile(path).value();
    }
    Bytes written(const char* name, const std::function<bool(const std::filesystem::path&)>& write) const {
        return write(at(name)) ? readFile(at(name)).value() : Bytes();
    }

    std::vector<Bytes> seedsOf(const std::string& name) const {
        if (name == "release") return {bytes(releaseToJson(*release()))};
        if (name == "archive")
            return {written("a", [](const auto& file) { return saveProject(*release(), file).has_value(); })};
        if (name == "journal") return {journal()};
        if (name == "jpeg") {
            const Bytes plain = jpegOf(24, 16, [](int x, int y) { return soft(x, y); });
            return {plain, withOrientation(plain, 6), cmykJpegOf(16, 16, {9, 80, 200, 30})};
        }
        if (name == "cut-paths") {
            Flat flat;
            const FormList forms = shippedForms().value();
            for (const auto& form : forms)
                if (form->id == "shell-label") flat = workOut(*form).value();
            const CutJob job = cutJobOf(flat, {0, 1});
            return {bytes(cutSvg(job, "Shell label")), bytes(cutDxf(job))};
        }
        if (name == "png")
            return {pngOf(24, 16, [](int x, int y) { return soft(x, y); }),
                    png16Of(9, 9, [](int x, int y) -> std::array<uint16_t, 4> {
                        return {uint16_t(x * 999), uint16_t(y * 999), 7, 60000};
                    })};
        if (name == "tiff") {
            const auto value = [](int x, int y, int c) { return float(x + y + c) / 60; };
            return {tiffOf(20, 10, 3, [](int x, int y, int c) { return uint8_t(x * y + c); }),
                    tiffOf(
                        20, 10, 4, [](int x, int, int c) { return uint8_t(x + c); }, {}, 5),
                    tiledTiffOf(20, 20, 16, 16, value), tiledTiffOf(20, 20, 0, 32, value)};
        }
        if (name == "webp") return {webpOf(24, 16, [](int x, int y) { return soft(x, y); })};
        if (name == "drawing")
            return {
                bytes("<svg xmlns='http://www.w3.org/2000/svg' width='20' height='10'><defs><filter id='f'>"
                      "<feGaussianBlur stdDeviation='1'/></filter></defs><path d='M1 1L9 9L1 9Z' fill='red' "
                      "filter='url(#f)'/><text x='1' y='9'>ð</text></svg>")};
        if (name == "open-raster")
            return {written("b", [](const auto& file) {
                ReleasePtr r = screenRelease(40, 30);
                for (const float red : {0.25F, 1.0F}) {
                    Layer layer;
                    layer.name = "Þari";
                    layer.opacity = red;
                    layer.content = FillContent{Ink(red, 0, 0, 1)};
                    r = withLayer(r, frontOf(r), layer).release;
                }
                const PanelRef panel = frontOf(r);
                PictureStore store;
                const FontLibrary fonts(dataFolder() / "fonts", true);
                Renderer renderer(store, fonts);
                return writeOpenRaster(renderer, r, panel, {}, file).has_value();
            })};
        if (name == "form") return {firstIn("data/forms", ".json")};
        if (name == "brief")
            return {bytes(R"({"artist":"Ú","title":"T","label":"","catalogue":"","year":"2026",)"
                          R"("tracks":[{"side":"A","title":"Þoka","seconds":99}]})")};
        if (name == "tracks-text") return {bytes("A1 Þoka 3:12\nA2. Harbour\t4:01\n2-03 Last\n")};
        if (name == "tracks-csv") return {bytes("side;title;length\nA;\"Þoka; again\";3:12\n")};
        if (name == "cue")
            return {bytes("TITLE \"Tide\"\nFILE \"a.wav\" WAVE\n  TRACK 01 AUDIO\n    TITLE \"Þoka\"\n"
                          "    INDEX 01 00:00:00\n  TRACK 02 AUDIO\n    INDEX 01 03:12:40\n")};
        if (name == "song-feed") return {firstIn("data/feed", ".json")};
        if (name == "start") return {firstIn("data/starts", ".json")};
        if (name == "look-table")
            return {
                bytes("TITLE \"x\"\nLUT_3D_SIZE 2\n0 0 0\n1 0 0\n0 1 0\n1 1 0\n0 0 1\n1 0 1\n0 1 1\n1 1 1\n"),
                bytes("LUT_1D_SIZE 2\nDOMAIN_MIN 0 0 0\nDOMAIN_MAX 2 1 1\n0 0 0\n1 .5 1e-2\n")};
        if (name == "look") return {firstIn("data/looks", ".json")};
        if (name == "brush") return {firstIn("data/brushes", ".json")};
        if (name == "crate-book") {
            CrateEntry entry;
            entry.id = "a", entry.path = "a.jpg", entry.format = "jpeg", entry.width = entry.height = 9;
            return {bytes("{\"glyptos-crate\":1}\n{\"put\":" + entryToLine(entry) +
                          "}\n{\"drop\":\"b\"}\n{\"watch\":\"/tmp\"}\n")};
        }
        if (name == "agency")
            return {
                bytes(R"({"name":"Stock","licences":[{"name":"Plain","creditNeeded":true,"asks":"x"}]})")};
        if (name == "palette")
            return {bytes(":root {\n  --low-water: #1e7a6c;\n}\n"), bytes("12 44 210 Blue\n")};
        return {};
    }

  private Q_SLOTS:
    void firstInputsAreRead() {
        const QString seeds = qEnvironmentVariable("GLYPTOS_SEEDS");
        for (const Reader& one : readers()) {
            const auto all = seedsOf(one.name);
            QVERIFY2(!all.empty(), one.name.c_str());
            for (size_t i = 0; i < all.size(); ++i) {
                QVERIFY2(one.read(all[i]), qPrintable(QString("%1 %2").arg(one.name.c_str()).arg(i)));
                if (seeds.isEmpty()) continue;
                const auto folder = std::filesystem::path(seeds.toStdString()) / one.name;
                std::filesystem::create_directories(folder);
                QVERIFY(writeFile(folder / std::to_string(i), all[i]));
            }
        }
    }

    /// Bytes that the process has held at once since the last time.
    static size_t peakAnew() {
        std::ifstream status("/proc/self/status");
        size_t peak = 0;
        for (std::string line; std::getline(status, line);)
            if (line.starts_with("VmHWM:")) peak = size_t(std::stoul(line.substr(6))) << 10;
        std::ofstream("/proc/self/clear_refs") << "5";
        return peak;
    }

    /// Each file stands for something that once ended or hung the program or took its memory, by the name of
    /// its reader.
    void whatOnceWentWrong() {
        const auto found = std::filesystem::path(SOURCE_FOLDER) / "tests" / "found";
        int files = 0;
        for (const Reader& one : readers()) {
            std::error_code code;
            for (const auto& file : std::filesystem::directory_iterator(found / one.name, code)) {
                peakAnew();
                const size_t before = peakAnew();
                one.read(readFile(file.path()).value());
                QVERIFY2(peakAnew() < before + (size_t(300) << 20), file.path().c_str());
                ++files;
            }
        }
        QVERIFY(files > 0);
    }

    /// Every input cut short, and with one byte changed, is read or refused.
    void spoiltInputs() {
        for (const Reader& one : readers()) {
            if (one.name == "drawing") continue; // drawings_test does it: each is a process
            for (const Bytes& good : seedsOf(one.name)) {
                const size_t step = std::max<size_t>(1, good.size() / 60);
                for (size_t at = 0; at < good.size(); at += step) {
                    Bytes spoilt(good.begin(), good.begin() + long(at));
                    one.read(spoilt);
                    spoilt = good;
                    spoilt[at] = uint8_t(spoilt[at] + 77);
                    one.read(spoilt);
                }
            }
        }
    }
};

GLYPTOS_TEST(ReadersTest)
#include "readers_test.moc"
