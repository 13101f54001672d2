// Look tables: read, written, looked up at hand-worked points, and what is no table.
#include "support/register.h"
#include "treat/kind.h"

#include <QRandomGenerator>

using namespace glyptos;

namespace {

/// A cube of 2 whose corners are the colours themselves, but for white, which is dark red.
LookTable cornered() {
    LookTable out;
    out.title = "Cornered";
    for (int i = 0; i < 8; ++i) out.entries.push_back({float(i & 1), float(i >> 1 & 1), float(i >> 2 & 1)});
    out.entries[7] = {0.5f, 0, 0};
    return out;
}

LookTable byChance(int dimensions, int size) {
    LookTable out;
    out.dimensions = dimensions, out.size = size;
    out.least = {-0.25f, 0, 0.125f}, out.most = {1.5f, 1, 0.875f};
    QRandomGenerator chance(quint32(1000 + size));
    const int count = dimensions == 1 ? size : size * size * size;
    for (int i = 0; i < count; ++i)
        out.entries.push_back({float(chance.generateDouble()), float(chance.generateDouble() * 2 - 0.5),
                               float(chance.generateDouble())});
    return out;
}

std::array<float, 3> graded(const LookTable& table, std::array<float, 3> c) {
    const TreatmentKind& kind = *treatmentKind("look-table");
    Figures figures(kind.figures);
    figures.set(0, kept(table));
    Buffer<float> r(16), g(16), b(16), a(16);
    r[0] = c[0], g[0] = c[1], b[0] = c[2], a[0] = 1;
    kind.colour(figures, {}).act({r.data(), g.data(), b.data(), a.data(), 0, 0, 1});
    return {r[0], g[0], b[0]};
}

bool close(const std::array<float, 3>& a, const std::array<float, 3>& b, float most = 1e-5f) {
    return std::abs(a[0] - b[0]) <= most && std::abs(a[1] - b[1]) <= most && std::abs(a[2] - b[2]) <= most;
}

} // namespace

class LookTableTest : public QObject {
    Q_OBJECT

  private Q_SLOTS:
    void handWorkedPoints() {
        const LookTable t = cornered();
        // In the tetrahedron black, red, yellow, white: shares 1 - r, r - g, g - b, b.
        // (0.75, 0.5, 0.25): 0.25·(1,0,0) + 0.25·(1,1,0) + 0.25·(½,0,0) = (0.625, 0.25, 0).
        QVERIFY(close(lookedUp(t, {0.75f, 0.5f, 0.25f}), {0.625f, 0.25f, 0}));
        // Along the greys: black to what stands for white.
        QVERIFY(close(lookedUp(t, {0.5f, 0.5f, 0.5f}), {0.25f, 0, 0}));
        // Black, blue, cyan, white: (0.25, 0.5, 1): 0.5·(0,0,1) + 0.25·(0,1,1) + 0.25·(½,0,0).
        QVERIFY(close(lookedUp(t, {0.25f, 0.5f, 1}), {0.125f, 0.25f, 0.75f}));
        // Outside the domain its end counts.
        QVERIFY(close(lookedUp(t, {1.5f, -1, 0}), {1, 0, 0}));
    }

    void theKernelIsTheFormula() {
        QRandomGenerator chance(3);
        for (const LookTable& t :
             {cornered(), byChance(3, 2), byChance(3, 9), byChance(3, 33), byChance(1, 2), byChance(1, 257)})
            for (int i = 0; i < 3000; ++i) {
                std::array<float, 3> c{};
                for (float& v : c) v = float(chance.generateDouble() * 2 - 0.5);
                if (i % 5 == 0) c[1] = c[0]; // where two tetrahedra meet
                if (i % 7 == 0) c = {t.most[0], t.least[1], c[2]};
                QVERIFY(close(graded(t, c), lookedUp(t, c), 3e-5f));
            }
    }

    void writtenAndReadItIsTheSame() {
        for (LookTable t : {cornered(), byChance(3, 5), byChance(1, 64)}) {
            t.title = "Nótt „eitt“ % \"two\"";
            const auto back = lookTableFromCube(cubeText(t));
            QVERIFY(back.has_value());
            t.title = "Nótt „eitt“ %  two ";
            QVERIFY(*back == t);
            QVERIFY(kept(*back)->hash == kept(t)->hash);
        }
    }

    void whatOthersWriteIsRead() {
        const auto t =
            lookTableFromCube("\xef\xbb\xbf# made by hand\r\nLUT_3D_SIZE 2\r\nLUT_3D_INPUT_RANGE 0 1\r\n\r\n"
                              "0 0 0\r\n1.0 0 0\r\n0 1e0 0\r\n+1 1 0\r\n0\t0 1\r\n1 0 1\r\n0 1 1\r\n1 1 1");
        QVERIFY(t.has_value());
        QVERIFY(t->title.empty() && t->entries.size() == 8 &&
                close(lookedUp(*t, {0.3f, 0.6f, 0.9f}), {0.3f, 0.6f, 0.9f}));
    }

    void badTables_data() {
        QTest::addColumn<QByteArray>("text");
        QTest::addColumn<QByteArray>("says");
        const QByteArray whole("LUT_3D_SIZE 2\n0 0 0\n1 0 0\n0 1 0\n1 1 0\n0 0 1\n1 0 1\n0 1 1\n1 1 1\n");
        QTest::newRow("nothing") << QByteArray() << QByteArray("no size");
        QTest::newRow("no size") << QByteArray("0 0 0\n") << QByteArray("before the size");
        QTest::newRow("too few") << whole.left(whole.indexOf("1 0 1")) << QByteArray("ends after");
        QTest::newRow("too many") << whole + "1 1 1\n" << QByteArray("an entry more than the 8");
        QTest::newRow("NaN") << QByteArray(whole).replace("0 1 0", "0 nan 0") << QByteArray("line 4");
        QTest::newRow("infinite") << QByteArray(whole).replace("0 1 0", "0 inf 0") << QByteArray("line 4");
        QTest::newRow("two numbers") << QByteArray(whole).replace("0 1 0", "0 1") << QByteArray("line 4");
        QTest::newRow("four numbers")
            << QByteArray(whole).replace("0 1 0", "0 1 0 1") << QByteArray("line 4");
        QTest::newRow("a word") << QByteArray(whole).replace("0 1 0", "0 x 0") << QByteArray("line 4");
        QTest::newRow("too large") << QByteArray("LUT_3D_SIZE 100000\n") << QByteArray("more than 256");
        QTest::newRow("one") << QByteArray("LUT_3D_SIZE 1\n0 0 0\n") << QByteArray("no size");
        QTest::newRow("negative") << QByteArray("LUT_1D_SIZE -4\n") << QByteArray("no size");
        QTest::newRow("twice") << QByteArray("LUT_1D_SIZE 4\nLUT_3D_SIZE 2\n") << QByteArray("second time");
        QTest::newRow("turned round")
            << QByteArray("DOMAIN_MIN 1 1 1\nDOMAIN_MAX 0 0 0\n") + whole << QByteArray("domain");
        QTest::newRow("flat domain") << QByteArray("DOMAIN_MAX 1 0 1\n") + whole << QByteArray("domain");
        QTest::newRow("129 without entries")
            << QByteArray("LUT_3D_SIZE 129\n0 0 0\n") << QByteArray("of its 2146689");
    }
    void badTables() {
        QFETCH(QByteArray, text);
        QFETCH(QByteArray, says);
        const auto t = lookTableFromCube({text.data(), size_t(text.size())});
        QVERIFY(!t);
        QVERIFY2(t.error().message.find(says.toStdString()) != std::string::npos, t.error().message.c_str());
    }
};

GLYPTOS_TEST(LookTableTest)
#include "look_table_test.moc"
