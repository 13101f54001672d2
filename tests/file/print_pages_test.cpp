// Print files of several sheets and of panels that are no rectangles, read back by QPDF, Poppler and
// Ghostscript.
#include "file/print/print_pdf.h"

#include "file/print/print_tiff.h"
#include "support/forms.h"
#include "support/pictures.h"
#include "support/register.h"

#include <QProcess>
#include <QStandardPaths>
#include <QTemporaryDir>
#include <qpdf/Buffer.hh>
#include <qpdf/QPDF.hh>
#include <qpdf/QPDFPageDocumentHelper.hh>
#include <tiffio.h>

using namespace glyptos;
using namespace glyptos::test;

namespace {

constexpr double kPt = 72 / 25.4;

/// The inks of a page as Ghostscript has them: 4 bytes a pixel, 255 = full ink.
struct Plates {
    int width = 0, height = 0;
    QByteArray cmyk;
    std::array<int, 4> at(int x, int y) const {
        const auto* p =
            reinterpret_cast<const uint8_t*>(cmyk.constData()) + (size_t(y) * size_t(width) + size_t(x)) * 4;
        return {p[0], p[1], p[2], p[3]};
    }
};

} // namespace

class PrintPagesTest : public QObject {
    Q_OBJECT
    static constexpr int kPpi = 100;
    QTemporaryDir folder;
    FontLibrary fonts{dataFolder() / "fonts", true};
    HeldPictures pictures;
    Renderer renderer{pictures, fonts};

    std::string at(const char* name) const { return folder.filePath(name).toStdString(); }

    static ReleasePtr withGround(const ReleasePtr& r, const std::string& panel, const Rgba& colour) {
        Layer fill;
        fill.content = FillContent{colour};
        return withLayer(r, {r->pieces[0]->id, panel}, fill);
    }
    static ReleasePtr withWords(const ReleasePtr& r, const std::string& panel, const char* words, Vec2 at) {
        Layer layer;
        TextContent text;
        text.spec.text = words, text.spec.letters.size = 8, text.spec.letters.style = "Black";
        text.colour = {0, 0, 0, 1};
        layer.content = text, layer.placement.position = at;
        return withLayer(r, {r->pieces[0]->id, panel}, layer);
    }
    Result<PrintReport> print(const ReleasePtr& r, const char* name, std::vector<size_t> sheets = {}) {
        PrintOptions options;
        options.ppi = kPpi, options.sheets = std::move(sheets);
        return writePrintPdf(renderer, r, r->pieces[0]->id, options, at(name));
    }
    Plates plates(const char* name) const {
        const QString out = folder.filePath("plates.raw");
        QProcess gs;
        gs.start("gs", {"-q", "-dNOPAUSE", "-dBATCH", "-dSAFER", "-sDEVICE=bitcmyk", "-dGrayValues=256",
                        "-dUseFastColor=true", QStringLiteral("-r%1").arg(kPpi), "-sOutputFile=" + out,
                        QString::fromStdString(at(name))});
        if (!gs.waitForFinished(60000) || gs.exitCode() != 0) qFatal("%s", gs.readAll().constData());
        QPDF pdf;
        pdf.processFile(at(name).c_str());
        auto box = QPDFPageDocumentHelper(pdf).getAllPages()[0].getObjectHandle().getKey("/MediaBox");
        Plates made;
        made.width = int(std::lround(box.getArrayItem(2).getNumericValue() / 72 * kPpi));
        QFile file(out);
        if (!file.open(QIODevice::ReadOnly)) qFatal("no plates");
        made.cmyk = file.readAll();
        made.height = int(made.cmyk.size() / 4 / made.width);
        return made;
    }

  private Q_SLOTS:
    void pagesOfABooklet() {
        ReleasePtr r = releaseOf("disc-booklet");
        r = withGround(r, "page-3", {0.2F, 0.4F, 0.6F, 1});
        const auto report = print(r, "booklet.pdf");
        QVERIFY2(report, qPrintable(sentence(report)));
        QCOMPARE(report->pages.size(), size_t(4));
        QCOMPARE(report->pages[1].sheet, std::string("Pages 2 and 3"));
        QVERIFY(report->pages[1].mostInk > 0.5 && report->pages[0].mostInk == 0);
        QPDF pdf;
        pdf.processFile(at("booklet.pdf").c_str());
        const auto pages = QPDFPageDocumentHelper(pdf).getAllPages();
        QCOMPARE(pages.size(), size_t(4));
        for (auto page : pages) {
            const auto side = [&](const char* box, int low, int high) {
                auto all = page.getObjectHandle().getKey(box);
                return (all.getArrayItem(high).getNumericValue() - all.getArrayItem(low).getNumericValue()) /
                       kPt;
            };
            QVERIFY(std::abs(side("/TrimBox", 0, 2) - 240) < 0.01 &&
                    std::abs(side("/TrimBox", 1, 3) - 120) < 0.01);
            QVERIFY(std::abs(side("/BleedBox", 0, 2) - 246) < 0.01 &&
                    std::abs(side("/BleedBox", 1, 3) - 126) < 0.01);
        }
        const auto two = print(r, "two.pdf", {1, 0});
        QVERIFY(two && two->pages.size() == 2 && two->pages[0].sheet == "Pages 2 and 3");
        const auto none = print(r, "none.pdf", {8});
        QVERIFY2(sentence(none).contains("no page 9 but 4"), qPrintable(sentence(none)));
        QVERIFY(!QFile::exists(folder.filePath("none.pdf")));
    }

    /// What says that it is a PDF/X-4, in both places, and its output intent.
    void identification() {
        ReleasePtr r = releaseOf("tray-liner");
        Brief brief;
        brief.artist = "Tern & <Gull>", brief.title = "Síðasta háflæði";
        r = withBrief(r, brief);
        QVERIFY(print(r, "x4.pdf"));
        QProcess info;
        info.start("pdfinfo", {QString::fromStdString(at("x4.pdf"))});
        QVERIFY(info.waitForFinished() && info.exitCode() == 0);
        const QString said = QString::fromUtf8(info.readAllStandardOutput());
        QVERIFY2(said.contains("PDF/X-4"), qPrintable(said));
        QPDF pdf;
        pdf.processFile(at("x4.pdf").c_str());
        auto facts = pdf.getTrailer().getKey("/Info");
        QCOMPARE(facts.getKey("/GTS_PDFXVersion").getUTF8Value(), std::string("PDF/X-4"));
        QCOMPARE(facts.getKey("/Trapped").getName(), std::string("/False"));
        QVERIFY(facts.getKey("/CreationDate").isString() && facts.getKey("/ModDate").isString());
        QCOMPARE(facts.getKey("/Title").getUTF8Value(),
                 std::string("Tern & <Gull> – Síðasta háflæði – Tray liner"));
        QVERIFY(pdf.getTrailer().getKey("/ID").isArray());
        auto metadata = pdf.getRoot().getKey("/Metadata").getStreamData();
        const QString text = QString::fromUtf8(reinterpret_cast<const char*>(metadata->getBuffer()),
                                               qsizetype(metadata->getSize()));
        for (const char* part :
             {"<pdfxid:GTS_PDFXVersion>PDF/X-4<", "Tern &amp; &lt;Gull&gt; – Síðasta háflæði",
              "<xmpMM:DocumentID>uuid:", "<xmpMM:VersionID>", "<xmpMM:RenditionClass>default<",
              "<pdf:Trapped>False<", "<xmp:CreateDate>20"})
            QVERIFY2(text.contains(part), part);
        auto intent = pdf.getRoot().getKey("/OutputIntents").getArrayItem(0);
        QCOMPARE(intent.getKey("/S").getName(), std::string("/GTS_PDFX"));
        QCOMPARE(intent.getKey("/OutputConditionIdentifier").getUTF8Value(), std::string("FOGRA39"));
        auto profile = intent.getKey("/DestOutputProfile").getStreamData();
        const auto shipped = pressProfileBytes();
        QVERIFY(std::equal(shipped.begin(), shipped.end(), profile->getBuffer(),
                           profile->getBuffer() + profile->getSize()));
    }

    /// The same inks as in the print file, page by page, read by libtiff.
    void pagesAsPictures() {
        ReleasePtr r = releaseOf("label-12");
        r = withGround(r, "side-a", {0.2F, 0.5F, 0.3F, 1});
        r = withGround(r, "side-b", {0.9F, 0.5F, 0.1F, 1});
        PrintOptions options;
        options.ppi = kPpi;
        const auto report = writePrintTiff(renderer, r, r->pieces[0]->id, options, at("labels.tif"));
        QVERIFY2(report, qPrintable(sentence(report)));
        QVERIFY(report->pages.size() == 2 &&
                report->bytes == uintmax_t(QFileInfo(folder.filePath("labels.tif")).size()));
        QVERIFY(print(r, "labels.pdf"));
        QPDF pdf;
        pdf.processFile(at("labels.pdf").c_str());
        auto pages = QPDFPageDocumentHelper(pdf).getAllPages();
        const std::unique_ptr<TIFF, void (*)(TIFF*)> tiff(TIFFOpen(at("labels.tif").c_str(), "r"), TIFFClose);
        QVERIFY(tiff);
        for (size_t page = 0; page < 2; ++page) {
            QVERIFY(TIFFSetDirectory(tiff.get(), tdir_t(page)) == 1);
            uint32_t width = 0, height = 0;
            uint16_t photometric = 0, unit = 0;
            float ppi = 0;
            TIFFGetField(tiff.get(), TIFFTAG_IMAGEWIDTH, &width),
                TIFFGetField(tiff.get(), TIFFTAG_IMAGELENGTH, &height);
            TIFFGetField(tiff.get(), TIFFTAG_PHOTOMETRIC, &photometric),
                TIFFGetField(tiff.get(), TIFFTAG_XRESOLUTION, &ppi);
            TIFFGetField(tiff.get(), TIFFTAG_RESOLUTIONUNIT, &unit);
            QVERIFY(photometric == PHOTOMETRIC_SEPARATED && ppi == float(kPpi) && unit == RESUNIT_INCH);
            uint32_t size = 0;
            const void* profile = nullptr;
            QVERIFY(TIFFGetField(tiff.get(), TIFFTAG_ICCPROFILE, &size, &profile) == 1 &&
                    size == pressProfileBytes().size());
            std::vector<uint8_t> inks(size_t(width) * height * 4);
            for (uint32_t y = 0; y < height; ++y)
                QVERIFY(TIFFReadScanline(tiff.get(), inks.data() + size_t(y) * width * 4, y) == 1);
            auto art = pages[page]
                           .getObjectHandle()
                           .getKey("/Resources")
                           .getKey("/XObject")
                           .getKey("/Art")
                           .getStreamData();
            QCOMPARE(art->getSize(), inks.size());
            QVERIFY(std::equal(inks.begin(), inks.end(), art->getBuffer()));
        }
        QVERIFY(sentence(writePrintTiff(renderer, releaseOf("digital-cover"), "n1", options, at("no.tif")))
                    .contains("made for screens"));
        const auto lost = writePrintTiff(renderer, r, r->pieces[0]->id, options, at("no folder/labels.tif"));
        QVERIFY(!lost && !QFile::exists(folder.filePath("no folder")));
    }

    /// Plates by another renderer: no ink beside the disc nor in its clear ring; black words on black alone.
    void aDiscFaceOnItsPlates() {
        QVERIFY2(!QStandardPaths::findExecutable("gs").isEmpty(),
                 "Ghostscript is missing: tools/install-deps");
        ReleasePtr r = withGround(releaseOf("disc-face"), "front", {1, 0.9F, 0.2F, 1});
        r = withWords(r, "front", "MMMM", {30, 20});
        QVERIFY(print(r, "disc.pdf"));
        const Plates page = plates("disc.pdf");
        // The page is the bleed of 120 mm and 10 mm of marks round it; the disc's middle is its middle.
        const double px = kPpi / 25.4, middle = 70;
        QCOMPARE(page.width, int(std::lround(140 * px)));
        int black = 0, wrong = 0;
        for (int y = 0; y < page.height; ++y)
            for (int x = 0; x < page.width; ++x) {
                const auto ink = page.at(x, y);
                const double far = std::hypot((x + 0.5) / px - middle, (y + 0.5) / px - middle);
                const int sum = ink[0] + ink[1] + ink[2] + ink[3];
                const bool inMarks = x / px < 9.5 || y / px < 9.5 || x / px > 130.5 || y / px > 130.5;
                if ((far < 11 - 0.4 || (far > 60 + 0.4 && !inMarks)) && sum > 0) ++wrong;
                if (far > 11.4 && far < 59.6 && sum == 0) ++wrong;
                if (ink[3] == 255 && far < 59) {
                    ++black;
                    if (ink[0] + ink[1] + ink[2] > 0) ++wrong;
                }
            }
        QCOMPARE(wrong, 0);
        QVERIFY2(black > 1000, qPrintable(QString::number(black)));
    }
};

GLYPTOS_TEST(PrintPagesTest)
#include "print_pages_test.moc"
