// The bench as printed: press inks on paper, what they cannot show, one plate, half and half.
#include "app/bench/proof/proof_strip.h"
#include "release/edits/palette_edits.h"
#include "support/register.h"
#include "support/window.h"

#include <QCheckBox>

using namespace glyptos;
using namespace glyptos::test;

class ProofViewTest : public QObject {
    Q_OBJECT
    std::unique_ptr<TestWindow> t;

    BenchView& bench() { return *t->window->compose()->bench(); }
    ProofStrip& strip() { return *bench().findChild<ProofStrip*>(); }
    void trigger(const QString& text) {
        for (QAction* action : t->window->findChildren<QAction*>())
            if (action->text() == text) return action->trigger();
        QFAIL(qPrintable(text));
    }
    template <class W>
    W* named(const QString& name) {
        for (W* w : strip().findChildren<W*>())
            if (w->accessibleName() == name || w->property("text").toString() == name) return w;
        return nullptr;
    }
    void choose(const QString& box, int i) {
        auto* combo = named<QComboBox>(box);
        combo->setCurrentIndex(i);
        Q_EMIT combo->activated(i);
    }
    /// The art at shares of the panel.
    QColor at(double x, double y) {
        t->settle([&] { return bench().isFinished(); });
        const Panel& panel = *t->document().shownPanel();
        const Vec2 p = bench().toView().map({panel.width * x, panel.height * y});
        return bench().grab().toImage().pixelColor(int(p.x), int(p.y));
    }

  private Q_SLOTS:
    void init() {
        t = std::make_unique<TestWindow>();
        t->document().selectPanel({t->piece("sleeve-12"), "front"});
        Layer fill;
        fill.content = FillContent{Rgba{0.02f, 0.9f, 0.15f, 1}};
        t->document().edit("Green", withLayer(t->document().release(), t->document().panel(), fill).release);
        t->window->showStep(Step::Compose);
        t->settle();
    }
    void cleanup() { t.reset(); }

    void vividGreenIsDullInInks() {
        const QColor before = at(0.3, 0.6);
        QVERIFY(!strip().isVisible());
        trigger("As printed");
        const QColor after = at(0.3, 0.6);
        QVERIFY(strip().isVisible());
        QVERIFY2(after.green() < before.green() - 20 && after.red() > before.red(), qPrintable(after.name()));
        t->settle();
        QVERIFY2(strip().findChild<ElidedLabel*>()->words().startsWith("100.0 % not to be shown"),
                 qPrintable(strip().findChild<ElidedLabel*>()->words()));
        trigger("As printed");
        QVERIFY(!strip().isVisible());
        QCOMPARE(at(0.3, 0.6), before);
    }

    void marksAndPlates() {
        trigger("As printed");
        at(0.3, 0.6);
        choose("What is marked", 1);
        const QColor marked = at(0.3, 0.6);
        QCOMPARE(marked, QColor(Proof::kGamutMark[0], Proof::kGamutMark[1], Proof::kGamutMark[2]));
        choose("What is marked", 0);
        choose("Inks", 2);
        const QColor magenta = at(0.3, 0.6);
        QVERIFY(magenta.red() == magenta.green() && magenta.lightness() > 200); // green has hardly any
        choose("Inks", 3);
        QVERIFY(at(0.3, 0.6).lightness() < 100); // and much yellow
    }

    void halfAndHalf() {
        const QColor before = at(0.1, 0.6);
        trigger("As printed");
        QVERIFY(at(0.1, 0.6) != before);
        QTest::mouseClick(named<QCheckBox>("Half"), Qt::LeftButton, {},
                          QPoint(6, named<QCheckBox>("Half")->height() / 2));
        QCOMPARE(at(0.1, 0.6), before);
        QVERIFY(at(0.9, 0.6) != before);
    }

    void itFollowsTheArt() {
        trigger("As printed");
        const QColor green = at(0.3, 0.6);
        Layer fill;
        fill.content = FillContent{Rgba{0.5f, 0.5f, 0.5f, 1}};
        t->document().edit("Grey", withLayer(t->document().release(), t->document().panel(), fill).release);
        const QColor grey = at(0.3, 0.6);
        QVERIFY(grey != green && std::abs(grey.red() - grey.green()) < 14);
        t->settle();
        QVERIFY(strip().findChild<ElidedLabel*>()->words().startsWith("0.0 %"));
        // Lay out shows it too.
        t->window->showStep(Step::LayOut);
        auto* flat = t->window->layOut()->bench();
        t->settle([&] { return flat->isFinished(); });
        QVERIFY(flat->findChild<ProofStrip*>()->isVisible());
    }

    /// An ink of its own is seen as itself, though the press could not show it; its plate alone; a varnish
    /// lies over the four and is seen in its plate alone.
    void inksBesidesTheFour() {
        Document& document = t->document();
        const Rgba vivid{1, 0.1f, 0.6f, 1};
        ReleasePtr r = withSwatches(document.release(), {{"Neon", vivid}, {"Gloss", {0.1f, 0.1f, 0.9f, 1}}});
        const std::string neon = r->palette[r->palette.size() - 2].id, gloss = r->palette.back().id;
        r = withSwatchPlate(withSwatchPlate(r, neon, Plate::Own), gloss, Plate::Over);
        const Panel& panel = *document.shownPanel();
        const auto box = [&](double from, double to, const Ink& colour) {
            Layer layer;
            ShapeContent shape;
            shape.width = (to - from) * panel.width, shape.height = panel.height, shape.fill = colour;
            layer.content = shape;
            layer.placement.position = {(from + to) / 2 * panel.width, panel.height / 2};
            return layer;
        };
        r = withLayer(r, document.panel(), box(0, 0.5, {vivid, neon}));
        r = withLayer(r, document.panel(), box(0.75, 1, {{0.1f, 0.1f, 0.9f, 1}, gloss}));
        document.edit("Inks", r);
        trigger("As printed");
        const QColor ink = at(0.25, 0.6), green = at(0.6, 0.6), under = at(0.9, 0.6);
        // The paper's white takes a little of it, and no more.
        QVERIFY2(ink.red() > 215 && ink.green() < 30 && ink.blue() > 125 && ink.blue() < 156,
                 qPrintable(ink.name()));
        QCOMPARE(under, green);
        auto* plates = named<QComboBox>("Inks");
        QCOMPARE(plates->count(), 7);
        QCOMPARE(plates->itemText(5), QStringLiteral("Neon alone"));
        choose("Inks", 5);
        QCOMPARE(at(0.25, 0.6), QColor(Qt::black));
        QCOMPARE(at(0.6, 0.6), QColor(Qt::white));
        choose("Inks", 6);
        QCOMPARE(at(0.9, 0.6), QColor(Qt::black));
        QCOMPARE(at(0.25, 0.6), QColor(Qt::white));
        // A piece that has none of them shows all inks.
        document.selectPanel({t->piece("digital-cover"), "front"});
        t->settle([&] { return bench().isFinished(); });
        QCOMPARE(plates->count(), 5);
        QCOMPARE(plates->currentIndex(), 0);
    }

    void aFileThatIsNoProfileIsSaid() {
        trigger("As printed");
        at(0.3, 0.6);
        const auto before = t->window->proofing().proof();
        QVERIFY(before);
        QString said;
        connect(&t->window->proofing(), &Proofing::refused, this, [&](const QString& s) { said = s; });
        t->window->proofing().useProfile(QStringLiteral(SOURCE_FOLDER "/README.md"));
        QVERIFY(t->settle([&] { return !t->window->proofing().isReading() && !said.isEmpty(); }));
        QVERIFY2(said.contains("README.md") && said.contains("kept"), qPrintable(said));
        QCOMPARE(t->window->proofing().proof(), before);
    }
};

GLYPTOS_TEST(ProofViewTest)
#include "as_printed_test.moc"
