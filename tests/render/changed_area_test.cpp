// Where a panel looks otherwise after an edit: never less than what has changed, and no more than it must for
// the edits of every day.
#include "render/changed_area.h"

#include "file/data_folder.h"
#include "release/edits/edits.h"
#include "release/edits/palette_edits.h"
#include "render/renderer.h"
#include "support/every_kind.h"
#include "support/register.h"

#include <QRandomGenerator>

using namespace glyptos;
using namespace glyptos::test;

class ChangedAreaTest : public QObject {
    Q_OBJECT
    FontLibrary fonts{dataFolder() / "fonts", true};
    HeldPictures pictures;
    Renderer renderer{pictures, fonts};
    ReleasePtr release = releaseOfEveryKind(pictures);
    PanelRef front = frontOf(release);
    static constexpr double kScale = 0.5;
    QString what; ///< the last random edit

    std::optional<Rect> changed(const ReleasePtr& before, const ReleasePtr& after) {
        return changedArea(before, after, front, renderer.paragraphs());
    }
    /// Whether all that looks otherwise lies inside of the area that was said.
    bool holds(const ReleasePtr& before, const ReleasePtr& after) {
        const auto area = changed(before, after);
        if (!area) return true;
        const Scene a = panelScene(before, front, {kScale, false}),
                    b = panelScene(after, front, {kScale, false});
        const IntRect all = a.bounds();
        const auto x = renderer.renderBgra8(a, all), y = renderer.renderBgra8(b, all);
        const Rect px{area->x * kScale, area->y * kScale, area->w * kScale, area->h * kScale};
        const IntRect inside = area->empty() ? IntRect{} : pixelsAround(px.grown(1));
        for (int row = 0; row < all.h; ++row)
            for (int column = 0; column < all.w; ++column) {
                const size_t i = size_t(row * all.w + column) * 4;
                if (std::equal(x.data() + i, x.data() + i + 4, y.data() + i)) continue;
                if (IntRect{column, row, 1, 1}.intersected(inside).empty()) return false;
            }
        return true;
    }
    ReleasePtr withChange(const ReleasePtr& r, const std::string& layer, const LayerChange& change) const {
        return withChangedLayer(r, front, layer, change);
    }
    ReleasePtr randomEdit(const ReleasePtr& r, QRandomGenerator& random) {
        const char* ids[] = {"tint", "echo", "passing", "clipped", "words",  "isolated",
                             "hole", "glow", "star",    "spiral",  "clouds", "photo"};
        const std::string id = ids[random.bounded(12)];
        const double v = random.generateDouble();
        const uint32_t kind = random.bounded(8);
        what = QString("%1 of %2").arg(kind).arg(QString::fromStdString(id));
        switch (kind) {
        case 0:
            return withChange(r, id, [&](Layer& l) { l.opacity = v; });
        case 1:
            return withChange(r, id, [&](Layer& l) { l.placement.position = {700 * v, 520 * (1 - v)}; });
        case 2:
            return withChange(r, id, [&](Layer& l) { l.on = !l.on; });
        case 3:
            return withChange(
                r, id, [&](Layer& l) { l.blend = BlendMode(random.bounded(uint32_t(kBlendModeCount))); });
        case 4:
            return withChange(r, id, [&](Layer& l) { l.clipped = !l.clipped; });
        case 5:
            return withOrder(r, front, {id}, v < 0.5 ? Nearer::OneForward : Nearer::Back);
        case 6:
            return withoutLayer(r, front, id);
        default:
            return withChange(r, id, [](Layer& l) {
                if (!l.mask) return;
                Mask mask = *l.mask;
                mask.inverted = !mask.inverted;
                l.mask = std::make_shared<const Mask>(mask);
            });
        }
    }

  private Q_SLOTS:
    void nothingOutsideChanges() {
        QRandomGenerator random(17);
        ReleasePtr r = release;
        int said = 0;
        for (int i = 0; i < 400; ++i) {
            if (i % 25 == 0) r = release; // before nothing is left
            const ReleasePtr next = randomEdit(r, random);
            said += changed(r, next).has_value();
            QVERIFY2(holds(r, next), qPrintable(QString("edit %1: %2").arg(i).arg(what)));
            r = next;
        }
        QVERIFY2(said > 20, qPrintable(QString::number(said))); // not always "anywhere"
    }

    void aMovedLayerChangesWhereItWasAndIs() {
        const ReleasePtr next = withChange(release, "star", [](Layer& l) { l.placement.position.x += 40; });
        const auto area = changed(release, next);
        QVERIFY(area.has_value());
        // 260 wide about (180, 160), its stroke of 12 half outside, and 40 to the right.
        QVERIFY(area->x <= 180 - 136 + 1 && area->right() >= 180 + 40 + 136 - 1);
        QVERIFY(area->w < 420 && area->h < 340);
    }

    void insideOfAGroupOnlyThatChanges() {
        const ReleasePtr next = withChange(release, "glow", [](Layer& l) { l.opacity = 0.3; });
        const auto area = changed(release, next);
        QVERIFY(area.has_value());
        QVERIFY(area->w <= 341 && area->h <= 341); // the picture, not the group
    }

    void whatHappensElsewhereChangesNothing() {
        const PanelRef other{release->pieces[1]->id, "front"};
        QCOMPARE(changed(release, release), std::optional(Rect{}));
        // The other piece is echoed here: anywhere. Without the echo: nowhere.
        const auto off = [](Layer& l) { l.on = false; };
        QVERIFY(!changed(release, withChangedLayer(release, other, "weave of the other", off)));
        const ReleasePtr alone = withoutLayer(release, front, "echo");
        const auto area = changed(alone, withChangedLayer(alone, other, "weave of the other", off));
        QVERIFY(area && area->empty());
    }

    void whatReachesEverywhereSaysSo() {
        QVERIFY(!changed(release, withChange(release, "tint", [](Layer& l) { l.opacity = 0.1; })));
        QVERIFY(!changed(release, withLinearLight(release, true)));
        Brief brief = release->brief;
        brief.title = "Ebb";
        QVERIFY(!changed(release, withBrief(release, brief)));
        QVERIFY(!changed(release,
                         withChange(release, "star", [](Layer& l) { l.blend = BlendMode::DestinationIn; })));
    }
};

GLYPTOS_TEST(ChangedAreaTest)
#include "changed_area_test.moc"
