// The print file, read back by other eyes: QPDF for its structure, Poppler's tools for what it shows.
#include "file/print/print_pdf.h"

#include "release/placing.h"
#include "release/walks.h"
#include "release/warp.h"
#include "render/layer_geometry.h"

#include "file/data_folder.h"
#include "file/pictures/store_picture.h"
#include "file/project.h"
#include "support/pictures.h"
#include "support/register.h"

#include <QColor>
#include <QColorSpace>
#include <QDir>
#include <QFile>
#include <QImage>
#include <QProcess>
#include <QStringLiteral>
#include <QTemporaryDir>
#include <qpdf/Buffer.hh>
#include <qpdf/QPDF.hh>
#include <qpdf/QPDFPageObjectHelper.hh>

using namespace glyptos;
using namespace glyptos::test;

namespace {

constexpr double kPt = 72 / 25.4;       // points in a mm
constexpr double kBoxTolerance = 0.001; // points: four decimals in the file
constexpr double kPpi = 40;             // enough to see where things are

double at(const QPDFObjectHandle& box, int i) {
    return const_cast<QPDFObjectHandle&>(box).getArrayItem(i).getNumericValue();
}

bool isBox(const QPDFObjectHandle& box, const Rect& wantMm, const Rect& mediaMm) {
    // y runs up in the file, down on the flat.
    const double want[] = {(wantMm.x - mediaMm.x) * kPt, (mediaMm.bottom() - wantMm.bottom()) * kPt,
                           (wantMm.right() - mediaMm.x) * kPt, (mediaMm.bottom() - wantMm.y) * kPt};
    for (int i = 0; i < 4; ++i)
        if (std::abs(at(box, i) - want[i]) > kBoxTolerance) return false;
    return true;
}

std::string streamText(QPDFObjectHandle stream) {
    const auto data = stream.getStreamData();
    return {reinterpret_cast<const char*>(data->getBuffer()), data->getSize()};
}

QString output(const QString& program, const QStringList& arguments) {
    QProcess process;
    process.start(program, arguments);
    if (!process.waitForFinished(60000) || process.exitCode() != 0)
        qFatal("%s: %s", qPrintable(program), process.readAllStandardError().constData());
    return QString::fromUtf8(process.readAllStandardOutput());
}

} // namespace

class PrintPdfTest : public QObject {
    Q_OBJECT
    FontLibrary fonts{dataFolder() / "fonts", true};
    HeldPictures pictures;
    Renderer renderer{pictures, fonts};
    QTemporaryDir folder;
    ReleasePtr release;
    std::string sleeve;
    QString file;
    PrintReport report;
    QImage page; ///< the whole page as Poppler shows it, at kPpi

    std::string path() const { return file.toStdString(); }

    void fill(const char* panel, const Rgba& colour) {
        Layer layer;
        layer.name = "Ground";
        layer.content = FillContent{colour};
        release = withLayer(release, {sleeve, panel}, layer);
    }

    void words(const char* panel, const std::string& text, const Rgba& colour, Vec2 at, double size) {
        Layer layer;
        layer.name = text;
        TextContent content;
        content.spec.text = text;
        content.spec.letters.size = size;
        content.spec.letters.style = "Bold";
        content.colour = colour;
        layer.content = content;
        layer.placement.position = at;
        release = withLayer(release, {sleeve, panel}, layer);
    }

    Rect mediaMm() const { return release->piece(sleeve)->flat->withBleed().grown(10); }
    QColor seenAt(double xMm, double yMm) const {
        const Rect media = mediaMm();
        return page.pixelColor(int((xMm - media.x) / 25.4 * kPpi), int((yMm - media.y) / 25.4 * kPpi));
    }

  private Q_SLOTS:
    void initTestCase() {
        const auto forms = shippedForms().value();
        release = std::make_shared<const Release>();
        for (const auto& form : forms) release = withPiece(release, form).value();
        for (const PiecePtr& p : release->pieces)
            if (p->form->id == "sleeve-12") sleeve = p->id;
        release = withParameter(release, sleeve, "spine", 6).value();
        Brief brief;
        brief.title = "Síðasta háflæði";
        brief.artist = "The Gannet Hours";
        release = withBrief(release, brief);
        fill("back", {0.1f, 0.3f, 0.35f, 1});
        fill("spine", {0.8f, 0.25f, 0.15f, 1});
        fill("front", {0.04f, 0.05f, 0.03f, 1});
        words("front", "{title}", {0, 0, 0, 1}, {20, 20}, 14);
        words("spine", "MM", {1, 1, 1, 1}, {40, 0.5}, 5);
        file = folder.filePath("Hlið A við Höfn.pdf");
        const auto written = writePrintPdf(renderer, release, sleeve, {kPpi, 3.3}, path());
        QVERIFY2(written, qPrintable(sentence(written)));
        report = *written;
        output("pdftoppm",
               {"-r", QString::number(kPpi), "-png", "-singlefile", file, folder.filePath("page")});
        QVERIFY(page.load(folder.filePath("page.png")));
    }

    /// Words that are tilted stay outlines, and lie where they are seen.
    void warpedWordsStayOutlines() {
        Layer layer;
        TextContent content;
        content.spec.text = "MMM", content.spec.letters.size = 80, content.spec.letters.style = "Bold";
        content.colour = Rgba{1, 1, 1, 1};
        layer.content = content;
        layer.placement.position = {60, 150};
        const PanelRef front{sleeve, "front"};
        const Rect box = frameOf(layer, *release, {}, renderer.paragraphs()).bounds();
        Warp warp;
        warp.corners = std::array<Vec2, 4>{Vec2{0, 0.6}, {1, 0.6}, {1, 1}, {0, 1}};
        const ReleasePtr tilted =
            withLayer(release, front, withWarp(layer, std::make_shared<const Warp>(warp))).release;
        const QString other = folder.filePath("tilted.pdf");
        const auto written = writePrintPdf(renderer, tilted, sleeve, {kPpi, 3.3}, other.toStdString());
        QVERIFY2(written, qPrintable(sentence(written)));
        QCOMPARE(written->outlinedTexts(), report.outlinedTexts() + 1);
        output("pdftoppm",
               {"-r", QString::number(kPpi), "-png", "-singlefile", other, folder.filePath("tilted")});
        QImage seen;
        QVERIFY(seen.load(folder.filePath("tilted.png")));
        const Rect media = mediaMm();
        const double left = 315 + 6;
        int upper = 0, lower = 0;
        for (double y = box.y; y < box.bottom(); y += 0.5)
            for (double x = box.x; x < box.right(); x += 0.5) {
                const bool white =
                    seen.pixelColor(int((left + x - media.x) / 25.4 * kPpi), int((y - media.y) / 25.4 * kPpi))
                        .lightness() > 200;
                (y < box.y + box.h * 0.5 ? upper : lower) += white;
            }
        QCOMPARE(upper, 0);
        QVERIFY(lower > 500);
    }

    void boxesAreExact() {
        QPDF pdf;
        pdf.processFile(path().c_str());
        auto pages = pdf.getAllPages();
        QCOMPARE(pages.size(), size_t(1));
        const Flat& flat = *release->piece(sleeve)->flat;
        QCOMPARE(flat.trim(), (Rect{0, 0, 315 + 6 + 315, 315}));
        QVERIFY(isBox(pages[0].getKey("/TrimBox"), flat.trim(), mediaMm()));
        QVERIFY(isBox(pages[0].getKey("/BleedBox"), flat.trim().grown(3), mediaMm()));
        QVERIFY(isBox(pages[0].getKey("/MediaBox"), mediaMm(), mediaMm()));
        const QString info = output("pdfinfo", {"-box", file});
        QVERIFY2(info.contains("Síðasta háflæði") && info.contains("PDF version:     1.6"), qPrintable(info));
        QCOMPARE(report.pages[0].trimWidthMm, 636.0);
        QCOMPARE(report.bytes, std::filesystem::file_size(path()));
    }

    void structureIsSound() {
        QPDF pdf;
        pdf.processFile(path().c_str());
        QVERIFY(pdf.getWarnings().empty());
        const QString fontList = output("pdffonts", {file});
        QCOMPARE(fontList.count('\n'), 2); // the heading alone: every word is an outline
    }

    void artIsInPressInksUnderTheLimit() {
        QPDF pdf;
        pdf.processFile(path().c_str());
        auto images = QPDFPageObjectHelper(pdf.getAllPages()[0]).getImages();
        QCOMPARE(images.size(), size_t(1));
        QPDFObjectHandle image = images.begin()->second;
        QCOMPARE(QString::fromStdString(image.getDict().getKey("/ColorSpace").getName()),
                 QStringLiteral("/DeviceCMYK"));
        const auto data = image.getStreamData();
        const unsigned char* ink = data->getBuffer();
        int most = 0;
        for (size_t i = 0; i + 3 < data->getSize(); i += 4)
            most = std::max(most, ink[i] + ink[i + 1] + ink[i + 2] + ink[i + 3]);
        QVERIFY(most <= 3.3 * 255);
        QVERIFY(most > 2.5 * 255); // the nearly black front wants more than half of it
        QCOMPARE(report.mostInk(), most / 255.0);
        const QString listed = output("pdfimages", {"-list", file});
        QVERIFY2(listed.contains("cmyk"), qPrintable(listed));
    }

    void outputIntentCarriesTheProfile() {
        QPDF pdf;
        pdf.processFile(path().c_str());
        QPDFObjectHandle intent = pdf.getRoot().getKey("/OutputIntents").getArrayItem(0);
        QCOMPARE(QString::fromStdString(intent.getKey("/S").getName()), QStringLiteral("/GTS_PDFX"));
        const auto profile = intent.getKey("/DestOutputProfile").getStreamData();
        QCOMPARE(profile->getSize(), pressProfileBytes().size());
        QVERIFY(std::equal(pressProfileBytes().begin(), pressProfileBytes().end(), profile->getBuffer()));
    }

    void blackWordsAreBlackInkOnly() {
        QPDF pdf;
        pdf.processFile(path().c_str());
        const std::string content = streamText(QPDFObjectHandle(pdf.getAllPages()[0]).getKey("/Contents"));
        QVERIFY(content.find("0 0 0 1 k") != content.npos);
        QCOMPARE(report.outlinedTexts(), 2);
    }

    void artFillsTheBleedAndEndsThere() {
        const auto dark = [&](double x, double y) { return seenAt(x, y).lightness() < 140; };
        const auto paper = [&](double x, double y) { return seenAt(x, y).lightness() > 245; };
        for (const double y : {-2.0, 150.0, 317.0}) {
            QVERIFY(dark(-2, y) && dark(638, y));
            QVERIFY(paper(-4, y) && paper(640, y));
        }
        QVERIFY(dark(100, -2) && paper(100, -3.9) && dark(500, 317) && paper(500, 319.2));
    }

    void panelsLieInOrder() {
        QVERIFY(seenAt(150, 200).blue() > seenAt(150, 200).red());             // back
        QVERIFY(seenAt(318, 200).red() > 150 && seenAt(318, 200).blue() < 90); // spine
        QVERIFY(seenAt(500, 200).lightness() < 40);                            // front
        // No sliver of paper or guide line where they meet.
        for (double x = 310; x < 326; x += 0.3) QVERIFY(seenAt(x, 200).lightness() < 140);
    }

    void spineWordsRunDownwards() {
        // Turned by 90°: words that start 40 mm along the spine stand 40 mm below its top, and are read from
        // the right.
        int found = 0;
        for (double y = 41; y < 48; y += 0.5)
            for (double x = 315; x < 321; x += 0.5) found += seenAt(x, y).lightness() > 200;
        QVERIFY(found > 8);
        for (double y = 60; y < 300; y += 2) QVERIFY(seenAt(318, y).lightness() < 160);
    }

    void marksStandOutsideTheBleed() {
        const auto inked = [&](double x, double y) {
            for (double d = -0.7; d <= 0.7; d += 0.3) // a mark may be dashed, so a stretch of it is looked at
                for (double along = -2; along <= 2; along += 0.5)
                    if (seenAt(x + d, y + along).lightness() < 225) return true;
            return false;
        };
        for (const double x : {0.0, 636.0, 315.0, 321.0})
            QVERIFY2(inked(x, -7) && inked(x, 322), qPrintable(QString::number(x)));
        for (const double y : {0.0, 315.0}) QVERIFY(inked(-7, y) && inked(643, y));
        // Between the bleed and the marks there is a clear gap.
        for (double x = -2; x < 638; x += 1) QVERIFY(seenAt(x, -3.8).lightness() > 240);
        QVERIFY(!inked(160, -7) && !inked(480, 322));
    }

    void wordsLieAsTheyAreSeen_data() {
        QTest::addColumn<int>("which");
        int which = 0;
        for (const char* name : {"turned", "justified in an area", "round a circle", "in a table", "leaning"})
            QTest::newRow(name) << which++;
    }
    /// On the screen and in the file within 0.05 mm of each other, edge by edge, at 600 ppi.
    void wordsLieAsTheyAreSeen() {
        QFETCH(int, which);
        constexpr double kDpi = 600, kMostMm = 0.05, kPx = kDpi / 25.4;
        constexpr int kWide = 1200, kHigh = 700;
        const Vec2 corner{40, 100}; // mm on the front, of what is compared
        Layer layer;
        TextContent content;
        content.spec.text = "Þokan við höfn, AV fjord Type";
        content.spec.letters.size = 6, content.spec.letters.family = "EB Garamond";
        content.colour = Rgba{1, 1, 1, 1};
        layer.placement.position = {corner.x + 4, corner.y + 4};
        if (which == 0) layer.placement.turn = 11, layer.placement.scaleX = 0.9;
        if (which == 1) {
            content.spec.text += " and the pilots of Gannet Street walked out over the flats";
            content.spec.frame = InArea{40, 0}, content.spec.align = Align::Justified;
            content.spec.hyphenate = true, content.spec.letters.language = "en-GB";
            content.spec.letters.size = 4;
        }
        if (which == 2) {
            content.spec.letters.size = 3.4, content.spec.frame = RoundCircle{11, 20, false};
            layer.placement.position = {corner.x + 20, corner.y + 15};
        }
        if (which == 3) {
            content.spec.text = "1\tBrim\t3:42\n2\tÖldurót\t11:10";
            content.spec.frame = InTable{40, 0, {{Align::Right}, {Align::Left, true}, {Align::Right}}};
        }
        if (which == 4)
            layer.placement.skew = 12, layer.placement.flipX = true, layer.placement.position.x += 40;
        layer.content = content;
        const PanelRef front{sleeve, "front"};
        const ReleasePtr with = withLayer(release, front, layer).release;
        const QString pdf = folder.filePath("words.pdf");
        QVERIFY(writePrintPdf(renderer, with, sleeve, {kPpi, 3.3}, pdf.toStdString()));
        const Rect media = mediaMm();
        const double left = (315 + 6 + corner.x - media.x) * kPx, top = (corner.y - media.y) * kPx;
        const int x = int(left), y = int(top); // pdftoppm cuts at whole pixels
        output("pdftoppm", {"-r", QString::number(kDpi), "-x", QString::number(x), "-y", QString::number(y),
                            "-W", QString::number(kWide), "-H", QString::number(kHigh), "-png", "-singlefile",
                            pdf, folder.filePath("words")});
        QImage file;
        QVERIFY(file.load(folder.filePath("words.png")));
        QCOMPARE(file.size(), QSize(kWide, kHigh));
        const IntRect region{int(corner.x * kPx), int(corner.y * kPx), kWide, kHigh};
        const auto screen = renderer.renderStraightRgba8(panelScene(with, front, {kPx}), region);
        // Both are cut at whole pixels, which may be up to one apart.
        const double dx = (left - x) - (corner.x * kPx - region.x),
                     dy = (top - y) - (corner.y * kPx - region.y);
        const auto inScreen = [&](int px, int py) {
            return px >= 0 && py >= 0 && px < kWide && py < kHigh &&
                   screen.data()[(size_t(py) * kWide + size_t(px)) * 4] > 140;
        };
        const auto inFile = [&](int px, int py) {
            return px >= 0 && py >= 0 && px < kWide && py < kHigh && qGreen(file.pixel(px, py)) > 140;
        };
        const double reach = kMostMm * kPx;
        const int r = int(reach);
        const auto isNear = [&](int px, int py, double ox, double oy, auto& there) {
            for (int j = -r; j <= r; ++j)
                for (int i = -r; i <= r; ++i)
                    if (i * i + j * j <= reach * reach &&
                        there(px + i + int(std::lround(ox)), py + j + int(std::lround(oy))))
                        return true;
            return false;
        };
        int inked = 0, lost = 0, added = 0;
        for (int py = r + 2; py < kHigh - r - 2; ++py)
            for (int px = r + 2; px < kWide - r - 2; ++px) {
                if (inScreen(px, py)) ++inked, lost += !isNear(px, py, dx, dy, inFile);
                if (inFile(px, py)) added += !isNear(px, py, -dx, -dy, inScreen);
            }
        QVERIFY2(inked > 10000, qPrintable(QString::number(inked)));
        QVERIFY2(lost == 0 && added == 0, qPrintable(QString("%1 lost, %2 added").arg(lost).arg(added)));
    }

    void sameReleaseSameBytes() {
        std::vector<uint8_t> bytes[3];
        for (size_t i = 0; i < 3; ++i) {
            const std::string again = folder.filePath(QStringLiteral("again %1.pdf").arg(i)).toStdString();
            PrintOptions options;
            options.ppi = kPpi, options.moment = 1800000000 + int64_t(i / 2); // the last a second later
            QVERIFY(writePrintPdf(renderer, release, sleeve, options, again));
            bytes[i] = readFile(again).value();
        }
        QVERIFY(bytes[0] == bytes[1] && bytes[0] != bytes[2]);
    }

    void wordsBehindArtAreNotLifted() {
        ReleasePtr covered = release;
        Layer veil;
        veil.name = "Veil";
        veil.content = FillContent{Rgba{1, 1, 1, 1}};
        veil.blend = BlendMode::Multiply;
        covered = withLayer(covered, {sleeve, "front"}, veil);
        const auto written =
            writePrintPdf(renderer, covered, sleeve, {kPpi, 3.3}, folder.filePath("veil.pdf").toStdString());
        QVERIFY(written);
        QCOMPARE(written->outlinedTexts(), 1); // the spine's
    }

    /// What is done to words has to be pixels; they are not lifted off it.
    void treatedWordsArePixels() {
        ReleasePtr treated = release;
        eachLayer(*release, [&](const LayerPtr& layer) {
            if (!layer->as<TextContent>()) return;
            for (const auto& panel : {"front", "spine", "back"})
                treated = withChangedLayer(treated, {sleeve, panel}, layer->id, [](Layer& l) {
                    l.treatments = std::make_shared<const Treatments>(
                        Treatments{newTreatment(*treatmentKind("cast-shadow"), 1)});
                });
        });
        const auto written = writePrintPdf(renderer, treated, sleeve, {kPpi, 3.3},
                                           folder.filePath("treated.pdf").toStdString());
        QVERIFY(written);
        QCOMPARE(written->outlinedTexts(), 0);
    }

    void refusals() {
        std::string cover;
        for (const PiecePtr& p : release->pieces)
            if (p->form->id == "digital-cover") cover = p->id;
        const auto screen =
            writePrintPdf(renderer, release, cover, {}, folder.filePath("x.pdf").toStdString());
        QVERIFY2(sentence(screen).contains("made for screens"), qPrintable(sentence(screen)));
        const std::vector<uint8_t> notAProfile{1, 2};
        const auto profile = writePrintPdf(renderer, release, sleeve, {0, 3.3, notAProfile},
                                           folder.filePath("x.pdf").toStdString());
        QVERIFY(!profile);
        const auto place = writePrintPdf(renderer, release, sleeve, {kPpi, 3.3},
                                         folder.filePath("gone/x.pdf").toStdString());
        QVERIFY2(sentence(place).contains("“x.pdf” was not written"), qPrintable(sentence(place)));
        QVERIFY(!QFile::exists(folder.filePath("x.pdf")));
    }

    void storePicturesCarryTheirProfile() {
        const auto jpeg =
            encodePiece(renderer, release, sleeve, {PictureFormat::Jpeg, "front", 1500, 0, false, 92});
        QVERIFY2(jpeg, qPrintable(sentence(jpeg)));
        QCOMPARE(jpeg->width, 1500);
        QCOMPARE(jpeg->height, 1500);
        const QImage seen = QImage::fromData(jpeg->bytes.data(), int(jpeg->bytes.size()), "JPG");
        QVERIFY(seen.colorSpace() == QColorSpace(QColorSpace::SRgb) || seen.colorSpace().isValid());
        QVERIFY(seen.pixelColor(700, 1000).lightness() < 20);
        const auto tooLarge =
            encodePiece(renderer, release, sleeve, {PictureFormat::Png, {}, 90000, 0, false, 92});
        QVERIFY(!tooLarge);
        const auto quality =
            encodePiece(renderer, release, sleeve, {PictureFormat::Jpeg, "front", 64, 0, false, 101});
        QVERIFY(sentence(quality).contains("between 1 and 100"));
        QVERIFY(!encodePiece(renderer, release, sleeve, {PictureFormat::Jpeg, "lid", 64, 0, false, 90}));
    }
};

GLYPTOS_TEST(PrintPdfTest)
#include "print_pdf_test.moc"
