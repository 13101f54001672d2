// Codes and small print in the window: added from the menu, filled from the brief, judged as they change.
#include "app/figures/code_section.h"
#include "file/project.h"
#include "release/edits/edits.h"
#include "support/register.h"
#include "support/window.h"

#include <QToolButton>

using namespace glyptos;
using namespace glyptos::test;

class CodesTest : public QObject {
    Q_OBJECT
    std::unique_ptr<TestWindow> t;

    CodeSection& section() { return *t->window->compose()->findChild<CodeSection*>(); }
    template <class W>
    W* named(const QString& name) {
        for (W* w : t->window->findChildren<W*>())
            if (w->accessibleName() == name) return w;
        return nullptr;
    }
    QString verdict() {
        t->settle([&] { return section().isJudged(); });
        return named<QLabel>("What a reader makes of the code")->text();
    }
    void choose(const QString& menu, const QString& text) {
        for (QAction* action : t->window->findChildren<QAction*>())
            if (action->text() == text && (menu.isEmpty() || action->parent()->objectName() == menu ||
                                           qobject_cast<QMenu*>(action->parent()) != nullptr)) {
                action->trigger();
                return;
            }
        QFAIL(qPrintable("no " + text));
    }
    const CodeContent& code() { return *t->layers().front()->as<CodeContent>(); }
    void type(const QString& field, const QString& words) {
        auto* edit = named<QLineEdit>(field);
        QVERIFY(edit);
        edit->setFocus();
        edit->selectAll();
        QTest::keyClicks(edit, words);
        QTest::keyClick(edit, Qt::Key_Return);
        t->settle();
    }

  private Q_SLOTS:
    void init() {
        t = std::make_unique<TestWindow>();
        t->document().selectPanel({t->piece("sleeve-12"), "back"});
        t->window->showStep(Step::Compose);
        t->settle();
    }
    void cleanup() { t.reset(); }

    void aBarcodeComesFromTheBrief() {
        t->window->showStep(Step::Brief);
        type("Digits of the barcode", "200000000417");
        QCOMPARE(t->document().release()->brief.barcode, std::string("200000000417"));
        t->window->showStep(Step::Compose);
        choose({}, "EAN-13 barcode");
        QCOMPARE(code().text, std::string("{barcode}"));
        QCOMPARE(verdict(), QStringLiteral("Read back as 2000000004174, at 100 %."));
        // It stands in its place on the sleeve, in black on white.
        const Layer& layer = *t->layers().front();
        QVERIFY((layer.placement.position - Vec2{315 - 12 - 37.29 / 2, 315 - 12 - 25.93 / 2}).length() <
                0.02);
        const QImage shot = t->bench().grab().toImage();
        const Vec2 ground = t->bench().toView().map(layer.placement.position + Vec2{-17.5, -10});
        QVERIFY(QColor(shot.pixelColor(int(ground.x), int(ground.y))).lightness() > 200);
    }

    void whatIsTypedIsJudged() {
        choose({}, "EAN-13 barcode");
        QVERIFY(verdict().contains("here are 0"));
        type("What the code says", "2000000004171");
        QVERIFY2(verdict().contains("check digit"), qPrintable(verdict()));
        type("What the code says", "2000000004174");
        QVERIFY2(verdict().startsWith("Read back"), qPrintable(verdict()));
        auto* size = named<NumberField>("Size of the code");
        size->setFocus();
        size->selectAll();
        QTest::keyClicks(size, "60");
        QTest::keyClick(size, Qt::Key_Return);
        t->settle();
        QVERIFY2(verdict().contains("80 to 200 %"), qPrintable(verdict()));
        QVERIFY(std::abs(t->layers().front()->placement.scaleX - 0.6 * kBarcodeModuleMm) < 1e-9);
        t->document().undo();
        t->settle();
        QVERIFY(verdict().startsWith("Read back"));
        // Another kind of code says the same words.
        auto* kind = named<QComboBox>("Kind of code");
        kind->setCurrentIndex(2);
        Q_EMIT kind->activated(2);
        t->settle();
        QVERIFY(code().kind == CodeKind::Qr);
    }

    void eachOfTwoCodesHasItsOwnVerdict() {
        choose({}, "EAN-13 barcode");
        type("What the code says", "2000000004174");
        const std::string first = t->layers().front()->id;
        choose({}, "QR code");
        type("What the code says", "Lantern Room");
        QVERIFY2(verdict().contains("Lantern Room"), qPrintable(verdict()));
        t->document().selectLayer(first);
        t->settle();
        QVERIFY2(!verdict().contains("Lantern Room"), qPrintable(verdict()));
    }

    void barsThatAreTooPaleAreDarkened() {
        choose({}, "EAN-13 barcode");
        type("What the code says", "2000000004174");
        const std::string id = t->layers().front()->id;
        t->document().edit("Red",
                           withChangedLayer(t->document().release(), t->document().panel(), id, [](Layer& l) {
                               std::get<CodeContent>(l.content).bars = Ink{0.9f, 0.1f, 0.1f, 1};
                           }));
        t->settle();
        QVERIFY2(verdict().contains("red light"), qPrintable(verdict()));
        for (QToolButton* b : section().findChildren<QToolButton*>())
            if (b->text() == "Darken") QTest::mouseClick(b, Qt::LeftButton);
        t->settle();
        QVERIFY(verdict().startsWith("Read back"));
    }

    void smallPrintFollowsItsStyleAndTheBrief() {
        Brief brief = t->document().release()->brief;
        brief.copyright = "© 2026 Gannet Street", brief.madeIn = "Made in Skerry";
        t->document().edit("Brief", withBrief(t->document().release(), brief));
        choose({}, "Add small print");
        t->settle();
        const LayerPtr layer = t->layers().front();
        const auto* text = layer->as<TextContent>();
        QVERIFY(text && !text->style.empty());
        const TextSpec filled = resolvedText(*text, *t->document().release());
        QVERIFY(filled.text.find("© 2026 Gannet Street") != std::string::npos);
        QVERIFY(filled.text.find("Made in Skerry") != std::string::npos);
        QVERIFY(std::abs(filled.letters.size - 6.5 / 72 * 25.4) < 1e-6);
        // It leaves the barcode's place free, and a second one follows the same style.
        const Rect box =
            frameOf(*layer, *t->document().release(), {}, t->engine->renderer.paragraphs()).bounds();
        QVERIFY(box.right() < 315 - 12 - 37.29);
        choose({}, "Add small print");
        t->settle();
        QCOMPARE(t->document().release()->textStyles.size(), size_t(1));
        QCOMPARE(t->layers().front()->as<TextContent>()->style, text->style);
    }

    void codesAreKeptInTheFile() {
        choose({}, "QR code");
        type("What the code says", "https://slack-tide.example/Ægir");
        const QString file = t->crateHome.path() + "/codes.glyptos";
        QVERIFY(saveProject(*t->document().release(), file.toStdString()));
        const auto again = openProject(file.toStdString(), shippedForms().value());
        QVERIFY2(again, qPrintable(sentence(again)));
        const Stack& stack = stackOf(**again, t->document().panel());
        QVERIFY(*stack.front()->as<CodeContent>() == code());
    }
};

GLYPTOS_TEST(CodesTest)
#include "codes_test.moc"
