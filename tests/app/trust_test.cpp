// What an artist must be able to rely on, in the real window: pictures that cannot be read are named in
// everything that is written; keys do what they say; and the art has the room.
#include "app/gather/wall_pane.h"
#include "file/ornaments.h"
#include "file/project.h"
#include "file/starts.h"
#include "release/fields.h"
#include "release/placing.h"
#include "release/wall.h"
#include "support/register.h"
#include "support/window.h"

#include <QAbstractItemView>
#include <QApplication>
#include <QComboBox>
#include <QImage>
#include <QLabel>
#include <QLineEdit>
#include <QSignalSpy>
#include <QTemporaryDir>
#include <QToolButton>
#include <QToolTip>
#include <QWheelEvent>

using namespace glyptos;
using namespace glyptos::test;

class TrustTest : public QObject {
    Q_OBJECT
    std::unique_ptr<TestWindow> t;
    std::unique_ptr<QTemporaryDir> folder;

    QString file(const QString& name) const { return folder->filePath(name); }
    QString notice() {
        auto* label = t->find<QLabel>("Message");
        return label ? label->text() : QString();
    }
    /// A saved release whose photo is whole in its head and cut short behind it.
    QString releaseWithTornPhoto() {
        auto bytes = jpegOf(400, 400, [](int x, int y) { return quarters(x, y, 400, 400); });
        bytes.resize(bytes.size() / 3);
        auto source = std::make_shared<Source>();
        source->id = contentId(bytes), source->name = "Torn harbour.jpg", source->format = "jpeg";
        source->width = source->height = 400;
        source->bytes = pictureBytes(bytes);
        ReleasePtr r = t->document().release();
        Layer layer;
        layer.name = "Torn harbour";
        layer.content = PictureContent{source->id, {0, 0, 1, 1}};
        for (const PiecePtr& piece : r->pieces) {
            const Panel& front = piece->flat->frontPanel();
            layer.placement = covering(front.withBleed(), *source);
            r = withLayer(withSource(r, source), {piece->id, front.id}, layer);
        }
        layer.placement = {};
        r = withLayer(r, {kWallId, kWallId}, layer);
        if (const auto saved = saveProject(*r, file("torn.glyptos").toStdString()); !saved)
            qFatal("%s", saved.error().message.c_str());
        return file("torn.glyptos");
    }

  private Q_SLOTS:
    void init() {
        folder = std::make_unique<QTemporaryDir>();
        t = std::make_unique<TestWindow>();
    }
    void cleanup() { t.reset(); }

    void namesGiveNoOrdersAndAreNoMarkup() {
        Q_EMIT t->document().refused(QString::fromUtf8("“\x1b[2J\u202e<b>Tide</b>” was left out."));
        QCOMPARE(notice(), QString::fromUtf8("“␛[2J\ufffd<b>Tide</b>” was left out."));
        QCOMPARE(t->find<QLabel>("Message")->textFormat(), Qt::PlainText);
        QToolTip::showText(t->window->mapToGlobal(QPoint(40, 40)), QStringLiteral("<b>Tide</b>"),
                           t->window.get());
        const auto all = QApplication::topLevelWidgets();
        const auto tip = std::find_if(all.begin(), all.end(), [](const QWidget* w) {
            return w->inherits("QTipLabel") && w->isVisible();
        });
        QVERIFY(tip != all.end());
        QCOMPARE(qobject_cast<QLabel*>(*tip)->textFormat(), Qt::PlainText);
        QToolTip::hideText();
    }

    void aTornPictureIsNamedEverywhere() {
        t->window->openFile(releaseWithTornPhoto());
        QVERIFY(t->settle());
        t->window->showStep(Step::Compose);
        QVERIFY(QTest::qWaitFor([&] { return notice().contains("Torn harbour.jpg"); }, 10000));
        QVERIFY2(notice().contains("cut short"), qPrintable(notice()));
        t->window->showStep(Step::Deliver);
        DeliverView* deliver = t->window->deliver();
        QSignalSpy written(deliver, &DeliverView::written);
        const auto wrote = [&](const char* form, auto run) {
            t->document().selectPanel({t->piece(form), "front"});
            run();
            return written.wait(60000) && written.last()[0].toString().contains("Torn harbour.jpg");
        };
        enter(t->find<NumberField>("Width"), "300");
        QVERIFY(wrote("digital-cover", [&] { deliver->writeStorePicture(file("cover.jpg")); }));
        QVERIFY(wrote("digital-cover", [&] { deliver->writeLayers(file("cover.ora")); }));
        QVERIFY(wrote("sleeve-12", [&] { deliver->writePrintFile(file("sleeve.pdf")); }));
        QLabel* result = t->find<QLabel>("Result");
        QVERIFY(result && result->property("role").toString() == "fault");
        t->window->showStep(Step::Gather);
        t->window->gather()->wallPane()->writeTo(file("wall.png"));
        QVERIFY(t->settle([&] { return !t->window->gather()->wallPane()->isWriting(); }));
        QVERIFY2(notice().contains("Torn harbour.jpg"), qPrintable(notice()));
    }

    /// After a choice by mouse a letter is for the hands again; it never changes a closed box.
    void keysAfterAChoiceBox() {
        t->window->showStep(Step::Compose);
        t->bench().setFocus();
        Layer fill;
        fill.name = "Fill";
        fill.content = FillContent{Ink{0.5f, 0.4f, 0.3f, 1}};
        const std::string id = t->put(fill);
        auto* kind = t->find<QComboBox>("Kind of Paint");
        QVERIFY(kind);
        const int paper = kind->findText("Paper");
        kind->showPopup();
        QAbstractItemView* list = kind->view();
        const QRect row = list->visualRect(list->model()->index(paper, 0));
        QVERIFY(QTest::qWaitFor([&] { return list->isVisible(); }));
        QTest::mouseMove(list->viewport(), row.center());
        QTest::qWait(20);
        QTest::mouseClick(list->viewport(), Qt::LeftButton, Qt::NoModifier, row.center());
        if (list->isVisible()) { // a list that takes the first release for the press that opened it
            QTest::mouseClick(list->viewport(), Qt::LeftButton, Qt::NoModifier, row.center());
        }
        QVERIFY(t->settle());
        QVERIFY(std::holds_alternative<Paper>(t->find(id)->as<FillContent>()->paint));
        QVERIFY(t->bench().hasFocus());
        QTest::keyClick(QApplication::focusWidget(), Qt::Key_S);
        QCOMPARE(t->bench().hand(), Hand::Shape);
        QVERIFY(std::holds_alternative<Paper>(t->find(id)->as<FillContent>()->paint));
        QWheelEvent wheel(QPointF(9, 9), kind->mapToGlobal(QPointF(9, 9)), {}, {0, -120}, Qt::NoButton,
                          Qt::NoModifier, Qt::NoScrollPhase, false);
        QApplication::sendEvent(kind, &wheel); // scrolls what the box stands in
        QCOMPARE(kind->currentIndex(), paper);
        kind->setFocus(Qt::TabFocusReason);
        for (const auto key : {Qt::Key_S, Qt::Key_L, Qt::Key_C}) QTest::keyClick(kind, key);
        QCOMPARE(kind->currentIndex(), paper);
        QTest::keyClick(kind, Qt::Key_Up); // arrows do
        QVERIFY(kind->currentIndex() != paper);
    }

    void theFillHandIsNotAskedForWhileItIsInHand() {
        t->window->showStep(Step::Compose);
        Layer fill;
        fill.content = FillContent{evenRun({0, 0, 3000, 3000}, 0, {1, 0, 0, 1}, {0, 0, 1, 1})};
        t->put(fill);
        const auto hints = [&] {
            QString out;
            for (QLabel* label : t->window->findChildren<QLabel*>())
                if (label->isVisible()) out += label->text() + '\n';
            return out;
        };
        QVERIFY(hints().contains("The Fill hand (F) places it"));
        t->bench().setHand(Hand::Fill);
        QVERIFY(!hints().contains("The Fill hand (F) places it"));
        QVERIFY(hints().contains("can be dragged on the bench"));
    }

    /// In a window with a frame on a screen of 1280 × 800.
    void theArtHasRoom() {
        t->window->showStep(Step::Compose);
        t->document().selectPanel({t->piece("digital-cover"), "front"});
        t->window->set()->setFolded(true);
        t->window->resize(1268, 756);
        QVERIFY(t->settle());
        QVERIFY2(t->window->height() <= 756, "the window is higher than asked for");
        QVERIFY2(t->bench().zoom() * 3000 >= 560, qPrintable(QString::number(t->bench().zoom() * 3000)));
        // No bar cuts its words.
        for (QToolButton* b : t->window->compose()->findChildren<QToolButton*>())
            if (b->isVisible()) QVERIFY2(b->width() >= b->minimumSizeHint().width(), qPrintable(b->text()));
        const double folded = t->bench().zoom();
        QTest::keyClick(t->window.get(), Qt::Key_F6);
        QVERIFY(!t->window->set()->isFolded());
        QVERIFY(t->settle());
        QVERIFY(t->bench().zoom() < folded);
        for (const PiecePtr& piece : t->document().release()->pieces) {
            QTest::mouseClick(t->window->set(), Qt::LeftButton, {},
                              t->window->set()->miniatureOf(piece->id).center());
            QCOMPARE(t->document().panel().piece, piece->id);
        }
    }

    void aSetThatIsLongerThanTheStripScrolls() {
        const FormList forms = shippedForms().value();
        for (const auto& form : forms) t->document().edit("Add", withPiece(t->document().release(), form));
        SetStrip& strip = *t->window->set();
        for (const bool folded : {false, true}) {
            strip.setFolded(folded);
            for (const PiecePtr& piece : t->document().release()->pieces) {
                t->document().selectPanel({piece->id, piece->flat->frontPanel().id});
                const QRect mini = strip.miniatureOf(piece->id);
                QVERIFY2(mini.left() >= 0 && mini.right() < strip.addButton().left(), piece->name.c_str());
                QCOMPARE(strip.pieceAt(mini.center())->id, piece->id);
            }
        }
    }

    void ornamentsKeepTheirShape() {
        t->window->showStep(Step::Compose);
        t->document().selectPanel({t->piece("digital-cover"), "front"});
        t->bench().setHand(Hand::Shape);
        QCOMPARE(shippedOrnaments().size(), size_t(39));
        for (const Ornament& ornament : shippedOrnaments()) {
            t->bench().setShapeToDraw(ornament.shape, QString::fromStdString(ornament.name));
            const double own = ornament.shape.height / ornament.shape.width;
            t->drag(t->bench(), t->on({500, 700}), t->on({1900, 1300}));
            const auto* shape = t->document().selectedLayer()->as<ShapeContent>();
            QVERIFY(shape);
            constexpr double kSame = 1e-6;
            QVERIFY2(std::abs(shape->height / shape->width / own - 1) < kSame, ornament.name.c_str());
            // The nodes do not show until they are asked for, and then can be dragged.
            const std::string drawn = t->document().layer();
            t->document().undo();
            t->drag(t->bench(), t->on({500, 700}), t->on({1900, 1300}), Qt::ShiftModifier);
            const auto* freed = t->document().selectedLayer()->as<ShapeContent>();
            QVERIFY2(std::abs(freed->width - 1400) < 20 && std::abs(freed->height - 600) < 20,
                     ornament.name.c_str());
            t->document().undo();
        }
    }

    void theCurvesOfOrnamentsAreCurves() {
        for (const Ornament& ornament : shippedOrnaments()) {
            size_t nodes = 0;
            for (const Contour& c : ornament.shape.contours) {
                nodes += c.nodes.size();
                // Three short straight pieces that turn a little each are a curve that was cut into corners.
                int run = 0;
                for (size_t i = 0; i + 2 < c.nodes.size(); ++i) {
                    const PathNode &a = c.nodes[i], &b = c.nodes[i + 1], &d = c.nodes[i + 2];
                    const bool straight =
                        a.after.length() + b.before.length() + b.after.length() + d.before.length() < 1e-9;
                    const Vec2 p = b.at - a.at, q = d.at - b.at;
                    const double turn = std::abs(std::atan2(p.x * q.y - p.y * q.x, p.x * q.x + p.y * q.y));
                    run = straight && turn > 1e-3 && turn < 0.4 && p.length() < 8 ? run + 1 : 0;
                    QVERIFY2(run < 3, ornament.name.c_str());
                }
            }
            QVERIFY2(nodes <= 160, (ornament.name + " " + std::to_string(nodes)).c_str());
        }
    }

    /// Every word of a starting composition stays inside the safety line.
    void startsKeepTheSafetyLine() {
        const auto starts = shippedStarts();
        QVERIFY(starts);
        const PanelRef front{t->piece("digital-cover"), "front"};
        Brief brief;
        brief.artist = "The Gannet Hours", brief.title = "Slack Tide Almanac",
        brief.label = "Gannet Street Recordings";
        brief.catalogue = "GSR 027", brief.year = "2026";
        for (const StartingComposition& start : *starts) {
            const ReleasePtr r = withStart(withBrief(t->document().release(), brief), front, start);
            const Panel* panel = r->piece(front.piece)->flat->panel(front.panel);
            for (const LayerPtr& l : stackOf(*r, front)) {
                if (!l->as<TextContent>()) continue;
                const auto* text = l->as<TextContent>();
                const auto set = t->engine->renderer.paragraphs().get(resolvedText(*text, *r));
                const Rect words = textToPanel(l->placement).mapBounds(set->ink);
                const Rect safe = *panel->safeArea();
                QVERIFY2(words.x > safe.x && words.y > safe.y && words.right() < safe.right() &&
                             words.bottom() < safe.bottom(),
                         (start.name + ": " + l->name + " " + std::to_string(words.x) + " " +
                          std::to_string(words.y) + " " + std::to_string(words.right()) + " " +
                          std::to_string(words.bottom()))
                             .c_str());
            }
        }
    }

    void compositionsShowTheWordsBeingTyped() {
        StartSheet* sheet = t->window->askNewRelease();
        QVERIFY(t->settle());
        const auto icon = [&] {
            return sheet->findChildren<QToolButton*>()[1]->icon().pixmap(118, 118).toImage();
        };
        const QImage before = icon();
        QVERIFY(!before.isNull());
        typeText(t->find<QLineEdit>("Title"), "Höfn");
        QVERIFY(QTest::qWaitFor([&] { return icon() != before; }, 10000));
        sheet->reject();
    }

    void aPieceBeginsWithTheArtOfAnother() {
        t->document().selectPanel({t->piece("digital-cover"), "front"});
        t->putBox("Box", {1000, 1000, 400, 400}, {1, 0, 0, 1});
        t->action("Begin with the art of the piece in hand")->setChecked(true);
        t->action("Tall story")->trigger();
        QCOMPARE(t->document().piece()->form->id, std::string("tall-story"));
        QCOMPARE(t->layers().size(), size_t(1));
        t->action("Begin with the art of the piece in hand")->setChecked(false);
        t->action("Record obi")->trigger();
        QVERIFY(t->layers().empty());
    }

    /// The note under the typeface speaks only of what is missing, and the boxes show what is drawn.
    void stylesAreFoundByWhatTheyAre() {
        t->window->showStep(Step::Compose);
        TextContent text;
        text.spec.text = "Words", text.spec.letters.family = "Inter", text.spec.letters.style = "SemiBold",
        text.spec.letters.size = 200;
        Layer layer;
        layer.content = text;
        t->put(layer);
        const auto says = [&](const QString& what) {
            for (QLabel* label : t->window->findChildren<QLabel*>())
                if (label->isVisible() && label->text().contains(what)) return true;
            return false;
        };
        QVERIFY(!says("not on this machine"));
        QCOMPARE(t->find<QComboBox>("Style")->currentText(),
                 QString::fromStdString(t->engine->fonts.face("Inter", "SemiBold")->style()));
        text.spec.letters.family = "No Such Family";
        layer.content = text;
        t->put(layer);
        QVERIFY(says("No Such Family SemiBold is not on this machine"));
        const FacePtr used = t->engine->fonts.face("No Such Family", "SemiBold");
        QCOMPARE(t->find<QComboBox>("Typeface")->currentText(), QString::fromStdString(used->family()));
    }
};

GLYPTOS_TEST(TrustTest)
#include "trust_test.moc"
