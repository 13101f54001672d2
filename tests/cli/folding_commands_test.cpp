// glyptos-cli: pieces folded, cut paths and the cutter that judges them.
#include "support/cli.h"
#include "support/register.h"

#include <QColor>
#include <QFile>
#include <QImage>
#include <QJsonArray>
#include <QJsonObject>
#include <QStringLiteral>
#include <QTemporaryDir>

using namespace glyptos;
using namespace glyptos::test;

class FoldingCommandsTest : public CliFixture {
    Q_OBJECT

    void write(const char* name, const QByteArray& text) const {
        QFile file(at(name));
        if (!file.open(QIODevice::WriteOnly) || file.write(text) != text.size()) qFatal("not written");
    }

  private Q_SLOTS:
    void init() {
        folder = std::make_unique<QTemporaryDir>();
        QCOMPARE(run({"new", "set.glyptos", "--form", "gatefold-12", "--form", "disc-booklet", "--form",
                      "square-post"})
                     .code,
                 0);
    }

    void aPieceIsDrawnFolded() {
        QCOMPARE(run({"fold", "set.glyptos", "--at", "0", "--turn", "0,0", "--size", "400,300", "--out",
                      "flat.png"})
                     .code,
                 0);
        const QImage flat(at("flat.png"));
        QCOMPARE(flat.size(), QSize(400, 300));
        QCOMPARE(flat.pixelColor(2, 2).alpha(), 0);
        QCOMPARE(flat.pixelColor(200, 150).alpha(), 255);
        QVERIFY(flat.pixelColor(200, 150).lightness() > 200); // blank board
        // Made up it is half as wide, and a quarter of the board is seen.
        QCOMPARE(
            run({"fold", "set.glyptos", "--turn", "0,0", "--size", "400,300", "--out", "closed.png"}).code,
            0);
        const auto spread = [](const QImage& image) {
            int from = image.width(), to = 0;
            for (int x = 0; x < image.width(); ++x)
                if (image.pixelColor(x, 150).alpha() > 128) from = std::min(from, x), to = std::max(to, x);
            return to - from;
        };
        const double flatWidth = spread(flat), closed = spread(QImage(at("closed.png")));
        QVERIFY(flatWidth > 150 && closed > 150); // each fills its picture
        QCOMPARE(
            run({"fold", "set.glyptos", "--piece", "disc-booklet", "--at", "0.5", "--out", "open.jpg"}).code,
            0);
        QCOMPARE(QImage(at("open.jpg")).size(), QSize(1200, 900));
        QCOMPARE(run({"fold", "set.glyptos", "--piece", "square-post", "--out", "post.png"}).code, 0);
    }

    void aPackageIsDrawn() {
        QCOMPARE(run({"new", "packed.glyptos", "--form", "tray-card", "--form", "disc-booklet", "--form",
                      "square-post"})
                     .code,
                 0);
        for (const char* share : {"0", "1"})
            QCOMPARE(run({"fold", "packed.glyptos", "--packed", "--at", share, "--turn", "0,0", "--size",
                          "400,300", "--out", QString("%1.png").arg(share)})
                         .code,
                     0);
        const QImage in(at("1.png")), out(at("0.png"));
        const auto filled = [](const QImage& image) {
            int n = 0;
            for (int y = 0; y < image.height(); ++y)
                for (int x = 0; x < image.width(); ++x) n += image.pixelColor(x, y).alpha() > 200;
            return n;
        };
        // Closed it is as good as square and fills the picture; taken apart it is much wider than high.
        QVERIFY(filled(in) > 20000 && filled(out) > 3000 && filled(out) < filled(in));
        const Ran ran =
            run({"fold", "packed.glyptos", "--packed", "--piece", "square-post", "--out", "a.png"});
        QCOMPARE(ran.code, 2);
        QVERIFY(ran.err.contains("packed in nothing") && !QFile::exists(at("a.png")));
    }

    void whatCannotBeFoldedIsSaid() {
        const auto refused = [&](const QStringList& arguments, const char* words) {
            const Ran ran = run(arguments);
            QCOMPARE(ran.code, 2);
            QVERIFY2(ran.err.contains(words) && ran.err.count('\n') == 1, ran.err.constData());
        };
        refused({"fold", "set.glyptos", "--at", "1.5", "--out", "a.png"}, "between 0");
        refused({"fold", "set.glyptos", "--at", "nan", "--out", "a.png"}, "between 0");
        refused({"fold", "set.glyptos", "--size", "9000,10", "--out", "a.png"}, "--size");
        refused({"fold", "set.glyptos", "--out", "a.bmp"}, ".png");
        refused({"fold", "set.glyptos", "--piece", "obi", "--out", "a.png"}, "obi");
        refused({"fold", "nothing.glyptos", "--out", "a.png"}, "nothing.glyptos");
        QVERIFY(!QFile::exists(at("a.png")));
    }

    void cutPathsGoThroughTheCutter() {
        for (const char* kind : {"svg-cut", "dxf-cut"}) {
            const Ran made = run({"export", "set.glyptos", "--piece", "gatefold-12", "--as", kind, "--out",
                                  "cut.txt", "--json"});
            QCOMPARE(made.code, 0);
            const Ran cut = run({"cutter", "cut.txt", "--out", "cut.png", "--json"});
            QCOMPARE(cut.code, 0);
            QVERIFY(cut.json()["faults"].toArray().isEmpty());
            QVERIFY(std::abs(cut.json()["widthMm"].toDouble() - made.json()["widthMm"].toDouble()) < 1);
            QVERIFY(std::abs(cut.json()["cutMm"].toDouble() - made.json()["cutMm"].toDouble()) < 1);
            QCOMPARE(QImage(at("cut.png")).width() > 100, true);
        }
        // Pages of a booklet by their numbers.
        const Ran one = run({"export", "set.glyptos", "--piece", "disc-booklet", "--as", "svg-cut", "--pages",
                             "1", "--out", "one.svg", "--json"});
        QVERIFY(std::abs(one.json()["widthMm"].toDouble() - 268) < 0.01);
    }

    void aFaultyFileIsFound() {
        write("open.svg", "<svg xmlns='http://www.w3.org/2000/svg' width='50mm' height='50mm' viewBox='0 0 "
                          "50 50'><path d='M5,5 H40 V40'/></svg>");
        const Ran open = run({"cutter", "open.svg"});
        QCOMPARE(open.code, 1);
        QVERIFY2(open.out.contains("A cut is open at 40, 40 mm"), open.out.constData());
        write("no.svg", "<svg");
        QCOMPARE(run({"cutter", "no.svg"}).code, 2);
        QCOMPARE(run({"export", "set.glyptos", "--piece", "square-post", "--as", "svg-cut", "--out", "x.svg"})
                     .code,
                 2);
        QCOMPARE(run({"export", "set.glyptos", "--piece", "gatefold-12", "--as", "svg-cut", "--pages", "7",
                      "--out", "x.svg"})
                     .code,
                 2);
        QVERIFY(!QFile::exists(at("x.svg")));
    }
};

GLYPTOS_TEST(FoldingCommandsTest)
#include "folding_commands_test.moc"
