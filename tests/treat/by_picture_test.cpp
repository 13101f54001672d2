// Figures that a picture sets, and colours matched to those of another.
#include "color/oklab.h"
#include "support/register.h"
#include "treat/colour_match.h"
#include "treat/kind.h"

#include <QRandomGenerator>
#include <QTest>

using namespace glyptos;

namespace {

/// Colours about a middle, of a width each way, in Oklab.
std::vector<Rgba> cloud(const Oklab& middle, double light, double across, double turn, quint32 seed) {
    QRandomGenerator chance(seed);
    const auto one = [&] { return chance.generateDouble() + chance.generateDouble() - 1; };
    std::vector<Rgba> out;
    for (int i = 0; i < 4000; ++i) {
        const double u = across * one(), v = 0.6 * across * one();
        Rgba c = toRgba(Oklab{float(middle.L + light * one()),
                              float(middle.a + u * std::cos(turn) - v * std::sin(turn)),
                              float(middle.b + u * std::sin(turn) + v * std::cos(turn))});
        c.a = 1;
        out.push_back(c);
    }
    return out;
}

std::vector<Rgba> through(const LookTable& table, const std::vector<Rgba>& colours) {
    std::vector<Rgba> out;
    for (const Rgba& c : colours) {
        const auto v = lookedUp(table, {c.r, c.g, c.b});
        out.push_back({v[0], v[1], v[2], c.a});
    }
    return out;
}

Figures setBy(const char* id, const std::vector<Rgba>& colours) {
    const TreatmentKind& kind = *treatmentKind(id);
    Figures figures(kind.figures);
    kind.byPicture(figures, colours);
    return figures;
}

std::vector<Rgba> graded(const char* id, const Figures& figures, std::vector<Rgba> colours) {
    const ColourOp op = treatmentKind(id)->colour(figures, {});
    for (Rgba& c : colours) {
        float r = c.r, g = c.g, b = c.b;
        const float alpha = 1;
        op({&r, &g, &b, &alpha, 0, 0, 1});
        c = {r, g, b, 1};
    }
    return colours;
}

std::vector<Rgba> greys(double from, double to) {
    std::vector<Rgba> out;
    for (int i = 0; i <= 1000; ++i) {
        const auto v = float(from + (to - from) * i / 1000);
        out.push_back({v, v, v, 1});
    }
    return out;
}

} // namespace

class ByPictureTest : public QObject {
    Q_OBJECT

  private Q_SLOTS:
    void matchedColoursLieLikeTheOthers() {
        const auto from = cloud({0.55f, 0.01f, 0.03f}, 0.12, 0.06, 0.4, 1),
                   to = cloud({0.62f, -0.02f, -0.05f}, 0.07, 0.05, 1.9, 2);
        const ColourSpread wanted = spreadOf(to),
                           got = spreadOf(through(matchTable(spreadOf(from), wanted, "as"), from));
        for (size_t i = 0; i < 3; ++i) {
            QVERIFY2(std::abs(got.mean[i] - wanted.mean[i]) < 2e-3,
                     qPrintable(QString::number(got.mean[i] - wanted.mean[i])));
            for (size_t j = 0; j < 3; ++j)
                QVERIFY2(std::abs(got.covariance[i][j] - wanted.covariance[i][j]) < 1e-4,
                         qPrintable(QStringLiteral("%1 %2: %3").arg(i).arg(j).arg(got.covariance[i][j])));
        }
    }

    void aPictureMatchedToItselfStays() {
        const auto same = cloud({0.55f, 0.01f, 0.03f}, 0.12, 0.05, 0.4, 1);
        const auto out = through(matchTable(spreadOf(same), spreadOf(same), "as"), same);
        for (size_t i = 0; i < same.size(); ++i)
            QVERIFY(std::abs(out[i].r - same[i].r) < 3e-3f && std::abs(out[i].b - same[i].b) < 3e-3f);
    }

    void flatAndEmptyPictures() {
        // One colour to another: that becomes this, and nothing is drawn out.
        const std::vector<Rgba> grey(50, Rgba{0.5f, 0.5f, 0.5f, 1}), red(50, Rgba{0.7f, 0.3f, 0.2f, 1});
        const LookTable table = matchTable(spreadOf(grey), spreadOf(red), "as");
        const auto v = lookedUp(table, {0.5f, 0.5f, 0.5f});
        QVERIFY(std::abs(v[0] - 0.7f) < 5e-3f && std::abs(v[1] - 0.3f) < 5e-3f &&
                std::abs(v[2] - 0.2f) < 5e-3f);
        // See-through ones say nothing.
        const std::vector<Rgba> clear(50, Rgba{0.9f, 0.1f, 0.9f, 0.2f});
        QCOMPARE(spreadOf(clear).count, size_t(0));
        const LookTable none = matchTable(spreadOf(grey), spreadOf(clear), "none");
        const auto same = lookedUp(none, {0.3f, 0.8f, 0.1f});
        QVERIFY(std::abs(same[0] - 0.3f) < 1e-5f && std::abs(same[1] - 0.8f) < 1e-5f);
    }

    void pointsSpanThePicture() {
        const auto dull = greys(0.2, 0.6);
        const auto out = graded("tone-curve", setBy("tone-curve", dull), dull);
        QVERIFY(out[5].r < 0.01f && out[995].r > 0.99f);
        QVERIFY(std::abs(out[500].r - 0.5f) < 0.02f);
        // One colour has no ends.
        const Figures flat = setBy("tone-curve", greys(0.4, 0.4));
        QVERIFY(!treatmentKind("tone-curve")->colour(flat, {}));
    }

    void lightGoesTowardsTheMiddle() {
        const auto dark = greys(0.02, 0.3);
        const auto out = graded("light-contrast", setBy("light-contrast", dark), dark);
        QVERIFY(out[500].r > dark[500].r + 0.05f && out[500].r < 0.46f);
        QVERIFY(out[950].r - out[50].r > dark[950].r - dark[50].r);
    }

    void whatIsNearlyGreyBecomesGrey() {
        auto warm = cloud({0.6f, 0.02f, 0.05f}, 0.1, 0.01, 0, 3);
        const ColourSpread before = spreadOf(warm),
                           after = spreadOf(graded("warmth", setBy("warmth", warm), warm));
        QVERIFY2(std::hypot(after.mean[1], after.mean[2]) < 0.3 * std::hypot(before.mean[1], before.mean[2]),
                 qPrintable(QString::number(std::hypot(after.mean[1], after.mean[2]))));
    }

    void skinIsKeptByATable() {
        const TreatmentKind& kind = *treatmentKind("look-table");
        LookTable inverted;
        inverted.size = 2;
        for (int i = 0; i < 8; ++i)
            inverted.entries.push_back({float(1 - i % 2), float(1 - i / 2 % 2), float(1 - i / 4)});
        Figures figures(kind.figures);
        figures.set(kind.find("file"), kept(inverted));
        Rgba skin = toRgba(toOklab(Oklch{0.7, 0.08, 55})), blue = toRgba(toOklab(Oklch{0.6, 0.08, 250}));
        const auto kept1 = [&](double share, const Rgba& c) {
            figures.set(kind.find("skin"), share);
            return graded("look-table", figures, {c}).front();
        };
        QVERIFY(std::abs(kept1(1, skin).r - skin.r) < 0.01f &&
                std::abs(kept1(0, skin).r - (1 - skin.r)) < 0.01f);
        QVERIFY(std::abs(kept1(1, blue).b - (1 - blue.b)) < 0.01f);
    }
};

GLYPTOS_TEST(ByPictureTest)
#include "by_picture_test.moc"
