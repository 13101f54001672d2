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
#include <numeric>
#include <set>

using namespace glyptos;
using namespace glyptos::test;

namespace {

constexpr double kSame = 1e-9; // mm or px: the figures are exact

/// Panel id, then x, y, width and height of its trim on its sheet, then its turn.
struct PanelFigures {
    const char* id;
    double x, y, w, h;
    int turn;
};
struct FormFigures {
    const char* form;
    const char* group;
    double width, height, bleed, safety; ///< of its first sheet
    std::vector<PanelFigures> panels;    ///< of that sheet
    size_t sheets = 1;
};

const std::vector<FormFigures>& table() {
    static const std::vector<FormFigures> all{
        {"digital-cover", "screen", 3000, 3000, 0, 120, {{"front", 0, 0, 3000, 3000, 0}}, 1},
        {"single-cover", "screen", 3000, 3000, 0, 120, {{"front", 0, 0, 3000, 3000, 0}}, 1},
        {"podcast-tile", "screen", 3000, 3000, 0, 120, {{"front", 0, 0, 3000, 3000, 0}}, 1},
        {"square-post", "screen", 1080, 1080, 0, 43.2, {{"front", 0, 0, 1080, 1080, 0}}, 1},
        {"tall-story", "screen", 1080, 1920, 0, 43.2, {{"front", 0, 0, 1080, 1920, 0}}, 1},
        {"wide-card", "screen", 1200, 630, 0, 25.2, {{"front", 0, 0, 1200, 630, 0}}, 1},
        {"page-banner", "screen", 1500, 500, 0, 20, {{"front", 0, 0, 1500, 500, 0}}, 1},
        {"disc-booklet",
         "disc",
         240,
         120,
         3,
         4,
         {{"back", 0, 0, 120, 120, 0}, {"front", 120, 0, 120, 120, 0}},
         4},
        {"disc-booklet-outside",
         "disc",
         240,
         120,
         3,
         4,
         {{"back", 0, 0, 120, 120, 0}, {"front", 120, 0, 120, 120, 0}},
         1},
        {"disc-booklet-inside",
         "disc",
         240,
         120,
         3,
         4,
         {{"left", 0, 0, 120, 120, 0}, {"right", 120, 0, 120, 120, 0}},
         1},
        {"tray-card",
         "disc",
         151,
         118,
         3,
         3,
         {{"spine-left", 0, 0, 6.5, 118, 270},
          {"back", 6.5, 0, 138, 118, 0},
          {"spine-right", 144.5, 0, 6.5, 118, 90}},
         1},
        {"tray-liner", "disc", 138, 118, 3, 3, {{"front", 0, 0, 138, 118, 0}}, 1},
        {"disc-face", "disc", 118, 118, 1, 2, {{"front", 0, 0, 118, 118, 0}}, 1},
        {"card-wallet",
         "disc",
         253,
         125,
         3,
         4,
         {{"back", 0, 0, 125, 125, 0}, {"spine", 125, 0, 3, 125, 90}, {"front", 128, 0, 125, 125, 0}},
         1},
        {"wallet-4",
         "disc",
         284,
         125,
         3,
         4,
         {{"back", 0, 0, 139, 125, 0}, {"spine", 139, 0, 6, 125, 90}, {"front", 145, 0, 139, 125, 0}},
         2},
        {"wallet-6",
         "disc",
         426,
         125,
         3,
         4,
         {{"folded", 0, 0, 137.5, 125, 0},
          {"spine-2", 137.5, 0, 4.5, 125, 90},
          {"back", 142, 0, 139, 125, 0},
          {"spine", 281, 0, 6, 125, 90},
          {"front", 287, 0, 139, 125, 0}},
         2},
        {"sleeve-12",
         "record",
         633.8,
         315,
         3,
         5,
         {{"back", 0, 0, 315, 315, 0}, {"spine", 315, 0, 3.8, 315, 90}, {"front", 318.8, 0, 315, 315, 0}},
         1},
        {"gatefold-12",
         "record",
         637.3,
         630,
         3,
         5,
         {{"inner-right", 0, -315, 315, 315, 180},
          {"inner-spine", 315, -315, 7.3, 315, 90},
          {"inner-left", 322.3, -315, 315, 315, 180},
          {"back", 0, 0, 315, 315, 0},
          {"spine", 315, 0, 7.3, 315, 90},
          {"front", 322.3, 0, 315, 315, 0}},
         1},
        {"sleeve-10",
         "record",
         523.8,
         260,
         3,
         5,
         {{"back", 0, 0, 260, 260, 0}, {"spine", 260, 0, 3.8, 260, 90}, {"front", 263.8, 0, 260, 260, 0}},
         1},
        {"sleeve-7",
         "record",
         368,
         184,
         3,
         5,
         {{"back", 0, 0, 184, 184, 0}, {"front", 184, 0, 184, 184, 0}},
         1},
        {"sleeve-7-spine",
         "record",
         369.5,
         184,
         3,
         5,
         {{"back", 0, 0, 184, 184, 0}, {"spine", 184, 0, 1.5, 184, 90}, {"front", 185.5, 0, 184, 184, 0}},
         1},
        {"inner-sleeve",
         "record",
         610,
         305,
         3,
         5,
         {{"back", 0, 0, 305, 305, 0}, {"front", 305, 0, 305, 305, 0}},
         1},
        {"label-12", "record", 100, 100, 2, 3, {{"side-a", 0, 0, 100, 100, 0}}, 2},
        {"label-7", "record", 92, 92, 2, 3, {{"side-a", 0, 0, 92, 92, 0}}, 2},
        {"obi",
         "record",
         144,
         315,
         3,
         3,
         {{"back", 0, 0, 70, 315, 0}, {"spine", 70, 0, 4, 315, 90}, {"front", 74, 0, 70, 315, 0}},
         1},
        {"cassette-card",
         "cassette",
         93.5,
         101.5,
         3,
         2.5,
         {{"flap", 0, 0, 16, 101.5, 0}, {"spine", 16, 0, 12.5, 101.5, 90}, {"front", 28.5, 0, 65, 101.5, 0}},
         1},
        {"cassette-card-right",
         "cassette",
         93.5,
         101.5,
         3,
         2.5,
         {{"front", 0, 0, 65, 101.5, 0}, {"spine", 65, 0, 12.5, 101.5, 90}, {"flap", 77.5, 0, 16, 101.5, 0}},
         1},
        {"shell-label", "cassette", 89, 42, 1.5, 2, {{"side-a", 0, 0, 89, 42, 0}}, 2},
        {"cassette-sleeve",
         "cassette",
         155,
         101.5,
         3,
         2.5,
         {{"spine-2", 0, 0, 12.5, 101.5, 90},
          {"back", 12.5, 0, 65, 101.5, 0},
          {"spine", 77.5, 0, 12.5, 101.5, 90},
          {"front", 90, 0, 65, 101.5, 0}},
         1}};
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
            const Rect trim = flat.sheets[0].trim;
            const double top = want.panels[0].y; // of a row above the first
            QVERIFY2(same(trim.x, 0) && same(trim.y, top) && same(trim.w, want.width) &&
                         same(trim.h, want.height),
                     want.form);
            QVERIFY2(same(flat.bleed, want.bleed) && same(flat.safety, want.safety), want.form);
            QCOMPARE(flat.unit, std::string(want.group) == "screen" ? Unit::Px : Unit::Mm);
            QCOMPARE(flat.sheets.size(), want.sheets);
            QCOMPARE(size_t(std::count_if(flat.panels.begin(), flat.panels.end(),
                                          [](const Panel& p) { return p.sheet == 0; })),
                     want.panels.size());
            for (const PanelFigures& p : want.panels) {
                const Panel* panel = flat.panel(p.id);
                QVERIFY2(panel && panel->sheet == 0, p.id);
                const Rect& on = panel->onFlat;
                QVERIFY2(same(on.x, p.x) && same(on.y, p.y) && same(on.w, p.w) && same(on.h, p.h), want.form);
                QCOMPARE(panel->turn, p.turn);
            }
        }
    }

    /// The figures of what is not a rectangle, of holes, rings and places for codes.
    void holesAndZones() {
        const auto flat = [&](const char* id, const ParameterValues& set = {}) {
            return workOut(*form(id), set).value();
        };
        const auto isDisc = [](const Outline& o, double x, double y, double d) {
            return o.kind == Outline::Kind::Disc && same(o.box.centre().x, x) && same(o.box.centre().y, y) &&
                   same(o.box.w, d) && same(o.box.h, d);
        };
        const Panel face = *flat("disc-face").panel("front");
        QVERIFY(isDisc(face.outline, 59, 59, 118));
        QVERIFY(isDisc(face.cutouts.at(0), 59, 59, 15));
        QVERIFY(face.zones[0].kind == ZoneKind::Bare && isDisc(face.zones[0].outline, 59, 59, 22));
        QVERIFY(face.zones[1].kind == ZoneKind::Uneven && isDisc(face.zones[1].outline, 59, 59, 36));
        QVERIFY(same(face.zones[1].outline.inner, 34));
        QVERIFY(isDisc(flat("disc-face", {{"stop", 46}}).panel("front")->zones[0].outline, 59, 59, 46));
        const Panel label = *flat("label-12").panel("side-b");
        QVERIFY(isDisc(label.outline, 50, 50, 100) && isDisc(label.cutouts.at(0), 50, 50, 7.3));
        QVERIFY(label.zones[0].kind == ZoneKind::Clear && isDisc(label.zones[0].outline, 50, 50, 20));
        const Panel large = *flat("label-7", {{"hole", 38}}).panel("side-a");
        QVERIFY(isDisc(large.outline, 46, 46, 92) && isDisc(large.cutouts.at(0), 46, 46, 38));
        QVERIFY(flat("inner-sleeve").cutouts.empty());
        QVERIFY(
            isDisc(flat("inner-sleeve", {{"window", 1}}).panel("front")->cutouts.at(0), 152.5, 152.5, 100));
        const Panel shell = *flat("shell-label").panel("side-a");
        QVERIFY(same(shell.outline.corners, 3));
        const Rect window = shell.cutouts.at(0).box;
        QVERIFY(same(window.x, 23) && same(window.y, 14.5) && same(window.w, 43) && same(window.h, 13));
        for (const char* id : {"tray-card", "sleeve-12", "sleeve-10", "sleeve-7-spine", "gatefold-12",
                               "card-wallet", "wallet-4", "wallet-6", "cassette-sleeve"}) {
            const Flat made = flat(id);
            const Panel& back = *made.panel("back");
            QCOMPARE(back.zones.size(), size_t(1));
            const Rect code = back.zones[0].outline.box;
            QVERIFY2(back.zones[0].kind == ZoneKind::Code && same(code.w, 37.29) && same(code.h, 25.93), id);
            QVERIFY2(code.centre().x > back.width / 2 && code.centre().y > back.height / 2, id);
            QVERIFY2(back.safeArea()->contains({code.right(), code.bottom()}), id);
        }
    }

    /// What figures make of them: pages, more panels, the other hand, the other side.
    void whatFiguresMakeOfThem() {
        const auto booklet = form("disc-booklet");
        for (const int pages : {2, 4, 8, 12, 16, 20, 24, 28, 32}) {
            const Flat flat = workOut(*booklet, {{"pages", pages}}).value();
            QCOMPARE(flat.panels.size(), size_t(pages));
            QCOMPARE(flat.sheets.size(), size_t(pages == 2 ? 2 : pages / 2));
            QCOMPARE(flat.folds.size(), size_t(pages == 2 ? 0 : pages / 2));
            QCOMPARE(flat.frontPanel().id, std::string("front"));
        }
        QVERIFY(!workOut(*booklet, {{"pages", 6}}));
        const Flat eight = workOut(*booklet).value();
        QCOMPARE(eight.panel("page-4")->sheet, eight.panel("page-5")->sheet);
        QVERIFY(eight.panel("page-4")->bleeds == (Edges{true, true, false, true}));
        const auto card = form("cassette-card");
        const Flat left = workOut(*card, {{"more", 4}}).value();
        const Flat right = workOut(*card, {{"more", 4}, {"hand", 1}, {"both", 1}}).value();
        QVERIFY(same(left.trim().w, 93.5 + 4 * 63.5));
        QCOMPARE(left.folds.size(), size_t(6));
        QCOMPARE(right.panels.size(), size_t(2 * 7));
        for (const Panel& a : left.panels) {
            const Panel& b = *right.panel(a.id);
            QVERIFY2(same(a.onFlat.x, right.sheets[0].trim.right() - b.onFlat.right()), a.id.c_str());
            QCOMPARE(a.turn, b.turn);
            QVERIFY(a.bleeds.top == b.bleeds.top);
        }
        // The other side as it is seen when the sheet is turned over.
        const Sheet& inside = right.sheets[1];
        QCOMPARE(*inside.behind, size_t(0));
        for (const Panel& a : right.panels)
            if (a.sheet == 0) {
                const Panel& b = *right.panel("inside-" + a.id);
                QVERIFY(same(a.onFlat.x - right.sheets[0].trim.x, inside.trim.right() - b.onFlat.right()));
            }
        const Flat gatefold = workOut(*form("gatefold-12"), {{"discs", 1}, {"board", 0.4}}).value();
        QVERIFY(same(gatefold.panel("spine")->onFlat.w, 4 * 0.4 + 2.3 + 0.3 + 0.3));
        // The inner row reads upright when it is folded over the top edge.
        const Vec2 up = gatefold.panel("inner-left")->toFlat().mapVector({0, -1});
        QVERIFY(same(up.y, 1));
        QCOMPARE(workOut(*form("sleeve-12"), {{"reads", 270}}).value().panel("spine")->turn, 270);
    }

    /// Art bleeds over every outer edge of a print form and over no inner one, and folds lie where panels
    /// meet.
    void bleedsAndFolds() {
        for (const auto& made : forms) {
            const Flat flat = workOut(*made).value();
            if (flat.unit == Unit::Px) continue;
            for (const Sheet& sheet : flat.sheets) {
                const Rect grown = sheet.trim.grown(flat.bleed), with = sheet.withBleed;
                QVERIFY2(same(with.x, grown.x) && same(with.y, grown.y) && same(with.w, grown.w) &&
                             same(with.h, grown.h),
                         made->id.c_str());
            }
            for (const Panel& a : flat.panels)
                for (const Panel& b : flat.panels) {
                    if (&a == &b) continue;
                    const Rect bled = a.toFlat().mapBounds(a.withBleed());
                    const Rect shared = bled.intersected(b.onFlat);
                    QVERIFY2(shared.w < kSame || shared.h < kSame, made->id.c_str());
                }
            // All panels of a sheet hang together by folds, and no sheet by a fold with another.
            std::vector<size_t> piece(flat.panels.size() + flat.flaps.size());
            std::iota(piece.begin(), piece.end(), size_t(0));
            for (const Fold& fold : flat.folds)
                for (const auto& [a, b] : fold.joins) {
                    const size_t from = piece[a], to = piece[b];
                    std::replace(piece.begin(), piece.end(), from, to);
                }
            QCOMPARE(std::set<size_t>(piece.begin(), piece.end()).size(), flat.sheets.size());
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
            QCOMPARE(report->pages.size(), piece->flat->sheets.size());
            const PrintedPage& first = report->pages[0];
            QVERIFY(same(first.trimWidthMm, piece->flat->sheets[0].trim.w) &&
                    same(first.trimHeightMm, piece->flat->sheets[0].trim.h));
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
                             first.trimWidthMm * kPointsPerMm) < 2 * kPrinted);
            QVERIFY(std::abs(found.captured(4).toDouble() - found.captured(2).toDouble() -
                             first.trimHeightMm * kPointsPerMm) < 2 * kPrinted);
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
            const Panel& front = piece->flat->frontPanel();
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
            // In a disc they stand in the square that has its corners on the rim.
            const bool round = front.outline.kind == Outline::Kind::Disc;
            const double side = round ? front.height / std::sqrt(2) : front.height,
                         shorter = round ? side : std::min(front.width, front.height);
            QVERIFY2(same(words->spec.letters.size, 300 * shorter / 3000), made->id.c_str());
            QVERIFY(same(title.placement.position.y, (front.height - side) / 2 + side * 0.9));
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
