// The form changed by hand in Lay out, a printer's sheet laid under it and traced, kept for new pieces; and
// what Deliver can be asked for.
#include "file/cut/cut_paths.h"
#include "file/dieline/own_forms.h"
#include "file/disk/atomic_file.h"
#include "support/forms.h"
#include "support/register.h"
#include "support/window.h"

#include <QPushButton>
#include <QSpinBox>

using namespace glyptos;
using namespace glyptos::test;

class FormViewTest : public QObject {
    Q_OBJECT
    std::unique_ptr<TestWindow> t;
    QTemporaryDir folder;

    FormView& view() { return *t->window->layOut()->form(); }
    FormBench& bench() { return *view().bench(); }
    const Flat& flat() { return *t->document().piece()->flat; }
    QPoint at(Vec2 mm) {
        const Vec2 p = bench().toView().map(mm);
        return {int(std::lround(p.x)), int(std::lround(p.y))};
    }
    QPushButton* button(const QString& text) {
        for (QPushButton* b : view().side()->findChildren<QPushButton*>())
            if (b->text() == text) return b;
        return nullptr;
    }
    QLineEdit* field(const QString& name) {
        for (QLineEdit* f : view().side()->findChildren<QLineEdit*>())
            if (f->accessibleName() == name && f->isVisible()) return f;
        return nullptr;
    }
    void type(const QString& name, const QString& text) {
        QLineEdit* f = field(name);
        QVERIFY2(f, qPrintable(name));
        f->setFocus();
        f->selectAll();
        QTest::keyClicks(f, text);
        QTest::keyClick(f, Qt::Key_Return);
        f->clearFocus();
        t->settle();
    }

    /// A plain PDF of two pages with that on them.
    static std::string twoPages(const std::string& first, const std::string& second) {
        std::string out = "%PDF-1.4\n";
        std::vector<size_t> starts;
        const auto object = [&](const std::string& body) {
            starts.push_back(out.size());
            out += std::to_string(starts.size()) + " 0 obj\n" + body + "\nendobj\n";
        };
        object("<< /Type /Catalog /Pages 2 0 R >>");
        object("<< /Type /Pages /Count 2 /Kids [3 0 R 5 0 R] >>");
        for (const std::string& content : {first, second}) {
            const std::string next = std::to_string(starts.size() + 2);
            object("<< /Type /Page /Parent 2 0 R /MediaBox [0 0 600 400] /Resources << >> /Contents " + next +
                   " 0 R >>");
            object("<< /Length " + std::to_string(content.size()) + " >>\nstream\n" + content +
                   "\nendstream");
        }
        const size_t table = out.size();
        out += "xref\n0 7\n0000000000 65535 f \n";
        for (const size_t start : starts)
            out += QString("%1 00000 n \n").arg(start, 10, 10, QChar('0')).toStdString();
        return out + "trailer\n<< /Size 7 /Root 1 0 R >>\nstartxref\n" + std::to_string(table) + "\n%%EOF\n";
    }

  private Q_SLOTS:
    void init() {
        t = std::make_unique<TestWindow>();
        t->document().selectPanel({t->piece("sleeve-12"), "front"});
        t->window->showStep(Step::LayOut);
        t->window->layOut()->showWay(LayoutView::Way::Form);
        t->settle();
    }
    void cleanup() { t.reset(); }

    /// A hole is added, dragged to a place and its size typed; the sleeve has it, art is cut there, undo
    /// takes it away.
    void aHoleIsDrawn() {
        QVERIFY(bench().isVisible() && !t->document().piece()->form->own);
        QTest::mouseClick(button("Hole"), Qt::LeftButton);
        t->settle();
        QCOMPARE(flat().cutouts.size(), size_t(1));
        QVERIFY(t->document().piece()->form->own);
        const Rect before = flat().cutouts[0].outline.box;
        t->drag(bench(), at(before.centre()), at(before.centre() + Vec2{30, 20}));
        const Rect after = flat().cutouts[0].outline.box;
        QVERIFY2(std::abs(after.x - before.x - 30) < 2 && std::abs(after.y - before.y - 20) < 2,
                 qPrintable(QString("%1 %2").arg(after.x - before.x).arg(after.y - before.y)));
        type("Width", "100"), type("Height", "10*10");
        QVERIFY(std::abs(flat().cutouts[0].outline.box.w - 100) < 1e-6 &&
                std::abs(flat().cutouts[0].outline.box.h - 100) < 1e-6);
        bool cut = false;
        for (const Panel& panel : flat().panels) cut = cut || !panel.cutouts.empty();
        QVERIFY(cut);
        for (int i = 0; i < 12; ++i) t->document().undo();
        t->settle();
        QVERIFY(flat().cutouts.empty() && !t->document().piece()->form->own);
    }

    /// The spine's right edge and the front are dragged as one does it; edges snap to each other.
    void edgesAreDraggedAndSnap() {
        const Rect front = flat().panel("front")->onFlat;
        QTest::mouseClick(&bench(), Qt::LeftButton, {}, at(front.centre()));
        t->drag(bench(), at({front.right(), front.centre().y}), at({front.right() + 40, front.centre().y}));
        QVERIFY(std::abs(flat().panel("front")->width - 355) < 2);
        // Back to within a few pixels of where the glue flap's end would be: nothing is there, so it stays
        // free; at the fold of another part it snaps.
        const double snappedX = bench().snapped({front.x + 1 / bench().zoom(), 100}, std::nullopt).x;
        QCOMPARE(snappedX, front.x);
        const double freeX = bench().snapped({front.x + 30, 100}, std::nullopt).x;
        QCOMPARE(freeX, front.x + 30);
        // What would lie on another panel is refused, with a sentence, and nothing is changed.
        const double width = flat().panel("front")->width;
        type("Left", "100");
        QVERIFY2(t->notice().contains("lie on each other"), qPrintable(t->notice()));
        QCOMPARE(flat().panel("front")->width, width);
        QCOMPARE(flat().panel("front")->onFlat.x, front.x);
    }

    /// A plant's sheet is laid under, measured, and traced; the piece has its panels then.
    void aPrintersSheetIsTraced() {
        const Flat tray = flatOf("tray-card");
        const std::string svg = cutSvg(cutJobOf(tray, {0}), "Tray");
        const QString file = folder.filePath("plant tray.svg");
        QVERIFY(writeFile(file.toStdString(), {reinterpret_cast<const uint8_t*>(svg.data()), svg.size()}));
        view().laySheet(file);
        QVERIFY(t->settle());
        QVERIFY(referenceOf(*t->document().release(), {t->document().panel().piece, {}}).has_value());
        // Its lines are seen: the board's left top corner lies on that of the form, so its mark 7 mm outside.
        const QImage shown = bench().grab().toImage();
        int darkest = 255;
        for (int dy = -3; dy <= 3; ++dy)
            for (int dx = -3; dx <= 3; ++dx)
                darkest = std::min(darkest, shown.pixelColor(at({-7, -7}) + QPoint(dx, dy)).lightness());
        const int beside = shown.pixelColor(at({-11, -2.2})).lightness();
        QVERIFY2(beside > 235 && darkest < beside - 20,
                 qPrintable(QString("%1 %2").arg(darkest).arg(beside)));
        QVERIFY(button("Trace it")->isEnabled());
        button("Measure")->setChecked(true);
        t->drag(bench(), at({0.4, 40}), at({6.9, 40}));
        QVERIFY2(std::abs(bench().measured() - 6.5) < 0.05, qPrintable(QString::number(bench().measured())));
        button("Measure")->setChecked(false);
        QTest::mouseClick(button("Trace it"), Qt::LeftButton);
        t->settle();
        QCOMPARE(flat().panels.size(), size_t(3));
        QVERIFY(std::abs(flat().trim().w - 151) < 0.05 && std::abs(flat().trim().h - 118) < 0.05);
        QCOMPARE(flat().folds.size(), size_t(2));
        // It is in what the artist saved, and never printed.
        QVERIFY(t->document().release()->source(
            referenceOf(*t->document().release(), {t->document().panel().piece, {}})->source));
    }

    /// Of a file of several pages any can lie under the form.
    void aPageOfThePrintersFileIsChosen() {
        const QString file = folder.filePath("plant.pdf");
        const std::string pdf = twoPages("60 60 300 200 re S", "90 90 150 150 re S");
        QVERIFY(writeFile(file.toStdString(), bytesOf(pdf)));
        auto* page = view().side()->findChild<QSpinBox*>();
        QVERIFY(page && !page->isVisible());
        view().laySheet(file);
        QVERIFY(t->settle());
        QVERIFY2(t->notice().isEmpty(), qPrintable(t->notice()));
        const PanelRef whole{t->document().panel().piece, {}};
        const std::string first = referenceOf(*t->document().release(), whole)->source;
        QVERIFY(page->isVisible() && page->value() == 1 && page->maximum() == 2);
        page->setValue(2);
        QVERIFY(t->settle());
        QVERIFY(referenceOf(*t->document().release(), whole)->source != first);
        QCOMPARE(page->value(), 2);
        t->document().undo();
        QVERIFY(t->settle());
        QCOMPARE(referenceOf(*t->document().release(), whole)->source, first);
    }

    void keptForNewPieces() {
        QTest::mouseClick(button("Hole"), Qt::LeftButton);
        t->settle();
        view().keep("Sleeve with a hole");
        QVERIFY(t->settle());
        std::vector<std::string> notes;
        const auto forms = allForms(notes);
        QVERIFY(forms && forms->back()->own && forms->back()->name == "Sleeve with a hole");
        const size_t pieces = t->document().release()->pieces.size();
        QAction* made = nullptr;
        for (QMenu* menu : t->window->findChildren<QMenu*>())
            if (menu->title() == QLatin1String("Your own")) {
                Q_EMIT menu->aboutToShow();
                for (QAction* action : menu->actions())
                    if (action->text() == QLatin1String("Sleeve with a hole")) made = action;
            }
        QVERIFY(made);
        made->trigger();
        t->settle();
        QCOMPARE(t->document().release()->pieces.size(), pieces + 1);
        QCOMPARE(t->document().release()->pieces.back()->flat->cutouts.size(), size_t(1));
        const QString shared = folder.filePath("shared.json");
        view().share(shared);
        QVERIFY(t->settle() && loadForm(shared.toStdString()).has_value());
    }

    /// What Deliver is asked for is in the file, and the paper at home is told before it is written.
    void deliverIsAsked() {
        t->window->showStep(Step::Deliver);
        t->settle();
        DeliverView& deliver = *t->window->deliver();
        const auto check = [&](const char* text) {
            for (QCheckBox* box : deliver.findChildren<QCheckBox*>())
                if (box->text() == QLatin1String(text)) return box;
            return static_cast<QCheckBox*>(nullptr);
        };
        QVERIFY(check("Printer's pairs")->isHidden()); // of booklets alone
        check("Dieline as plates")->setChecked(true);
        check("Report beside it")->setChecked(true);
        check("Slug and colour bar")->setChecked(true);
        const PrintJob job = deliver.choices()->job();
        QVERIFY(job.options.extra.dieline && !job.options.extra.white && job.report && job.options.slug);
        deliver.writePrintFile(folder.filePath("sleeve.pdf"));
        QVERIFY(QTest::qWaitFor([&] { return QFile::exists(folder.filePath("sleeve report.txt")); }, 60000));
        QFile report(folder.filePath("sleeve report.txt"));
        QVERIFY(report.open(QIODevice::ReadOnly));
        QVERIFY(QString::fromUtf8(report.readAll()).contains("Cut, Crease"));
        QLabel* paper = nullptr;
        for (QLabel* label : deliver.findChildren<QLabel*>())
            if (label->accessibleName() == QLatin1String("Paper that is needed")) paper = label;
        QVERIFY(paper && paper->text().contains("tiles to be glued"));
        QVERIFY(QTest::qWaitFor([&] { return !deliver.isWriting(); }, 60000));
        deliver.writeCuts(folder.filePath("sleeve.dxf"));
        QVERIFY(QTest::qWaitFor([&] { return QFile::exists(folder.filePath("sleeve.dxf")); }, 60000));
        QVERIFY(QTest::qWaitFor([&] { return !deliver.isWriting(); }, 60000));
        deliver.writeForHome(folder.filePath("home.pdf"));
        QVERIFY(QTest::qWaitFor(
            [&] { return QFile::exists(folder.filePath("home.pdf")) && !deliver.isWriting(); }, 60000));
    }
};

GLYPTOS_TEST(FormViewTest)
#include "form_view_test.moc"
