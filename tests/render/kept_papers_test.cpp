// Cut paper kept as shapes covers what the treatment covered, in its colours.
#include "raster/noise.h"
#include "render/kept_papers.h"
#include "support/pictures.h"
#include "support/register.h"
#include "treat/drawn/paper_cuts.h"

#include <QTest>

using namespace glyptos;
using namespace glyptos::test;

class KeptPapersTest : public QObject {
    Q_OBJECT

    static Planes art(int w, int h) {
        Planes out({0, 0, w, h});
        for (int y = 0; y < h; ++y)
            for (int x = 0; x < w; ++x) {
                const float v = fractalNoise(float(x) / 70, float(y) / 70, 3, 5);
                const float alpha = x > w - 40 ? 0.0f : 1.0f;
                for (int c = 0; c < 3; ++c) out.row(c, y)[x] = v * alpha;
                out.row(3, y)[x] = alpha;
            }
        return out;
    }

  private Q_SLOTS:
    void shapesCoverWhatThePapersDo() {
        constexpr int kWidth = 300, kHeight = 220;
        const TreatmentKind& kind = *treatmentKind("cut-paper");
        Figures figures(kind.figures, 1);
        figures.set(kind.find("papers"), 3.0);
        figures.set(kind.find("plain"), 10.0);
        // Units of two px, off the corner.
        const Place place{Affine::scaling(2, 2) * Affine::translation(-10, -20), {10, 20, 150, 110}, 1};
        const Planes in = art(kWidth, kHeight);
        const auto papers = papersOf(in, figures, place);
        QCOMPARE(papers.size(), size_t(3));
        const Plane light = paperLight(in, figures, place);
        const auto levels = paperLevels(figures);
        const auto colours = paperColours(figures);
        for (size_t k = 0; k < 3; ++k) {
            const Layer& paper = papers[2 - k];
            const auto& shape = std::get<ShapeContent>(paper.content);
            const auto& ink = std::get<Ink>(*shape.fill);
            QVERIFY(std::abs(ink.r - colours[k].r) < 1e-6f && std::abs(ink.b - colours[k].b) < 1e-6f);
            const Affine map =
                place.toOutput * Affine::translation(paper.placement.position.x, paper.placement.position.y);
            const auto cover = coverage(outlineOf(shape), map, kWidth, kHeight);
            size_t off = 0;
            for (int y = 0; y < kHeight; ++y)
                for (int x = 0; x < kWidth; ++x) {
                    const bool wanted = in.row(3, y)[x] > 0.5f && (k == 0 || light.row(y)[x] > levels[k - 1]);
                    off += wanted != (cover.data()[size_t(y) * kWidth + size_t(x)] > 0.5f) ? 1 : 0;
                }
            QVERIFY2(off < size_t(kWidth * kHeight / 200),
                     qPrintable(QStringLiteral("paper %1: %2").arg(k).arg(off)));
        }
    }

    void nothingGivesNothing() {
        Planes none({0, 0, 20, 20});
        none.clear();
        const TreatmentKind& kind = *treatmentKind("cut-paper");
        QVERIFY(papersOf(none, Figures(kind.figures, 1), {{}, {0, 0, 20, 20}, 1}).empty());
    }
};

GLYPTOS_TEST(KeptPapersTest)
#include "kept_papers_test.moc"
