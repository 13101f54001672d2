// What commands say: no name gives orders to a terminal, and a failure is one sentence.
#include "crate/crate.h"
#include "file/disk/atomic_file.h"
#include "file/open_raster.h"
#include "file/project.h"
#include "file/zip_archive.h"
#include "support/cli.h"
#include "support/pictures.h"
#include "support/register.h"

#include <QJsonArray>
#include <QJsonObject>
#include <QUrl>
#include <fstream>

using namespace glyptos;
using namespace glyptos::test;
namespace fs = std::filesystem;

namespace {

/// Whether a terminal is given anything but letters and ends of lines.
bool givesOrders(const QByteArray& out) {
    const QString text = QString::fromUtf8(out);
    return std::any_of(text.begin(), text.end(), [](QChar c) {
        const auto code = c.unicode();
        return (code < 0x20 && code != '\n') || (code >= 0x7f && code < 0xa0) ||
               (code >= 0x2028 && code <= 0x202e);
    });
}

std::vector<uint8_t> smallPng() {
    return pngOf(40, 30, [](int x, int y) {
        return std::array<uint8_t, 4>{uint8_t(x * 5), uint8_t(y * 7), 90, 255};
    });
}

} // namespace

class PlainSpeechTest : public CliFixture {
    Q_OBJECT

    fs::path in(const std::string& name) const { return fs::path(folder->path().toStdString()) / name; }
    static void write(const fs::path& file, const std::vector<uint8_t>& bytes) {
        std::ofstream(file, std::ios::binary)
            .write(reinterpret_cast<const char*>(bytes.data()), std::streamsize(bytes.size()));
    }

  private Q_SLOTS:
    void init() { folder = std::make_unique<QTemporaryDir>(); }

    void namesOfFilesAreShown_data() {
        QTest::addColumn<QByteArray>("name");
        QTest::addColumn<QString>("shown");
        QTest::newRow("escape") << QByteArray("\x1b[2J\x1b]0;owned\a.glyptos") << "␛[2J␛]0;owned␇.glyptos";
        QTest::newRow("two lines") << QByteArray("a\nglyptos-cli: All is well.glyptos")
                                   << "a␊glyptos-cli: All is well.glyptos";
        QTest::newRow("turned round") << QByteArray("a\u202esotpylg.glyptos") << "a\ufffdsotpylg.glyptos";
        QTest::newRow("no text") << QByteArray("a\xff\x9b.glyptos") << "a\ufffd\ufffd.glyptos";
    }
    void namesOfFilesAreShown() {
        QFETCH(QByteArray, name);
        QFETCH(QString, shown);
        write(in(name.toStdString()), {'x'});
        const Ran ran = run({"info", QString::fromLocal8Bit(name)});
        if (!name.contains('\xff')) refused(ran, shown);
        QVERIFY(ran.code == 2 && !givesOrders(ran.err) && ran.err.count('\n') == 1);
    }

    void titlesAreShownAndJsonTellsTheTruth() {
        auto release = std::make_shared<Release>();
        release->brief.title = "Low\x1b[31m Water\n\xc2\x9b"
                               "5n";
        release->brief.artist = "\u202eMarram\x7f";
        release->brief.tracks = {{"", "One\ttwo\r\n", 61}};
        QVERIFY(saveProject(*release, in("a.glyptos")));
        const Ran told = run({"info", "a.glyptos"});
        QCOMPARE(told.code, 0);
        QVERIFY2(!givesOrders(told.out), told.out.constData());
        QVERIFY(QString::fromUtf8(told.out).startsWith(
            QStringLiteral("\ufffdMarram␡ · Low␛[31m Water␊\ufffd5n · \n")));
        QVERIFY(QString::fromUtf8(told.out).contains(QStringLiteral("One␉two␍␊")));
        const Ran json = run({"info", "a.glyptos", "--json"});
        QVERIFY2(!givesOrders(json.out), json.out.constData());
        QCOMPARE(json.json().object()["title"].toString().toStdString(), release->brief.title);
        QCOMPARE(json.json().object()["artist"].toString().toStdString(), release->brief.artist);
    }

    void aDamagedPictureIsOneSentence() {
        std::vector<uint8_t> bytes = smallPng();
        for (size_t i = bytes.size() / 2; i < bytes.size() - 12; ++i) bytes[i] ^= 0x5a;
        write(in("torn.png"), bytes);
        const Ran ran = run({"treat", "torn.png", "--chain", "none.json", "--out", "x.png"});
        QVERIFY(ran.code == 2 && ran.err.count('\n') == 1);
        std::ofstream(in("chain.json")) << R"([{"kind": "inversion"}])";
        refused(run({"treat", "torn.png", "--chain", "chain.json", "--out", "x.png"}), "torn.png");
    }

    void veryManyNotesAreCounted() {
        std::string stack = "<image w='40' h='30'><stack>";
        for (int i = 0; i < 3000; ++i) stack += "<odd/>";
        stack += "<layer src='data/a.png' name='a'/></stack></image>";
        const std::vector<uint8_t> picture = smallPng();
        QVERIFY(writeZip(in("odd.ora"), {{"mimetype", bytesOf("image/openraster"), false},
                                         {"stack.xml", bytesOf(stack), true},
                                         {"data/a.png", picture, false}}));
        const Ran ran = run({"render", "odd.ora", "--out", "a.png"});
        QCOMPARE(ran.code, 1);
        QVERIFY2(ran.err.count('\n') <= 21 && ran.err.contains("There are 29"), ran.err.constData());
    }

    void aCrateKeepsNamesThatAreNoText() {
        fs::create_directory(in("pictures"));
        const std::string name = "pictures/h\xf6"
                                 "fn\xff\n.png";
        write(in(name), smallPng());
        const Ran added = run({"crate", "add", "pictures", "--crate", "crate", "--json"});
        QVERIFY2(added.code == 0 && !givesOrders(added.out), added.err.constData());
        QCOMPARE(added.json().object()["added"].toInt(), 1);
        const Ran again = run({"crate", "add", "pictures", "--crate", "crate", "--json"});
        QCOMPARE(again.json().object()["added"].toInt(), 0);
        QCOMPARE(again.json().object()["already"].toInt(), 1);
        const Ran found = run({"crate", "find", "--crate", "crate", "--json"});
        const QByteArray uri = found.json().array()[0].toObject()["uri"].toString().toUtf8();
        QCOMPARE(QByteArray::fromPercentEncoding(uri.mid(7)).toStdString(), in(name).string());
        QVERIFY(!givesOrders(run({"crate", "find", "--crate", "crate"}).out));
        auto crate = Crate::open(in("crate")).value();
        const EntryPtr entry = crate->shelf()->entries().at(0);
        QVERIFY(fs::exists(crate->fileOf(*entry)));
    }
};

GLYPTOS_TEST(PlainSpeechTest)
#include "plain_speech_test.moc"
