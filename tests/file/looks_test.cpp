// Looks: those that are shipped, kept ones with their tables, and what is none.
#include "file/looks.h"
#include "support/pictures.h"
#include "support/register.h"

#include <fstream>
#include <set>

using namespace glyptos;
using namespace glyptos::test;

class LooksTest : public QObject {
    Q_OBJECT
    QTemporaryDir home;

  private Q_SLOTS:
    void initTestCase() { qputenv("XDG_DATA_HOME", home.path().toUtf8()); }

    void thoseThatAreShipped() {
        const auto& all = shippedLooks();
        QVERIFY(all.size() >= 12);
        std::set<std::string> names;
        for (const NamedLook& look : all) {
            QVERIFY2(names.insert(look.name).second && !look.treatments.empty() && !look.own,
                     look.name.c_str());
            for (const Treatment& t : look.treatments) QVERIFY2(t.kind, look.name.c_str());
        }
    }

    void aKeptOneComesBackWithItsTable() {
        LookTable table;
        table.title = "Nótt";
        for (int i = 0; i < 8; ++i) table.entries.push_back({float(i & 1), 0.25f, float(i >> 2)});
        Treatment look = newTreatment(*treatmentKind("look-table"), 1),
                  blur = newTreatment(*treatmentKind("soft-blur"), 1);
        look.figures.set(0, kept(table));
        blur.figures.set(0, 4.0);
        const auto saved = saveLook(lookOf("Nótt / röng", {look, blur}, 300, Unit::Mm));
        QVERIFY2(saved.has_value(), qPrintable(sentence(saved)));
        std::vector<std::string> troubles;
        const auto own = ownLooks(troubles);
        QVERIFY(troubles.empty() && own.size() == 1 && own[0].own);
        QVERIFY(own[0].treatments == (Treatments{look, blur}));
        // On a panel half as large everything is half as long.
        QCOMPARE(fitted(own[0], 150)[1].figures.number(0), 2.0);
        // Of the same name it takes the place of the one before.
        QVERIFY(saveLook(lookOf("Nótt / röng", {blur}, 300, Unit::Mm)).has_value());
        QCOMPARE(ownLooks(troubles).size(), size_t(1));
        QVERIFY(removeLook(ownLooks(troubles)[0]).has_value());
        QVERIFY(ownLooks(troubles).empty());
        QVERIFY(!removeLook(shippedLooks()[0]));
    }

    void whatIsNoLookSaysWhy() {
        const auto file = ownLookFolder() / "bad.json";
        std::filesystem::create_directories(ownLookFolder());
        std::ofstream(file) << R"({"name": "Bad", "unit": "px", "side": 0, "treatments": []})";
        QVERIFY(sentence(readLookFile(file)).contains("bad.json"));
        // A name leads nowhere but beside the file.
        std::ofstream(file)
            << R"({"name": "Bad", "unit": "px", "side": 9, "treatments": [{"kind": "look-table", "file": "../../victim.cube"}]})";
        QVERIFY(sentence(readLookFile(file)).contains("looks/victim.cube") || !readLookFile(file));
        std::vector<std::string> troubles;
        QVERIFY(ownLooks(troubles).empty() && troubles.size() == 1);
        std::filesystem::remove(file);
    }

    void tablesInFiles() {
        const auto file = std::filesystem::path(home.path().toStdString()) / "Rökkur.cube";
        LookTable table;
        for (int i = 0; i < 8; ++i) table.entries.push_back({1.0f / 3, float(i) * 1e-5f, -0.5f});
        QVERIFY(writeCubeFile(file, table).has_value());
        const auto back = readCubeFile(file);
        QVERIFY(back.has_value());
        QCOMPARE((*back)->title, std::string("Rökkur"));
        QVERIFY((*back)->entries == table.entries);
        std::ofstream(file) << "LUT_3D_SIZE 2\n0 0 0\n";
        QVERIFY(sentence(readCubeFile(file)).contains("Rökkur.cube is not a table"));
        QVERIFY(sentence(readCubeFile(file)).contains("ends after 1 of its 8"));
    }
};

GLYPTOS_TEST(LooksTest)
#include "looks_test.moc"
