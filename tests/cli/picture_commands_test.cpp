// What glyptos-cli does to pictures: figures cut out, holes mended, pictures warped.
#include "support/cli.h"
#include "support/figures.h"
#include "support/pictures.h"
#include "support/register.h"

#include <QColor>
#include <QFile>
#include <QIODevice>
#include <QImage>
#include <QJsonArray>
#include <QRgba64>
#include <QStringLiteral>
#include <QTemporaryDir>
#include <fstream>

using namespace glyptos;
using namespace glyptos::test;

class PictureCommandsTest : public CliFixture {
    Q_OBJECT
  private Q_SLOTS:
    void init() { folder = std::make_unique<QTemporaryDir>(); }

    void aFigureIsCutOut() {
        const KnownFigure known = knownFigure(Ground::Gradient, 300, 7, 150);
        const Rect box = boxOf(known);
        write(at("keeper.png").toStdString(), pngOf(300, 300, [&](int x, int y) {
                  const uint8_t* p = known.photo.row<uint8_t>(y) + 4 * x;
                  return std::array<uint8_t, 4>{p[0], p[1], p[2], 255};
              }));
        const QString boxed = QStringLiteral("%1,%2,%3,%4").arg(box.x).arg(box.y).arg(box.w).arg(box.h);
        const Ran ran = run({"cutout", at("keeper.png"), "--box", boxed, "--out", at("alpha.png"), "--figure",
                             at("figure.png")});
        QVERIFY2(ran.code == 0, ran.err);
        const QImage alpha(at("alpha.png")), figure(at("figure.png"));
        QCOMPARE(alpha.size(), QSize(300, 300));
        QCOMPARE(alpha.format(), QImage::Format_Grayscale8);
        QVERIFY(figure.hasAlphaChannel());
        int both = 0, either = 0;
        for (int y = 0; y < 300; ++y)
            for (int x = 0; x < 300; ++x) {
                const bool is = known.alpha[size_t(y) * 300 + size_t(x)] >= 0.5f,
                           found = qGray(alpha.pixel(x, y)) >= 128;
                both += is && found, either += is || found;
                QCOMPARE(qAlpha(figure.pixel(x, y)), qGray(alpha.pixel(x, y)));
            }
        QVERIFY(both > 0.95 * either);
        // A stroke says that the face is ground.
        std::ofstream(at("hints.json").toStdString())
            << R"([{"kind": "ground", "radius": 10, "points": [[140, 120], [160, 140]]}])";
        QCOMPARE(run({"cutout", at("keeper.png"), "--box", boxed, "--hint", at("hints.json"), "--out",
                      at("told.png")})
                     .code,
                 0);
        QCOMPARE(qGray(QImage(at("told.png")).pixel(150, 130)), 0);
    }

    /// A spot on stripes is filled with stripes, in the picture's own depth, and nothing else changes.
    void aHoleIsMended() {
        const auto stripe = [](int x) { return uint16_t(x % 12 < 6 ? 9000 : 51000); };
        const auto isSpot = [](int x, int y) { return std::abs(x - 60) < 8 && std::abs(y - 50) < 8; };
        write(at("spot.png").toStdString(), png16Of(120, 100, [&](int x, int y) {
                  const uint16_t v = isSpot(x, y) ? 0 : uint16_t(stripe(x) + y);
                  return std::array<uint16_t, 4>{v, v, v, 65535};
              }));
        write(at("mask.png").toStdString(), pngOf(120, 100, [&](int x, int y) {
                  const uint8_t v = isSpot(x, y) ? 255 : 0;
                  return std::array<uint8_t, 4>{v, v, v, 255};
              }));
        const Ran ran = run({"mend", at("spot.png"), "--mask", at("mask.png"), "--out", at("whole.png")});
        QVERIFY2(ran.code == 0, ran.err);
        const QImage before(at("spot.png")), after(at("whole.png"));
        QCOMPARE(after.depth(), 64); // 16 bits a channel
        for (int y = 0; y < 100; ++y)
            for (int x = 0; x < 120; ++x) {
                const int v = after.pixelColor(x, y).rgba64().red();
                if (!isSpot(x, y)) QCOMPARE(v, int(before.pixelColor(x, y).rgba64().red()));
                QVERIFY2(std::abs(v - stripe(x)) < 1500,
                         qPrintable(QStringLiteral("%1 at %2, %3").arg(v).arg(x).arg(y)));
            }
    }

    void whereThereIsNothingToMend() {
        const auto plain = [&](const char* name, int width, uint8_t value) {
            write(at(name).toStdString(), pngOf(width, 40, [=](int, int) {
                      return std::array<uint8_t, 4>{value, value, value, 255};
                  }));
        };
        plain("grey.png", 60, 90), plain("black.png", 60, 0), plain("white.png", 60, 255),
            plain("long.png", 61, 255);
        const Ran none = run({"mend", at("grey.png"), "--mask", at("black.png"), "--out", at("a.png")});
        QCOMPARE(none.code, 1);
        QVERIFY(none.err.contains("nothing to mend"));
        const Ran all = run({"mend", at("grey.png"), "--mask", at("white.png"), "--out", at("a.png")});
        QCOMPARE(all.code, 1);
        QVERIFY(all.err.contains("covers all"));
        refused(run({"mend", at("grey.png"), "--mask", at("long.png"), "--out", at("a.png")}),
                "another size");
        refused(run({"mend", at("grey.png"), "--mask", at("gone.png"), "--out", at("a.png")}), "gone.png");
        QVERIFY(!QFile::exists(at("a.png")));
    }

    /// An even grid and no stroke at all are the picture; corners lie where they are told; depth is kept.
    void aPictureIsWarped() {
        write(at("chart.png").toStdString(), png16Of(90, 60, [](int x, int y) {
                  return std::array<uint16_t, 4>{uint16_t(700 * x), uint16_t(1000 * y), 30000, 65535};
              }));
        const QImage before(at("chart.png"));
        const auto told = [&](const QString& name, const QByteArray& text) {
            QFile file(at(name));
            if (!file.open(QIODevice::WriteOnly)) qFatal("cannot write");
            file.write(text);
        };
        told("even.json", "{\"columns\": 2, \"rows\": 1, \"points\": [[0, 0], [45, 0], [90, 0], [0, 60], "
                          "[45, 60], [90, 60]]}");
        told("none.json", "{\"strokes\": [{\"way\": \"restore\", \"radius\": 20, \"strength\": 1, "
                          "\"points\": [[30, 30], [40, 30]]}]}");
        for (const QStringList& how :
             {QStringList{"--grid", at("even.json")}, {"--knead", at("none.json")}}) {
            const Ran ran =
                run(QStringList{"warp", at("chart.png")} + how + QStringList{"--out", at("same.png")});
            QVERIFY2(ran.code == 0, ran.err);
            const QImage same(at("same.png"));
            QCOMPARE(same.depth(), 64);
            const int near = how.front() == "--grid" ? 4 : 0; // of 65535
            for (int y = 0; y < 60; ++y)
                for (int x = 0; x < 90; ++x) {
                    const QRgba64 p = same.pixelColor(x, y).rgba64(), q = before.pixelColor(x, y).rgba64();
                    QVERIFY2(std::abs(p.red() - q.red()) <= near && std::abs(p.green() - q.green()) <= near,
                             qPrintable(QString("%1, %2: %3 %4").arg(x).arg(y).arg(p.red()).arg(q.red())));
                    QCOMPARE(p.alpha(), q.alpha());
                }
        }
        const Ran ran = run({"warp", at("chart.png"), "--tilt", "20,10,70,10,90,60,0,60", "--size", "100x80",
                             "--out", at("tilt.png")});
        QVERIFY2(ran.code == 0, ran.err);
        const QImage tilted(at("tilt.png"));
        QCOMPARE(tilted.size(), QSize(100, 80));
        QCOMPARE(tilted.pixelColor(10, 12).alpha(), 0);
        QCOMPARE(tilted.pixelColor(45, 12).alpha(), 255);
        QCOMPARE(tilted.pixelColor(45, 70).alpha(), 0);
        told("push.json", "{\"strokes\": [{\"way\": \"push\", \"radius\": 25, \"strength\": 1, \"points\": "
                          "[[30, 30], [50, 30]]}]}");
        QCOMPARE(run({"warp", at("chart.png"), "--knead", at("push.json"), "--out", at("push.png")}).code, 0);
        // What was at 30 is at 50 now.
        QVERIFY(std::abs(QImage(at("push.png")).pixelColor(49, 29).rgba64().red() - 700 * 29) < 1500);
    }

    void whatCannotBeWarped() {
        write(at("grey.png").toStdString(), pngOf(60, 40, [](int, int) {
                  return std::array<uint8_t, 4>{90, 90, 90, 255};
              }));
        const auto warp = [&](const QString& way, const QByteArray& text) {
            QFile file(at("how.json"));
            if (!file.open(QIODevice::WriteOnly)) qFatal("cannot write");
            file.write(text);
            file.close();
            return run({"warp", at("grey.png"), way, at("how.json"), "--out", at("a.png")});
        };
        refused(run({"warp", at("grey.png"), "--tilt", "0,0,60,0,0,40,60,40", "--out", at("a.png")}),
                "no plane");
        refused(run({"warp", at("grey.png"), "--tilt", "0,0,60,0,120,0,0,40", "--out", at("a.png")}),
                "no plane");
        refused(run({"warp", at("grey.png"), "--out", at("a.png")}), "required");
        refused(warp("--grid", "{\"columns\": 2, \"rows\": 2, \"points\": [[0, 0]]}"), "9 are needed");
        refused(warp("--grid", "{\"columns\": 0, \"rows\": 2, \"points\": []}"), "columns should be");
        refused(warp("--knead",
                     "{\"strokes\": [{\"way\": \"stir\", \"radius\": 5, \"strength\": 1, \"points\": []}]}"),
                "should be push");
        refused(warp("--knead", "{\"strokes\": [{\"way\": \"push\", \"radius\": 5, \"strength\": 1, "
                                "\"points\": [[NaN, 1]]}]}"),
                "not valid JSON");
        refused(warp("--knead",
                     "{\"strokes\": [{\"way\": \"push\", \"radius\": 5, \"strength\": 3, \"points\": []}]}"),
                "strength should lie");
        QByteArray points = "[0, 0]";
        for (int i = 0; i < 100001; ++i) points += ",[1,1]";
        refused(warp("--knead",
                     "{\"strokes\": [{\"way\": \"push\", \"radius\": 5, \"strength\": 1, \"points\": [" +
                         points + "]}]}"),
                "100000 points");
        QVERIFY(!QFile::exists(at("a.png")));
    }

    /// A list as a release holds it, with a table beside it, in the picture's depth.
    void aPictureIsTreated() {
        write(at("deep.png").toStdString(), png16Of(60, 40, [](int x, int y) {
                  return std::array<uint16_t, 4>{uint16_t(x * 1000), uint16_t(y * 1500), 30000, 65535};
              }));
        std::ofstream(at("swap.cube").toStdString())
            << "LUT_3D_SIZE 2\n0 0 0\n0 0 1\n0 1 0\n0 1 1\n1 0 0\n1 0 1\n1 1 0\n1 1 1\n"; // red and blue
                                                                                          // change places
        std::ofstream(at("chain.json").toStdString())
            << R"([{"kind": "look-table", "file": "swap.cube"}, {"kind": "inversion", "on": false}])";
        const Ran ran = run({"treat", at("deep.png"), "--chain", at("chain.json"), "--out", at("out.png")});
        QVERIFY2(ran.code == 0, ran.err);
        const QImage out(at("out.png"));
        QCOMPARE(out.depth(), 64);
        for (int y = 0; y < 40; ++y)
            for (int x = 0; x < 60; ++x) {
                const QRgba64 c = reinterpret_cast<const QRgba64*>(out.constScanLine(y))[x];
                QVERIFY(std::abs(int(c.red()) - 30000) <= 20 && std::abs(int(c.green()) - y * 1500) <= 20 &&
                        std::abs(int(c.blue()) - x * 1000) <= 20); // 3e-4 of 65535
            }
        std::ofstream(at("blur.json").toStdString())
            << R"([{"kind": "soft-blur", "sigma_px": 3, "opacity": 0.5}])";
        QCOMPARE(run({"treat", at("deep.png"), "--chain", at("blur.json"), "--out", at("soft.png")}).code, 0);
        const Ran list = run({"treat", "--list", "--json"});
        QCOMPARE(list.code, 0);
        QVERIFY(list.json().array().size() > 30);
        const QByteArray told = run({"treat", "--list"}).out;
        QVERIFY(told.contains("sigma_mm, sigma_px: 0 to 100000, standard 2 mm"));
        QVERIFY(told.contains("middle: 0 to 360 (degrees of hue), standard 50"));
        QVERIFY(told.contains("lines: 1 to 400 (lines per inch), standard 22"));
    }

    void aPictureBesideAChainMovesPixels() {
        write(at("half.png").toStdString(), pngOf(60, 40, [](int x, int) {
                  return std::array<uint8_t, 4>{uint8_t(x < 30 ? 255 : 0), 0, 0, 255};
              }));
        write(at("white.png").toStdString(), pngOf(6, 4, [](int, int) {
                  return std::array<uint8_t, 4>{255, 255, 255, 255};
              }));
        std::ofstream(at("chain.json").toStdString())
            << R"([{"kind": "displacement", "by": "white.png", "across_px": 10, "down_px": 0}])";
        const Ran ran = run({"treat", at("half.png"), "--chain", at("chain.json"), "--out", at("out.png")});
        QVERIFY2(ran.code == 0, ran.err);
        const QImage out(at("out.png"));
        QCOMPARE(qRed(out.pixel(36, 20)), 255);
        QCOMPARE(qRed(out.pixel(44, 20)), 0);
    }

    void chainsThatAreNone() {
        write(at("grey.png").toStdString(), pngOf(20, 10, [](int, int) {
                  return std::array<uint8_t, 4>{90, 90, 90, 255};
              }));
        const auto treated = [&](const char* chain) {
            std::ofstream(at("chain.json").toStdString()) << chain;
            return run({"treat", at("grey.png"), "--chain", at("chain.json"), "--out", at("a.png")});
        };
        refused(treated(R"([{"kind": "of another time"}])"), "unknown kind");
        refused(treated(R"([{"kind": "soft-blur", "sigma_px": -1}])"), "should be from");
        refused(treated(R"([{"kind": "poster", "levels": 4.5}])"), "whole number");
        refused(treated(R"([{"kind": "tone-curve", "all": [[0, 0], [0.5, 0.2], [0.5, 0.8], [1, 1]]}])"),
                "is no curve");
        refused(treated(R"([{"kind": "look-table", "file": "gone.cube"}])"), "gone.cube");
        std::ofstream(at("bad.cube").toStdString()) << "LUT_3D_SIZE 2\n0 0 0\n";
        refused(treated(R"([{"kind": "look-table", "file": "bad.cube"}])"), "bad.cube");
        refused(treated(R"([{"kind": "displacement", "by": "gone.png"}])"), "gone.png");
        refused(treated(R"([{"kind": "displacement", "by": "layer:x"}])"), "no layers");
        refused(treated(R"({"kind": "inversion"})"), "chain");
        refused(run({"treat", at("grey.png"), "--out", at("a.png")}), "--chain");
        QVERIFY(!QFile::exists(at("a.png")));
    }

    void whereThereIsNoFigure() {
        write(at("grey.png").toStdString(), pngOf(60, 40, [](int, int) {
                  return std::array<uint8_t, 4>{90, 90, 90, 255};
              }));
        const Ran none = run({"cutout", at("grey.png"), "--box", "5,5,30,20", "--out", at("a.png")});
        QCOMPARE(none.code, 1);
        QVERIFY(none.err.contains("No figure could be told"));
        refused(run({"cutout", at("grey.png"), "--box", "90,5,30,20", "--out", at("a.png")}),
                "outside the picture");
        refused(run({"cutout", at("gone.png"), "--box", "5,5,30,20", "--out", at("a.png")}), "gone.png");
        std::ofstream(at("hints.json").toStdString()) << R"([{"kind": "sky", "radius": 1, "points": []}])";
        refused(run({"cutout", at("grey.png"), "--box", "5,5,30,20", "--hint", at("hints.json"), "--out",
                     at("a.png")}),
                "hints");
        QVERIFY(!QFile::exists(at("a.png")));
    }
};

GLYPTOS_TEST(PictureCommandsTest)
#include "picture_commands_test.moc"
