// Inks besides the four, what is asked of a print file beside its art, and the files it comes in; read back
// by QPDF.
#include "file/print/print_job.h"

#include "release/edits/palette_edits.h"
#include "release/edits/wrap_edits.h"
#include "support/forms.h"
#include "support/pictures.h"
#include "support/register.h"

#include <QTemporaryDir>
#include <qpdf/Buffer.hh>
#include <qpdf/QPDF.hh>
#include <qpdf/QPDFPageDocumentHelper.hh>

using namespace glyptos;
using namespace glyptos::test;

namespace {

/// The first page of a print file.
class Page {
  public:
    explicit Page(const std::string& file) {
        pdf_.processFile(file.c_str());
        page_ = QPDFPageDocumentHelper(pdf_).getAllPages()[0].getObjectHandle();
    }
    std::string content() {
        const auto data = page_.getKey("/Contents").getStreamData();
        return {reinterpret_cast<const char*>(data->getBuffer()), data->getSize()};
    }
    /// The picture that is tinted in that ink; "" for the art in the four.
    std::optional<QPDFObjectHandle> picture(const std::string& ink) {
        for (auto& [name, picture] : page_.getKey("/Resources").getKey("/XObject").getDictAsMap()) {
            auto space = picture.getDict().getKey("/ColorSpace");
            const std::string has = space.isArray() ? space.getArrayItem(1).getName() : "/";
            if (has == "/" + ink) return picture;
        }
        return std::nullopt;
    }
    /// Samples of a pixel, `x` and `y` in shares of the picture.
    std::vector<int> at(const std::string& ink, double x, double y) {
        auto image = *picture(ink);
        const int w = image.getDict().getKey("/Width").getIntValueAsInt(),
                  h = image.getDict().getKey("/Height").getIntValueAsInt();
        const auto data = image.getStreamData();
        const size_t channels = data->getSize() / (size_t(w) * size_t(h)),
                     from = (size_t(y * h) * size_t(w) + size_t(x * w)) * channels;
        std::vector<int> out;
        for (size_t c = 0; c < channels; ++c) out.push_back(data->getBuffer()[from + c]);
        return out;
    }
    std::set<std::string> spaces() {
        std::set<std::string> out;
        for (auto& [name, space] : page_.getKey("/Resources").getKey("/ColorSpace").getDictAsMap())
            out.insert(space.getArrayItem(1).getName());
        return out;
    }
    double mediaHeightMm() {
        auto box = page_.getKey("/MediaBox");
        return (box.getArrayItem(3).getNumericValue() - box.getArrayItem(1).getNumericValue()) / 72 * 25.4;
    }

  private:
    QPDF pdf_;
    QPDFObjectHandle page_;
};

} // namespace

class PrintPlatesTest : public QObject {
    Q_OBJECT
    QTemporaryDir folder;
    FontLibrary fonts{dataFolder() / "fonts", true};
    HeldPictures pictures;
    Renderer renderer{pictures, fonts};

    std::string at(const char* name) const { return folder.filePath(name).toStdString(); }
    static PanelRef back(const ReleasePtr& r) { return {r->pieces[0]->id, r->pieces[0]->flat->panels[0].id}; }

    /// A liner of 138 × 118 with a palette of a gold that has its own ink and a varnish over the others.
    static ReleasePtr liner() {
        ReleasePtr r = withSwatches(releaseOf("tray-liner"),
                                    {{"Old gold", {0.8f, 0.6f, 0.2f, 1}}, {"Gloss", {0.7f, 0.7f, 0.7f, 1}}});
        r = withSwatchPlate(r, r->palette[0].id, Plate::Own);
        return withSwatchPlate(r, r->palette[1].id, Plate::Over);
    }
    static Ink gold(const ReleasePtr& r) { return {r->palette[0].colour, r->palette[0].id}; }
    static ReleasePtr withFill(const ReleasePtr& r, const Ink& colour) {
        Layer fill;
        fill.content = FillContent{colour};
        return withLayer(r, back(r), fill);
    }
    static Layer box(const Rect& mm, const Ink& colour) {
        Layer layer;
        ShapeContent shape;
        shape.width = mm.w, shape.height = mm.h, shape.fill = colour;
        layer.content = shape;
        layer.placement.position = mm.centre();
        return layer;
    }
    static Layer words(const char* text, double size, const Ink& colour, Vec2 at) {
        Layer layer;
        TextContent content;
        content.spec.text = text, content.spec.letters.size = size;
        content.colour = colour;
        layer.content = content, layer.placement.position = at;
        return layer;
    }
    Result<PrintReport> print(const ReleasePtr& r, const char* name,
                              const std::function<void(PrintOptions&)>& change = {}) {
        PrintOptions options;
        options.ppi = 100;
        if (change) change(options);
        return writePrintPdf(renderer, r, r->pieces[0]->id, options, at(name));
    }
    static bool has(const std::vector<std::string>& all, const std::string& one) {
        return std::find(all.begin(), all.end(), one) != all.end();
    }

  private Q_SLOTS:
    /// Where a shape follows the gold, the gold prints and the four inks do not; what lies before it takes
    /// its place again.
    void anInkOfItsOwnTakesThePlaceOfTheFour() {
        ReleasePtr r = withFill(liner(), Ink{0.1f, 0.2f, 0.6f, 1});
        r = withLayer(r, back(r), box({19, 19, 100, 80}, gold(r)));
        r = withLayer(r, back(r), box({89, 19, 30, 80}, Ink{0.6f, 0.1f, 0.1f, 1}));
        const auto report = print(r, "gold.pdf");
        QVERIFY2(report, qPrintable(sentence(report)));
        QVERIFY(has(report->pages[0].inks, "Old gold") && has(report->pages[0].inks, "Cyan"));
        QVERIFY(!has(report->pages[0].inks, "Gloss"));
        Page page(at("gold.pdf"));
        QVERIFY(page.spaces().contains("/Old gold") && !page.spaces().contains("/Gloss"));
        const std::vector<int> none{0, 0, 0, 0}, full{255}, empty{0};
        QCOMPARE(page.at("Old gold", 0.4, 0.5), full);
        QCOMPARE(page.at("", 0.4, 0.5), none);
        QCOMPARE(page.at("Old gold", 0.05, 0.5), empty);
        QVERIFY(page.at("", 0.05, 0.5) != none);
        QCOMPARE(page.at("Old gold", 0.75, 0.5), empty); // under the red
        QVERIFY(page.at("", 0.75, 0.5) != none);
    }

    /// Half covering, half of the ink; a mask and a group count too.
    void howMuchItCoversIsTheTint() {
        ReleasePtr r = liner();
        Layer half = box({19, 19, 100, 80}, gold(r));
        half.opacity = 0.5;
        Layer group;
        group.content = GroupContent{{std::make_shared<const Layer>(half)}};
        group.opacity = 0.5;
        r = withLayer(r, back(r), group);
        QVERIFY(print(r, "half.pdf"));
        Page page(at("half.pdf"));
        QVERIFY(std::abs(page.at("Old gold", 0.5, 0.5)[0] - 64) <= 1);
    }

    /// A picture that is given the varnish prints there alone; the four inks print as if it were not there.
    void aVarnishLiesOverTheOthers() {
        ReleasePtr r = withFill(liner(), Ink{0.1f, 0.2f, 0.6f, 1});
        Layer gloss = box({19, 19, 60, 80}, Ink{0.5f, 0.9f, 0.4f, 1});
        gloss.spot = r->palette[1].id;
        r = withLayer(r, back(r), words("Slack Tide", 12, Ink{1, 1, 1, 1}, {20, 40}));
        r = withLayer(r, back(r), gloss);
        const auto report = print(r, "gloss.pdf");
        QVERIFY2(report, qPrintable(sentence(report)));
        QCOMPARE(report->pages[0].outlinedTexts, 1); // though the varnish lies before them
        Page page(at("gloss.pdf"));
        QCOMPARE(page.at("Gloss", 0.3, 0.5), std::vector<int>{255});
        QCOMPARE(page.at("", 0.3, 0.9), page.at("", 0.9, 0.9));
        QCOMPARE(page.at("", 0.3, 0.5), page.at("", 0.9, 0.5));
        QVERIFY(page.content().find("/Over gs") != std::string::npos);
    }

    /// Words that follow it stay outlines, in its ink.
    void wordsInTheirOwnInk() {
        ReleasePtr r = withFill(liner(), Ink{0.1f, 0.2f, 0.6f, 1});
        r = withLayer(r, back(r), words("Slack Tide", 12, gold(r), {20, 40}));
        const auto report = print(r, "words.pdf");
        QVERIFY(report && report->pages[0].outlinedTexts == 1);
        QVERIFY(has(report->pages[0].inks, "Old gold"));
        Page page(at("words.pdf"));
        QVERIFY(page.content().find("/Plate0 cs 1 scn") != std::string::npos);
        QVERIFY(!page.picture("Old gold"));
    }

    /// Art that runs over panels prints in its ink on each of them.
    void overPanels() {
        ReleasePtr r = withSwatches(releaseOf("sleeve-7-spine"), {{"Old gold", {0.8f, 0.6f, 0.2f, 1}}});
        r = withSwatchPlate(r, r->palette[0].id, Plate::Own);
        const std::string piece = r->pieces[0]->id;
        const Made made = withLayer(r, {piece, "front"}, box({-60, 50, 120, 40}, gold(r)));
        const auto over = withRunOver(made, {piece, "front"}, {made.id}, {"spine", "back"});
        QVERIFY2(over, qPrintable(sentence(over)));
        QVERIFY(print(over->release, "over.pdf"));
        Page page(at("over.pdf"));
        QCOMPARE(page.at("Old gold", 0.45, 0.4), std::vector<int>{255});
        QCOMPARE(page.at("Old gold", 0.55, 0.4), std::vector<int>{255});
        QCOMPARE(page.at("Old gold", 0.2, 0.4), std::vector<int>{0});
    }

    /// Words of a wrap stay outlines, once on each panel it shows on, unless something lies before them.
    void wordsOverPanelsStayOutlines() {
        ReleasePtr r = releaseOf("sleeve-7-spine");
        const std::string piece = r->pieces[0]->id;
        const Made made = withLayer(r, {piece, "front"}, words("Slack Tide", 20, Ink{0, 0, 0, 1}, {-20, 40}));
        const ReleasePtr over = withRunOver(made, {piece, "front"}, {made.id}, {"spine"})->release;
        const auto report = print(over, "wrapped.pdf");
        QVERIFY(report && report->pages[0].outlinedTexts == 2);
        QVERIFY(Page(at("wrapped.pdf")).at("", 0.53, 0.25) == (std::vector<int>{0, 0, 0, 0}));
        const ReleasePtr hidden =
            withLayer(over, {piece, "front"}, box({0, 0, 184, 184}, Ink{0.1f, 0.2f, 0.6f, 0.5f}));
        const auto flat = print(hidden, "hidden.pdf");
        QVERIFY(flat && flat->pages[0].outlinedTexts == 0);
    }

    /// Small black words print over what is there; large ones are of all inks where that is wished.
    void blackWords() {
        ReleasePtr r = withFill(liner(), Ink{0.9f, 0.8f, 0.6f, 1});
        r = withLayer(r, back(r), words("Low Water", 3, Ink{0, 0, 0, 1}, {20, 20}));
        r = withLayer(r, back(r), words("TIDE", 30, Ink{0, 0, 0, 1}, {20, 40}));
        QVERIFY(print(r, "black.pdf"));
        const std::string plain = Page(at("black.pdf")).content();
        QVERIFY(plain.find("/Over gs 0 0 0 1 k") != std::string::npos);
        QVERIFY(plain.find("0.6 0.4 0.4 1 k") == std::string::npos);
        QVERIFY(print(r, "rich.pdf", [](PrintOptions& o) { o.richBlackFrom = 48; }));
        const std::string rich = Page(at("rich.pdf")).content();
        QVERIFY(rich.find("/Over gs 0 0 0 1 k") != std::string::npos); // 3 mm are 8.5 pt
        QVERIFY(rich.find("0.6 0.4 0.4 1 k") != std::string::npos);
    }

    void furtherPlates() {
        ReleasePtr r = releaseOf("disc-face");
        r = withLayer(r, back(r), box({9, 9, 100, 100}, Ink{0.2f, 0.3f, 0.4f, 1}));
        const auto report = print(r, "plates.pdf", [](PrintOptions& o) { o.extra = {true, true}; });
        QVERIFY2(report, qPrintable(sentence(report)));
        for (const char* name : {"Cut", "Crease", "White"}) QVERIFY(has(report->pages[0].inks, name));
        Page page(at("plates.pdf"));
        for (const char* name : {"/Cut", "/Crease", "/White"}) QVERIFY(page.spaces().contains(name));
        QCOMPARE(page.at("White", 0.5, 0.25), std::vector<int>{255}); // under the art
        QCOMPARE(page.at("White", 0.5, 0.02), std::vector<int>{0});   // where there is none
        QCOMPARE(page.at("White", 0.5, 0.5), std::vector<int>{0});    // nor in the hole
        QVERIFY(page.content().find("/Plate1 CS 1 SCN") != std::string::npos);
        // Drawn in by 0.1 mm from the edge of the art.
        int art = 0, white = 0;
        for (int i = 0; i < 460; ++i) {
            art += page.at("", i / 460.0, 0.25) != std::vector<int>{0, 0, 0, 0};
            white += page.at("White", i / 460.0, 0.25)[0] > 127;
        }
        QVERIFY2(white < art && art - white <= 6, qPrintable(QString("%1 %2").arg(art).arg(white)));
    }

    void slugBelowTheBleed() {
        const ReleasePtr r = withFill(liner(), gold(liner()));
        QVERIFY(print(r, "bare.pdf") && print(r, "slug.pdf", [](PrintOptions& o) { o.slug = true; }));
        Page bare(at("bare.pdf")), slug(at("slug.pdf"));
        QVERIFY(std::abs(slug.mediaHeightMm() - bare.mediaHeightMm() - 9) < 0.01);
        QVERIFY(slug.content().size() > bare.content().size() + 2000); // the outlines of its words
        QVERIFY(slug.content().find("0 1 1 0 k") != std::string::npos);
    }

    void intentsDiffer() {
        const ReleasePtr r = withFill(liner(), Ink{0, 0.1f, 1, 1});
        std::set<std::vector<int>> seen;
        for (const auto intent : {RenderingIntent::Relative, RenderingIntent::Absolute}) {
            QVERIFY(print(r, "intent.pdf", [&](PrintOptions& o) { o.look.intent = intent; }));
            seen.insert(Page(at("intent.pdf")).at("", 0.5, 0.5));
        }
        QCOMPARE(seen.size(), size_t(2));
        // White art has no ink relatively, and that of the paper's difference absolutely.
        const ReleasePtr white = withFill(liner(), Ink{1, 1, 1, 1});
        QVERIFY(print(white, "white.pdf"));
        QCOMPARE(Page(at("white.pdf")).at("", 0.5, 0.5), (std::vector<int>{0, 0, 0, 0}));
    }

    /// A soft edge becomes steeper, and flat areas stay as they are.
    void sharpenedForPrint() {
        ReleasePtr r = withFill(liner(), Ink{0.7f, 0.7f, 0.7f, 1});
        r = withLayer(r, back(r), box({69, 0, 69, 118}, Ink{0.3f, 0.3f, 0.3f, 1}));
        QVERIFY(print(r, "soft.pdf") && print(r, "sharp.pdf", [](PrintOptions& o) { o.sharpen = 1.5; }));
        Page soft(at("soft.pdf")), sharp(at("sharp.pdf"));
        QCOMPARE(soft.at("", 0.2, 0.5), sharp.at("", 0.2, 0.5));
        bool steeper = false;
        for (int i = -3; i <= 3; ++i) {
            const double x = 0.5 + i / 555.0;
            steeper = steeper || soft.at("", x, 0.5) != sharp.at("", x, 0.5);
        }
        QVERIFY(steeper);
    }

    void pairsAndFilesApart() {
        ReleasePtr r = releaseOf("disc-booklet", {{"pages", 8}});
        Layer fill;
        fill.content = FillContent{Rgba{0.2f, 0.4f, 0.6f, 1}};
        r = withLayer(r, {r->pieces[0]->id, "page-7"}, fill);
        PrintJob job;
        job.options.ppi = 60, job.options.inPairs = true;
        job.filePerPage = job.report = true;
        const auto done = writePrintJob(renderer, r, r->pieces[0]->id, job, at("book.pdf"));
        QVERIFY2(done, qPrintable(sentence(done)));
        QCOMPARE(done->files.size(), size_t(5));
        QCOMPARE(done->report.pages[1].sheet, std::string("Pages 2 and 7"));
        QVERIFY(done->report.pages[1].mostInk > 0.5 && done->report.pages[3].mostInk == 0);
        Page second(at("book 2.pdf"));
        QCOMPARE(second.at("", 0.2, 0.5), (std::vector<int>{0, 0, 0, 0}));
        QVERIFY(second.at("", 0.8, 0.5) != (std::vector<int>{0, 0, 0, 0}));
        QFile report(folder.filePath("book report.txt"));
        QVERIFY(report.open(QIODevice::ReadOnly));
        const QString said = QString::fromUtf8(report.readAll());
        QVERIFY2(said.contains("Page 2: Pages 2 and 7") && said.contains("trim 240 × 120 mm, bleed 3 mm") &&
                     said.contains("inks: Cyan"),
                 qPrintable(said));
        const ReleasePtr sleeve = releaseOf("sleeve-12");
        const auto none = writePrintJob(renderer, sleeve, sleeve->pieces[0]->id, job, at("none.pdf"));
        QVERIFY(sentence(none).contains("Printer's pairs are for booklets"));
        QVERIFY(!QFile::exists(folder.filePath("none.pdf")));
    }

    void aTiffSaysWhatItCannotHold() {
        ReleasePtr r = withFill(liner(), gold(liner()));
        PrintJob job;
        job.as = PrintJob::As::Tiff, job.options.ppi = 60;
        const auto done = writePrintJob(renderer, r, r->pieces[0]->id, job, at("gold.tif"));
        QVERIFY2(done, qPrintable(sentence(done)));
        QCOMPARE(done->report.notes.size(), size_t(1));
        QVERIFY(has(done->report.pages[0].inks, "Yellow"));
        QVERIFY(QString::fromStdString(done->report.notes[0]).contains("“Old gold” has no plate"));
    }

    /// The palette says how its colours print, and what printed in one that is gone prints in the four again.
    void swatchesRemember() {
        ReleasePtr r = liner();
        Layer gloss = box({19, 19, 60, 80}, Ink{0.5f, 0.9f, 0.4f, 1});
        gloss.spot = r->palette[1].id;
        const Made made = withLayer(r, back(r), gloss);
        r = withPalette(made, {{"Old gold", {0.9f, 0.6f, 0.2f, 1}}});
        QVERIFY(r->palette.size() == 1 && r->palette[0].plate == Plate::Own);
        QVERIFY(findLayer(stackOf(*r, back(r)), made.id)->spot.empty());
    }
};

GLYPTOS_TEST(PrintPlatesTest)
#include "print_plates_test.moc"
