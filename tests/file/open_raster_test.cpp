// OpenRaster: every operation of its specification rendered right, layers there and back, and files that lie.
#include "file/disk/atomic_file.h"
#include "file/open_raster.h"

#include "file/data_folder.h"
#include "file/open_raster_blends.h"
#include "file/pictures/picture_store.h"
#include "file/zip_archive.h"
#include "support/noting.h"
#include "support/pictures.h"
#include "support/register.h"

#include <QStringLiteral>
#include <QTemporaryDir>

using namespace glyptos;
using namespace glyptos::test;

namespace {

constexpr int kOneStep = 1; // of 255: bytes in the PNG

std::array<uint8_t, 4> warm(int x, int y) {
    return {uint8_t(40 + 5 * x), uint8_t(200 - 4 * y), 90, uint8_t(y < 10 ? 255 : 128)};
}
std::array<uint8_t, 4> cool(int x, int y) {
    return {uint8_t(30 + 3 * y), uint8_t(6 * x), 220, uint8_t(x < 20 ? 255 : 90)};
}

} // namespace

class OpenRasterTest : public QObject {
    Q_OBJECT
    std::unique_ptr<QTemporaryDir> folder;
    FontLibrary fonts{dataFolder() / "fonts", true};

    std::filesystem::path at(const char* name) const {
        return std::filesystem::path(folder->path().toStdString()) / name;
    }

    /// A file of two pictures, with the text of stack.xml as given.
    std::filesystem::path made(const std::string& xml,
                               const std::string& mimetype = "image/openraster") const {
        const auto a = pngOf(32, 20, cool), b = pngOf(32, 20, warm);
        const auto file = at("made.ora");
        if (!writeZip(file, {{"mimetype", bytesOf(mimetype), false},
                             {"stack.xml", bytesOf(xml), true},
                             {"data/a.png", a, false},
                             {"data/b.png", b, false}}))
            qFatal("not written");
        return file;
    }
    static std::string image(const std::string& inside) {
        return "<?xml version='1.0'?><image w='32' h='20'><stack>" + inside + "</stack></image>";
    }
    static std::string layer(const std::string& src, const std::string& more = {}) {
        return "<layer src='data/" + src + ".png' " + more + "/>";
    }

    Buffer<uint8_t> rendered(const OpenRaster& raster) {
        const ReleasePtr release = releaseOf(raster, "made").value();
        PictureStore pictures;
        Renderer renderer(pictures, fonts);
        return renderer.renderBgra8(panelScene(release, {release->pieces[0]->id, "front"}, {1, false}),
                                    {0, 0, raster.width, raster.height});
    }

  private Q_SLOTS:
    void init() { folder = std::make_unique<QTemporaryDir>(); }

    void everyOperation() {
        // Against the same two pictures, as they are decoded, blended by the kernel that blend_test checks.
        const Picture source = decodePicture(pngOf(32, 20, cool), "a", {}).value(),
                      backdrop = decodePicture(pngOf(32, 20, warm), "b", {}).value();
        for (const auto& [op, mode] : kOpenRasterBlends) {
            const auto raster = readOpenRaster(
                made(image(layer("a", "opacity='0.8' composite-op='" + std::string(op) + "'") + layer("b"))));
            QVERIFY2(raster, qPrintable(sentence(raster)));
            QVERIFY(raster->notes.empty());
            const auto out = rendered(*raster);
            for (int y = 0; y < 20; ++y)
                for (int x = 0; x < 32; ++x) {
                    alignas(64) float s[4][16] = {}, d[4][16] = {};
                    const auto a = pixel(source, x, y), b = pixel(backdrop, x, y);
                    for (size_t c = 0; c < 4; ++c) {
                        s[c][0] = float(a[c]) / 255 * (c < 3 ? float(a[3]) / 255 : 1);
                        d[c][0] = float(b[c]) / 255 * (c < 3 ? float(b[3]) / 255 : 1);
                    }
                    blendRow(mode, {{d[0], d[1], d[2], d[3]}}, {{s[0], s[1], s[2], s[3]}}, 0.8f, 1);
                    const uint8_t* p = out.data() + size_t(y * 32 + x) * 4;
                    for (size_t c = 0; c < 3; ++c)
                        QVERIFY2(std::abs(p[2 - c] - d[c][0] * 255) <= kOneStep, op.data());
                    QVERIFY2(std::abs(p[3] - d[3][0] * 255) <= kOneStep, op.data());
                }
        }
    }

    void positionsNamesAndLamps() {
        const auto raster = readOpenRaster(made(
            image(layer("a", "name='Höfn' x='7' y='-3' visibility='hidden'") + layer("b", "x='4' y='5'"))));
        QVERIFY2(raster, qPrintable(sentence(raster)));
        QCOMPARE(raster->layers.size(), size_t(2));
        QCOMPARE(QString::fromStdString(raster->layers[0]->name), QStringLiteral("Höfn"));
        QVERIFY(!raster->layers[0]->on);
        const auto out = rendered(*raster);
        QCOMPARE(int(out[3]), 0);                               // left of and above the second
        const uint8_t* p = out.data() + size_t(6 * 32 + 5) * 4; // its own pixel (1, 1)
        QCOMPARE(int(p[2]), int(warm(1, 1)[0]));
    }

    void stacksAreIsolatedOnlyWhenTheySaySo() {
        const std::string inside = layer("a", "composite-op='svg:multiply'");
        const auto passing =
            rendered(readOpenRaster(made(image("<stack>" + inside + "</stack>" + layer("b")))).value());
        const auto isolated = rendered(
            readOpenRaster(made(image("<stack isolation='isolate'>" + inside + "</stack>" + layer("b"))))
                .value());
        const auto flat = rendered(readOpenRaster(made(image(inside + layer("b")))).value());
        const auto over = rendered(readOpenRaster(made(image(layer("a") + layer("b")))).value());
        QVERIFY(std::equal(passing.data(), passing.data() + passing.size(), flat.data()));
        QVERIFY(std::equal(isolated.data(), isolated.data() + isolated.size(), over.data()));
        QVERIFY(!std::equal(passing.data(), passing.data() + passing.size(), isolated.data()));
    }

    void thereAndBack() {
        HeldPictures pictures;
        ReleasePtr r = screenRelease(120, 80);
        const PanelRef front = frontOf(r);
        r = pictures.add(r, "p", pictureOf(40, 30, [](int x, int y) {
                             return std::array<uint8_t, 4>{uint8_t(x * 6), uint8_t(y * 8), 60, 255};
                         }));
        Layer ground, picture, words;
        ground.name = "Ground";
        ground.content =
            FillContent{evenRun({0, 0, 120, 80}, 20, {0.1f, 0.3f, 0.4f, 1}, {0.9f, 0.6f, 0.2f, 1})};
        picture.id = "pic";
        picture.name = "Þang & <þari>";
        picture.content = PictureContent{"p", {0, 0, 1, 1}};
        picture.placement = {{70, 40}, 1.3, 1.3, 15, false, false};
        picture.blend = BlendMode::SoftLight;
        picture.opacity = 0.7;
        words.name = "Words";
        TextContent text;
        text.spec.text = "Flóð";
        text.spec.letters.size = 24;
        words.content = text;
        words.placement.position = {8, 6};
        words.blend = BlendMode::Etch;
        std::string group;
        r = withLayer(withLayer(withLayer(r, front, ground), front, picture), front, words);
        r = noting(group, *withGrouped(r, front, {"pic"}));
        Renderer renderer(pictures, fonts);
        const auto notes = writeOpenRaster(renderer, r, front, {}, at("out.ora"));
        QVERIFY2(notes, qPrintable(sentence(notes)));
        QCOMPARE(notes->size(), size_t(1));
        QVERIFY2(QString::fromStdString((*notes)[0]).contains("Etch, which OpenRaster does not know"),
                 (*notes)[0].c_str());

        QVERIFY(isOpenRaster(at("out.ora")));
        const auto back = readOpenRaster(at("out.ora"));
        QVERIFY2(back, qPrintable(sentence(back)));
        QCOMPARE(back->width, 120);
        QCOMPARE(back->layers.size(), size_t(3));
        QCOMPARE(QString::fromStdString(back->layers[1]->as<GroupContent>()->layers[0]->name),
                 QStringLiteral("Þang & <þari>"));
        // Rendered again it is what was written, but for the words that Normal stands in for.
        ReleasePtr plain = withChangedLayer(r, front, stackOf(*r, front)[0]->id,
                                            [](Layer& l) { l.blend = BlendMode::Normal; });
        const auto want = renderer.renderBgra8(panelScene(plain, front, {1, false}), {0, 0, 120, 80});
        const auto got = rendered(*back);
        for (size_t i = 0; i < want.size(); ++i)
            QVERIFY(std::abs(int(want[i]) - int(got[i])) <= 2 * kOneStep);
        const auto zip = ZipReader::open(at("out.ora"), "it");
        QVERIFY(zip->has("mergedimage.png") && zip->has("Thumbnails/thumbnail.png"));
    }

    void unknownThingsAreNoted() {
        const auto raster = readOpenRaster(made(image(layer("a", "name='Veil' composite-op='acme:glow'") +
                                                      "<filter type='x'><params/></filter>" + layer("b"))));
        QVERIFY2(raster, qPrintable(sentence(raster)));
        QCOMPARE(raster->notes.size(), size_t(2));
        QVERIFY(QString::fromStdString(raster->notes[0]).contains("“Veil” blends by “acme:glow”"));
        QCOMPARE(raster->layers[0]->blend, BlendMode::Normal);
        QCOMPARE(raster->layers.size(), size_t(2));
    }

    void aLayerFarOutIsHarmless() {
        const auto raster =
            readOpenRaster(made(image(layer("a", "x='2147483648' y='-2147483649'") + layer("b"))));
        QVERIFY2(raster, qPrintable(sentence(raster)));
        QCOMPARE(int(rendered(*raster)[3]), 255);
    }

    void badFiles_data() {
        QTest::addColumn<QString>("xml");
        QTest::addColumn<QString>("says");
        const auto row = [](const char* name, const std::string& xml, const char* says) {
            QTest::newRow(name) << QString::fromStdString(xml) << says;
        };
        row("no picture of a layer", image(layer("c")), "“data/c.png” is missing");
        row("no name of a picture", image("<layer/>"), "names no picture");
        row("path out of the zip", image("<layer src='../../etc/passwd'/>"), "points outside the file");
        row("absolute path", image("<layer src='/etc/passwd'/>"), "points outside the file");
        row("entities", "<!DOCTYPE x [<!ENTITY a SYSTEM 'file:///etc/passwd'>]>" + image("&a;"), "DTD");
        row("not XML", "<image w='3' h='3'><stack>", "not well-formed");
        row("another root", "<picture/>", "holds no image");
        row("no size", "<image><stack/></image>", "no size");
        row("too large", "<image w='60000' h='60000'><stack/></image>", "over the limit");
        row("not a number", image(layer("a", "x='left'")), "x is not a number");
        std::string deep = layer("a");
        for (int i = 0; i < 10000; ++i) deep = "<stack>" + deep + "</stack>";
        row("10,000 groups in each other", image(deep), "nested too deeply");
    }
    void badFiles() {
        QFETCH(QString, xml);
        QFETCH(QString, says);
        const auto raster = readOpenRaster(made(xml.toStdString()));
        QVERIFY(!raster);
        QVERIFY2(sentence(raster).contains(says), qPrintable(sentence(raster)));
        QVERIFY2(sentence(raster).startsWith("“made.ora” was not brought in: ") &&
                     sentence(raster).endsWith('.'),
                 qPrintable(sentence(raster)));
    }

    void missingStackAndNoZip() {
        QVERIFY(writeZip(at("empty.ora"), {{"mimetype", bytesOf("image/openraster"), false}}));
        QVERIFY(sentence(readOpenRaster(at("empty.ora"))).contains("“stack.xml” is missing"));
        write(at("words.ora"), {'h', 'i'});
        QVERIFY(sentence(readOpenRaster(at("words.ora"))).contains("not an OpenRaster file"));
        QVERIFY(!isOpenRaster(at("words.ora")) && !isOpenRaster(at("gone.ora")));
    }
};

GLYPTOS_TEST(OpenRasterTest)
#include "open_raster_test.moc"
