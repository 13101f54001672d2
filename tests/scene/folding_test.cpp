// Flats folded in space: where their boards go, and that none goes through another.
#include "scene/fold/folding.h"

#include "raster/stroke.h"
#include "support/forms.h"
#include "support/register.h"

using namespace glyptos;
using test::flatOf;

namespace {

/// The form worked out as it is and with more of everything.
struct Case {
    const char* form;
    ParameterValues set;
};

size_t placeOf(const Flat& flat, const char* panel) {
    return size_t(flat.panel(panel) - flat.panels.data());
}

struct Polygon {
    std::vector<Vec3> points; ///< convex enough: its box, a little smaller
};

/// The middle of a board, drawn in by as much as board may overlap where it bends.
Polygon polygonOf(const Folding& folding, size_t board, const Pose& pose) {
    const double in = std::max(1.0, 6 * folding.thickness());
    const Rect r = folding.boards()[board].outline.box.grown(-in);
    const double z = -folding.thickness() / 2;
    if (r.empty()) return {};
    return {{pose.map({r.x, r.y, z}), pose.map({r.right(), r.y, z}), pose.map({r.right(), r.bottom(), z}),
             pose.map({r.x, r.bottom(), z})}};
}

/// Whether a line from a to b goes through a parallelogram.
bool goesThrough(const Vec3& a, const Vec3& b, const Polygon& p) {
    const Vec3 u = p.points[1] - p.points[0], v = p.points[3] - p.points[0], n = u.cross(v);
    const double da = n.dot(a - p.points[0]), db = n.dot(b - p.points[0]);
    if (da * db >= 0) return false;
    const Vec3 at = a + (b - a) * (da / (da - db)) - p.points[0];
    const double s = at.dot(u) / u.dot(u), t = at.dot(v) / v.dot(v);
    return s > 0 && s < 1 && t > 0 && t < 1;
}

bool cross(const Polygon& a, const Polygon& b) {
    if (a.points.empty() || b.points.empty()) return false;
    for (size_t i = 0; i < 4; ++i)
        if (goesThrough(a.points[i], a.points[(i + 1) % 4], b) ||
            goesThrough(b.points[i], b.points[(i + 1) % 4], a))
            return true;
    return false;
}

/// How far the middles of two boards that lie flat on each other are apart, or nothing where they do not.
std::optional<double> apart(const Folding& folding, size_t a, size_t b, const std::vector<Pose>& poses) {
    if (std::abs(poses[a].z.dot(poses[b].z)) < 0.999) return std::nullopt;
    const Rect inner = folding.boards()[a].outline.box, other = folding.boards()[b].outline.box;
    const double z = -folding.thickness() / 2;
    const Vec3 middle = poses[a].map({inner.centre().x, inner.centre().y, z});
    const Vec3 onOther = poses[b].back(middle);
    if (!other.contains({onOther.x, onOther.y})) return std::nullopt;
    return std::abs(onOther.z - z);
}

} // namespace

class FoldingTest : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void noBoardOfAnyFormGoesThroughAnother() {
        const auto forms = shippedForms().value();
        int folding = 0;
        for (const auto& form : forms) {
            if (form->retired) continue;
            std::vector<ParameterValues> settings{{}};
            if (form->id == "disc-booklet") settings = {{{"pages", 2}}, {{"pages", 4}}, {{"pages", 32}}};
            if (form->id == "cassette-card")
                settings = {{}, {{"more", 1}}, {{"more", 4}}, {{"more", 3}, {"hand", 1}, {"both", 1}}};
            if (form->id == "gatefold-12") settings = {{}, {{"discs", 1}}, {{"discs", 4}, {"board", 0.52}}};
            for (const ParameterValues& set : settings) {
                const auto flat = workOut(*form, set);
                QVERIFY2(flat.has_value(), form->id.c_str());
                const Folding piece(*flat);
                folding += piece.folds() > 0;
                for (int step = 0; step <= 40; ++step) goNotThrough(*form, piece, step / 40.0);
            }
        }
        QVERIFY(folding >= 16);
    }

    void flatIsFlat() {
        const Folding folding(flatOf("gatefold-12"));
        const auto poses = folding.poses(folding.sharesAt(0));
        for (size_t i = 0; i < poses.size(); ++i) {
            const Vec3 at = poses[i].map({10, 20, 3});
            QVERIFY((at - Vec3{10, 20, 3}).length() < 1e-9);
        }
        QCOMPARE(folding.steps(), 3);
    }

    /// The front stays, the back lies behind it, as far as the spine is wide, and shows its other side.
    void aSleeveClosesRoundItsSpine() {
        const Flat flat = flatOf("sleeve-12", {{"spine", 5}});
        const Folding folding(flat);
        const auto poses = folding.poses(folding.sharesAt(1));
        const size_t back = placeOf(flat, "back"), front = placeOf(flat, "front"),
                     spine = placeOf(flat, "spine");
        QCOMPARE(poses[front].map({400, 10, 0}), (Vec3{400, 10, 0}));
        QVERIFY(poses[back].z.z < -0.999999);
        const double t = flat.thickness;
        const Rect at = flat.panels[back].onFlat;
        // Between the insides of front and back is the width of the spine.
        const Vec3 inside = poses[back].map({at.right(), at.y, -t});
        QVERIFY2(std::abs(inside.z - (-t - 5)) < 1e-6, qPrintable(QString::number(inside.z)));
        // The spine's edge lies over the front's, and the far edge of the back over the front's far edge.
        const Vec3 far = poses[back].map({at.x, at.y, 0});
        QVERIFY(std::abs(far.x - flat.panels[front].onFlat.right()) < 1e-6);
        QVERIFY(std::abs(poses[spine].z.x + 1) < 1e-9); // seen from the left
    }

    /// Both rows of a gatefold, when it is made up and opened again by hand: the inner row reads upright from
    /// inside.
    void theInnerRowOfAGatefoldLiesBehindTheOuter() {
        const Flat flat = flatOf("gatefold-12");
        const Folding folding(flat);
        FoldShares shares = folding.sharesAt(2.0 / 3); // the row is folded down, the spine is flat
        const auto poses = folding.poses(shares);
        const size_t inner = placeOf(flat, "inner-left"), outer = placeOf(flat, "front");
        QVERIFY(poses[inner].z.z < -0.999999);
        const auto gap = apart(folding, outer, inner, poses);
        QVERIFY(gap.has_value());
        QVERIFY2(*gap > flat.thickness && *gap < 3 * flat.thickness, qPrintable(QString::number(*gap)));
        // The top of the upright inner panel points up, where it is.
        const Panel& panel = flat.panels[inner];
        const Vec2 top = panel.toFlat().map({panel.width / 2, 0}),
                   foot = panel.toFlat().map({panel.width / 2, panel.height});
        QVERIFY(poses[inner].map({top.x, top.y, 0}).y < poses[inner].map({foot.x, foot.y, 0}).y);
    }

    /// Panels of a long cassette card lie on each other behind the front, like an accordion.
    void aLongCassetteCardIsAnAccordion() {
        const Flat flat = flatOf("cassette-card", {{"more", 4}});
        const Folding folding(flat);
        const auto poses = folding.poses(folding.sharesAt(1));
        double last = 0;
        for (const char* id : {"inner-1", "inner-2", "inner-3", "inner-4"}) {
            const size_t i = placeOf(flat, id);
            const Rect at = flat.panels[i].onFlat;
            const Vec3 middle = poses[i].map({at.centre().x, at.centre().y, -flat.thickness / 2});
            QVERIFY(middle.z < last - 0.9 * flat.thickness);
            QVERIFY(middle.z > -12.5);
            last = middle.z;
        }
    }

    void whatPrintsOnTheOtherSideLiesBehindItsPanel() {
        const Flat flat = flatOf("cassette-card", {{"both", 1}});
        const Folding folding(flat);
        const size_t front = placeOf(flat, "front");
        const Board& board = folding.boards()[front];
        QVERIFY(board.back.has_value());
        QCOMPARE(flat.panels[board.back->panel].id, std::string("inside-front"));
        // The left edge of the front is the right edge of what is behind it.
        const Rect at = flat.panels[front].onFlat;
        const Panel& inside = flat.panels[board.back->panel];
        const Vec2 on = board.back->toPanel.map({at.x + 10, at.y + 7});
        QVERIFY(std::abs(on.x - (inside.width - 10)) < 1e-9 && std::abs(on.y - 7) < 1e-9);
        QVERIFY(!Folding(flatOf("cassette-card")).boards()[0].back.has_value());
    }

    void aBookletOpensAtItsLeaves() {
        const Flat flat = flatOf("disc-booklet", {{"pages", 8}});
        const Folding folding(flat);
        QCOMPARE(folding.boards().size(), size_t(4));
        std::vector<std::string> pages;
        for (const Board& leaf : folding.boards())
            pages.push_back(flat.panels[leaf.face->panel].id),
                pages.push_back(flat.panels[leaf.back->panel].id);
        QCOMPARE(pages, (std::vector<std::string>{"front", "page-2", "page-3", "page-4", "page-5", "page-6",
                                                  "page-7", "back"}));
        const auto closed = folding.poses(folding.sharesAt(1)), open = folding.poses(folding.sharesAt(0.5)),
                   turned = folding.poses(folding.sharesAt(0));
        const Rect at = flat.frontPanel().onFlat;
        const auto middle = [&](const Pose& pose) { return pose.map({at.centre().x, at.centre().y, 0}); };
        for (size_t i = 0; i < 4; ++i) {
            QVERIFY(closed[i].z.z > 0.999 && middle(closed[i]).x > at.x);
            QVERIFY(turned[i].z.z < -0.999 && middle(turned[i]).x < at.x);
            QVERIFY((open[i].z.z > 0) == (i >= 2)); // pages 4 and 5 are open
            if (i == 0) continue;
            QVERIFY(middle(closed[i]).z < middle(closed[i - 1]).z);
            QVERIFY(middle(turned[i]).z > middle(turned[i - 1]).z);
        }
    }

    void aTwoPageBookletIsOneLeaf() {
        const Flat flat = flatOf("disc-booklet", {{"pages", 2}});
        const Folding folding(flat);
        QCOMPARE(folding.boards().size(), size_t(1));
        QCOMPARE(flat.panels[folding.boards()[0].face->panel].id, std::string("front"));
        QCOMPARE(flat.panels[folding.boards()[0].back->panel].id, std::string("back"));
    }

    /// A thumb cut reaches over the edge of its panel; the board's rim does not.
    void rimsKeepToTheirBoards() {
        const Flat flat = flatOf("card-wallet");
        const Folding folding(flat);
        const Board& front = folding.boards()[placeOf(flat, "front")];
        QCOMPARE(front.rim.size(), size_t(1));
        QVERIFY(!front.holes.empty());
        const Rect all = front.outline.box.grown(1e-3);
        bool isCut = false;
        for (const Vec2& p : front.rim[0].points) {
            QVERIFY(all.contains(p));
            isCut = isCut || (p.x > all.x + 5 && p.x < all.right() - 5);
        }
        QVERIFY(isCut);
        QCOMPARE(Folding(flatOf("label-12")).boards()[0].rim.size(), size_t(2)); // with its hole
    }

    void labelsHaveNothingToFold() {
        const Folding folding(flatOf("label-12"));
        QCOMPARE(folding.folds(), size_t(0));
        QCOMPARE(folding.steps(), 0);
        QCOMPARE(folding.boards().size(), size_t(2));
        QVERIFY(!folding.boards()[0].holes.empty());
    }

  private:
    static void goNotThrough(const Form& form, const Folding& piece, double at) {
        const auto poses = piece.poses(piece.sharesAt(at));
        std::vector<Polygon> boards;
        for (size_t i = 0; i < poses.size(); ++i)
            boards.push_back(piece.boards()[i].outline.box.empty() ? Polygon{}
                                                                   : polygonOf(piece, i, poses[i]));
        for (size_t i = 0; i < boards.size(); ++i)
            for (size_t k = i + 1; k < boards.size(); ++k) {
                const std::string where = form.id + " at " + std::to_string(at) + ": boards " +
                                          std::to_string(i) + " and " + std::to_string(k);
                QVERIFY2(!cross(boards[i], boards[k]), where.c_str());
                if (boards[i].points.empty() || boards[k].points.empty()) continue;
                const auto gap = apart(piece, i, k, poses);
                QVERIFY2(!gap || *gap > 0.4 * piece.thickness(),
                         (where + " lie in each other, " + std::to_string(*gap)).c_str());
            }
    }
};

GLYPTOS_TEST(FoldingTest)
#include "folding_test.moc"
