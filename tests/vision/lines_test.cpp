// Areas between lines, and lines without their paper.
#include "vision/lines/line_areas.h"
#include "vision/lines/paper_lift.h"

#include "raster/path.h"
#include "raster/stroke.h"
#include "support/register.h"

#include <QTest>
#include <cmath>

using namespace glyptos;

namespace {

constexpr int kSide = 400;
constexpr double kInk = 30;

/// Black outlines on white: how dark each pixel is.
Buffer<float> drawn(const std::vector<Polyline>& lines, double width) {
    return coverage(strokeOutline(lines, {width, LineJoin::Round, LineCap::Flat, LineCap::Flat}, 0.05), {},
                    kSide, kSide);
}

Picture onPaper(const Buffer<float>& ink, const std::function<std::array<double, 3>(int, int)>& paper) {
    Picture out = Picture::create<uint8_t>(kSide, kSide);
    for (int y = 0; y < kSide; ++y)
        for (int x = 0; x < kSide; ++x) {
            const double a = double(ink[size_t(y) * kSide + size_t(x)]);
            const auto p = paper(x, y);
            uint8_t* to = out.row<uint8_t>(y) + 4 * x;
            for (size_t c = 0; c < 3; ++c) to[c] = uint8_t(std::lround(p[c] * (1 - a) + kInk * a));
            to[3] = 255;
        }
    return out;
}
Picture onWhite(const Buffer<float>& ink) {
    return onPaper(ink, [](int, int) { return std::array<double, 3>{255, 255, 255}; });
}

/// A square from 100 to 300 whose right side has a gap of so many px in its middle.
std::vector<Polyline> gappy(double gap) {
    return {{{{300, 200 - gap / 2}, {300, 100}, {100, 100}, {100, 300}, {300, 300}, {300, 200 + gap / 2}},
             false}};
}

LineAreas areasOf(const Picture& picture, int x, int y, const LineOptions& options = {}) {
    return lineAreas(picture, groundAt(picture, x, y), options);
}

} // namespace

class LinesTest : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void gapsAreClosed_data() {
        QTest::addColumn<double>("gap");
        QTest::addColumn<double>("width");
        for (const double gap : {0.0, 3.0, 7.0, 11.0})
            for (const double width : {2.0, 5.0, 9.0})
                QTest::newRow(qPrintable(QStringLiteral("%1, %2").arg(gap).arg(width))) << gap << width;
    }

    /// An area ends at a line with gaps up to the width chosen; a wider one lets it out.
    void gapsAreClosed() {
        QFETCH(double, gap);
        QFETCH(double, width);
        const Picture picture = onWhite(drawn(gappy(gap), width));
        LineOptions options;
        options.gap = gap + 1;
        const LineAreas areas = areasOf(picture, 200, 200, options);
        const int inside = areas.at(200, 200), outside = areas.at(20, 20);
        QVERIFY(inside >= 0 && outside >= 0 && inside != outside);
        QVERIFY(areas.areas[size_t(outside)].runsOut && !areas.areas[size_t(inside)].runsOut);
        // In the gap both end in its middle, not beyond it by more than half the gap.
        for (int y = 110; y < 290; ++y) {
            QVERIFY(areas.at(int(300 + gap / 2 + 3), y) == outside || width > 6);
            QVERIFY(areas.at(int(300 - width / 2 - gap / 2 - 3), y) == inside);
        }
        if (gap < 6) return;
        options.gap = gap - 4;
        const LineAreas open = areasOf(picture, 200, 200, options);
        QCOMPARE(open.at(200, 200), open.at(20, 20));
        QVERIFY(open.areas[size_t(open.at(200, 200))].runsOut);
    }

    /// Up to the middle of the lines, to within a pixel, and no pixel of the free patch is left out: with the
    /// lines over it nothing of the ground is seen.
    void noRimIsLeft() {
        for (const double width : {1.0, 2.0, 4.0, 10.0}) {
            // Slanted and curved, with a sharp corner.
            std::vector<Vec2> points;
            for (int i = 0; i < 60; ++i) {
                const double a = i * 2 * std::numbers::pi / 60, r = 130 + 30 * std::sin(5 * a);
                points.push_back({200 + r * std::cos(a), 200 + r * std::sin(a)});
            }
            points.push_back({360, 60});
            const Buffer<float> ink = drawn({{points, true}}, width);
            Path outline;
            outline.moveTo(points[0]);
            for (const Vec2& p : points) outline.lineTo(p);
            const Buffer<float> truth = coverage(outline, {}, kSide, kSide);
            LineOptions options;
            options.gap = 6, options.speck = 0;
            const LineAreas areas = areasOf(onWhite(ink), 200, 200, options);
            const AlphaMap mask = areas.mask({areas.at(200, 200)}, {0, 0, kSide, kSide});
            for (int y = 0; y < kSide; ++y)
                for (int x = 0; x < kSide; ++x) {
                    if (std::hypot(x - 360, y - 60) < 8 * (width + 2))
                        continue; // narrower than its lines there
                    const size_t i = size_t(y) * kSide + size_t(x);
                    const double unpainted =
                                     double(truth[i]) * (1 - mask.values[i] / 255.0) * (1 - double(ink[i])),
                                 spilt =
                                     (1 - double(truth[i])) * (mask.values[i] / 255.0) * (1 - double(ink[i]));
                    QVERIFY2(
                        unpainted < 0.3,
                        qPrintable(
                            QStringLiteral("rim %1 at %2 %3, %4").arg(unpainted).arg(x).arg(y).arg(width)));
                    QVERIFY2(
                        spilt < 0.3,
                        qPrintable(
                            QStringLiteral("spilt %1 at %2 %3, %4").arg(spilt).arg(x).arg(y).arg(width)));
                }
        }
    }

    /// Dirt in an area is filled over; a real line in it parts it.
    void specksAreNoLines() {
        std::vector<Polyline> lines = gappy(0);
        lines.push_back({{{150, 150}, {152, 152}}, false});
        const Picture dirty = onWhite(drawn(lines, 3));
        LineOptions options;
        options.speck = 6;
        const LineAreas areas = areasOf(dirty, 200, 200, options);
        QCOMPARE(areas.at(151, 151), areas.at(200, 200));
        const AlphaMap mask = areas.mask({areas.at(200, 200)}, {0, 0, kSide, kSide});
        QCOMPARE(int(mask.at(151, 151)), 255);
        lines.push_back({{{200, 95}, {200, 305}}, false});
        const LineAreas parted = areasOf(onWhite(drawn(lines, 3)), 150, 200, options);
        QVERIFY(parted.at(150, 200) != parted.at(250, 200));
    }

    /// On nothing, as painted lines and paths are; and narrow patches are areas of their own.
    void onNothing() {
        const Buffer<float> ink = drawn({{{{100, 100}, {300, 100}, {300, 104}, {100, 104}}, true}}, 1.5);
        Picture picture = Picture::create<uint8_t>(kSide, kSide);
        for (size_t i = 0; i < size_t(kSide) * kSide; ++i) {
            uint8_t* p = picture.row<uint8_t>(0) + 4 * i;
            p[0] = p[1] = p[2] = 0, p[3] = uint8_t(std::lround(double(ink[i]) * 255));
        }
        LineOptions options;
        options.gap = 20;
        const LineAreas areas = areasOf(picture, 20, 20, options);
        QVERIFY(areas.at(200, 102) >= 0 && areas.at(200, 102) != areas.at(20, 20));
        QVERIFY(areas.areas[size_t(areas.at(200, 102))].pixels > 300);
        QCOMPARE(areas.at(-1, 5), -1);
    }

    void cancelled() {
        std::atomic<bool> cancel = true;
        LineOptions options;
        options.cancel = &cancel;
        QVERIFY(areasOf(onWhite(drawn(gappy(0), 3)), 5, 5, options).labels.empty());
        QCOMPARE(withoutPaper(onWhite(drawn(gappy(0), 3)), &cancel).width, 0);
    }

    /// Tinted paper, darker towards one side, with grain: the ink comes back as it was drawn, and over the
    /// same paper it looks as scanned.
    void paperIsLifted() {
        const Buffer<float> ink = drawn(gappy(0), 5);
        const auto paper = [](int x, int y) {
            const double light = 1 - 0.25 * x / kSide, grain = 2.0 * std::sin(x * 12.9898 + y * 78.233);
            return std::array<double, 3>{244 * light + grain, 236 * light + grain, 214 * light + grain};
        };
        const Picture lines = withoutPaper(onPaper(ink, paper));
        double squares = 0, worstPaper = 0;
        for (int y = 0; y < kSide; ++y)
            for (int x = 0; x < kSide; ++x) {
                const double alpha = lines.row<uint8_t>(y)[4 * x + 3] / 255.0,
                             truth = double(ink[size_t(y) * kSide + size_t(x)]);
                squares += std::pow(alpha - truth, 2);
                if (truth == 0) worstPaper = std::max(worstPaper, alpha);
                if (truth == 1) QVERIFY(alpha > 0.95);
                if (truth > 0.5)
                    for (int c = 0; c < 3; ++c)
                        QVERIFY(std::abs(lines.row<uint8_t>(y)[4 * x + c] - kInk) < 26);
            }
        QVERIFY2(worstPaper <= 0.02, qPrintable(QString::number(worstPaper)));
        QVERIFY(std::sqrt(squares / (kSide * kSide)) < 0.02);
    }
};

GLYPTOS_TEST(LinesTest)
#include "lines_test.moc"
