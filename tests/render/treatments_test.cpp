// Every treatment as it is drawn: in tiles as in one piece, small as large, and nothing out of what is
// see-through.
#include "raster/noise.h"
#include "release/edits/edits.h"
#include "render/renderer.h"
#include "render/treated_picture.h"
#include "support/pictures.h"
#include "support/register.h"
#include "support/treated.h"
#include "treat/whole.h"

#include <cstring>
#include <set>

using namespace glyptos;
using namespace glyptos::test;

namespace {

constexpr int kWidth = 560, kHeight = 432;

/// Soft forms with an outline, some of it half covering; `hidden` is the colour of what cannot be seen.
Picture someArt(int width, int height, double unit, Rgb hidden = {0, 0, 0}) {
    return pictureOf(width, height, [=](int x, int y) {
        const float u = float((x + 0.5) / unit), v = float((y + 0.5) / unit);
        const float in = fractalNoise(u / 90, v / 90, 2, 5) - 0.42f;
        const float alpha = std::clamp(in * 40 * float(unit) / 2, 0.0f, 1.0f);
        if (alpha <= 0) return std::array<uint8_t, 4>{hidden[0], hidden[1], hidden[2], 0};
        const auto tone = [&](uint32_t seed) {
            return uint8_t(40 + 170 * fractalNoise(u / 60, v / 60, 4, seed));
        };
        return std::array<uint8_t, 4>{tone(1), tone(2), tone(3), uint8_t(std::lround(alpha * 255))};
    });
}

Picture treatedArt(Picture picture, const Treatments& list) {
    return treated(std::make_shared<const Pyramid>(std::move(picture)), list, fonts());
}

Planes planesOf(const Picture& picture) {
    Planes out({0, 0, picture.width, picture.height});
    for (int y = 0; y < picture.height; ++y)
        for (int x = 0; x < picture.width; ++x) {
            const uint8_t* p = picture.row<uint8_t>(y) + size_t(x) * 4;
            out.row(3, y)[x] = float(p[3]) / 255;
            for (int c = 0; c < 3; ++c) out.row(c, y)[x] = float(p[c]) / 255 * out.row(3, y)[x];
        }
    return out;
}

/// The largest difference of premultiplied samples, in steps of 8 bits, and where.
double farthest(const Planes& a, const Planes& b, QString& where) {
    double worst = 0;
    for (int c = 0; c < 4; ++c)
        for (int y = 0; y < a.area.h; ++y)
            for (int x = 0; x < a.area.w; ++x)
                if (const double off = 255 * std::abs(double(a.row(c, y)[x]) - double(b.row(c, y)[x]));
                    off > worst) {
                    worst = off;
                    where = QStringLiteral("%1 at %2, %3, channel %4").arg(off).arg(x).arg(y).arg(c);
                }
    return worst;
}

/// The share of pixels that differ by more than `most` steps of 8 bits.
double shareOff(const Planes& a, const Planes& b, double most) {
    size_t off = 0;
    // Not near the edge, beyond which it goes on from pixels of another size.
    constexpr int kEdge = 80;
    for (int y = kEdge; y < a.area.h - kEdge; ++y)
        for (int x = kEdge; x < a.area.w - kEdge; ++x) {
            double worst = 0;
            for (int c = 0; c < 4; ++c)
                worst = std::max(worst, 255 * std::abs(double(a.row(c, y)[x]) - double(b.row(c, y)[x])));
            off += worst > most ? 1 : 0;
        }
    return double(off) / (double(a.area.w) * a.area.h);
}

Picture reducedBy4(const Picture& picture) {
    return pictureOf(picture.width / 4, picture.height / 4, [&](int x, int y) {
        double sum[4]{};
        for (int j = 0; j < 4; ++j)
            for (int i = 0; i < 4; ++i) {
                const auto p = pixel(picture, 4 * x + i, 4 * y + j);
                for (size_t c = 0; c < 3; ++c) sum[c] += double(p[c]) * p[3] / 255;
                sum[3] += p[3];
            }
        std::array<uint8_t, 4> out{};
        for (size_t c = 0; c < 3; ++c)
            out[c] = sum[3] > 0 ? uint8_t(std::lround(sum[c] / sum[3] * 255)) : uint8_t(0);
        out[3] = uint8_t(std::lround(sum[3] / 16));
        return out;
    });
}

double psnr(const Planes& a, const Planes& b) {
    double error = 0;
    for (int c = 0; c < 4; ++c)
        for (int y = 0; y < a.area.h; ++y)
            for (int x = 0; x < a.area.w; ++x)
                error += std::pow(double(a.row(c, y)[x]) - double(b.row(c, y)[x]), 2);
    return -10 * std::log10(error / (4.0 * a.area.w * a.area.h) + 1e-12);
}

} // namespace

class TreatmentsTest : public QObject {
    Q_OBJECT

    static void eachKind(bool around) {
        QTest::addColumn<QString>("kind");
        for (const TreatmentKind* kind : treatmentKinds())
            if (kind->looksAround() || !around)
                QTest::newRow(std::string(kind->id).c_str()) << QString::fromStdString(std::string(kind->id));
    }
    static Treatments ofKind(const QString& id) {
        return {newTreatment(*treatmentKind(id.toStdString()), unitsPerMm(true))};
    }

  private Q_SLOTS:
    void theTableIsWhole() {
        std::set<std::string_view> ids;
        for (const TreatmentKind* kind : treatmentKinds()) {
            QVERIFY(ids.insert(kind->id).second && !kind->title.empty());
            QVERIFY((kind->colour != nullptr) != (kind->draw != nullptr) &&
                    (kind->draw != nullptr) == (kind->needs != nullptr));
            QVERIFY(kind->carrier.empty() || kind->find(kind->carrier) < kind->figures.size());
            std::set<std::string_view> names{"kind", "on", "opacity", "blend", "mask"};
            for (const Figure& figure : kind->figures) {
                QVERIFY2(names.insert(figure.id).second, std::string(figure.id).c_str());
                if (figure.kind != FigureKind::Number) continue;
                QVERIFY2(figure.least <= figure.standard && figure.standard <= figure.most,
                         std::string(figure.id).c_str());
            }
        }
    }

    void tilesAreTheWhole_data() { eachKind(true); }
    void tilesAreTheWhole() {
        QFETCH(QString, kind);
        const Treatments list = ofKind(kind);
        const Picture art = someArt(kWidth, kHeight, 1);
        const Rect all{0, 0, kWidth, kHeight};
        const Place place{{}, all, unitsPerMm(true), {{}, {all}}};
        const Planes in = planesOf(art);
        QString where;
        const Planes whole = treatedWhole(*list[0].kind, list[0].figures, place, in, 4096),
                     parts = treatedWhole(*list[0].kind, list[0].figures, place, in, 101);
        QVERIFY2(farthest(whole, parts, where) < 1, qPrintable(where));
        // As the application draws it: its way of making pictures smaller is another, and bytes are rounded.
        const Planes drawn = planesOf(treatedArt(someArt(kWidth, kHeight, 1), list));
        // What turns at a level, or at which edge is nearest, turns elsewhere in a few pixels.
        const bool turns = kind == "edge-fade" || kind == "torn-edge" || kind == "cut-paper" ||
                           kind == "woodcut" || kind == "photocopy" || kind == "stipple";
        if (turns)
            QVERIFY2(shareOff(whole, drawn, 12) < 0.05,
                     qPrintable(QString::number(shareOff(whole, drawn, 12))));
        else
            QVERIFY2(farthest(whole, drawn, where) < 2.5, qPrintable(where));
    }

    void smallIsLargeMadeSmall_data() { eachKind(false); }
    void smallIsLargeMadeSmall() {
        QFETCH(QString, kind);
        Treatments list = ofKind(kind);
        // Two tones mixed are not one of two tones: what turns at a border is the same as far as that is
        // soft.
        if (kind == "threshold" || kind == "poster") list[0].figures.set(list[0].kind->find("soft"), 1.0);
        const Picture art = someArt(4 * 280, 4 * 215, 4);
        Treatments larger = scaled(list, 4);
        // Lines of a screen are counted on paper, whatever is printed with them.
        for (size_t i = 0; i < larger[0].figures.size(); ++i)
            if (larger[0].kind->figures[i].unit == FigureUnit::LinesPerInch)
                larger[0].figures.set(i, larger[0].figures.number(i) / 4);
        const Picture small = treatedArt(reducedBy4(art), list),
                      large = treatedArt(someArt(4 * 280, 4 * 215, 4), larger);
        const double is = psnr(planesOf(reducedBy4(large)), planesOf(small));
        QVERIFY2(is >= 35, qPrintable(QStringLiteral("%1 dB").arg(is)));
    }

    void nothingComesOutOfWhatIsSeeThrough_data() { eachKind(false); }
    void nothingComesOutOfWhatIsSeeThrough() {
        QFETCH(QString, kind);
        const Treatments list = ofKind(kind);
        const Planes a = planesOf(treatedArt(someArt(300, 220, 1, {255, 0, 0}), list)),
                     b = planesOf(treatedArt(someArt(300, 220, 1, {0, 0, 255}), list));
        QString where;
        QVERIFY2(farthest(a, b, where) == 0, qPrintable(where));
    }

    void whatChangesNothingChangesNoBit() {
        for (const char* id : {"tone-curve", "light-contrast", "warmth", "chroma", "hue-turn",
                               "three-way-tint", "ink-trim", "look-table"}) {
            const Picture art = someArt(200, 150, 1, {9, 8, 7}),
                          out = treatedArt(someArt(200, 150, 1, {9, 8, 7}), ofKind(QString::fromLatin1(id)));
            QVERIFY2(std::memcmp(art.row<uint8_t>(0), out.row<uint8_t>(0), art.bytes()) == 0, id);
        }
        Treatments off = listOf({{"soft-blur", {}}, {"inversion", {}}});
        off[0].on = false, off[1].opacity = 0;
        const Picture art = someArt(200, 150, 1), out = treatedArt(someArt(200, 150, 1), off);
        QVERIFY(std::memcmp(art.row<uint8_t>(0), out.row<uint8_t>(0), art.bytes()) == 0);
    }

    void chanceIsRepeated() {
        const Picture a = treatedArt(someArt(200, 150, 1), listOf({{"grain", {{"amount", 0.5}}}})),
                      b = treatedArt(someArt(200, 150, 1), listOf({{"grain", {{"amount", 0.5}}}})),
                      c = treatedArt(someArt(200, 150, 1),
                                     listOf({{"grain", {{"amount", 0.5}, {"seed", 2.0}}}}));
        QVERIFY(std::memcmp(a.row<uint8_t>(0), b.row<uint8_t>(0), a.bytes()) == 0);
        QVERIFY(std::memcmp(a.row<uint8_t>(0), c.row<uint8_t>(0), a.bytes()) != 0);
    }

    void aRadiusLargerThanThePicture() {
        for (const char* id :
             {"soft-blur", "cast-shadow", "outline", "bevel", "lens-blur", "edge-keeping-blur"}) {
            Treatments list = ofKind(QString::fromLatin1(id));
            for (size_t i = 0; i < list[0].figures.size(); ++i)
                if (list[0].kind->figures[i].unit == FigureUnit::Length &&
                    list[0].kind->figures[i].kind == FigureKind::Number)
                    list[0].figures.set(i, 3000.0);
            const Picture out = treatedArt(someArt(40, 30, 1), list);
            QVERIFY2(out.width == 40, id);
        }
    }

    void tablesOfGradesAreThoseGrades() {
        const Treatments list = listOf({{"warmth", {{"warmth", 0.4}}},
                                        {"light-contrast", {{"contrast", 0.2}}},
                                        {"chroma", {{"amount", -0.3}}}});
        QVERIFY(isTable(list) && !isTable(listOf({{"soft-blur", {}}})) && !isTable(listOf({{"grain", {}}})));
        QString where;
        const Planes a = planesOf(treatedArt(someArt(300, 220, 1), list)),
                     b = planesOf(treatedArt(someArt(300, 220, 1), asOne(list, "three", fonts())));
        QVERIFY2(farthest(a, b, where) < 2, qPrintable(where));
    }
};

GLYPTOS_TEST(TreatmentsTest)
#include "treatments_test.moc"
