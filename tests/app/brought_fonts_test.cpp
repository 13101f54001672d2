// Font files dropped on the window: tried, taken, kept in the release or not, gone and still drawn.
#include "file/project.h"
#include "support/fonts.h"
#include "support/register.h"
#include "support/window.h"

#include <QPushButton>
#include <QSignalSpy>
#include <QStatusBar>

using namespace glyptos;
using namespace glyptos::test;

class BroughtFontsTest : public QObject {
    Q_OBJECT
    std::unique_ptr<TestWindow> t;
    std::unique_ptr<QTemporaryDir> folder;
    std::string id;

    QString file(const char* name) const { return folder->filePath(QLatin1String(name)); }
    /// A font that no machine has, under those terms.
    QString font(const char* name, const std::string& family = "Krabbi", unsigned fsType = 0) const {
        write(file(name).toStdString(),
              withTerms(renamed(shippedFont("kristi/Kristi.ttf"), "Kristi", family), fsType));
        return file(name);
    }
    void open() {
        t = std::make_unique<TestWindow>();
        t->window->showStep(Step::Compose);
    }
    void putWords() {
        t->title("Slack Tide");
        Layer layer;
        layer.name = "Words";
        TextContent words;
        words.spec.text = "{title}";
        words.spec.letters.size = 700;
        words.colour = Rgba{0, 0, 0, 1};
        layer.content = words;
        layer.placement.position = {400, 900};
        id = t->put(layer);
    }
    SpecimenSheet& sheet() { return *t->window->compose()->specimens(); }
    bool settleSheet() {
        return t->settle([&] { return sheet().isMeasured() && sheet().list()->isSettled(); });
    }
    QString inHand() {
        const auto& rows = sheet().list()->rows();
        const int row = sheet().list()->current();
        return row < 0 ? QString() : QString::fromStdString(rows[size_t(row)].family);
    }
    const LetterStyle& letters() { return t->find(id)->as<TextContent>()->spec.letters; }
    void drop(const QString& what) { t->drop(t->bench(), {what}, t->bench().rect().center()); }
    /// Drops it and takes it for the words in hand.
    void setIn(const QString& what) {
        drop(what);
        QVERIFY(settleSheet());
        QVERIFY(sheet().list()->current() >= 0);
        QTest::keyClick(sheet().list(), Qt::Key_Return);
        t->settle();
        sheet().leave();
        QVERIFY(t->settle());
    }
    QImage shown() {
        t->document().selectLayer({});
        for (auto* button : t->window->findChildren<QPushButton*>())
            if (button->isVisible() && button->text() == QStringLiteral("Understood")) button->click();
        t->settle();
        return t->bench().grab().toImage();
    }
    void saveAs(const char* name) {
        QSignalSpy saved(t->window.get(), &MainWindow::saved);
        t->window->saveTo(file(name));
        QVERIFY(saved.wait(20000));
        t->settle();
    }
    void openFile(const char* name) {
        QSignalSpy opened(t->window.get(), &MainWindow::opened);
        t->window->openFile(file(name));
        QVERIFY(opened.wait(20000));
        t->window->showStep(Step::Compose);
        t->settle();
    }
    QString faceNote() {
        QStringList all;
        for (const auto* label : t->window->findChildren<QLabel*>())
            if (label->isVisible()) all << label->text();
        return all.join(QLatin1Char(' '));
    }

  private Q_SLOTS:
    void init() {
        folder = std::make_unique<QTemporaryDir>();
        open();
    }
    void cleanup() { t.reset(); }

    void aDroppedFontIsTriedTakenAndTravels() {
        putWords();
        drop(font("Krabbi.ttf"));
        QVERIFY(settleSheet());
        QVERIFY(sheet().isVisible());
        QCOMPARE(inHand(), QString("Krabbi"));
        const int row = sheet().list()->current();
        QVERIFY(sheet().list()->rows()[size_t(row)].caption.contains("in this release"));
        // It is tried on the piece at once, and taken by a key.
        QCOMPARE(findLayer(stackOf(*t->document().shown(), t->document().panel()), id)
                     ->as<TextContent>()
                     ->spec.letters.family,
                 std::string("Krabbi"));
        QTest::keyClick(sheet().list(), Qt::Key_Return);
        QCOMPARE(letters().family, std::string("Krabbi"));
        sheet().leave();
        const QImage here = shown();
        saveAs("own.glyptos");
        openFile("own.glyptos");
        QCOMPARE(t->document().release()->fonts.size(), size_t(1));
        QVERIFY(!t->document().release()->keptWords);
        QCOMPARE(shown(), here);
        t->document().selectLayer(id);
        QVERIFY2(!faceNote().contains("not on this machine"), qPrintable(faceNote()));

        // Of a second one that is dropped, that one is tried.
        drop(font("Second.ttf", "Second"));
        QVERIFY2(sheet().isVisible(), qPrintable(t->notice()));
        QCOMPARE(t->document().release()->fonts.size(), size_t(2));
        QVERIFY(settleSheet());
        QCOMPARE(inHand(), QString("Second"));
        sheet().leave();
        t->document().undo();
        saveAs("own.glyptos");

        // Another release has it no more, and the first one again.
        t->window->newRelease();
        t->settle();
        QVERIFY(!t->engine->fonts.has("Krabbi"));
        openFile("own.glyptos");
        QVERIFY(t->engine->fonts.has("Krabbi"));
        QCOMPARE(shown(), here);
    }

    void itComesAndGoesWithItsStep() {
        putWords();
        setIn(font("Krabbi.ttf"));
        QCOMPARE(letters().family, std::string("Krabbi"));
        t->document().undo();
        t->document().undo();
        t->settle();
        QVERIFY(t->document().release()->fonts.empty());
        QVERIFY(!t->engine->fonts.has("Krabbi"));
        t->document().redo();
        t->settle();
        QVERIFY(t->engine->fonts.has("Krabbi"));
        // Taken out by hand.
        t->document().selectLayer(id);
        sheet().openAt("Krabbi");
        QVERIFY(settleSheet());
        QToolButton* out = nullptr;
        for (auto* button : sheet().findChildren<QToolButton*>())
            if (button->isVisible() && button->text().contains("Krabbi")) out = button;
        QVERIFY(out);
        out->click();
        t->settle();
        QVERIFY(t->document().release()->fonts.empty());
        QVERIFY(!t->engine->fonts.has("Krabbi"));
        QVERIFY(settleSheet());
        for (const Specimen& row : sheet().list()->rows()) QVERIFY(row.family != "Krabbi");
    }

    void whereItMayNotTravelOutlinesAreKept() {
        putWords();
        setIn(font("Sealed.ttf", "Sealed", 2));
        QVERIFY2(t->notice().contains("its makers do not allow"), qPrintable(t->notice()));
        QCOMPARE(letters().family, std::string("Sealed"));
        QVERIFY(t->document().release()->fonts.empty());
        const QImage here = shown();
        saveAs("sealed.glyptos");
        t.reset();
        open(); // as after the program was left: the font is nowhere
        openFile("sealed.glyptos");
        QVERIFY(!t->engine->fonts.has("Sealed"));
        QCOMPARE(shown(), here);
        t->document().selectLayer(id);
        t->settle();
        QVERIFY2(faceNote().contains("drawn from the outlines that the release keeps"),
                 qPrintable(faceNote()));
        // Changed words are set in what stands in, and that is said.
        t->title("Slack Tides");
        t->settle();
        QVERIFY2(faceNote().contains("stands in") && !faceNote().contains("outlines"),
                 qPrintable(faceNote()));
        QVERIFY(shown() != here);
        t->document().undo();
        t->settle();
        QCOMPARE(shown(), here);
        // Saved here, it still has them.
        saveAs("sealed.glyptos");
        openFile("sealed.glyptos");
        QCOMPARE(shown(), here);
    }

    void aFontThatIsDamagedInTheFileIsSaid() {
        auto source = std::make_shared<Source>();
        FontData cut = shippedFont("kristi/Kristi.ttf");
        cut.resize(400);
        source->id = contentId(cut), source->name = "Lost.ttf", source->format = "ttf";
        source->bytes = pictureBytes(cut);
        QVERIFY(saveProject(*withFont(t->document().release(), source), file("lost.glyptos").toStdString()));
        openFile("lost.glyptos");
        QTRY_VERIFY2(t->notice().contains("“Lost.ttf” cannot be used"), qPrintable(t->notice()));
        QCOMPARE(t->document().release()->fonts.size(), size_t(1));
    }

    void withoutWordsInHandItIsSaidToBeThere() {
        t->drop(*t->window, {font("Krabbi.ttf")}, QPoint(600, 400));
        QVERIFY(t->window->statusBar()->currentMessage().contains("Krabbi is at hand"));
        QCOMPARE(t->document().release()->fonts.size(), size_t(1));
        QVERIFY(t->layers().empty()); // it is no picture
        // Again: it is there already.
        const auto steps = t->document().history().steps().size();
        drop(file("Krabbi.ttf"));
        QCOMPARE(t->document().history().steps().size(), steps);
    }

    void inGatherToo() {
        t->window->showStep(Step::Gather);
        t->settle();
        t->drop(*t->window->gather(), {font("Krabbi.ttf")}, QPoint(500, 400));
        QCOMPARE(t->document().release()->fonts.size(), size_t(1));
    }

    void whatIsNoFontIsSaid() {
        putWords();
        write(file("Cut.ttf").toStdString(), {0, 1, 0, 0, 0, 9, 1, 2, 3, 4, 5, 6, 7, 8});
        drop(file("Cut.ttf"));
        QVERIFY2(t->notice().contains("“Cut.ttf” was not brought in"), qPrintable(t->notice()));
        QVERIFY(t->document().release()->fonts.empty());
    }
};

GLYPTOS_TEST(BroughtFontsTest)
#include "brought_fonts_test.moc"
