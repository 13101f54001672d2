// Archives: what was written is read, what lies about its size or unpacks to too much is refused before
// memory is taken.
#include "file/zip_archive.h"

#include "support/register.h"

#include <QTemporaryDir>
#include <fstream>
#include <numeric>

using namespace glyptos;
using namespace glyptos::test;

class ZipArchiveTest : public QObject {
    Q_OBJECT
    QTemporaryDir folder_;

    std::filesystem::path at(const std::string& name) const {
        return std::filesystem::path(folder_.path().toStdString()) / name;
    }

  private Q_SLOTS:
    void entriesComeBack() {
        std::vector<uint8_t> ramp(100'000);
        std::iota(ramp.begin(), ramp.end(), uint8_t(0));
        const std::vector<uint8_t> none;
        QVERIFY(writeZip(at("a.zip"),
                         {{"stored", ramp, false}, {"packed/þögn", ramp, true}, {"none", none, true}}));
        const auto zip = ZipReader::open(at("a.zip"), "an archive").value();
        QVERIFY(zip.has("packed/þögn") && !zip.has("packed"));
        for (const char* name : {"stored", "packed/þögn"})
            QVERIFY(zip.read(name, ramp.size()).value() == ramp);
        QVERIFY(zip.read("none", 10).value().empty());
        QCOMPARE(zip.read("stored", ramp.size() - 1).error().fault, Fault::TooLarge);
        QCOMPARE(zip.read("gone", 10).error().fault, Fault::Damaged);
    }

    void theSameEntriesAreTheSameFile() {
        const std::vector<uint8_t> text{'l', 'o', 'w', ' ', 'w', 'a', 't', 'e', 'r'};
        QVERIFY(writeZip(at("one.zip"), {{"a", text, true}}) && writeZip(at("two.zip"), {{"a", text, true}}));
        const auto bytes = [&](const char* name) {
            std::ifstream in(at(name), std::ios::binary);
            return std::string{std::istreambuf_iterator<char>(in), {}};
        };
        QVERIFY(!bytes("one.zip").empty());
        QCOMPARE(bytes("one.zip"), bytes("two.zip"));
    }

    void manyEmptyBlocksAreTooMuch() {
        const std::vector<uint8_t> block(size_t(1) << 20, 0);
        std::vector<ZipEntry> entries;
        for (int i = 0; i < 400; ++i) entries.push_back({"tiles/" + std::to_string(i), block, true});
        QVERIFY(writeZip(at("bomb.zip"), entries));
        const size_t packed = std::filesystem::file_size(at("bomb.zip"));
        QVERIFY(packed < (size_t(1) << 20));
        const auto zip = ZipReader::open(at("bomb.zip"), "an archive").value();
        size_t unpacked = 0;
        Result<std::vector<uint8_t>> read = std::vector<uint8_t>();
        for (size_t i = 0; read && i < entries.size(); ++i) {
            read = zip.read(entries[i].name, block.size());
            if (read) unpacked += read->size();
        }
        QVERIFY(!read && read.error().fault == Fault::TooLarge);
        QVERIFY(unpacked <= ZipReader::mostUnpacked(packed));
        QVERIFY(unpacked + block.size() > ZipReader::mostUnpacked(packed));
    }

    void whoSaysMoreThanCanBePackedLies() {
        const std::vector<uint8_t> text(50, 'x');
        QVERIFY(writeZip(at("liar.zip"), {{"a", text, true}}));
        std::fstream file(at("liar.zip"), std::ios::binary | std::ios::in | std::ios::out);
        std::string bytes{std::istreambuf_iterator<char>(file), {}};
        // The size stands 22 bytes behind the head of the file and 24 behind that in the directory.
        const size_t head = bytes.find("PK\3\4"), directory = bytes.find("PK\1\2");
        const std::string huge("\xff\xff\xff\xe0", 4);
        bytes.replace(head + 22, 4, huge).replace(directory + 24, 4, huge);
        file.seekp(0);
        file << bytes;
        file.close();
        const auto zip = ZipReader::open(at("liar.zip"), "an archive");
        const auto read = zip ? zip->read("a", SIZE_MAX) : tl::unexpected(zip.error());
        QVERIFY(!read && read.error().fault == Fault::Damaged);
    }

    void whatIsNoArchiveIsRefused() {
        std::ofstream(at("none.zip")) << "not at all";
        QCOMPARE(ZipReader::open(at("none.zip"), "a release").error().fault, Fault::Damaged);
        QCOMPARE(ZipReader::open(at("gone.zip"), "a release").error().fault, Fault::Unreadable);
    }
};

GLYPTOS_TEST(ZipArchiveTest)
#include "zip_archive_test.moc"
