// Wide panels over several others, and pages in printer's pairs.
#include "form/wrap.h"

#include "form/imposition.h"
#include "support/forms.h"
#include "support/register.h"

using namespace glyptos;
using test::flatOf;

class WrapTest : public QObject {
    Q_OBJECT
    static Flat laid(const char* form, std::vector<std::string> panels, const ParameterValues& set = {}) {
        Flat flat = flatOf(form, set);
        const Wrap wrap{"over", std::move(panels)};
        layWraps(flat, {&wrap, 1});
        return flat;
    }

  private Q_SLOTS:
    /// A sleeve of 315 with its spine: one art of 633.8 × 315 that bleeds on all four sides.
    void overASleeve() {
        const Flat flat = laid("sleeve-12", {"front", "spine", "back"}, {{"spine", 3.8}});
        const Panel& wide = *flat.panel("over");
        QCOMPARE(wide.name, std::string("Front + Spine + Back"));
        QVERIFY(std::abs(wide.width - 633.8) < 1e-9 && std::abs(wide.height - 315) < 1e-9);
        QCOMPARE(wide.turn, 0);
        QVERIFY(wide.bleeds == (Edges{true, true, true, true}));
        QCOMPARE(wide.withBleed(), (Rect{-3, -3, 639.8, 321}));
        // The front begins behind back and spine.
        const Vec2 at = panelToPanel(*flat.panel("front"), wide).map({0, 0});
        QVERIFY(std::abs(at.x - 318.8) < 1e-9 && std::abs(at.y) < 1e-9);
        QCOMPARE(flat.places().size(), flat.panels.size() + 1);
    }

    /// Upright on it is what is upright on the first of its panels, however it lies on the sheet.
    void uprightAsItsFirstPanel() {
        const Flat flat = laid("gatefold-12", {"inner-left", "inner-spine", "inner-right"});
        const Panel* left = flat.panel("inner-left");
        QVERIFY(left && left->turn == 180);
        const Panel& wide = *flat.panel("over");
        QCOMPARE(wide.turn, 180);
        const Vec2 l = panelToPanel(*left, wide).map({0, 0}),
                   r = panelToPanel(*flat.panel("inner-right"), wide).map({0, 0});
        QVERIFY2(l.x < r.x && std::abs(l.y - r.y) < 1e-9, "the left page lies left");
        const Flat other = laid("sleeve-12", {"spine", "front"});
        QCOMPARE(other.panel("over")->turn, other.panel("spine")->turn);
    }

    /// Zones go with it; a part that is not there, or lies on another sheet, is left out.
    void whatItTakesAlongAndLeavesOut() {
        const Flat tray = laid("tray-card", {"back", "spine-left", "spine-right"});
        QCOMPARE(tray.panel("over")->zones.size(), tray.panel("back")->zones.size());
        const Flat booklet = laid("disc-booklet", {"page-2", "page-3", "page-4"}, {{"pages", 8}});
        QVERIFY(std::abs(booklet.panel("over")->width - 240) < 1e-9);
        const Flat leaf = laid("disc-booklet", {"page-2", "page-3"}, {{"pages", 2}});
        QVERIFY(leaf.wraps.empty() && !leaf.panel("over"));
    }

    void printersPairs() {
        for (const double pages : {4.0, 8.0, 32.0}) {
            const Flat flat = flatOf("disc-booklet", {{"pages", pages}});
            const auto pairs = inPrintersPairs(flat);
            QVERIFY(pairs.has_value());
            const auto pageOf = [&](int n) -> const Panel& {
                const std::string id = n == 1            ? "front"
                                       : n == int(pages) ? "back"
                                                         : "page-" + std::to_string(n);
                return *pairs->panel(id);
            };
            for (int n = 1; n <= int(pages); ++n) {
                const Panel &one = pageOf(n), &other = pageOf(int(pages) + 1 - n);
                QCOMPARE(one.sheet, other.sheet);
                // Odd pages stand on the right, as in every book that is read from left to right.
                QCOMPARE(one.onFlat.x > other.onFlat.x, n % 2 == 1);
                QVERIFY(one.bleeds.right == (n % 2 == 1) && one.bleeds.left == (n % 2 == 0));
            }
            // Two pages on a sheet, and on its other side those that lie behind them.
            QCOMPARE(pageOf(1).sheet + 1, pageOf(2).sheet);
        }
        QVERIFY(!inPrintersPairs(flatOf("disc-booklet", {{"pages", 2}})));
        QVERIFY(!inPrintersPairs(flatOf("sleeve-12")));
    }
};

GLYPTOS_TEST(WrapTest)
#include "wrap_test.moc"
