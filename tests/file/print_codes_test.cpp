// Codes in print files: read back from the finished page by a renderer and a reader that are not ours.
#include "code/reader.h"
#include "file/print/print_pdf.h"
#include "file/print/print_tiff.h"
#include "release/code_size.h"
#include "support/forms.h"
#include "support/pictures.h"
#include "support/register.h"

#include <QProcess>
#include <QTemporaryDir>
#include <qpdf/Buffer.hh>
#include <qpdf/QPDF.hh>
#include <qpdf/QPDFPageDocumentHelper.hh>

using namespace glyptos;
using namespace glyptos::test;

class PrintCodesTest : public QObject {
    Q_OBJECT
    QTemporaryDir folder;
    FontLibrary fonts{dataFolder() / "fonts", true};
    HeldPictures pictures;
    Renderer renderer{pictures, fonts};

    std::string at(const char* name) const { return folder.filePath(name).toStdString(); }

    static ReleasePtr briefed(const char* id) {
        Brief brief;
        brief.barcode = "200000000417", brief.address = "https://slack-tide.example/Ægir";
        return withBrief(releaseOf(id), brief);
    }
    static ReleasePtr withCode(const ReleasePtr& r, const std::string& panel, CodeKind kind,
                               const std::function<void(Layer&)>& change = {}) {
        Layer fill;
        fill.content = FillContent{Rgba{0.1f, 0.25f, 0.4f, 1}};
        Layer code = codeFor(*r->pieces[0]->flat->panel(panel), kind, Unit::Mm, "Code");
        if (change) change(code);
        const PanelRef ref{r->pieces[0]->id, panel};
        return withLayer(withLayer(r, ref, fill), ref, code);
    }
    Result<PrintReport> print(const ReleasePtr& r, const char* name, std::vector<size_t> sheets = {}) {
        PrintOptions options;
        options.ppi = 120, options.sheets = std::move(sheets);
        return writePrintPdf(renderer, r, r->pieces[0]->id, options, at(name));
    }
    /// The first page by Poppler at 300 ppi, read by ZXing.
    std::optional<ReadCode> readPage(const char* name) const {
        QProcess poppler;
        poppler.start("pdftoppm",
                      {"-gray", "-r", "300", "-f", "1", "-l", "1", QString::fromStdString(at(name))});
        if (!poppler.waitForFinished(60000) || poppler.exitCode() != 0) qFatal("no page");
        const QByteArray pgm = poppler.readAllStandardOutput();
        int w = 0, h = 0, most = 0, from = 0;
        if (std::sscanf(pgm.constData(), "P5 %d %d %d%n", &w, &h, &most, &from) != 3) qFatal("no picture");
        return readCode(reinterpret_cast<const uint8_t*>(pgm.constData()) + from + 1, w, h);
    }

  private Q_SLOTS:
    void everyKindIsReadFromTheFinishedPage() {
        const std::pair<CodeKind, std::string> kinds[] = {{CodeKind::Ean13, "2000000004174"},
                                                          {CodeKind::UpcA, "725000004175"},
                                                          {CodeKind::Qr, "https://slack-tide.example/Ægir"}};
        for (const auto& [kind, text] : kinds) {
            const ReleasePtr r = withCode(briefed("tray-card"), "back", kind, [&, k = kind](Layer& layer) {
                if (k == CodeKind::UpcA) std::get<CodeContent>(layer.content).text = "72500000417";
            });
            const auto report = print(r, "code.pdf");
            QVERIFY2(report, qPrintable(sentence(report)));
            QVERIFY(report->notes.empty());
            const auto read = readPage("code.pdf");
            QVERIFY(read.has_value());
            QVERIFY2(read->text.substr(0, 11) == text.substr(0, 11) && read->kind == kind,
                     read->text.c_str());
        }
    }

    /// As paths, bars in black ink alone on bare paper.
    void barsAreBlackInkAlone() {
        QVERIFY(print(withCode(briefed("tray-card"), "back", CodeKind::Ean13), "paths.pdf"));
        QPDF pdf;
        pdf.processFile(at("paths.pdf").c_str());
        auto page = QPDFPageDocumentHelper(pdf).getAllPages()[0];
        const auto data = page.getObjectHandle().getKey("/Contents").getStreamData();
        const std::string content(reinterpret_cast<const char*>(data->getBuffer()), data->getSize());
        const size_t paper = content.find("0 0 0 0 k"), black = content.find("0 0 0 1 k");
        QVERIFY(paper != content.npos && black != content.npos && paper < black);
    }

    void aCodeThatMustNotBePrintedStopsTheFile() {
        const ReleasePtr r = withCode(briefed("tray-card"), "back", CodeKind::Ean13, [](Layer& layer) {
            std::get<CodeContent>(layer.content).text = "2000000004171";
        });
        const auto report = print(r, "wrong.pdf");
        QVERIFY(!report);
        QVERIFY2(sentence(report).contains("Code, Back: The check digit") &&
                     sentence(report).contains("Nothing was written"),
                 qPrintable(sentence(report)));
        QVERIFY(!QFile::exists(folder.filePath("wrong.pdf")));
        const auto tiff = writePrintTiff(renderer, r, r->pieces[0]->id, {}, at("wrong.tif"));
        QVERIFY(!tiff && !QFile::exists(folder.filePath("wrong.tif")));
    }

    void whatIsDoubtfulIsNoted() {
        const ReleasePtr r = withCode(briefed("tray-card"), "back", CodeKind::Ean13, [](Layer& layer) {
            layer.placement.scaleX = layer.placement.scaleY = 0.7 * kBarcodeModuleMm;
        });
        const auto report = print(r, "small.pdf");
        QVERIFY2(report, qPrintable(sentence(report)));
        QCOMPARE(report->notes.size(), size_t(1));
        QVERIFY(report->notes[0].find("at 70 %") != std::string::npos);
    }

    void onlyPagesThatAreWrittenAreRead() {
        const ReleasePtr r = withCode(briefed("disc-booklet"), "page-3", CodeKind::Qr,
                                      [](Layer& layer) { std::get<CodeContent>(layer.content).text = ""; });
        QVERIFY(print(r, "cover.pdf", {0}));
        QVERIFY(!print(r, "inside.pdf", {1}));
    }
};

GLYPTOS_TEST(PrintCodesTest)
#include "print_codes_test.moc"
