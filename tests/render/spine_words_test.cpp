// Words on a spine: in its middle, as large as it lets them be, or said not to fit.
#include "render/lettering/spine_words.h"

#include "base/units.h"
#include "release/fields.h"
#include "support/forms.h"
#include "support/register.h"

using namespace glyptos;
using namespace glyptos::test;

class SpineWordsTest : public QObject {
    Q_OBJECT
    FontLibrary fonts{dataFolder() / "fonts", true};
    ParagraphCache paragraphs{fonts};

    static ReleasePtr named(ReleasePtr r, const std::string& artist, const std::string& title) {
        Brief brief = r->brief;
        brief.artist = artist, brief.title = title, brief.catalogue = "GSR 027";
        return withBrief(r, brief);
    }
    static PanelRef spine(const ReleasePtr& r) { return {r->pieces[0]->id, "spine"}; }
    static const Panel& panelOf(const ReleasePtr& r, const PanelRef& ref) {
        return *r->piece(ref.piece)->flat->panel(ref.panel);
    }
    /// Where ink stands on the panel.
    Rect inkOf(const ReleasePtr& r, const PanelRef& ref, const std::string& id) {
        const LayerPtr layer = findLayer(stackOf(*r, ref), id);
        const auto set = paragraphs.get(resolvedText(*layer->as<TextContent>(), *r));
        return textToPanel(layer->placement).mapBounds(set->ink);
    }

  private Q_SLOTS:
    void spinesAreFound() {
        const std::vector<std::pair<const char*, std::vector<std::string>>> cases{
            {"sleeve-12", {"spine"}},
            {"gatefold-12", {"spine", "inner-spine"}},
            {"tray-card", {"spine-left", "spine-right"}},
            {"cassette-card", {"spine"}},
            {"obi", {"spine"}},
            {"sleeve-7", {}},
            {"label-12", {}},
            {"disc-booklet", {}}};
        for (const auto& [form, spines] : cases) {
            const Flat flat = flatOf(form);
            for (const Panel& panel : flat.panels) {
                const bool is = std::find(spines.begin(), spines.end(), panel.id) != spines.end();
                // A cassette card's flap is narrow too, but folded along one edge of two.
                if (panel.id == "flap") continue;
                QVERIFY2(isSpine(flat, panel) == is, (std::string(form) + " " + panel.id).c_str());
            }
        }
    }

    /// Against the edges of the form: 0.2 of its width, at most 1.5 mm, is kept; capitals lie in the middle.
    void newWordsFillTheSpine() {
        for (const double width : {3.8, 6.0, 12.0})
            for (const double reads : {90.0, 270.0}) {
                const ReleasePtr r = named(releaseOf("sleeve-12", {{"spine", width}, {"reads", reads}}),
                                           "The Gannet Hours", "Slack Tide Almanac");
                const auto made = withSpineWords(r, spine(r), {}, paragraphs);
                QVERIFY2(made.has_value(), made ? "" : made.error().message.c_str());
                const Panel& panel = panelOf(r, spine(r));
                const Rect ink = inkOf(made->release, spine(r), made->id);
                const double edge = std::min(1.5, 0.2 * width);
                QVERIFY2(ink.y > edge - 0.01 && ink.bottom() < width - edge + 0.01,
                         qPrintable(QString("%1 %2 of %3").arg(ink.y).arg(ink.bottom()).arg(width)));
                QVERIFY(std::abs(ink.centre().x - panel.width / 2) < 0.01);
                QVERIFY(ink.x >= 0 && ink.right() <= panel.width);
                // As large as can be: as high as the room is, or as wide.
                QVERIFY(std::abs(ink.h - (width - 2 * edge)) < 0.02 || ink.w > panel.width - 2 * 5.1);
            }
    }

    void capitalsLieInTheMiddle() {
        const ReleasePtr r = named(releaseOf("sleeve-12", {{"spine", 8}}), "OHNE", "HEIM");
        Layer words;
        TextContent text;
        text.spec.text = "OHNE HEIM";
        words.content = text;
        const Made put = withLayer(r, spine(r), words);
        const Made made = withSpineWords(put.release, spine(r), put.id, paragraphs).value();
        const Rect ink = inkOf(made.release, spine(r), put.id);
        QVERIFY2(std::abs(ink.centre().y - 4) < 0.12, qPrintable(QString::number(ink.centre().y)));
    }

    /// Longer words are smaller; at under 5 pt they are said not to fit, and nothing is changed.
    void whatDoesNotFitIsSaid() {
        double before = 1e9;
        for (const int times : {1, 3, 6}) {
            std::string title;
            for (int i = 0; i < times; ++i) title += "Þjóðvegur til Sögu og Hafs ";
            const ReleasePtr r = named(releaseOf("sleeve-12", {{"spine", 8}}), "Ævintýri", title);
            const Made made = withSpineWords(r, spine(r), {}, paragraphs).value();
            const auto* text = findLayer(stackOf(*made.release, spine(r)), made.id)->as<TextContent>();
            QVERIFY(text->spec.letters.size <= before);
            before = text->spec.letters.size;
        }
        const ReleasePtr narrow = named(releaseOf("sleeve-12", {{"spine", 1}}), "A", "B");
        const auto refused = withSpineWords(narrow, spine(narrow), {}, paragraphs);
        QVERIFY(!refused.has_value());
        QVERIFY2(refused.error().message.find("do not fit on Spine") != std::string::npos &&
                     refused.error().message.find("5 pt") != std::string::npos,
                 refused.error().message.c_str());
        const ReleasePtr empty = releaseOf("sleeve-12");
        Layer blank;
        TextContent none;
        none.spec.text = "   ";
        blank.content = none;
        const Made put = withLayer(empty, spine(empty), blank);
        QVERIFY(
            withSpineWords(put.release, spine(empty), put.id, paragraphs).error().message.find("no words") !=
            std::string::npos);
    }

    /// Runs of other sizes keep their proportion; face and colour are the front's.
    void theLookIsKept() {
        ReleasePtr r = named(releaseOf("sleeve-12", {{"spine", 8}}), "Gannet", "Tide");
        Layer title;
        TextContent text;
        text.spec.text = "Tide", text.spec.letters.family = "EB Garamond", text.spec.letters.size = 40;
        text.colour = Ink{0.2F, 0.4F, 0.6F, 1};
        title.content = text;
        r = withLayer(r, {r->pieces[0]->id, "front"}, title).release;
        const Made made = withSpineWords(r, spine(r), {}, paragraphs).value();
        const auto* words = findLayer(stackOf(*made.release, spine(r)), made.id)->as<TextContent>();
        QCOMPARE(words->spec.letters.family, std::string("EB Garamond"));
        QVERIFY(words->colour == text.colour);

        text.spec.runs = {{0, 2, text.spec.letters}};
        text.spec.runs[0].letters.size = 20;
        Layer runs;
        runs.content = text;
        const Made put = withLayer(r, spine(r), runs);
        const Made fitted = withSpineWords(put.release, spine(r), put.id, paragraphs).value();
        const auto* after = findLayer(stackOf(*fitted.release, spine(r)), put.id)->as<TextContent>();
        QVERIFY(std::abs(after->spec.runs[0].letters.size / after->spec.letters.size - 0.5) < 1e-9);
    }
};

GLYPTOS_TEST(SpineWordsTest)
#include "spine_words_test.moc"
