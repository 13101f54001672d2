// CIEDE2000 against the test pairs that its authors publish, which reach every branch of it.
#include "color/difference.h"

#include "support/register.h"

#include <cmath>

using namespace glyptos;

class DifferenceTest : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void publishedPairs() {
        struct Row {
            Lab one, other;
            double difference;
        };
        // Sharma, Wu and Dalal (2005), table 1.
        const Row rows[] = {{{50, 2.6772, -79.7751}, {50, 0, -82.7485}, 2.0425},
                            {{50, 3.1571, -77.2803}, {50, 0, -82.7485}, 2.8615},
                            {{50, 2.8361, -74.0200}, {50, 0, -82.7485}, 3.4412},
                            {{50, -1.3802, -84.2814}, {50, 0, -82.7485}, 1.0000},
                            {{50, 0, 0}, {50, -1, 2}, 2.3669},
                            {{50, 2.4900, -0.0010}, {50, -2.4900, 0.0009}, 7.1792},
                            {{50, 2.4900, -0.0010}, {50, -2.4900, 0.0011}, 7.2195},
                            {{50, -0.0010, 2.4900}, {50, 0.0009, -2.4900}, 4.8045},
                            {{50, -0.0010, 2.4900}, {50, 0.0011, -2.4900}, 4.7461},
                            {{50, 2.5, 0}, {50, 0, -2.5}, 4.3065},
                            {{50, 2.5, 0}, {73, 25, -18}, 27.1492},
                            {{50, 2.5, 0}, {61, -5, 29}, 22.8977},
                            {{50, 2.5, 0}, {56, -27, -3}, 31.9030},
                            {{50, 2.5, 0}, {58, 24, 15}, 19.4535},
                            {{60.2574, -34.0099, 36.2677}, {60.4626, -34.1751, 39.4387}, 1.2644},
                            {{63.0109, -31.0961, -5.8663}, {62.8187, -29.7946, -4.0864}, 1.2630},
                            {{35.0831, -44.1164, 3.7933}, {35.0232, -40.0716, 1.5901}, 1.8645},
                            {{22.7233, 20.0904, -46.6940}, {23.0331, 14.9730, -42.5619}, 2.0373},
                            {{90.9257, -0.5406, -0.9208}, {88.6381, -0.8985, -0.7239}, 1.5381},
                            {{6.7747, -0.2908, -2.4247}, {5.8714, -0.0985, -2.2286}, 0.6377},
                            {{2.0776, 0.0795, -1.1350}, {0.9033, -0.0636, -0.5514}, 0.9082}};
        for (const Row& row : rows) {
            QVERIFY2(std::abs(ciede2000(row.one, row.other) - row.difference) < 6e-5,
                     qPrintable(QString::number(row.difference)));
            QVERIFY(std::abs(ciede2000(row.other, row.one) - row.difference) < 6e-5);
        }
    }

    void ofScreens() {
        const Lab white = toLab({1, 1, 1, 1}), black = toLab({0, 0, 0, 1}), red = toLab({1, 0, 0, 1});
        QVERIFY(std::abs(white.L - 100) < 1e-3 && std::abs(white.a) < 0.01 && std::abs(white.b) < 0.02);
        QVERIFY(std::abs(ciede2000(white, black) - 100) < 0.01);
        // The corner of sRGB that is red, as CIE 15 has it.
        QVERIFY(std::abs(red.L - 53.24) < 0.01 && std::abs(red.a - 80.09) < 0.02 &&
                std::abs(red.b - 67.20) < 0.02);
    }
};

GLYPTOS_TEST(DifferenceTest)
#include "difference_test.moc"
