// The brief in the real window: its words, track lists from elsewhere, and a new release from a composition.
#include "release/edits/edits.h"
#include "release/edits/palette_edits.h"
#include "support/register.h"
#include "support/window.h"

#include <QCheckBox>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QSignalSpy>
#include <QTemporaryDir>
#include <QToolButton>
#include <fstream>

using namespace glyptos;
using namespace glyptos::test;

class BriefTest : public QObject {
    Q_OBJECT
    std::unique_ptr<TestWindow> t;
    QTemporaryDir folder;

    QString file(const QString& name) const { return folder.filePath(name); }

  private Q_SLOTS:
    void init() { t = std::make_unique<TestWindow>(); }
    void cleanup() { t.reset(); }

    void longWordsAreReadFromTheirStart() {
        t->window->showStep(Step::Brief);
        Brief brief = t->document().release()->brief;
        brief.madeIn = "Pressed and folded by hand in a shed on the north shore of the sound";
        t->document().edit("Made in", withBrief(t->document().release(), brief));
        const auto fields = t->window->brief()->findChildren<QLineEdit*>();
        const auto made = std::find_if(fields.begin(), fields.end(), [&](const QLineEdit* field) {
            return field->text() == QString::fromStdString(brief.madeIn);
        });
        QVERIFY(made != fields.end());
        QCOMPARE((*made)->cursorPosition(), 0);
    }

    void tracksComeFromElsewhere() {
        t->window->showStep(Step::Brief);
        TracksSheet* sheet = t->window->brief()->askTracks();
        sheet->findChild<QPlainTextEdit*>()->setPlainText("Side A\n1. Þoka 4:34\nSide B\n1. Kría 22:36");
        QCOMPARE(sheet->list().tracks.size(), size_t(2));
        for (QPushButton* b : sheet->findChildren<QPushButton*>())
            if (b->text() == "Take it as the track list") b->click();
        const Brief& brief = t->document().release()->brief;
        QCOMPARE(brief.tracks.size(), size_t(2));
        QCOMPARE(brief.tracks[0].title, std::string("Þoka"));
        bool cautioned = false;
        for (const QLabel* l : t->window->brief()->findChildren<QLabel*>())
            cautioned |= l->isVisible() && l->text().contains("22:36");
        QVERIFY(cautioned);
        std::ofstream(file("list.csv").toStdString()) << "title,length,artist\nBrim,3:42,Máni\n";
        sheet = t->window->brief()->askTracks();
        QSignalSpy read(sheet, &TracksSheet::read);
        sheet->readFiles({file("list.csv")});
        QVERIFY(read.wait());
        for (QPushButton* b : sheet->findChildren<QPushButton*>())
            if (b->text() == "Put it behind the list") b->click();
        QCOMPARE(t->document().release()->brief.tracks.size(), size_t(3));
        QCOMPARE(t->document().release()->brief.artist, std::string("Máni"));
    }

    void theSongFeedIsSearched() {
        t->window->showStep(Step::Brief);
        TracksSheet* sheet = t->window->brief()->askTracks();
        auto* search = sheet->findChild<QLineEdit*>();
        search->setText("knots");
        auto* list = sheet->findChild<QListWidget*>();
        QCOMPARE(list->count(), 1);
        list->setCurrentRow(0);
        QCOMPARE(sheet->list().tracks.size(), size_t(6));
        QCOMPARE(sheet->list().artist, std::string("Maud Skerry"));
        sheet->reject();
    }

    void theRestOfTheBriefIsKept() {
        t->window->showStep(Step::Brief);
        enter(t->find<QLineEdit>("Mood words"), "slow,  salt ,,after dark");
        QCOMPARE(t->document().release()->brief.mood,
                 (std::vector<std::string>{"slow", "salt", "after dark"}));
        enter(t->find<QLineEdit>("Genre"), "Harbour folk");
        auto* notes = t->find<QPlainTextEdit>("Notes");
        notes->setFocus();
        typeText(notes, "No varnish");
        t->find<QLineEdit>("Genre")->setFocus();
        QCOMPARE(t->document().release()->brief.notes, std::string("No varnish"));
    }

    void aReleaseStartsFromAComposition() {
        StartSheet* sheet = t->window->askNewRelease();
        QVERIFY(sheet->starts().size() >= 8);
        enter(sheet->findChild<QLineEdit*>(), "Máni & Þórdís");
        for (QCheckBox* box : sheet->findChildren<QCheckBox*>())
            box->setChecked(box->text() != "Podcast tile");
        for (QToolButton* b : sheet->findChildren<QToolButton*>())
            if (b->accessibleName() == "Low horizon") b->click();
        const ReleasePtr made = sheet->release();
        for (QPushButton* b : sheet->findChildren<QPushButton*>())
            if (b->text() == "Begin") b->click();
        QVERIFY(t->settle());
        const ReleasePtr now = t->document().release();
        QCOMPARE(now->pieces.size(), made->pieces.size());
        QCOMPARE(now->brief.artist, std::string("Máni & Þórdís"));
        QCOMPARE(now->palette.size(), size_t(4));
        for (const PiecePtr& piece : now->pieces) {
            const Panel& panel = piece->flat->frontPanel();
            const Stack& front = piece->take().stack(panel.id);
            QCOMPARE(front.size(), size_t(suitsStart(panel) ? 5 : 0));
            if (front.empty()) continue;
            QVERIFY(front[0]->as<TextContent>()->spec.text == "{title}");
        }
        QVERIFY(followersOf(*now, now->palette[1].id) >= 4);
    }
};

GLYPTOS_TEST(BriefTest)
#include "brief_test.moc"
