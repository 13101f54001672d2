// The forms that are shipped, against figures written down here a second time; each prints, and takes over
// the art of another piece.
#include "file/data_folder.h"
#include "file/pictures/store_picture.h"
#include "file/print/print_pdf.h"
#include "file/project.h"
#include "release/edits/refit.h"
#include "release/fields.h"
#include "release/placing.h"
#include "render/renderer.h"
#include "support/pictures.h"
#include "support/register.h"

#include <QProcess>
#include <QRegularExpression>
#include <QTemporaryDir>

using namespace glyptos;
using namespace glyptos::test;

namespace {

constexpr double kSame = 1e-9; // mm or px: the figures are exact

/// Panel id, then x, y, width and height of its trim on the flat, then its turn.
struct PanelFigures {
    const char* id;
    double x, y, w, h;
    int turn;
};
struct FormFigures {
    const char* form;
    const char* group;
    double width, height, bleed, safety;
    std::vector<PanelFigures> panels;
};

const std::vector<FormFigures>& table() {
    static const std::vector<FormFigures> all{
        {"digital-cover", "screen", 3000, 3000, 0, 120, {{"front", 0, 0, 3000, 3000, 0}}},
        {"single-cover", "screen", 3000, 3000, 0, 120, {{"front", 0, 0, 3000, 3000, 0}}},
        {"podcast-tile", "screen", 3000, 3000, 0, 120, {{"front", 0, 0, 3000, 3000, 0}}},
        {"square-post", "screen", 1080, 1080, 0, 43.2, {{"front", 0, 0, 1080, 1080, 0}}},
        {"tall-story", "screen", 1080, 1920, 0, 43.2, {{"front", 0, 0, 1080, 1920, 0}}},
        {"wide-card", "screen", 1200, 630, 0, 25.2, {{"front", 0, 0, 1200, 630, 0}}},
        {"page-banner", "screen", 1500, 500, 0, 20, {{"front", 0, 0, 1500, 500, 0}}},
        {"disc-booklet-outside",
         "disc",
         240,
         120,
         3,
         4,
         {{"back", 0, 0, 120, 120, 0}, {"front", 120, 0, 120, 120, 0}}},
        {"disc-booklet-inside",
         "disc",
         240,
         120,
         3,
         4,
         {{"left", 0, 0, 120, 120, 0}, {"right", 120, 0, 120, 120, 0}}},
        {"tray-card",
         "disc",
         151,
         118,
         3,
         3,
         {{"spine-left", 0, 0, 6.5, 118, 270},
          {"back", 6.5, 0, 138, 118, 0},
          {"spine-right", 144.5, 0, 6.5, 118, 90}}},
        {"tray-liner", "disc", 138, 118, 3, 3, {{"front", 0, 0, 138, 118, 0}}},
        {"card-wallet",
         "disc",
         253,
         125,
         3,
         4,
         {{"back", 0, 0, 125, 125, 0}, {"spine", 125, 0, 3, 125, 90}, {"front", 128, 0, 125, 125, 0}}},
        {"sleeve-12",
         "record",
         633.8,
         315,
         3,
         5,
         {{"back", 0, 0, 315, 315, 0}, {"spine", 315, 0, 3.8, 315, 90}, {"front", 318.8, 0, 315, 315, 0}}},
        {"sleeve-10",
         "record",
         523.8,
         260,
         3,
         5,
         {{"back", 0, 0, 260, 260, 0}, {"spine", 260, 0, 3.8, 260, 90}, {"front", 263.8, 0, 260, 260, 0}}},
        {"sleeve-7", "record", 368, 184, 3, 5, {{"back", 0, 0, 184, 184, 0}, {"front", 184, 0, 184, 184, 0}}},
        {"sleeve-7-spine",
         "record",
         369.5,
         184,
         3,
         5,
         {{"back", 0, 0, 184, 184, 0}, {"spine", 184, 0, 1.5, 184, 90}, {"front", 185.5, 0, 184, 184, 0}}},
        {"inner-sleeve",
         "record",
         610,
         305,
         3,
         5,
         {{"back", 0, 0, 305, 305, 0}, {"front", 305, 0, 305, 305, 0}}},
        {"obi",
         "record",
         144,
         315,
         3,
         3,
         {{"back", 0, 0, 70, 315, 0}, {"spine", 70, 0, 4, 315, 90}, {"front", 74, 0, 70, 315, 0}}},
        {"cassette-card",
         "cassette",
         93.5,
         101.5,
         3,
         2.5,
         {{"flap", 0, 0, 16, 101.5, 0}, {"spine", 16, 0, 12.5, 101.5, 90}, {"front", 28.5, 0, 65, 101.5, 0}}},
        {"cassette-card-right",
         "cassette",
         93.5,
         101.5,
         3,
         2.5,
         {{"front", 0, 0, 65, 101.5, 0},
          {"spine", 65, 0, 12.5, 101.5, 90},
          {"flap", 77.5, 0, 16, 101.5, 0}}}};
    return all;
}

bool same(double a, double b) {
    return std::abs(a - b) < kSame;
}

} // namespace

class ShippedFormsTest : public QObject {
    Q_OBJECT
    FormList forms = shippedForms().value();
    FontLibrary fonts{dataFolder() / "fonts", true};

    std::shared_ptr<const Form> form(const std::string& id) const {
        for (const auto& f : forms)
            if (f->id == id) return f;
        return nullptr;
    }

    /// A cover with a photo, a word low on it and a coloured ground, as the first piece of a release.
    ReleasePtr cover(HeldPictures& pictures) const {
        ReleasePtr r = *withPiece(std::make_shared<const Release>(), form("digital-cover"));
        Brief brief;
        brief.title = "Slack Tide Almanac";
        r = withBrief(r, brief);
        const PanelRef front{r->pieces[0]->id, "front"};
        r = pictures.add(r, "photo", pictureOf(400, 300, [](int x, int) {
                             return std::array<uint8_t, 4>{uint8_t(x / 2), 90, 60, 255};
                         }));
        Layer ground, photo, title;
        ground.name = "Ground", ground.content = FillContent{Ink{0.1f, 0.2f, 0.3f, 1}};
        photo.name = "Photo", photo.content = PictureContent{"photo", {0, 0, 1, 1}};
        photo.placement = covering({0, 0, 3000, 3000}, *r->source("photo"));
        TextContent words;
        words.spec.text = "{title}", words.spec.letters.size = 300, words.spec.align = Align::Centre;
        title.name = "Title", title.content = words, title.placement.position = {1500, 2700};
        for (const Layer& layer : {ground, photo, title}) r = withLayer(r, front, layer);
        return r;
    }

  private Q_SLOTS:
    void figures() {
        QCOMPARE(forms.size(), table().size());
        for (const FormFigures& want : table()) {
            const auto made = form(want.form);
            QVERIFY2(made, want.form);
            QCOMPARE(std::string(kFormGroupIds[size_t(made->group)]), std::string(want.group));
            const Flat flat = workOut(*made).value();
            const Rect trim = flat.trim();
            QVERIFY2(same(trim.x, 0) && same(trim.y, 0) && same(trim.w, want.width) &&
                         same(trim.h, want.height),
                     want.form);
            QVERIFY2(same(flat.bleed, want.bleed) && same(flat.safety, want.safety), want.form);
            QCOMPARE(flat.unit, std::string(want.group) == "screen" ? Unit::Px : Unit::Mm);
            QCOMPARE(flat.panels.size(), want.panels.size());
            for (const PanelFigures& p : want.panels) {
                const Panel* panel = flat.panel(p.id);
                QVERIFY2(panel, p.id);
                const Rect& on = panel->onFlat;
                QVERIFY2(same(on.x, p.x) && same(on.y, p.y) && same(on.w, p.w) && same(on.h, p.h), want.form);
                QCOMPARE(panel->turn, p.turn);
            }
        }
    }

    /// Art bleeds over every outer edge of a print form and over no inner one, and folds lie where panels
    /// meet.
    void bleedsAndFolds() {
        for (const auto& made : forms) {
            const Flat flat = workOut(*made).value();
            if (flat.unit == Unit::Px) continue;
            const Rect trim = flat.trim(), grown = trim.grown(flat.bleed), with = flat.withBleed();
            QVERIFY2(same(with.x, grown.x) && same(with.y, grown.y) && same(with.w, grown.w) &&
                         same(with.h, grown.h),
                     made->id.c_str());
            for (const Panel& a : flat.panels)
                for (const Panel& b : flat.panels) {
                    if (&a == &b) continue;
                    const Rect bled = a.toFlat().mapBounds(a.withBleed());
                    const Rect shared = bled.intersected(b.onFlat);
                    QVERIFY2(shared.w * shared.h < kSame, made->id.c_str());
                }
            QCOMPARE(std::count_if(flat.folds.begin(), flat.folds.end(),
                                   [](const Fold& f) { return f.from.x == f.to.x; }),
                     std::ptrdiff_t(flat.panels.size()) - 1);
        }
    }

    /// On the flat the tops of the spine's letters face outwards.
    void lettersOnTheTrayCard() {
        const Flat flat = workOut(*form("tray-card")).value();
        const auto up = [&](const char* id) { return flat.panel(id)->toFlat().mapVector({0, -1}); };
        QVERIFY(same(up("spine-left").x, -1) && same(up("spine-right").x, 1));
    }

    void everyPrintFormPrints() {
        QTemporaryDir folder;
        HeldPictures pictures;
        ReleasePtr r = cover(pictures);
        const std::string first = r->pieces[0]->id;
        for (const auto& made : forms) r = *withPieceLike(r, made, first);
        Renderer renderer(pictures, fonts);
        for (const PiecePtr& piece : r->pieces) {
            if (piece->flat->unit == Unit::Px) continue;
            const auto file = folder.filePath(QString::fromStdString(piece->form->id) + ".pdf");
            PrintOptions options;
            options.ppi = 40; // the geometry is what counts here
            const auto report = writePrintPdf(renderer, r, piece->id, options, file.toStdString());
            QVERIFY2(report, qPrintable(sentence(report)));
            QVERIFY(same(report->trimWidthMm, piece->flat->trim().w) &&
                    same(report->trimHeightMm, piece->flat->trim().h));
            QProcess info;
            info.start("pdfinfo", {"-box", file});
            QVERIFY(info.waitForFinished());
            QCOMPARE(info.exitCode(), 0);
            const QString box = info.readAllStandardOutput();
            static const QRegularExpression trimBox(
                "TrimBox:\\s+([\\d.]+)\\s+([\\d.]+)\\s+([\\d.]+)\\s+([\\d.]+)");
            const auto found = trimBox.match(box);
            QVERIFY2(found.hasMatch(), qPrintable(box));
            constexpr double kPointsPerMm = 72 / 25.4, kPrinted = 0.006; // pt: pdfinfo prints two decimals
            QVERIFY(std::abs(found.captured(3).toDouble() - found.captured(1).toDouble() -
                             report->trimWidthMm * kPointsPerMm) < 2 * kPrinted);
            QVERIFY(std::abs(found.captured(4).toDouble() - found.captured(2).toDouble() -
                             report->trimHeightMm * kPointsPerMm) < 2 * kPrinted);
        }
    }

    /// Its ground covers the new front with its bleed and is not squashed; its words are there and follow the
    /// brief.
    void aPieceBeginsFromAnother() {
        HeldPictures pictures;
        const ReleasePtr r = cover(pictures);
        for (const auto& made : forms) {
            const ReleasePtr next = *withPieceLike(r, made, r->pieces[0]->id);
            const PiecePtr piece = next->pieces.back();
            const Panel& front = piece->flat->panels.back();
            const Stack& stack = piece->take().stack(front.id);
            QCOMPARE(stack.size(), size_t(3));
            const Layer& title = *stack[0];
            const Layer& photo = *stack[1];
            QCOMPARE(photo.placement.scaleX, photo.placement.scaleY);
            const Source& source = *next->source("photo");
            const double w = source.width * photo.placement.scaleX,
                         h = source.height * photo.placement.scaleY;
            const Rect shown{photo.placement.position.x - w / 2, photo.placement.position.y - h / 2, w, h};
            const Rect area = front.withBleed();
            constexpr double kRounding = 1e-6;
            QVERIFY2(shown.x <= area.x + kRounding && shown.y <= area.y + kRounding &&
                         shown.right() >= area.right() - kRounding &&
                         shown.bottom() >= area.bottom() - kRounding,
                     made->id.c_str());
            const auto* words = title.as<TextContent>();
            QCOMPARE(resolvedText(*words, *next).text, std::string("Slack Tide Almanac"));
            QVERIFY(same(words->spec.letters.size, 300 * std::min(front.width, front.height) / 3000));
            QVERIFY(same(title.placement.position.y, front.height * 0.9));
        }
        QCOMPARE(withPieceLike(r, form("obi"), "gone")->get()->pieces.size(), size_t(2)); // begins empty then
    }

    void eachPieceHasANameOfItsOwn() {
        ReleasePtr r = std::make_shared<const Release>();
        for (int i = 0; i < 3; ++i) r = *withPiece(r, form("digital-cover"));
        QCOMPARE(r->pieces[0]->name, std::string("Digital cover"));
        QCOMPARE(r->pieces[1]->name, std::string("Digital cover 2"));
        QCOMPARE(r->pieces[2]->name, std::string("Digital cover 3"));
    }
};

GLYPTOS_TEST(ShippedFormsTest)
#include "shipped_forms_test.moc"
