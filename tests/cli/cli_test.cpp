// glyptos-cli as a script sees it: exit codes, one line on stderr, files that are whole or not there. No
// display at all.
#include "file/data_folder.h"
#include "file/disk/atomic_file.h"
#include "file/project.h"
#include "file/zip_archive.h"
#include "support/cli.h"
#include "support/pictures.h"
#include "support/register.h"
#include "type/paragraph.h"

#include <QColor>
#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QIODevice>
#include <QImage>
#include <QJsonArray>
#include <QJsonObject>
#include <QStringLiteral>
#include <QTemporaryDir>

using namespace glyptos;
using namespace glyptos::test;

class CliTest : public CliFixture {
    Q_OBJECT
  private Q_SLOTS:
    void init() { folder = std::make_unique<QTemporaryDir>(); }

    void fromNothingToFiles() {
        QFile brief(at("brief.json"));
        QVERIFY(brief.open(QIODevice::WriteOnly));
        brief.write(
            R"({"artist":"The Gannet Hours","title":"Slack Tide Almanac","label":"","catalogue":"GSR 027","year":"2026",
                        "tracks":[{"side":"A","title":"Þröskuldur","seconds":222}]})");
        brief.close();
        const QString file = "Slök flóð – ný.glyptos";
        QCOMPARE(run({"new", file, "--form", "digital-cover", "--form", "sleeve-12", "--brief", "brief.json"})
                     .code,
                 0);
        const Ran info = run({"info", file, "--json"});
        QCOMPARE(info.code, 0);
        QCOMPARE(info.json()["title"].toString(), QStringLiteral("Slack Tide Almanac"));
        QCOMPARE(info.json()["pieces"].toArray().size(), 2);
        QVERIFY(QString::fromUtf8(run({"info", file}).out).contains("A1  Þröskuldur  3:42"));

        QCOMPARE(run({"render", file, "--width", "300", "--out", "cover.png"}).code, 0);
        QCOMPARE(QImage(at("cover.png")).size(), QSize(300, 300));
        QCOMPARE(
            run({"render", file, "--piece", "sleeve-12", "--ppi", "25.4", "--bleed", "--out", "flat.jpg"})
                .code,
            0);
        QCOMPARE(QImage(at("flat.jpg")).size(), QSize(640, 321)); // 633.8 + 6 by 315 + 6 mm at one pixel a mm
        const Ran jpeg = run({"export", file, "--piece", "digital-cover", "--as", "jpeg", "--width", "1600",
                              "--quality", "90", "--out", "store.jpg", "--json"});
        QCOMPARE(jpeg.code, 0);
        QCOMPARE(jpeg.json()["width"].toInt(), 1600);
        QCOMPARE(qint64(jpeg.json()["bytes"].toInt()), QFileInfo(at("store.jpg")).size());
        const Ran pdf =
            run({"export", file, "--piece", "sleeve-12", "--as", "pdf", "--out", "sleeve.pdf", "--json"});
        QCOMPARE(pdf.code, 0);
        QCOMPARE(pdf.json()["pages"].toArray()[0].toObject()["trimWidthMm"].toDouble(), 633.8);
        QVERIFY(pdf.json()["mostInkPercent"].toDouble() <= 330);
    }

    /// A picture that cannot be decoded is named on stderr and in JSON whatever is written, and the exit says
    /// so.
    void aPictureThatCannotBeDecoded() {
        auto bytes = jpegOf(300, 300, [](int x, int y) { return quarters(x, y, 300, 300); });
        bytes.resize(bytes.size() / 3);
        auto source = std::make_shared<Source>();
        source->id = contentId(bytes), source->name = "Torn harbour.jpg", source->format = "jpeg";
        source->width = source->height = 300;
        source->bytes = pictureBytes(bytes);
        ReleasePtr r = std::make_shared<const Release>();
        const FormList forms = shippedForms().value();
        for (const auto& form : forms)
            if (form->id == "digital-cover" || form->id == "sleeve-7") r = *withPiece(r, form);
        Layer layer;
        layer.content = PictureContent{source->id, {0, 0, 1, 1}};
        const auto pieces = r->pieces;
        for (const PiecePtr& piece : pieces)
            r = withLayer(withSource(r, source), {piece->id, "front"}, layer);
        QVERIFY(saveProject(*r, at("torn.glyptos").toStdString()));
        const QList<QStringList> ways{
            {"render", "torn.glyptos", "--width", "200", "--out", "a.png"},
            {"render", "torn.glyptos", "--width", "200", "--out", "a.jpg"},
            {"export", "torn.glyptos", "--piece", "digital-cover", "--as", "png", "--width", "200", "--out",
             "b.png"},
            {"export", "torn.glyptos", "--piece", "digital-cover", "--as", "jpeg", "--width", "200", "--out",
             "b.jpg"},
            {"export", "torn.glyptos", "--piece", "digital-cover", "--as", "ora", "--out", "b.ora"},
            {"export", "torn.glyptos", "--piece", "sleeve-7", "--as", "pdf", "--out", "b.pdf"}};
        for (const QStringList& way : ways) {
            const Ran ran = run(way + QStringList{"--json"});
            QCOMPARE(ran.code, 1);
            QVERIFY(QFileInfo(at(way.last())).size() > 0);
            const QString err = QString::fromUtf8(ran.err);
            QVERIFY2(err.contains("“Torn harbour.jpg” is cut short") && err.count('\n') == 1,
                     qPrintable(err));
            QCOMPARE(ran.json()["missing"].toArray(), QJsonArray{"Torn harbour.jpg"});
            QCOMPARE(run(way).code, 1);
        }
    }

    void formsAndTheirFigures() {
        const Ran all = run({"forms", "--json"});
        QStringList ids;
        for (const auto& form : all.json().array()) ids << form.toObject()["id"].toString();
        for (const char* id : {"digital-cover", "podcast-tile", "sleeve-12"}) QVERIFY(ids.contains(id));
        const auto spine = [](const Ran& ran) {
            return ran.json()["parameters"].toObject()["spine"].toDouble();
        };
        QCOMPARE(spine(run({"forms", "sleeve-12", "--set", "spine=4mm", "--json"})), 4.0);
        QCOMPARE(spine(run({"forms", "sleeve-12", "--set", "discs=2", "--set", "board=0.52", "--json"})),
                 2 * 0.52 + 2 * 2.6 + 0.3);
        QCOMPARE(spine(run({"forms", "sleeve-12", "--set", "spine=1/8in + 1mm", "--json"})), 25.4 / 8 + 1);
        QVERIFY(QString::fromUtf8(run({"forms", "sleeve-12"}).out)
                    .contains("spine = 3.8 mm   (2 × 0.45 + 1 × (2.3 + 0.3) + 0.3)"));
    }

    void theDemoHoldsTogether() {
        const Ran info = run({"info", QStringLiteral(DEMO_RELEASE), "--json"});
        QCOMPARE(info.code, 0);
        QStringList forms;
        for (const auto& piece : info.json()["pieces"].toArray())
            forms << piece.toObject()["form"].toString();
        for (const char* id : {"digital-cover", "podcast-tile", "sleeve-12"}) QVERIFY(forms.contains(id));
        QVERIFY(info.json()["sources"].toArray().size() >= 9);
        QCOMPARE(run({"render", QStringLiteral(DEMO_RELEASE), "--width", "200", "--out", "a.png"}).code, 0);
        const QImage cover(at("a.png"));
        QVERIFY(cover.pixelColor(100, 5).blueF() > cover.pixelColor(100, 5).redF()); // night sky above
    }

    void refusals_data() {
        QTest::addColumn<QStringList>("arguments");
        QTest::addColumn<QString>("says");
        const auto row = [](const char* name, const QStringList& arguments, const char* says) {
            QTest::newRow(name) << arguments << says;
        };
        row("nothing", {}, "--help");
        row("unknown command", {"polish"}, "--help");
        row("no such file", {"info", "gone.glyptos"}, "“gone.glyptos” was not opened");
        row("not a release", {"info", "words.txt"}, "not a Glyptos release");
        row("unknown form", {"new", "x.glyptos", "--form", "sleeve-13"}, "sleeve-13");
        row("brief is not JSON", {"new", "x.glyptos", "--form", "sleeve-12", "--brief", "words.txt"},
            "“words.txt” cannot be used");
        row("file is there", {"new", "words.txt", "--form", "sleeve-12"}, "is there already");
        row("folder is gone", {"new", "gone/x.glyptos", "--form", "sleeve-12"}, "was not written");
        row("unknown figure", {"forms", "sleeve-12", "--set", "lid=4"}, "no parameter “lid”");
        row("figure out of range", {"forms", "sleeve-12", "--set", "spine=900"}, "must lie between");
        row("not a figure", {"forms", "sleeve-12", "--set", "spine=wide"}, "wide");
        row("unknown piece", {"render", "good.glyptos", "--piece", "lid", "--out", "x.png"},
            "no piece “lid”");
        row("unknown panel", {"render", "good.glyptos", "--panel", "lid", "--out", "x.png"},
            "no panel “lid”");
        row("unknown take", {"render", "good.glyptos", "--take", "Q", "--out", "x.png"}, "no take “Q”");
        row("unknown ending", {"render", "good.glyptos", "--out", "x.bmp"}, ".png");
        row("ppi of a screen piece", {"render", "good.glyptos", "--ppi", "300", "--out", "x.png"}, "--width");
        row("negative width", {"render", "good.glyptos", "--width", "-4", "--out", "x.png"}, "--width");
        row("too wide", {"render", "good.glyptos", "--width", "200000", "--out", "x.png"}, "x");
        row("quality of 400",
            {"export", "good.glyptos", "--piece", "digital-cover", "--as", "jpeg", "--quality", "400",
             "--width", "64", "--out", "x.jpg"},
            "between 1 and 100");
        row("print of a screen piece",
            {"export", "good.glyptos", "--piece", "digital-cover", "--as", "pdf", "--out", "x.pdf"},
            "made for screens");
        row("width of an OpenRaster file",
            {"export", "good.glyptos", "--piece", "digital-cover", "--as", "ora", "--width", "64", "--out",
             "x.ora"},
            "--width is for JPEG and PNG");
        row("panel of a print file",
            {"export", "good.glyptos", "--piece", "digital-cover", "--as", "pdf", "--panel", "front", "--out",
             "x.pdf"},
            "whole flat");
        row("into a folder that is gone", {"render", "good.glyptos", "--width", "64", "--out", "gone/x.png"},
            "“x.png” was not written");
    }
    void refusals() {
        QFETCH(QStringList, arguments);
        QFETCH(QString, says);
        write(at("words.txt").toStdString(), {'a', 'b', 'c'});
        QCOMPARE(run({"new", "good.glyptos", "--form", "digital-cover"}).code, 0);
        refused(run(arguments), says);
        QCOMPARE(files(), (QStringList{"good.glyptos", "words.txt"}));
        QCOMPARE(QFileInfo(at("words.txt")).size(), 3);
    }

    void openRasterAsItStands() {
        const auto picture = pngOf(30, 20, [](int x, int) {
            return std::array<uint8_t, 4>{uint8_t(8 * x), 90, 40, 255};
        });
        const auto make = [&](const char* name, const std::string& operation) {
            const std::string xml =
                "<image w='30' h='20'><stack><layer name='Veil' src='a.png' composite-op='" + operation +
                "'/></stack></image>";
            return bool(writeZip(at(name).toStdString(), {{"mimetype", bytesOf("image/openraster"), false},
                                                          {"stack.xml", bytesOf(xml), true},
                                                          {"a.png", picture, false}}));
        };
        QVERIFY(make("good.ora", "svg:src-over") && make("odd.ora", "acme:glow"));
        QCOMPARE(run({"render", "good.ora", "--out", "good.png"}).code, 0);
        QCOMPARE(QImage(at("good.png")).size(), QSize(30, 20)); // its own size
        QCOMPARE(QImage(at("good.png")).pixelColor(10, 5), QColor(80, 90, 40));
        const Ran odd = run({"render", "odd.ora", "--width", "60", "--out", "odd.png"});
        QCOMPARE(odd.code, 1); // rendered, with something to say
        QVERIFY2(odd.err.contains("acme:glow") && odd.err.count('\n') == 1, odd.err.constData());
        QCOMPARE(QImage(at("odd.png")).size(), QSize(60, 40));
        QCOMPARE(run({"export", "good.ora", "--piece", "good.ora", "--as", "ora", "--out", "again.ora"}).code,
                 0);
        QCOMPARE(run({"render", "again.ora", "--out", "again.png"}).code, 0);
        QCOMPARE(QImage(at("again.png")), QImage(at("good.png")));
    }

    void theCrate() {
        QVERIFY(QDir(at("")).mkpath("in/textures"));
        const auto photo = [&](const char* name, std::array<uint8_t, 3> c) {
            write(at(name).toStdString(), jpegOf(90, 60, [=](int x, int) {
                      const bool bar = x / 15 % 2 == 0;
                      return std::array<uint8_t, 4>{uint8_t(c[0] / (bar ? 1 : 2)),
                                                    uint8_t(c[1] / (bar ? 1 : 2)), c[2], 255};
                  }));
        };
        photo("in/Brim við Höfn.jpg", {40, 80, 150});
        photo("in/textures/rust.jpg", {190, 70, 30});
        photo("in/textures/rust again.jpg", {180, 76, 40});
        write(at("in/notes.txt").toStdString(), {'h', 'i'});
        const QStringList own{"--crate", at("crate")};
        Ran ran = run(QStringList{"crate", "add", "in", "--json"} + own);
        QCOMPARE(ran.code, 1); // the notes are no picture
        QCOMPARE(ran.json()["added"].toInt(), 3);
        QVERIFY(ran.err.contains("notes.txt") && ran.err.count('\n') == 1);
        QCOMPARE(run(QStringList{"crate", "add", "in/textures"} + own).code, 0);
        ran = run(QStringList{"crate", "find", "hofn", "--json"} + own);
        QCOMPARE(ran.code, 0);
        QCOMPARE(ran.json()[0]["title"].toString(), QStringLiteral("Brim við Höfn"));
        QCOMPARE(ran.json()[0]["file"].toString(), at("in/Brim við Höfn.jpg"));
        ran = run(QStringList{"crate", "find", "--kind", "texture", "--json"} + own);
        QCOMPARE(ran.json().array().size(), 2);
        QCOMPARE(run(QStringList{"crate", "find", "gannet"} + own).code, 1);
        QCOMPARE(run(QStringList{"crate", "find", "--large-enough"} + own).code, 1);
        ran =
            run(QStringList{"crate", "similar", "in/textures/rust.jpg", "--structure", "0", "--json"} + own);
        QCOMPARE(ran.code, 0);
        QCOMPARE(ran.json()[0]["title"].toString(), QStringLiteral("Rust again"));
        QVERIFY(ran.json()[0]["difference"].toDouble() < ran.json()[1]["difference"].toDouble());
        photo("new.jpg", {38, 84, 148}); // not in the crate
        ran = run(QStringList{"crate", "similar", "new.jpg", "--most", "1"} + own);
        QVERIFY(QString::fromUtf8(ran.out).contains("Brim"));
        refused(run(QStringList{"crate", "similar", "nothing"} + own), "no source “nothing”");
        refused(run(QStringList{"crate", "find", "--kind", "poster"} + own), "no kind “poster”");
        refused(run(QStringList{"crate", "find", "--colour", "mauve"} + own), "red, orange");
        refused(run(QStringList{"crate", "similar", "new.jpg", "--colour", "0", "--structure", "0"} + own),
                "weights");
        write(at("crate/crate.book").toStdString(), {'n', 'o', '\n'});
        refused(run(QStringList{"crate", "find", "a"} + own), "not the book of a crate");
    }

    void creditsOfTheDemo() {
        const Ran text = run({"crate", "credits", QStringLiteral(DEMO_RELEASE)});
        QCOMPARE(text.code, 1); // one maker is not known
        QVERIFY(QString::fromUtf8(text.out).contains("“The keeper”, Ines Quayle, Harbour Credit\n"));
        QVERIFY(text.err.contains("paper.jpg") && text.err.count('\n') == 1);
        const Ran csv = run({"crate", "credits", QStringLiteral(DEMO_RELEASE), "--csv"});
        QVERIFY(csv.out.startsWith("title,maker,licence,credit,origin,file,pieces\r\n"));
        const Ran json = run({"crate", "credits", QStringLiteral(DEMO_RELEASE), "--json"});
        QVERIFY(json.json().array().size() >= 9);
        QVERIFY(!json.out.contains("harbour-wall")); // only on the wall
    }

    void facesAndWhatTheyLookLike() {
        const auto families = [&](const QStringList& more) {
            QStringList out;
            const auto listed = run(QStringList{"faces", "--json"} + more).json().array();
            for (const auto& face : listed)
                if (face.toObject()["shipped"].toBool()) out << face.toObject()["family"].toString();
            return out;
        };
        QVERIFY(families({}).size() > 10);
        QCOMPARE(families({"--style", "blackletter"}), QStringList("Blankenburg_UNZ1A"));
        QCOMPARE(families({"--style", "slab", "--style", "serif"}), QStringList("CMU Concrete"));
        const QStringList greek = families({"--has", "θάλασσα"});
        QVERIFY(greek.contains("GFS Didot") && !greek.contains("Bebas Neue"));
        const Ran told = run({"faces", "--style", "condensed"});
        QCOMPARE(told.code, 0);
        QVERIFY(told.out.contains("Bebas Neue (shipped): 3 styles, grotesque, condensed, display; capitals"));
        const Ran none = run({"faces", "--style", "slab", "--style", "script"});
        QCOMPARE(none.code, 1);
        QVERIFY(none.out.isEmpty() && none.err.contains("no such face"));
        refused(run({"faces", "--style", "fancy"}),
                "Faces are not told apart by “fancy”, but by blackletter");
    }

    void theFaceOfWordsInAPicture() {
        // On the right half of a grey picture; the left half has a bar that is not letters.
        const FontLibrary fonts(dataFolder() / "fonts");
        TextSpec words;
        words.text = "Slack Tide", words.letters.family = "Bebas Neue", words.letters.size = 70;
        const Paragraph set = setParagraph(words, fonts);
        const int width = int(set.ink.w) * 2 + 80, height = int(set.ink.h) + 40;
        Path all;
        all.append(set.outline, Affine::translation(width / 2.0 + 20 - set.ink.x, 20 - set.ink.y));
        all.addRect({20, 20, 30, double(height) - 40});
        const auto cover = coverage(all, {}, width, height);
        const auto png = pngOf(width, height, [&](int x, int y) {
            const auto grey = uint8_t(170 - 90 * cover.data()[size_t(y) * size_t(width) + size_t(x)]);
            return std::array<uint8_t, 4>{grey, grey, grey, 255};
        });
        QVERIFY(writeFile(at("sign.png").toStdString(), png));
        const QString box = QStringLiteral("%1,0,%2,%3").arg(width / 2).arg(width / 2).arg(height);
        const Ran found = run({"faces", "find", "sign.png", "--words", "Slack Tide", "--box", box, "--json"});
        QCOMPARE(found.code, 0);
        const auto best = found.json().array().first().toObject();
        QCOMPARE(best["family"].toString(), QStringLiteral("Bebas Neue"));
        QVERIFY(best["score"].toDouble() > 0.9 && !best["style"].toString().isEmpty());
        refused(run({"faces", "find", "none.png", "--words", "x"}), "none.png");
        refused(run({"faces", "find", "sign.png", "--words", "x", "--box", "9000,0,10,10"}),
                "The box lies outside");
        const Ran nothing =
            run({"faces", "find", "sign.png", "--words", "x", "--box", "60,0,40,40"}); // bare ground
        QCOMPARE(nothing.code, 1);
        QVERIFY(nothing.err.contains("no such words"));
    }

    void theWallIsRenderedToo() {
        QCOMPARE(run({"render", QStringLiteral(DEMO_RELEASE), "--piece", "wall", "--width", "400", "--out",
                      "wall.png"})
                     .code,
                 0);
        QCOMPARE(QImage(at("wall.png")).width(), 400);
        QCOMPARE(run({"new", "bare.glyptos", "--form", "digital-cover"}).code, 0);
        refused(run({"render", "bare.glyptos", "--piece", "wall", "--out", "no.png"}), "Nothing is pinned");
    }

    void aFullDiskLeavesNothing() {
        QVERIFY(QFile::copy(QStringLiteral(DEMO_RELEASE), at("demo.glyptos")));
        QCOMPARE(run({"new", "sleeve.glyptos", "--form", "sleeve-12"}).code, 0);
        constexpr rlim_t small = 20000;
        refused(run({"export", "demo.glyptos", "--piece", "digital-cover", "--as", "jpeg", "--width", "900",
                     "--out", "a.jpg"},
                    small),
                "“a.jpg” was not written (File too large)");
        refused(
            run({"export", "sleeve.glyptos", "--piece", "sleeve-12", "--as", "pdf", "--out", "a.pdf"}, small),
            "“a.pdf” was not written");
        QCOMPARE(files(), (QStringList{"demo.glyptos", "sleeve.glyptos"}));
    }
};

GLYPTOS_TEST(CliTest)
#include "cli_test.moc"
