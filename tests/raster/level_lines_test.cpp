// Lines along a level: their area, their holes, corners that meet, and the edge of the field.
#include "raster/level_lines.h"
#include "support/register.h"

#include <QRandomGenerator>
#include <QTest>

using namespace glyptos;

namespace {

double areaOf(const std::vector<Vec2>& line) {
    double out = 0;
    for (size_t i = 0; i < line.size(); ++i) {
        const Vec2 a = line[i], b = line[(i + 1) % line.size()];
        out += (a.x * b.y - b.x * a.y) / 2;
    }
    return out;
}

std::vector<float> field(int w, int h, const std::function<double(double, double)>& value) {
    std::vector<float> out;
    for (int y = 0; y < h; ++y)
        for (int x = 0; x < w; ++x) out.push_back(float(value(x + 0.5, y + 0.5)));
    return out;
}

} // namespace

class LevelLinesTest : public QObject {
    Q_OBJECT

  private Q_SLOTS:
    void aRingHasItsHole() {
        const auto v = field(60, 50, [](double x, double y) {
            const double r = std::hypot(x - 30, y - 25);
            return std::min(r - 6, 18 - r);
        });
        const auto lines = levelLines(v.data(), 60, 60, 50, 0);
        QCOMPARE(lines.size(), size_t(2));
        const double a = areaOf(lines[0]), b = areaOf(lines[1]);
        QVERIFY(a * b < 0); // the other way round
        QVERIFY(std::abs(std::max(std::abs(a), std::abs(b)) - M_PI * 18 * 18) < 4);
        QVERIFY(std::abs(std::min(std::abs(a), std::abs(b)) - M_PI * 36) < 3);
        for (const auto& line : lines)
            for (const Vec2& p : line) {
                const double r = std::hypot(p.x - 30, p.y - 25);
                QVERIFY(std::abs(r - 18) < 0.05 || std::abs(r - 6) < 0.1);
            }
    }

    void whatReachesTheEdgeEndsThere() {
        const auto all = field(12, 9, [](double, double) { return 1; });
        const auto lines = levelLines(all.data(), 12, 12, 9, 0.5f);
        QCOMPARE(lines.size(), size_t(1));
        QVERIFY(std::abs(std::abs(areaOf(lines[0])) - 12 * 9) < 1);
        QVERIFY(levelLines(all.data(), 12, 12, 9, 1.5f).empty());
    }

    void anyFieldGivesClosedLinesRoundWhatIsAbove() {
        QRandomGenerator chance(4);
        for (int round = 0; round < 40; ++round) {
            const int w = 3 + round % 7, h = 2 + round % 5;
            auto v = field(w, h, [&](double, double) { return chance.generateDouble() < 0.5 ? -1 : 1; });
            double area = 0;
            size_t points = 0;
            for (const auto& line : levelLines(v.data(), size_t(w), w, h, 0)) {
                QVERIFY(line.size() >= 4);
                area += areaOf(line), points += line.size();
                for (size_t i = 0; i < line.size(); ++i)
                    QVERIFY((line[(i + 1) % line.size()] - line[i]).length() < 1.5);
            }
            // Every pair of neighbours that differ is crossed once.
            size_t crossings = 0;
            const auto at = [&](int x, int y) {
                return x >= 0 && y >= 0 && x < w && y < h && v[size_t(y * w + x)] > 0;
            };
            for (int y = -1; y <= h; ++y)
                for (int x = -1; x <= w; ++x)
                    crossings += (at(x, y) != at(x + 1, y)) + (at(x, y) != at(x, y + 1));
            QCOMPARE(points, crossings);
            const auto above = double(std::count(v.begin(), v.end(), 1.0f));
            QVERIFY2(std::abs(std::abs(area) - above) <= 0.5 * double(crossings) && (above == 0 || area < 0),
                     qPrintable(QStringLiteral("%1 %2").arg(area).arg(above)));
        }
    }
};

GLYPTOS_TEST(LevelLinesTest)
#include "level_lines_test.moc"
