#include "base/expression.h"

#include "base/geometry.h"
#include "base/text.h"
#include "base/units.h"
#include "support/pictures.h"
#include "support/register.h"

using namespace glyptos;
using test::sentence;

class ExpressionTest : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void sums_data() {
        QTest::addColumn<QString>("typed");
        QTest::addColumn<double>("mm");
        QTest::newRow("plain") << "12" << 12.0;
        QTest::newRow("decimal comma") << "12,5" << 12.5;
        QTest::newRow("inches") << "12.5in" << 317.5;
        QTest::newRow("inch sign") << "12\"" << 304.8;
        QTest::newRow("mixed") << "3mm + 1/8in" << 3 + 25.4 / 8;
        QTest::newRow("fraction with a unit") << "1/8in" << 25.4 / 8;
        QTest::newRow("share of a length") << "1in/8" << 25.4 / 8;
        QTest::newRow("fraction of a sum") << "(1 + 2)/8in × 2" << 2 * 3 * 25.4 / 8;
        QTest::newRow("precedence") << "2 + 3 * 4" << 14.0;
        QTest::newRow("brackets") << "(2 + 3) × 4" << 20.0;
        QTest::newRow("minus twice") << "--4 - 1" << 3.0;
        QTest::newRow("unit before minus") << "3mm-1mm" << 2.0;
        QTest::newRow("points") << "72pt" << 25.4;
        QTest::newRow("pixels") << "300px" << 25.4;
    }
    void sums() {
        QFETCH(QString, typed);
        QFETCH(double, mm);
        const auto value = evaluate(typed.toStdString(), lengthUnitsInMm(300 / 25.4));
        QVERIFY2(value, qPrintable(sentence(value)));
        QVERIFY(std::abs(*value - mm) < 1e-9); // mm; double rounding of a handful of operations
    }

    void nonsense_data() {
        QTest::addColumn<QString>("typed");
        for (const char* text : {"", "mm mm", "3 +", "4 furlongs", "(2", "1/0", "2..3", "5 5", "1e999"})
            QTest::newRow(text) << text;
        QTest::newRow("deep") << QString(200, '(') + "1" + QString(200, ')');
    }
    void nonsense() {
        QFETCH(QString, typed);
        const auto value = evaluate(typed.toStdString(), lengthUnitsInMm(300 / 25.4));
        QVERIFY(!value);
        QVERIFY(sentence(value).endsWith('.'));
    }

    void unitsConvertExactly() {
        QCOMPARE(toPt(Mm{25.4}).value, 72.0);
        QCOMPARE(toMm(Pt{72}).value, 25.4);
        QCOMPARE(pxPerMm(Ppi{254}), 10.0);
        // Both sides of a shared edge get the same pixel line.
        for (double edge : {0.4999, 0.5, 1.5, -0.5, -0.4999}) QCOMPARE(snapEdge(edge), snapEdge(edge));
        QCOMPARE(snapEdge(0.5), 1);
        QCOMPARE(snapEdge(-0.5), 0);
    }

    void affineInverseAndTurns() {
        const Affine m = Affine::translation(3, 4) * Affine::rotation(30) * Affine::scaling(2, 5);
        const Vec2 p = (*m.inverse() * m).map({7, -9});
        QVERIFY(std::abs(p.x - 7) < 1e-12 && std::abs(p.y + 9) < 1e-12);
        QVERIFY(Affine::rotation(90).map({1, 0}) == (Vec2{0, 1})); // clockwise as seen, exact
        QVERIFY(!Affine::scaling(0, 1).inverse());
    }

    void numbers() {
        QCOMPARE(shortNumber(3.80000001), "3.8");
        QCOMPARE(shortNumber(-0.001), "0");
    }
};

GLYPTOS_TEST(ExpressionTest)
#include "expression_test.moc"
