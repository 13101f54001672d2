// Sheets on the paper of a home printer: where they lie, that backs lie behind fronts, and what Poppler makes
// of the file.
#include "file/print/home_print.h"

#include "support/forms.h"
#include "support/pictures.h"
#include "support/register.h"

#include <QImage>
#include <QProcess>
#include <QTemporaryDir>

using namespace glyptos;
using namespace glyptos::test;

class HomePrintTest : public QObject {
    Q_OBJECT
    QTemporaryDir folder;
    FontLibrary fonts{dataFolder() / "fonts", true};
    HeldPictures pictures;
    Renderer renderer{pictures, fonts};

    static std::vector<size_t> all(const Flat& flat) {
        std::vector<size_t> out(flat.sheets.size());
        for (size_t i = 0; i < out.size(); ++i) out[i] = i;
        return out;
    }
    static HomePaper paper(const HomePaper& base, Duplex duplex = Duplex::None, int copies = 1) {
        HomePaper out = base;
        out.duplex = duplex, out.copies = copies;
        return out;
    }
    /// Where a point of a sheet lies on the paper.
    static Vec2 on(const HomePlaced& placed, Vec2 flat) { return placed.flatToPaper.map(flat); }
    QImage page(const QString& file, int number, int ppi) const {
        QProcess poppler;
        const QString at = QString::number(number);
        poppler.start("pdftoppm", {"-r", QString::number(ppi), "-f", at, "-l", at, "-png", file});
        if (!poppler.waitForFinished(60000) || poppler.exitCode() != 0) qFatal("no page");
        return QImage::fromData(poppler.readAllStandardOutput());
    }

  private Q_SLOTS:
    /// Nothing is scaled, all of every sheet is on some page, and nothing lies outside what printers reach.
    void everyFormLiesWholeOnPaper() {
        const FormList forms = shippedForms().value();
        for (const auto& form : forms) {
            if (form->unit != Unit::Mm) continue;
            const Flat flat = workOut(*form).value();
            for (const HomePaper& base : {kA4, kLetter}) {
                const Rect room = homeArea(base);
                const auto pages = planHome(flat, all(flat), base);
                std::vector<std::vector<Rect>> covered(flat.sheets.size());
                for (const HomePage& page : pages)
                    for (const HomePlaced& placed : page.placed) {
                        const Affine& m = placed.flatToPaper;
                        QVERIFY(std::abs(std::abs(m.a * m.d - m.b * m.c) - 1) < 1e-9);
                        const Rect clip = placed.clip;
                        QVERIFY(clip.x >= room.x - 1e-6 && clip.right() <= room.right() + 1e-6 &&
                                clip.bottom() <= room.bottom() + 1e-6 && clip.y >= room.y - 1e-6);
                        covered[placed.sheet].push_back(m.inverse()->mapBounds(clip));
                    }
                for (size_t i = 0; i < flat.sheets.size(); ++i) {
                    const Rect bleed = flat.sheets[i].withBleed;
                    for (int k = 0; k < 400; ++k) {
                        const Vec2 p{bleed.x + bleed.w * (k % 20 + 0.5) / 20,
                                     bleed.y + bleed.h * (k / 20 + 0.5) / 20};
                        QVERIFY2(std::any_of(covered[i].begin(), covered[i].end(),
                                             [&](const Rect& r) { return r.contains(p); }),
                                 form->id.c_str());
                    }
                }
            }
        }
    }

    /// Shell labels of 89 × 42: many on a page, none over another.
    void severalOnAPage() {
        const Flat flat = flatOf("shell-label");
        const auto pages = planHome(flat, {0}, paper(kA4, Duplex::None, 6));
        QCOMPARE(pages.size(), size_t(1)); // turned: upright it would be five
        const auto& placed = pages[0].placed;
        QCOMPARE(placed.size(), size_t(6));
        QCOMPARE(planHome(flat, {0}, paper(kA4, Duplex::None, 7)).size(), size_t(2));
        for (size_t i = 0; i < placed.size(); ++i)
            for (size_t j = i + 1; j < placed.size(); ++j)
                QVERIFY(placed[i].clip.grown(-1e-6).intersected(placed[j].clip).empty());
    }

    /// A sleeve's flat is far larger: tiles that share the overlap with those beside them.
    void tilesOverlap() {
        const Flat flat = flatOf("sleeve-12");
        const auto pages = planHome(flat, {0}, kA4);
        QVERIFY(pages.size() > 4 && pages[0].tile);
        const auto shown = [&](const HomePage& p) {
            return p.placed[0].flatToPaper.inverse()->mapBounds(p.placed[0].clip);
        };
        for (const HomePage& p : pages)
            for (const HomePage& other : pages)
                if (other.tile->row == p.tile->row && other.tile->column == p.tile->column + 1) {
                    const Rect both = shown(p).intersected(shown(other));
                    QVERIFY(std::abs(std::min(both.w, both.h) - kA4.overlap) < 1e-6);
                }
    }

    /// A card with both sides printed: turned over either edge, each corner of the back lies behind the
    /// corner of the front that it belongs to.
    void backsLieBehindFronts() {
        const Flat flat = flatOf("cassette-card", {{"both", 1}});
        QVERIFY(flat.sheets.size() == 2 && flat.sheets[1].behind == size_t(0));
        for (const Duplex duplex : {Duplex::LongEdge, Duplex::ShortEdge}) {
            const HomePaper sheet = paper(kA4, duplex);
            const auto pages = planHome(flat, all(flat), sheet);
            QCOMPARE(pages.size(), size_t(2));
            QVERIFY(!pages[0].back && pages[1].back);
            const HomePlaced &front = pages[0].placed.at(0), &back = pages[1].placed.at(0);
            const Rect f = flat.sheets[0].trim, b = flat.sheets[1].trim;
            for (const Vec2 share : {Vec2{0, 0}, Vec2{1, 0}, Vec2{0.3, 0.8}}) {
                const Vec2 ahead = on(front, {f.x + share.x * f.w, f.y + share.y * f.h}),
                           behind = on(back, {b.right() - share.x * b.w, b.y + share.y * b.h});
                // What is printed at x on the back is seen at width - x from the front.
                const Vec2 seen = duplex == Duplex::LongEdge ? Vec2{sheet.width - behind.x, behind.y}
                                                             : Vec2{behind.x, sheet.height - behind.y};
                QVERIFY((seen - ahead).length() < 1e-6);
            }
            const Affine& m = back.flatToPaper;
            QVERIFY(m.a * m.d - m.b * m.c > 0); // never mirrored
        }
    }

    /// The ruler is 100 mm on paper and the art as large as it is.
    void asPopplerSeesIt() {
        ReleasePtr r = releaseOf("shell-label");
        Layer fill;
        fill.content = FillContent{Rgba{1, 0, 0, 1}};
        r = withLayer(r, {r->pieces[0]->id, "side-a"}, fill); // the first on the page
        const QString file = folder.filePath("home.pdf");
        HomeOptions options;
        options.ppi = 150;
        const auto report = writeHomePrint(renderer, r, r->pieces[0]->id, options, file.toStdString());
        QVERIFY2(report, qPrintable(sentence(report)));
        QCOMPARE(report->pages, size_t(1));
        constexpr int kPpi = 254; // 10 px a mm
        const QImage seen = page(file, 1, kPpi);
        QVERIFY(std::abs(seen.width() - 2100) <= 1 && std::abs(seen.height() - 2970) <= 1);
        int longest = 0, red = 0;
        for (int y = 2780; y < 2960; ++y) {
            int dark = 0;
            for (int x = 0; x < seen.width(); ++x) dark += qGray(seen.pixel(x, y)) < 200;
            longest = std::max(longest, dark);
        }
        QVERIFY2(std::abs(longest - 1000) <= 4, qPrintable(QString::number(longest)));
        for (int x = 0; x < seen.width(); ++x) {
            const QRgb c = seen.pixel(x, 200);
            red += qRed(c) > 200 && qGreen(c) < 60;
        }
        const Flat& flat = *r->pieces[0]->flat;
        QVERIFY2(std::abs(red - 10 * flat.sheets[0].withBleed.w) <= 15, qPrintable(QString::number(red)));
    }

    void refusals() {
        const ReleasePtr screen = screenRelease(100, 100), label = releaseOf("shell-label");
        const std::string file = folder.filePath("none.pdf").toStdString();
        QVERIFY(!writeHomePrint(renderer, screen, screen->pieces[0]->id, {}, file));
        HomeOptions wide;
        wide.paper.overlap = 150;
        QVERIFY(sentence(writeHomePrint(renderer, label, label->pieces[0]->id, wide, file))
                    .contains("overlap of 150"));
        QVERIFY(!QFile::exists(QString::fromStdString(file)));
    }
};

GLYPTOS_TEST(HomePrintTest)
#include "home_print_test.moc"
