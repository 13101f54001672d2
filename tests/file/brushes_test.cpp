// Brushes that are shipped and brushes that are saved.
#include "file/brushes.h"
#include "raster/brush/dab_drawing.h"
#include "raster/brush/way_dabs.h"
#include "support/pictures.h"
#include "support/register.h"

#include <QTemporaryDir>
#include <QTest>
#include <set>

using namespace glyptos;
using namespace glyptos::test;

class BrushesTest : public QObject {
    Q_OBJECT
    QTemporaryDir home;

    static void writeText(const std::filesystem::path& file, const std::string& text) {
        write(file, {text.begin(), text.end()});
    }

  private Q_SLOTS:
    void initTestCase() { qputenv("XDG_DATA_HOME", home.path().toUtf8()); }

    /// At least sixteen, each with a name of its own, of every tip, and each of them draws something.
    void shipped() {
        const auto& all = shippedBrushes();
        QVERIFY(all.size() >= 16);
        std::set<std::string> names;
        std::set<TipKind> tips;
        std::error_code none;
        size_t files = 0;
        for ([[maybe_unused]] const auto& file :
             std::filesystem::directory_iterator(all.front().file.parent_path(), none))
            ++files;
        QCOMPARE(all.size(), files); // none of them is left out as wrong
        for (const NamedBrush& brush : all) {
            names.insert(brush.name), tips.insert(brush.brush.tip);
            QVERIFY2(!brush.words.empty(), brush.name.c_str());
            Brush small = brush.brush;
            small.diameter = 40;
            std::vector<StampLook> looks;
            for (const Stamp& stamp : brush.stamps) looks.push_back(stampOf(outlineOf(stamp.outline)));
            const TipLook look = tipLook(small, {}, looks);
            std::vector<float> values(400 * 200 * (look.coloured ? 4 : 1));
            drawDabs(look, dabsAlong({{{{50, 100}, {350, 100}}, false}}, small),
                     {{0, 0, 400, 200}, values.data(), look.coloured});
            double sum = 0;
            for (size_t i = 0; i < size_t(400) * 200; ++i) sum += double(values[i]);
            QVERIFY2(sum > 200, brush.name.c_str());
        }
        QCOMPARE(names.size(), all.size());
        QCOMPARE(tips.size(), kTipNames.size());
    }

    /// Saved whole, over the one of the same name, and read back as it was.
    void saved() {
        NamedBrush brush = shippedBrushes().front();
        brush.name = "Kraftaverk — №1/2";
        brush.brush.spread = 2.5, brush.brush.byChance = true, brush.brush.blend = BlendMode::Screen;
        brush.stamps = {{"a picture", {}},
                        {{}, {{{{{0, 0}, {}, {}}, {{9, 1}, {1, 1}, {}}, {{3, 8}, {}, {}}}, true}}}};
        brush.brush.tip = TipKind::Stamp;
        const auto first = saveBrush(brush), again = saveBrush(brush);
        QVERIFY(first && again);
        QCOMPARE(first->file, again->file);
        NamedBrush other = brush;
        other.name = "Kraftaverk  №1 2"; // another name that makes the same file name
        QVERIFY(saveBrush(other));
        std::vector<std::string> troubles;
        const auto all = ownBrushes(troubles);
        QCOMPARE(all.size(), size_t(2));
        const auto found =
            std::find_if(all.begin(), all.end(), [&](const auto& b) { return b.name == brush.name; });
        QVERIFY(found != all.end() && found->brush == brush.brush && found->stamps == brush.stamps);
        QVERIFY(removeBrush(all[0]) && removeBrush(all[1]));
        QVERIFY(!removeBrush(all[0]) && !removeBrush(shippedBrushes().front()));
    }

    /// What is wrong with a file is said, and the others are there all the same.
    void wrongFiles() {
        std::filesystem::create_directories(ownBrushFolder());
        const auto says = [&](const std::string& text) {
            writeText(ownBrushFolder() / "wrong.json", text);
            std::vector<std::string> troubles;
            ownBrushes(troubles);
            return troubles.empty() ? std::string() : troubles.front();
        };
        QVERIFY(says("{").find("wrong.json") != std::string::npos);
        QVERIFY(says(R"({"name": "x", "tip": "wet"})").find("should be round") != std::string::npos);
        QVERIFY(says(R"({"name": " ", "tip": "round"})").find("no name") != std::string::npos);
        QVERIFY(says(R"({"name": "x", "tip": "round", "hardness": 7})").find("between 0 and 1") !=
                std::string::npos);
        QVERIFY(says(R"({"name": "x", "tip": "stamp"})").find("no stamp") != std::string::npos);
        QVERIFY(says(R"({"name": "x", "tip": "stamp", "ornaments": ["kraken"]})").find("ornament") !=
                std::string::npos);
        QCOMPARE(says(R"({"name": "x", "tip": "round"})"), std::string());
        std::filesystem::remove(ownBrushFolder() / "wrong.json");
    }

    /// A folder that cannot be written is said, and nothing is half there.
    void noRoomToSave() {
        QTemporaryDir other;
        writeText(std::filesystem::path(other.path().toStdString()) / "glyptos",
                  "a file where a folder should be");
        qputenv("XDG_DATA_HOME", other.path().toUtf8());
        const auto done = saveBrush(shippedBrushes().front());
        QVERIFY(!done && done.error().message.find("was not saved") != std::string::npos);
        qputenv("XDG_DATA_HOME", home.path().toUtf8());
    }
};

GLYPTOS_TEST(BrushesTest)
#include "brushes_test.moc"
