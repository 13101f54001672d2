// Names from files joined to folders: what leads out is refused, and never removed.
#include "base/inside.h"

#include "support/register.h"

#include <QTemporaryDir>
#include <fstream>

using namespace glyptos;
using namespace glyptos::test;
namespace fs = std::filesystem;

class InsideTest : public QObject {
    Q_OBJECT

    static void write(const fs::path& file) { std::ofstream(file) << "kept"; }

  private Q_SLOTS:
    void namesWithin_data() {
        QTest::addColumn<QByteArray>("name");
        for (const char* name : {"a.png", "pictures/a.png", "Þögn/á.png", "..a", "a..", "...", "a/./b", " "})
            QTest::newRow(name) << QByteArray(name);
    }
    void namesWithin() {
        QFETCH(QByteArray, name);
        const auto file = inside("/crate", name.toStdString());
        QVERIFY(file.has_value());
        QCOMPARE(file->string(), "/crate/" + name.toStdString());
    }

    void namesThatLeadOut_data() {
        QTest::addColumn<QByteArray>("name");
        for (const char* name :
             {"", "..", "../a", "../../a", "a/../../b", "a/..", "a/../b", "/", "/etc/passwd", "//a"})
            QTest::newRow(*name ? name : "empty") << QByteArray(name);
        QTest::newRow("zero") << QByteArray("a\0.png", 6);
        QTest::newRow("no text") << QByteArray("../\xff\xfe");
    }
    void namesThatLeadOut() {
        QFETCH(QByteArray, name);
        const auto file = inside("/crate", name.toStdString());
        QVERIFY(!file);
        QCOMPARE(file.error().fault, Fault::Unsafe);
        QVERIFY(file.error().message.find("which is not in its folder") != std::string::npos);
    }

    void onlyWhatIsInsideIsRemoved() {
        const QTemporaryDir root;
        const fs::path all(root.path().toStdString()), folder = all / "crate", victim = all / "victim.txt";
        fs::create_directories(folder / "pictures");
        fs::create_directories(all / "far");
        write(victim), write(all / "far" / "other.txt"), write(folder / "pictures" / "own.txt");
        fs::create_directory_symlink(all / "far", folder / "away");
        fs::create_symlink(victim, folder / "link");
        for (const char* name :
             {"../victim.txt", "pictures/../../victim.txt", "away/other.txt", "pictures", "gone"})
            QVERIFY2(!removeInside(folder, name), name);
        QVERIFY(!removeInside(folder, victim.string()));
        QVERIFY(!removeInside(all / "gone", "a"));
        QVERIFY(removeInside(folder, "link")); // the link, not what it leads to
        QVERIFY(removeInside(folder, "pictures/own.txt"));
        QVERIFY(fs::exists(victim) && fs::exists(all / "far" / "other.txt"));
        QVERIFY(!fs::exists(fs::symlink_status(folder / "link")) &&
                !fs::exists(folder / "pictures" / "own.txt"));
    }
};

GLYPTOS_TEST(InsideTest)
#include "inside_test.moc"
