// The crate: words, facets, copies, what survives damage, crashes and company.
#include "crate/indexing.h"
#include "crate/look_table.h"
#include "crate/thumbnails.h"
#include "support/pictures.h"
#include "support/register.h"

#include <QImage>
#include <QStringLiteral>
#include <QTemporaryDir>
#include <exiv2/exiv2.hpp>
#include <fstream>
#include <sqlite3.h>
#include <sys/resource.h>
#include <sys/wait.h>
#include <thread>
#include <tiffio.h>
#include <unistd.h>

using namespace glyptos;
using namespace glyptos::test;
namespace fs = std::filesystem;

namespace {

CrateEntry entryOf(const std::string& id, const std::string& title, const std::vector<std::string>& tags = {},
                   SourceKind kind = SourceKind::Photo) {
    CrateEntry e;
    e.id = id;
    e.path = "/nowhere/" + id + ".jpg";
    e.format = "jpeg";
    e.width = 400, e.height = 300;
    e.added = 1000;
    e.facts.title = title;
    e.facts.tags = tags;
    e.facts.kind = kind;
    e.palette = {{*rgbaFromHex("#1e7a6c"), 1}};
    e.mainColour = mainColourOf(e.palette);
    return e;
}

std::vector<uint8_t> bytesOfFile(const fs::path& file) {
    return readFile(file).value();
}

void append(const fs::path& file, const std::string& text) {
    std::ofstream(file, std::ios::binary | std::ios::app) << text;
}

} // namespace

class CrateTest : public QObject {
    Q_OBJECT
    std::unique_ptr<QTemporaryDir> folder;
    fs::path at(const std::string& name) const { return fs::path(folder->path().toStdString()) / name; }
    std::unique_ptr<Crate> opened() const {
        auto crate = Crate::open(at("crate"));
        if (!crate) qFatal("%s", crate.error().message.c_str());
        return std::move(*crate);
    }
    fs::path photo(const std::string& name, int seed, int width = 60, int height = 40) const {
        fs::create_directories(at(name).parent_path());
        test::write(at(name), jpegOf(width, height, [=](int x, int y) {
                        return std::array<uint8_t, 4>{uint8_t(seed * 37 + x), uint8_t(seed * 91 + y),
                                                      uint8_t(seed * 53), 255};
                    }));
        return at(name);
    }
    static std::vector<std::string> idsFor(Crate& crate, const std::string& words) {
        return crate.matching(words).value_or(std::vector<std::string>{"no words"});
    }

  private Q_SLOTS:
    void init() {
        folder = std::make_unique<QTemporaryDir>();
        qputenv("XDG_CACHE_HOME", (folder->path() + "/cache").toUtf8());
    }

    void wordsAreFound() {
        const auto crate = opened();
        QVERIFY(crate->put({entryOf("a", "Lantern room", {"lighthouse", "night"}),
                            entryOf("b", "Þoka yfir höfn", {"fog"}),
                            entryOf("c", "Night harbour", {}, SourceKind::Texture)}));
        QCOMPARE(idsFor(*crate, "lantern"), std::vector<std::string>{"a"});
        QCOMPARE(idsFor(*crate, "LANT"), std::vector<std::string>{"a"});
        QCOMPARE(idsFor(*crate, "þoka"), std::vector<std::string>{"b"});
        QCOMPARE(idsFor(*crate, "hofn"), std::vector<std::string>{"b"});         // accents need not be typed
        QCOMPARE(idsFor(*crate, "night"), (std::vector<std::string>{"c", "a"})); // a title before a tag
        QCOMPARE(idsFor(*crate, "night lan"), std::vector<std::string>{"a"});
        QCOMPARE(idsFor(*crate, "texture"), std::vector<std::string>{"c"});
        QVERIFY(idsFor(*crate, "gannet").empty());
        QVERIFY(idsFor(*crate, "\"'*()-night:^").size() == 2); // signs are no syntax
        QVERIFY(!crate->matching("  "));
        SourceFacts facts = crate->shelf()->entry("a")->facts;
        facts.title = "Gallery";
        QVERIFY(crate->change("a", facts));
        QVERIFY(idsFor(*crate, "lantern").empty());
        QVERIFY(crate->remove({"c"}));
        QCOMPARE(idsFor(*crate, "night"), std::vector<std::string>{"a"});
        QVERIFY(!crate->change("c", facts));
    }

    void facetsNarrowAndCount() {
        Shelf shelf;
        auto large = entryOf("large", "Large");
        large.width = large.height = 4000;
        auto tall = entryOf("tall", "Tall", {}, SourceKind::Texture);
        tall.width = 300, tall.height = 400, tall.facts.licence = "Open";
        tall.palette = {{*rgbaFromHex("#c03020"), 1}};
        tall.mainColour = mainColourOf(tall.palette);
        auto drawing = entryOf("drawing", "Drawing", {}, SourceKind::Element);
        drawing.format = "svg", drawing.width = drawing.height = 100;
        for (const auto& e : {large, tall, drawing, entryOf("wide", "Wide")}) shelf.put(e);
        CrateQuery q;
        Found found = findIn(shelf, q, std::nullopt, {"tall"});
        QCOMPARE(found.entries.size(), size_t(4));
        QCOMPARE(found.counts.kinds[size_t(SourceKind::Photo)], 2);
        QCOMPARE(found.counts.shapes[size_t(ShapeFacet::Square)], 2);
        QCOMPARE(found.counts.largeEnough, 2);
        QCOMPARE(found.counts.used, 1);
        q.shape = ShapeFacet::Square;
        found = findIn(shelf, q, std::nullopt);
        QCOMPARE(found.entries.size(), size_t(2));
        QCOMPARE(found.counts.kinds[size_t(SourceKind::Texture)], 0);
        QCOMPARE(found.counts.shapes[size_t(ShapeFacet::Tall)], 1); // what another choice of shape would give
        q.onlyLargeEnough = true;
        q.kind = SourceKind::Element;
        QCOMPARE(findIn(shelf, q, std::nullopt).entries.front()->id, std::string("drawing"));
        CrateQuery red;
        red.colour = ColourFamily::Red;
        QCOMPARE(findIn(shelf, red, std::nullopt).entries.front()->id, std::string("tall"));
        CrateQuery open;
        open.licence = "Open";
        QCOMPARE(findIn(shelf, open, std::nullopt).entries.size(), size_t(1));
        CrateQuery used;
        used.onlyUsed = true;
        QCOMPARE(findIn(shelf, used, std::nullopt, {"wide"}).entries.front()->id, std::string("wide"));
        CrateQuery size;
        size.order = CrateOrder::Largest;
        QCOMPARE(findIn(shelf, size, std::nullopt).entries.front()->id, std::string("large"));
        size.order = CrateOrder::Title;
        QCOMPARE(findIn(shelf, size, std::nullopt).entries.front()->id, std::string("drawing"));
        QCOMPARE(findIn(shelf, CrateQuery{}, std::vector<std::string>{"wide", "gone", "tall"}).entries.size(),
                 size_t(2));
    }

    void foldersComeInOnce() {
        photo("pictures/harbour wall.jpg", 1);
        photo("pictures/textures/rust.jpg", 2);
        photo("pictures/.hidden/no.jpg", 3);
        fs::copy_file(at("pictures/harbour wall.jpg"), at("pictures/copy of it.jpg"));
        test::write(at("pictures/broken.jpg"), {0xff, 0xd8, 0xff, 0xe0, 0, 1});
        test::write(at("pictures/readme.txt"), {'h', 'i'});
        const auto crate = opened();
        auto report = addFiles(*crate, {at("pictures")});
        QVERIFY(report);
        QCOMPARE(report->added, 2);
        QCOMPARE(report->already, 1);
        QCOMPARE(report->troubles.size(), size_t(2));
        QVERIFY(report->troubles[0].find("broken.jpg") != std::string::npos);
        const auto found = idsFor(*crate, "rust");
        QCOMPARE(found.size(), size_t(1));
        QCOMPARE(crate->shelf()->entry(found[0])->facts.kind, SourceKind::Texture);
        QVERIFY(crate->shelf()->at(at("pictures/copy of it.jpg").string()));
        report = addFiles(*crate, {at("pictures")});
        QVERIFY(report && report->added == 0 && report->already == 3);
        photo("pictures/textures/rust.jpg", 9); // another picture under the same name
        report = addFiles(*crate, {at("pictures")});
        QVERIFY(report && report->added == 1);
    }

    void metadataIsRead() {
        const fs::path file = photo("keeper.jpg", 4);
        addWords(file);
        const auto found = examineFile(file);
        QVERIFY(found);
        const SourceFacts& f = found->entry.facts;
        QCOMPARE(f.title, std::string("The keeper"));
        QCOMPARE(f.maker, std::string("Ása Grenfell"));
        QCOMPARE(f.tags, (std::vector<std::string>{"lamp", "night"}));
        QCOMPARE(f.licence, std::string("Quay Open 1"));
        QVERIFY(examineFile(photo("lamp-room_03.jpg", 5))->entry.facts.title == "Lamp room 03");
    }

    void thumbnailsAreWhereOthersLook() {
        const fs::path file = photo("a b.jpg", 6, 600, 400);
        const auto crate = opened();
        QVERIFY(addFiles(*crate, {file}));
        const EntryPtr entry = crate->shelf()->entries().front();
        const fs::path small = thumbnailFile(file);
        QVERIFY(small.string().starts_with((folder->path() + "/cache/thumbnails/large/").toStdString()));
        QImage image(QString::fromStdString(small.string()));
        QCOMPARE(image.size(), QSize(256, 170));
        QCOMPARE(image.text("Thumb::URI"),
                 QStringLiteral("file://") + folder->path() + QStringLiteral("/a%20b.jpg"));
        QVERIFY(readThumbnail(file, entry->modified));
        QVERIFY(!readThumbnail(file, entry->modified + 1)); // of the file as it was before
        QCOMPARE(int(fs::status(small).permissions() & fs::perms::all), 0600);
    }

    void aCrashLeavesWhatWasWritten() {
        { QVERIFY(opened()->put({entryOf("a", "Before")})); }
        append(at("crate/crate.book"), "{\"put\":{\"id\":\"half"); // cut off in the middle of a line
        {
            const auto crate = opened();
            QCOMPARE(crate->shelf()->entries().size(), size_t(1));
            QVERIFY(crate->put({entryOf("b", "After")}));
            QCOMPARE(idsFor(*crate, "after").size(), size_t(1));
        }
        const auto crate = opened();
        QCOMPARE(crate->shelf()->entries().size(), size_t(2));
        QCOMPARE(crate->notes().size(), size_t(1)); // it says that a line could not be read
        QCOMPARE(idsFor(*crate, "before").size(), size_t(1));
    }

    void aKilledIndexerLeavesAWholeCrate() {
        for (int i = 0; i < 240; ++i) photo("many/" + std::to_string(i) + ".jpg", i, 300, 200);
        const pid_t child = fork();
        if (child == 0) {
            auto crate = Crate::open(at("crate"));
            (void)addFiles(**crate, {at("many")}, [](size_t done, size_t all) {
                if (done > 0 && done < all) kill(getpid(), SIGKILL); // midway, whatever the machine's pace
            });
            _exit(0);
        }
        int status = 0;
        waitpid(child, &status, 0);
        QVERIFY(WIFSIGNALED(status) && WTERMSIG(status) == SIGKILL);
        const auto crate = opened();
        const size_t had = crate->shelf()->entries().size();
        QVERIFY(had > 0 && had < 240);
        QCOMPARE(idsFor(*crate, "photo").size(), had); // the index has what the book has
        const auto report = addFiles(*crate, {at("many")});
        QVERIFY(report && report->troubles.empty());
        QCOMPARE(crate->shelf()->entries().size(), size_t(240));
        QCOMPARE(idsFor(*crate, "photo").size(), size_t(240));
    }

    void aDamagedIndexIsMadeAgain() {
        { QVERIFY(opened()->put({entryOf("a", "Lantern")})); }
        std::ofstream(at("crate/crate-index.sqlite"), std::ios::binary) << std::string(5000, 'x');
        const auto crate = opened();
        QCOMPARE(idsFor(*crate, "lantern").size(), size_t(1));
        QVERIFY(crate->notes().size() == 1 && crate->notes()[0].find("damaged") != std::string::npos);
        fs::remove(at("crate/crate-index.sqlite"));
        QCOMPARE(idsFor(*opened(), "lantern").size(), size_t(1));
    }

    void aNewerIndexIsLeftAlone() {
        { QVERIFY(opened()->put({entryOf("a", "Lantern")})); }
        sqlite3* db = nullptr;
        QCOMPARE(sqlite3_open(at("crate/crate-index.sqlite").c_str(), &db), SQLITE_OK);
        QCOMPARE(sqlite3_exec(db, "PRAGMA user_version = 99", nullptr, nullptr, nullptr), SQLITE_OK);
        sqlite3_close(db);
        const auto before = bytesOfFile(at("crate/crate-index.sqlite"));
        const auto crate = opened();
        QCOMPARE(idsFor(*crate, "lantern").size(), size_t(1));
        QVERIFY(crate->put({entryOf("b", "Harbour")}));
        QCOMPARE(idsFor(*crate, "harbour").size(), size_t(1));
        QCOMPARE(bytesOfFile(at("crate/crate-index.sqlite")), before);
    }

    void aNewerBookIsRefused() {
        fs::create_directories(at("crate"));
        append(at("crate/crate.book"), "{\"glyptos-crate\":7}\n{\"put\":{}}\n");
        const auto before = bytesOfFile(at("crate/crate.book"));
        const auto crate = Crate::open(at("crate"));
        QVERIFY(!crate && sentence(crate).contains("newer"));
        QCOMPARE(bytesOfFile(at("crate/crate.book")), before);
        fs::create_directories(at("other"));
        append(at("other/crate.book"), "my shopping list\n");
        QVERIFY(sentence(Crate::open(at("other"))).contains("left as it is"));
    }

    void twoCratesOnOneFolderSeeEachOther() {
        const auto one = opened(), two = opened();
        QVERIFY(one->put({entryOf("a", "Lantern")}));
        QVERIFY(two->shelf()->entries().empty());
        QVERIFY(two->refresh());
        QCOMPARE(idsFor(*two, "lantern").size(), size_t(1));
        QVERIFY(!two->refresh());
        QVERIFY(two->put({entryOf("b", "Harbour")}) && one->put({entryOf("c", "Quay")}));
        QCOMPARE(one->shelf()->entries().size(), size_t(3)); // a writer first reads what others wrote
        QCOMPARE(idsFor(*one, "harbour").size(), size_t(1));
    }

    void manyWritersLoseNothing() {
        constexpr int kEach = 40;
        std::vector<std::thread> writers;
        for (int w = 0; w < 4; ++w)
            writers.emplace_back([&, w] {
                const auto crate = opened();
                for (int i = 0; i < kEach; ++i)
                    if (!crate->put({entryOf(std::to_string(w) + "-" + std::to_string(i), "Gull")}))
                        qFatal("not put");
            });
        for (std::thread& t : writers) t.join();
        const auto crate = opened();
        QCOMPARE(crate->shelf()->entries().size(), size_t(4 * kEach));
        QCOMPARE(idsFor(*crate, "gull").size(), size_t(4 * kEach));
    }

    void theBookIsShortenedUnderOthers() {
        const auto other = opened();
        {
            const auto crate = opened();
            std::vector<CrateEntry> many;
            for (int i = 0; i < 5100; ++i) many.push_back(entryOf("a", "Version " + std::to_string(i)));
            QVERIFY(crate->put(many) && crate->put({entryOf("b", "Harbour")}));
        }
        const auto before = fs::file_size(at("crate/crate.book"));
        const auto crate = opened(); // writes it anew
        QVERIFY(fs::file_size(at("crate/crate.book")) < before / 100);
        QCOMPARE(crate->shelf()->entry("a")->facts.title, std::string("Version 5099"));
        QCOMPARE(idsFor(*crate, "harbour").size(), size_t(1));
        QVERIFY(other->put({entryOf("c", "Quay")})); // still has the old file open
        QVERIFY(crate->refresh());
        QCOMPARE(crate->shelf()->entries().size(), size_t(3));
        QCOMPARE(other->shelf()->entries().size(), size_t(3));
        QCOMPARE(idsFor(*other, "version").size(), size_t(1));
    }

    void aFullDiskChangesNothing() {
        const auto crate = opened();
        QVERIFY(crate->put({entryOf("a", "Lantern")}));
        const auto before = bytesOfFile(at("crate/crate.book"));
        rlimit old{};
        getrlimit(RLIMIT_FSIZE, &old);
        signal(SIGXFSZ, SIG_IGN);
        const rlimit tight{before.size() + 100, old.rlim_max};
        setrlimit(RLIMIT_FSIZE, &tight);
        const auto put = crate->put({entryOf("b", "Harbour")});
        setrlimit(RLIMIT_FSIZE, &old);
        QVERIFY(!put && sentence(put).contains("as it was"));
        QCOMPARE(bytesOfFile(at("crate/crate.book")), before);
        QVERIFY(!crate->shelf()->entry("b"));
        QVERIFY(crate->put({entryOf("b", "Harbour")}));
        QCOMPARE(idsFor(*crate, "harbour").size(), size_t(1));
    }

    void picturesWithoutAFileAreKept() {
        const auto crate = opened();
        const auto bytes = pngOf(40, 40, [](int, int) { return std::array<uint8_t, 4>{200, 40, 30, 255}; });
        SourceFacts facts;
        facts.title = "Pasted", facts.maker = "Orri Vane", facts.kind = SourceKind::Element;
        const auto id = addBytes(*crate, bytes, "pasted.png", facts);
        QVERIFY(id);
        const EntryPtr entry = crate->shelf()->entry(*id);
        QCOMPARE(entry->facts.maker, std::string("Orri Vane"));
        QCOMPARE(bytesOfFile(crate->fileOf(*entry)), bytes);
        SourceFacts other;
        other.title = "Again";
        QCOMPARE(*addBytes(*crate, bytes, "again.png", other), *id);
        QCOMPARE(crate->shelf()->entry(*id)->facts.title, std::string("Pasted"));
        const fs::path file = crate->fileOf(*entry);
        QVERIFY(crate->remove({*id}));
        QVERIFY(!fs::exists(file));
    }

    void strangeFilesAreTold() {
        const auto crate = opened();
        test::write(at("raw.nef"), tiffOf(8, 8, 3, [](int, int, int) { return uint8_t(9); }));
        const std::string table =
            "TITLE \"Dusk\"\nLUT_3D_SIZE 2\n0 0 0\n1 0 0\n0 1 0\n1 1 0\n0 0 1\n1 0 1\n0 1 1\n1 1 1\n";
        append(at("dusk.cube"), table);
        append(at("short.cube"), table.substr(0, 40));
        test::write(at("lies.tif"),
                    tiffOf(8, 8, 3, [](int, int, int c) { return uint8_t(c == 0 ? 200 : 20); },
                           {'n', 'o', ' ', 'i', 'c', 'c'}));
        const auto report = addFiles(*crate, {at("raw.nef"), at("dusk.cube"), at("short.cube"),
                                              at("gone.jpg"), at("gone folder/"), at("lies.tif")});
        QVERIFY(report);
        QCOMPARE(report->added, 2); // a profile that is none is as good as none
        QCOMPARE(report->troubles.size(), size_t(4));
        QVERIFY(std::any_of(report->troubles.begin(), report->troubles.end(),
                            [](const auto& s) { return s.find("raw file") != s.npos; }));
        QCOMPARE(crate->shelf()->entries().front()->facts.kind, SourceKind::LookTable);
    }

    void longTiffsShowTheirFirstPage() {
        test::write(at("pages.tif"), pagesOf(300, at("one.tif")));
        const auto found = examineFile(at("pages.tif"));
        QVERIFY2(bool(found), qPrintable(sentence(found)));
        QCOMPARE(found->entry.pages, 300);
        QCOMPARE(found->entry.mainColour, ColourFamily::Red);
    }

    void aReadOnlyCrateCanBeSearched() {
        if (geteuid() == 0) {
            // Root may write anywhere: the child becomes somebody else.
            { QVERIFY(opened()->put({entryOf("a", "Lantern")})); }
            fs::remove(at("crate/crate-index.sqlite"));
            for (const fs::path& p : {at(""), at("crate"), at("crate/crate.book")})
                fs::permissions(p, p.extension() == ".book" ? fs::perms(0444) : fs::perms(0555));
            const pid_t child = fork();
            if (child == 0) {
                if (setuid(65534) != 0) _exit(9);
                auto crate = Crate::open(at("crate"));
                if (!crate) _exit(1);
                if (!(*crate)->isReadOnly()) _exit(2);
                if (idsFor(**crate, "lantern").size() != 1) _exit(3);
                if ((*crate)->put({entryOf("b", "Harbour")})) _exit(4);
                _exit(0);
            }
            int status = 0;
            waitpid(child, &status, 0);
            fs::permissions(at(""), fs::perms(0755));
            fs::permissions(at("crate"), fs::perms(0755));
            QCOMPARE(WEXITSTATUS(status), 0);
        } else {
            { QVERIFY(opened()->put({entryOf("a", "Lantern")})); }
            fs::permissions(at("crate/crate.book"), fs::perms(0444));
            const auto crate = opened();
            QVERIFY(crate->isReadOnly());
            QCOMPARE(idsFor(*crate, "lantern").size(), size_t(1));
            QVERIFY(!crate->put({entryOf("b", "Harbour")}));
        }
    }

    void watchedFoldersAreRemembered() {
        { QVERIFY(opened()->setWatched("/pictures", true)); }
        QCOMPARE(opened()->watched(), std::set<std::string>{"/pictures"});
        { QVERIFY(opened()->setWatched("/pictures", false)); }
        QVERIFY(opened()->watched().empty());
    }

    void entriesComeBackFromTheirLine() {
        CrateEntry e = entryOf("a", "Lán “tern”\n", {"x", "y,z"}, SourceKind::Scan);
        e.copies = {"/b"};
        e.pages = 3;
        e.traits.edges[5] = 200;
        const auto back = entryFromJson(entryToLine(e));
        QVERIFY(back && back->facts == e.facts && back->copies == e.copies && back->pages == 3);
        QVERIFY(back->traits.edges == e.traits.edges && back->palette.size() == 1 &&
                back->mainColour == e.mainColour);
        for (const char* bad : {"", "{}", "[]", "{\"id\":\"a\"}", "{\"id\":1}"}) QVERIFY(!entryFromJson(bad));
    }

  private:
    static void addWords(const fs::path& file);
    static std::vector<uint8_t> pagesOf(int count, const fs::path& scratch);
};

void CrateTest::addWords(const fs::path& file) {
    auto image = Exiv2::ImageFactory::open(file.string());
    image->xmpData()["Xmp.dc.title"] = "lang=x-default The keeper";
    image->xmpData()["Xmp.dc.subject"] = "lamp";
    image->xmpData()["Xmp.dc.subject"] = "night";
    image->exifData()["Exif.Image.Artist"] = "Nobody";
    image->iptcData()["Iptc.Application2.Byline"] = "\xc1sa Grenfell"; // Latin-1
    image->xmpData()["Xmp.dc.rights"] = "lang=x-default Quay Open 1";
    image->writeMetadata();
}

std::vector<uint8_t> CrateTest::pagesOf(int count, const fs::path& scratch) {
    TIFF* tiff = TIFFOpen(scratch.c_str(), "w");
    for (int page = 0; page < count; ++page) {
        TIFFSetField(tiff, TIFFTAG_IMAGEWIDTH, 8);
        TIFFSetField(tiff, TIFFTAG_IMAGELENGTH, 8);
        TIFFSetField(tiff, TIFFTAG_BITSPERSAMPLE, 8);
        TIFFSetField(tiff, TIFFTAG_SAMPLESPERPIXEL, 3);
        TIFFSetField(tiff, TIFFTAG_PHOTOMETRIC, PHOTOMETRIC_RGB);
        TIFFSetField(tiff, TIFFTAG_PLANARCONFIG, PLANARCONFIG_CONTIG);
        TIFFSetField(tiff, TIFFTAG_ROWSPERSTRIP, 8);
        for (uint32_t y = 0; y < 8; ++y) {
            std::array<uint8_t, 24> row{};
            for (size_t x = 0; x < 8; ++x) row[3 * x + (page == 0 ? 0 : 2)] = 200;
            TIFFWriteScanline(tiff, row.data(), y);
        }
        TIFFWriteDirectory(tiff);
    }
    TIFFClose(tiff);
    return bytesOfFile(scratch);
}

GLYPTOS_TEST(CrateTest)
#include "crate_test.moc"
