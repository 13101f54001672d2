// Printers' own sheets: what our own print files and cut paths draw is read back as the form that it was;
// what plants get wrong is said.
#include "file/dieline/printers_sheet.h"

#include "file/cut/cut_paths.h"
#include "file/dieline/own_forms.h"
#include "file/disk/atomic_file.h"
#include "file/pictures/picture_reader.h"
#include "file/print/print_pdf.h"
#include "file/release_json/release_json.h"
#include "form/form_edits.h"
#include "support/forms.h"
#include "support/pictures.h"
#include "support/register.h"

#include <QProcess>
#include <QTemporaryDir>
#include <qpdf/QPDF.hh>
#include <qpdf/QPDFPageDocumentHelper.hh>
#include <qpdf/QPDFWriter.hh>

using namespace glyptos;
using namespace glyptos::test;

class PrintersSheetTest : public QObject {
    Q_OBJECT
    QTemporaryDir folder;
    FontLibrary fonts{dataFolder() / "fonts", true};
    HeldPictures pictures;
    Renderer renderer{pictures, fonts};

    std::string at(const char* name) const { return folder.filePath(name).toStdString(); }
    static std::span<const uint8_t> bytesOf(const std::string& text) {
        return {reinterpret_cast<const uint8_t*>(text.data()), text.size()};
    }
    static std::string pdfOf(const std::string& resources, const std::string& content, int pages = 1,
                             const char* more = "") {
        QPDF pdf;
        pdf.emptyPDF();
        for (int i = 0; i < pages; ++i) {
            auto page = QPDFObjectHandle::parse("<< /Type /Page /MediaBox [0 0 720 360] " +
                                                std::string(more) + " /Resources " + resources + " >>");
            page.replaceKey("/Contents", pdf.makeIndirectObject(QPDFObjectHandle::newStream(&pdf, content)));
            pdf.addPage(pdf.makeIndirectObject(page), false);
        }
        QPDFWriter writer(pdf);
        writer.setOutputMemory();
        writer.setStaticID(true);
        writer.write();
        const auto out = writer.getBufferSharedPointer();
        return {reinterpret_cast<const char*>(out->getBuffer()), out->getSize()};
    }
    static std::vector<Rect> boardOf(const Flat& flat) {
        std::vector<Rect> out;
        for (const Panel& panel : flat.panels) out.push_back(panel.onFlat);
        for (const Flap& flap : flat.flaps) out.push_back(flap.outline.box);
        return out;
    }
    /// Each part of one is a part of the other, after a shift.
    static bool same(std::vector<Rect> a, std::vector<Rect> b) {
        if (a.size() != b.size()) return false;
        const auto corner = [](const std::vector<Rect>& all) {
            Rect box;
            for (const Rect& r : all) box = box.united(r);
            return Vec2{box.x, box.y};
        };
        const Vec2 way = corner(b) - corner(a);
        constexpr double kSlack = 0.06;
        return std::all_of(a.begin(), a.end(), [&](const Rect& r) {
            return std::any_of(b.begin(), b.end(), [&](const Rect& o) {
                return std::abs(r.x + way.x - o.x) < kSlack && std::abs(r.y + way.y - o.y) < kSlack &&
                       std::abs(r.w - o.w) < kSlack && std::abs(r.h - o.h) < kSlack;
            });
        });
    }

  private Q_SLOTS:
    /// Print file to printer's sheet to form, for forms of rectangles on one sheet.
    void ourOwnDielinesComeBack() {
        for (const char* id :
             {"sleeve-12", "sleeve-7-spine", "gatefold-12", "tray-card", "cassette-card", "obi"}) {
            const ReleasePtr r = releaseOf(id);
            PrintOptions options;
            options.ppi = 36, options.extra.dieline = true;
            QVERIFY(writePrintPdf(renderer, r, r->pieces[0]->id, options, at("die.pdf")));
            const auto bytes = readFile(at("die.pdf"));
            const auto sheet = readPrintersSheet(*bytes, "die.pdf");
            QVERIFY2(sheet, qPrintable(sentence(sheet)));
            QCOMPARE(sheet->format, std::string("pdf"));
            const auto traced = tracedForm(sheet->lines, "traced", "Traced");
            QVERIFY2(traced, qPrintable(sentence(traced)));
            const auto flat = workOut(traced->form);
            QVERIFY2(flat, qPrintable(sentence(flat)));
            QVERIFY2(same(boardOf(*r->pieces[0]->flat), boardOf(*flat)), id);
        }
    }

    void cutPathsToo() {
        for (const char* id : {"tray-card", "disc-face", "wallet-4"}) {
            const Flat flat = flatOf(id);
            const std::string svg = cutSvg(cutJobOf(flat, {0}), id);
            const auto sheet = readPrintersSheet(bytesOf(svg), "cut.svg");
            QVERIFY2(sheet, qPrintable(sentence(sheet)));
            const auto traced = tracedForm(sheet->lines, "traced", "Traced");
            QVERIFY2(traced, qPrintable(sentence(traced)));
            QVERIFY2(workOut(traced->form).has_value(), id);
            if (std::string_view(id) == "disc-face") {
                QCOMPARE(traced->form.panels[0].outline.kind, Outline::Kind::Disc);
                QCOMPARE(traced->form.cutouts.size(), size_t(1));
            }
        }
    }

    /// Layers, inks, forms in forms, matrices and turned pages.
    void whatAPdfSaysItsLinesWith() {
        const std::string resources =
            "<< /ColorSpace << /Die [/Separation /CutContour /DeviceCMYK << /FunctionType 2 /Domain [0 1] "
            "/C0 [0 0 0 "
            "0] /C1 [0 1 0 0] /N 1 >>] >> /Properties << /L1 << /Type /OCG /Name (Folds) >> >> >>";
        const std::string content = "q 2 0 0 2 72 72 cm /Die CS 1 SCN 0 0 144 72 re S Q\n"
                                    "/OC /L1 BDC 0 0 0 RG 216 72 m 216 216 l S EMC\n"
                                    "0.5 w 10 10 m 20 20 l S 30 30 50 50 re f\n";
        const auto sheet = readPrintersSheet(bytesOf(pdfOf(resources, content)), "plant.pdf");
        QVERIFY2(sheet, qPrintable(sentence(sheet)));
        QVERIFY(std::abs(sheet->width - 254) < 1e-6 && std::abs(sheet->height - 127) < 1e-6);
        QCOMPARE(sheet->lines.size(), size_t(3)); // what is filled is no line
        const DielineLine& cut = sheet->lines[0];
        QVERIFY(cut.role == DielineRole::Cut && cut.name == "CutContour");
        // From the left foot, y up, in points, to the left top, in mm.
        QVERIFY((cut.line.points[0] - Vec2{25.4, 101.6}).length() < 1e-6);
        QVERIFY(sheet->lines[1].role == DielineRole::Fold && sheet->lines[1].name == "Folds");
        QCOMPARE(sheet->lines[2].role, DielineRole::Other);
        const auto turned =
            readPrintersSheet(bytesOf(pdfOf(resources, content, 1, "/Rotate 90")), "turned.pdf");
        QVERIFY(turned && std::abs(turned->width - 127) < 1e-6);
        QVERIFY((turned->lines[0].line.points[0] - Vec2{25.4, 25.4}).length() < 1e-6);
    }

    void anSvgWithTransforms() {
        const std::string svg =
            "<svg xmlns='http://www.w3.org/2000/svg' width='100mm' height='50mm' viewBox='0 0 200 100'>"
            "<g id='CUT' transform='translate(20 10) scale(2)'><rect x='0' y='0' width='40' height='20'/></g>"
            "<g class='crease'><line x1='60' y1='10' x2='60' y2='50' transform='rotate(0)'/></g>"
            "<defs><rect id='cut' x='0' y='0' width='9' height='9'/></defs></svg>";
        const auto sheet = readPrintersSheet(bytesOf(svg), "plant.svg");
        QVERIFY2(sheet, qPrintable(sentence(sheet)));
        QCOMPARE(sheet->lines.size(), size_t(2));
        QVERIFY((sheet->lines[0].line.points[0] - Vec2{10, 5}).length() < 1e-9);
        QVERIFY((sheet->lines[0].line.points[2] - Vec2{50, 25}).length() < 1e-9);
        const auto traced = tracedForm(sheet->lines, "x", "X");
        QVERIFY(traced && traced->form.panels.size() == 2);
    }

    void badSheets() {
        const std::string line = "0 0 m 100 100 l S";
        const auto refused = [&](const std::string& bytes, const char* why, size_t page = 0) {
            const auto sheet = readPrintersSheet(bytesOf(bytes), "plant.pdf", page);
            QVERIFY(!sheet);
            QVERIFY2(sentence(sheet).contains(why) && sentence(sheet).contains("plant.pdf"),
                     qPrintable(sentence(sheet)));
        };
        refused(pdfOf("<< >>", ""), "no line is drawn on it");
        refused(pdfOf("<< >>", line, 400), "it has 400 pages and no page 401", 400);
        QVERIFY(readPrintersSheet(bytesOf(pdfOf("<< >>", line, 400)), "plant.pdf", 399));
        refused("%PDF-1.7\nnothing that a PDF holds", "damaged");
        refused("", "it is no PDF");
        refused("no drawing at all", "");
        std::string cut = pdfOf("<< >>", line);
        cut.resize(cut.size() / 2);
        (void)readPrintersSheet(bytesOf(cut), "plant.pdf"); // may be mended; it must not end the program
        QProcess lock;
        QFile(folder.filePath("open.pdf")).remove();
        QVERIFY(writeFile(at("open.pdf"), bytesOf(pdfOf("<< >>", line))));
        QPDF pdf;
        pdf.processFile(at("open.pdf").c_str());
        const std::string file = at("locked.pdf");
        QPDFWriter writer(pdf, file.c_str()); // which keeps the pointer
        writer.setR6EncryptionParameters("tide", "owner", true, true, true, true, true, true, qpdf_r3p_full,
                                         true);
        writer.write();
        const auto locked = readPrintersSheet(*readFile(at("locked.pdf")), "locked.pdf");
        QVERIFY2(!locked && sentence(locked).contains("locked with a password"),
                 qPrintable(sentence(locked)));
    }

    /// The page can be seen: it comes in as a picture, drawn as finely as it is looked at.
    void aPageAsAPicture() {
        const std::string pdf = pdfOf("<< >>", "1 0 0 rg 0 0 360 360 re f 0 0 m 100 100 l S", 3);
        const auto bytes = std::vector<uint8_t>(pdf.begin(), pdf.end());
        const auto imported = importBytes(bytes, "plant.pdf");
        QVERIFY2(imported, qPrintable(sentence(imported)));
        QCOMPARE(imported->source->format, std::string("pdf"));
        QCOMPARE(imported->source->width, 960); // 10 in at 96 ppi
        QCOMPARE(inspectPicture(bytes, "plant.pdf")->pages, 3);
        const auto large = decodePicture(bytes, "plant.pdf", {}, 1, 2);
        QVERIFY(large && large->width == 1920);
        QVERIFY(pixel(*large, 400, 300)[0] > 250 && pixel(*large, 400, 300)[1] < 5);
        QCOMPARE(pixel(*large, 1500, 300)[3], 0);
        QVERIFY(!importBytes({'%', 'P', 'D', 'F', '-', '1'}, "broken.pdf"));
    }

    /// A form of one's own goes with the release, and stands in a folder for new pieces.
    void ownForms() {
        qputenv("XDG_DATA_HOME", folder.path().toUtf8());
        PartRef made;
        const Form own =
            asOwn(withPart(*shippedForm("sleeve-12"), PartKind::Cutout, {400, 100, 80, 80}, {}, made),
                  "With a hole");
        QVERIFY(keepOwnForm(own));
        QVERIFY(writeFile(ownFormsFolder() / "broken.json", bytesOf("{")));
        std::vector<std::string> notes;
        const auto forms = allForms(notes);
        QVERIFY(forms && forms->size() == shippedForms()->size() + 1);
        QVERIFY(forms->back()->own && forms->back()->name == "With a hole");
        QCOMPARE(notes.size(), size_t(1));
        ReleasePtr r = releaseOf("sleeve-12");
        const auto changed = withForm(r, r->pieces[0]->id, std::make_shared<const Form>(own));
        QVERIFY2(changed, qPrintable(sentence(changed)));
        // Opened where only the shipped forms are.
        const auto back = releaseFromJson(releaseToJson(**changed), shippedForms().value(), noTiles, noLooks);
        QVERIFY2(back, qPrintable(sentence(back)));
        QVERIFY(back->pieces[0]->form->own && back->pieces[0]->flat->cutouts.size() == 1);
        QCOMPARE(releaseToJson(*back), releaseToJson(**changed));
    }
};

GLYPTOS_TEST(PrintersSheetTest)
#include "printers_sheet_test.moc"
