// Everything that reads names of files out of files: none of them leads out of its folder.
#include "crate/agency.h"
#include "crate/crate.h"
#include "crate/indexing.h"
#include "file/looks.h"
#include "support/cli.h"
#include "support/pictures.h"
#include "support/register.h"

#include <fstream>

using namespace glyptos;
using namespace glyptos::test;
namespace fs = std::filesystem;

class NamesInFilesTest : public CliFixture {
    Q_OBJECT
    fs::path root_, victim_;

    /// A crate of one picture of its own, whose line in the book then names another file.
    fs::path crateNaming(const std::string& name) {
        const fs::path crate = root_ / "crate";
        fs::remove_all(crate);
        const auto bytes = pngOf(40, 30, [](int x, int y) {
            return std::array<uint8_t, 4>{uint8_t(x * 5), uint8_t(y * 7), 90, 255};
        });
        std::string path;
        {
            auto opened = Crate::open(crate).value();
            const std::string id = addBytes(*opened, bytes, "harbour.png", {}).value();
            path = opened->shelf()->entry(id)->path;
        }
        std::ifstream in(crate / "crate.book");
        std::string book{std::istreambuf_iterator<char>(in), {}};
        const size_t at = book.find(path);
        book.replace(at, path.size(), name);
        std::ofstream(crate / "crate.book") << book;
        fs::remove(crate / "crate-index.sqlite");
        return crate;
    }

  private Q_SLOTS:
    void init() {
        folder = std::make_unique<QTemporaryDir>();
        root_ = folder->path().toStdString();
        victim_ = root_ / "victim.txt";
        std::ofstream(victim_) << "kept";
    }

    void out_data() {
        QTest::addColumn<QString>("name");
        QTest::newRow("beside") << "../victim.txt";
        QTest::newRow("round about") << "pictures/../../victim.txt";
    }

    void aCrateRemovesNothingElse_data() { out_data(); }
    void aCrateRemovesNothingElse() {
        QFETCH(QString, name);
        auto crate = Crate::open(crateNaming(name.toStdString())).value();
        QVERIFY(crate->shelf()->entries().empty()); // a line that cannot be read, which is said
        QVERIFY(!crate->notes().empty());
        std::vector<std::string> ids;
        for (const EntryPtr& entry : crate->shelf()->entries()) ids.push_back(entry->id);
        QVERIFY(crate->remove(ids).has_value());
        QVERIFY(fs::exists(victim_));
    }

    void aCrateKeepsFilesThatLieElsewhere() {
        auto crate = Crate::open(crateNaming(victim_.string())).value();
        QCOMPARE(crate->shelf()->entries().size(), size_t(1));
        QVERIFY(crate->remove({crate->shelf()->entries()[0]->id}).has_value());
        QVERIFY(crate->shelf()->entries().empty() && fs::exists(victim_));
    }

    void anAgencyGivesOnlyItsOwn_data() { out_data(); }
    void anAgencyGivesOnlyItsOwn() {
        QFETCH(QString, name);
        for (const std::string& path : {name.toStdString(), victim_.string()}) {
            const fs::path drawer = crateNaming(path);
            std::ofstream(drawer / "agency.json") << R"({"name": "Tidewrack Stock", "licences": []})";
            auto agency = Agency::open(drawer).value();
            const auto found = agency->find("", {});
            QVERIFY(found.has_value());
            for (const EntryPtr& entry : found->entries) {
                const auto bytes = agency->fetch(entry->id);
                QVERIFY(!bytes && bytes.error().fault == Fault::Unsafe);
                QVERIFY(agency->fileOf(*entry).empty());
            }
        }
    }

    void aLookReadsOnlyBesideIt() {
        const fs::path looks = root_ / "looks";
        fs::create_directory(looks);
        std::ofstream(root_ / "victim.cube")
            << "LUT_3D_SIZE 2\n0 0 0\n1 0 0\n0 1 0\n1 1 0\n0 0 1\n1 0 1\n0 1 1\n1 1 1\n";
        QVERIFY(readCubeFile(root_ / "victim.cube").has_value());
        for (const char* name : {"../victim.cube", ".."}) {
            std::ofstream(looks / "dusk.json")
                << R"({"name": "Dusk", "unit": "px", "side": 9, "treatments": [{"kind": "look-table", "file": )"
                << '"' << name << "\"}]}";
            QVERIFY2(!readLookFile(looks / "dusk.json"), name);
        }
    }

    void aChainReadsOnlyBesideIt() {
        fs::create_directory(root_ / "chains");
        std::ofstream(root_ / "victim.cube")
            << "LUT_3D_SIZE 2\n0 0 0\n1 0 0\n0 1 0\n1 1 0\n0 0 1\n1 0 1\n0 1 1\n1 1 1\n";
        const auto bytes = pngOf(8, 8, [](int, int) { return std::array<uint8_t, 4>{9, 9, 9, 255}; });
        std::ofstream(root_ / "in.png")
            .write(reinterpret_cast<const char*>(bytes.data()), std::streamsize(bytes.size()));
        for (const std::string& chain :
             {std::string(R"([{"kind": "look-table", "file": "../victim.cube"}])"),
              "[{\"kind\": \"look-table\", \"file\": \"" + (root_ / "victim.cube").string() + "\"}]",
              std::string(R"([{"kind": "displacement", "by": "../in.png"}])")}) {
            std::ofstream(root_ / "chains" / "chain.json") << chain;
            refused(run({"treat", "in.png", "--chain", "chains/chain.json", "--out", "out.png"}),
                    QStringLiteral("which is not in its folder"));
            QVERIFY(!fs::exists(root_ / "out.png"));
        }
    }
};

GLYPTOS_TEST(NamesInFilesTest)
#include "names_in_files_test.moc"
