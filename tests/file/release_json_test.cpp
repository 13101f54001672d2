// Releases as text: every kind of thing there and back, and what is said of an entry that is wrong.
#include "base/json.h"
#include "file/release_json/release_json.h"
#include "file/release_json/treatment_codec.h"
#include "release/edits/edits.h"
#include "release/same.h"
#include "release/walks.h"
#include "support/every_kind.h"
#include "support/register.h"

#include <set>

using namespace glyptos;
using namespace glyptos::test;

class ReleaseJsonTest : public QObject {
    Q_OBJECT
    HeldPictures pictures;
    std::vector<std::shared_ptr<const Form>> forms;
    std::map<std::string, PixelTilePtr> painted;
    const TileSource tiles = [this](const std::string& name, const PixelFormat&) -> Result<PixelTilePtr> {
        const auto found = painted.find(name);
        if (found == painted.end()) return fail(Fault::Damaged, "the tile “" + name + "” is missing");
        return found->second;
    };
    std::map<std::string, LookTablePtr> tables;
    LookSource looks = [this](const std::string& name) -> Result<LookTablePtr> {
        const auto found = tables.find(name);
        if (found == tables.end()) return fail(Fault::Damaged, "the table “" + name + "” is missing");
        return found->second;
    };
    ReleasePtr release = read(releaseOfEveryKind(pictures)); // its colours rounded to eight bits once
    std::string text = releaseToJson(*release);

    ReleasePtr read(const ReleasePtr& made) {
        forms = {made->pieces[0]->form};
        eachPainted(*made, [&](const PixelTiles& all) {
            for (const auto& [place, tile] : all.tiles()) painted[tileName(tile->hash())] = tile;
        });
        eachTreatment(*made, [&](const Treatment& treatment) {
            for (const FigureValue& value : treatment.figures.values())
                if (const auto* table = std::get_if<LookTablePtr>(&value); table && *table)
                    tables[lookName(**table)] = *table;
        });
        return std::make_shared<const Release>(
            releaseFromJson(releaseToJson(*made), forms, tiles, looks).value());
    }

  private Q_SLOTS:
    void everyKindComesBack() {
        const auto back = releaseFromJson(text, forms, tiles, looks);
        QVERIFY2(back.has_value(), back ? "" : back.error().message.c_str());
        QCOMPARE(releaseToJson(*back), text);
        for (size_t i = 0; i < release->pieces.size(); ++i)
            QVERIFY(
                sameStack(back->pieces[i]->take().stack("front"), release->pieces[i]->take().stack("front")));
        QCOMPARE(back->palette, release->palette);
        QCOMPARE(back->nextId, release->nextId);
    }

    void pathsAndPicturesOfTreatmentsComeBack_data() {
        QTest::addColumn<bool>("px");
        QTest::newRow("px") << true;
        QTest::newRow("mm") << false;
    }
    void pathsAndPicturesOfTreatmentsComeBack() {
        QFETCH(bool, px);
        const Unit unit = px ? Unit::Px : Unit::Mm;
        Treatments all;
        const auto add = [&](const char* kind, const char* figure, FigureValue value) {
            all.push_back(newTreatment(*treatmentKind(kind), unitsPerMm(px)));
            all.back().figures.set(all.back().kind->find(figure), std::move(value));
        };
        add("sweep-blur", "along",
            std::vector<Contour>{
                {{{{-12.5, 3.25}, {}, {40, 7}}, {{90.125, 60}, {-3, 0}, {}}}, false},
                {{{{1, 2}, {0.5, 0}, {-0.5, 0}}, {{8, 2}, {}, {}}, {{4, 9}, {}, {}}}, true}});
        add("displacement", "by", std::string("layer:7"));
        add("displacement", "by", std::string("p3"));
        add("sweep-blur", "along", std::vector<Contour>{});
        const Json json = parseJson(toJson(all, unit).dump()).value();
        const Treatments back = readTreatments(Entry(json, "treatments"), {unit, tiles, looks});
        QVERIFY(back == all);
        QVERIFY(back[0].figures.path(0).size() == 2 && back[0].figures.path(0)[1].closed);
    }

    void aWrongNextIdIsMended_data() {
        QTest::addColumn<QByteArray>("says");
        for (const char* says : {"1", "0", "-7", "1e300", "2.5", "null", "\"n4\"", "1000000000"})
            QTest::newRow(says) << QByteArray(says);
        QTest::newRow("nothing") << QByteArray();
    }
    void aWrongNextIdIsMended() {
        QFETCH(QByteArray, says);
        ReleasePtr more = release;
        std::set<std::string> ids;
        for (int i = 0; i < 3; ++i) {
            Layer layer;
            layer.content = FillContent{Ink(1, 0, 0, 1)};
            const Made made = withLayer(more, frontOf(more), layer);
            more = made.release, ids.insert(made.id);
        }
        QByteArray json = QByteArray::fromStdString(releaseToJson(*more));
        const QByteArray right = "\"nextId\": " + QByteArray::number(more->nextId) + ",";
        QVERIFY(json.contains(right));
        json.replace(right, says.isEmpty() ? QByteArray() : "\"nextId\": " + says + ",");
        const auto back = releaseFromJson(json.toStdString(), forms, tiles, looks);
        QVERIFY2(back.has_value(), back ? "" : back.error().message.c_str());
        Layer layer;
        layer.content = FillContent{Ink(1, 0, 0, 1)};
        const ReleasePtr read = std::make_shared<const Release>(*back);
        QVERIFY(!ids.contains(withLayer(read, frontOf(read), layer).id));
    }

    void wrongEntriesSayWhere_data() {
        QTest::addColumn<QByteArray>("from");
        QTest::addColumn<QByteArray>("to");
        QTest::addColumn<QByteArray>("says");
        const auto row = [](const char* from, const char* to, const char* says) {
            QTest::newRow(says) << QByteArray(from) << QByteArray(to) << QByteArray(says);
        };
        row("\"kind\": \"shape\"", "\"kind\": \"wax\"", "is a layer of the unknown kind “wax”");
        row("\"paint\": \"clouds\"", "\"paint\": \"soot\"", "is a paint of the unknown kind “soot”");
        row("\"bits\": 16", "\"bits\": 12", "has pixels of an unknown depth");
        row("\"shows\": true", "\"shows\": 7", "shows");
        row("\"blend\": \"overlay\"", "\"blend\": \"glare\"", "the blend mode “glare” is not known");
        row("\"spread\": \"hold\"", "\"spread\": \"drip\"", "should be hold, repeat or mirror");
        row("\"octaves\": 5", "\"octaves\": 50", "octaves should be a whole number from 1 to 12");
        row("\"strength\": 1", "\"strength\": 2", "mask.strength should lie between 0 and 1");
        row("\"picture\": {", "\"pitcher\": {", "is a mask of no known form");
        row("\"form\": \"test\"", "\"form\": \"kite\"", "uses the form “kite”, which is not installed");
        row("\"front\": [", "\"rear\": [", "is of no panel that the form has");
        row("\"version\": 13", "\"version\": 14", "it was written by a newer version of Glyptos (format 14)");
        row("\"pulledIn\": \"mirror\"", "\"pulledIn\": \"fog\"", "should be edge, mirror or nothing");
        row("\"columns\": 4", "\"columns\": 5", "has not as many points as its columns and rows need");
        row("\"across\": 192", "\"across\": 0", "across should be a whole number from 1 to 8192");
        row("\"strength\": 1.2", "\"strength\": 1.6", "strength should lie between 0 and 1.5");
        row("\"corners\": [", "\"corners\": [[0, 0], [1, 0], [0, 1], [1, 1]], \"old\": [", "make no plane");
        row("\"tip\": \"dry\"", "\"tip\": \"wet\"",
            "should be round, flat, grain, spatter, dry, ink or stamp");
        row("\"spacing\": 0.7", "\"spacing\": -1", "brushed.spacing should lie between 0 and 20");
        row("\"pressures\": [", "\"pressures\": [2, ", "is no pressure from 0 to 1");
        row("\"id\": \"glow\"", "\"id\": \"hole\"", "is empty or used twice");
    }
    void wrongEntriesSayWhere() {
        QFETCH(QByteArray, from);
        QFETCH(QByteArray, to);
        QFETCH(QByteArray, says);
        QByteArray wrong = QByteArray::fromStdString(text);
        const qsizetype at = wrong.indexOf(from);
        QVERIFY2(at >= 0, from.constData());
        wrong.replace(at, from.size(), to);
        const auto read = releaseFromJson(wrong.toStdString(), forms, tiles, looks);
        QVERIFY(!read);
        QVERIFY2(read.error().message.find(says.toStdString()) != std::string::npos,
                 read.error().message.c_str());
    }
};

GLYPTOS_TEST(ReleaseJsonTest)
#include "release_json_test.moc"
