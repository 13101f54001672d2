#include "form/flat.h"

#include "file/data_folder.h"
#include "support/pictures.h"
#include "support/register.h"

using namespace glyptos;
using test::sentence;

class FormTest : public QObject {
    Q_OBJECT
    Form sleeve = loadForm(dataFolder() / "forms" / "sleeve-12.json").value();

  private Q_SLOTS:
    void everyShippedFormWorksOut() {
        const auto forms = loadForms(dataFolder() / "forms");
        QVERIFY2(forms, qPrintable(sentence(forms)));
        QVERIFY(forms->size() >= 3);
        for (const Form& form : *forms) QVERIFY2(workOut(form), form.id.c_str());
    }

    void spineFromBoardAndDiscs() {
        // 2 × board + discs × (disc + inner sleeve) + ease
        QVERIFY(std::abs(workOut(sleeve)->values.at("spine") - (2 * 0.45 + 1 * (2.3 + 0.3) + 0.3)) < 1e-12);
        const auto thick = workOut(sleeve, {{"board", 0.52}, {"discs", 2}, {"disc", 1.9}});
        QVERIFY(std::abs(thick->panel("spine")->onFlat.w - (2 * 0.52 + 2 * (1.9 + 0.3) + 0.3)) < 1e-12);
        QCOMPARE(thick->working.at("spine"), "2 × 0.52 + 2 × (1.9 + 0.3) + 0.3");
        QCOMPARE(workOut(sleeve, {{"spine", 4}})->panel("front")->onFlat.x, 319.0);
    }

    void sleeveGeometry() {
        const Flat flat = *workOut(sleeve);
        QVERIFY(std::abs(flat.trim().w - 633.8) < 1e-9);
        QCOMPARE(flat.trim().h, 315.0);
        QVERIFY(std::abs(flat.withBleed().w - 639.8) < 1e-9);
        const Panel& front = *flat.panel("front");
        QCOMPARE(front.withBleed(), (Rect{0, -3, 318, 321})); // no bleed at the fold
        QCOMPARE(*front.safeArea(), (Rect{5, 5, 305, 305}));
    }

    void turnedPanelsKeepTheirOwnFrame() {
        const Flat flat = *workOut(sleeve);
        const Panel& spine = *flat.panel("spine");
        QCOMPARE(spine.width, 315.0);
        QVERIFY(std::abs(spine.height - 3.8) < 1e-12);
        // Turned clockwise, the words' left end is at the top of the flat, and their tops face the front.
        const Vec2 start = spine.toFlat().map({0, 1.9}), top = spine.toFlat().map({100, 0});
        QVERIFY(std::abs(start.y) < 1e-9);
        QVERIFY(std::abs(top.x - 318.8) < 1e-9);
        QVERIFY(spine.bleeds ==
                (Edges{true, false, true, false})); // flat top and bottom are its left and right
        const Rect back = spine.toFlat().mapBounds(spine.trim());
        QVERIFY(std::abs(back.x - 315) < 1e-9 && std::abs(back.w - 3.8) < 1e-9);
    }

    void outlines() {
        const double kNear = 0.01;
        Outline disc{Outline::Kind::Disc, {10, 10, 20, 20}, 0, 8, {}};
        QVERIFY(disc.contains({12, 20}) && !disc.contains({20, 20}) && !disc.contains({11, 11}));
        const Outline grown = disc.grown(2);
        QCOMPARE(grown.box, (Rect{8, 8, 24, 24}));
        QCOMPARE(grown.inner, 4.0);
        Outline round{Outline::Kind::Rectangle, {0, 0, 30, 20}, 5, 0, {}};
        QVERIFY(!round.contains({0.5, 0.5}) && round.contains({5, 0.5}) && round.grown(-6).corners == 0);
        // A corner stays a corner: of a right angle it goes out by as much on both ways.
        Outline corner;
        corner.kind = Outline::Kind::Free, corner.box = {0, 0, 10, 10};
        corner.free.moveTo({0, 0}), corner.free.lineTo({0, 10}),
            corner.free.lineTo({10, 0}); // either way round
        const Rect out = corner.grown(1).box;
        QVERIFY(std::abs(out.x + 1) < kNear && std::abs(out.y + 1) < kNear);
        QVERIFY(corner.contains({2, 2}) && !corner.contains({8, 8}));
        // Holes in holes, and over the edge; what is left, by its area.
        const std::vector<Outline> holes{disc,
                                         {Outline::Kind::Disc, {15, 15, 10, 10}, 0, 0, {}},
                                         {Outline::Kind::Rectangle, {25, -5, 10, 10}, 0, 0, {}}};
        const Path left = without({Outline::Kind::Rectangle, {0, 0, 30, 30}, 0, 0, {}}, holes);
        const Buffer<float> cover = coverage(left, Affine::scaling(10, 10), 300, 300);
        double area = 0;
        for (size_t i = 0; i < cover.size(); ++i) area += cover.data()[i] / 100.0;
        QVERIFY2(std::abs(area - (900 - 3.14159265 * 100 - 25)) < 0.5, qPrintable(QString::number(area)));
    }

    void refusedFigures() {
        QVERIFY(sentence(workOut(sleeve, {{"spine", 99}})).contains("Spine must lie between 1 and 30 mm"));
        QVERIFY(sentence(workOut(sleeve, {{"girth", 1}})).contains("girth"));
        QVERIFY(!workOut(sleeve, {{"spine", std::nan("")}}));
    }

    void wrongFormsSayWhere_data() {
        QTest::addColumn<QString>("json");
        QTest::addColumn<QString>("where");
        const QString panel = R"({"id":"p","name":"P","x":0,"y":0,"w":10,"h":10})";
        const auto form = [](const QString& panels, const QString& more = {}) {
            return R"({"schema":1,"id":"f","name":"F","unit":"mm","panels":[)" + panels + "]" + more + "}";
        };
        QTest::newRow("not json") << "{"
                                  << "not valid JSON";
        QTest::newRow("newer") << R"({"schema":2})"
                               << "form.schema should be 1";
        QTest::newRow("no panels") << form("") << "at least one panel";
        QTest::newRow("no width") << form(R"({"id":"p","name":"P","x":0,"y":0,"h":1})")
                                  << "form.panels[0].w is missing";
        QTest::newRow("turn") << form(R"({"id":"p","name":"P","x":0,"y":0,"w":1,"h":1,"turn":45})")
                              << "form.panels[0].turn";
        QTest::newRow("unknown entry") << form(panel, R"(,"glue":1)") << "unknown entry “glue”";
        QTest::newRow("fold kind")
            << form(panel, R"(,"folds":[{"id":"a","kind":"wavy","x1":0,"y1":0,"x2":0,"y2":1}])")
            << "form.folds[0].kind";
        QTest::newRow("formula") << form(R"({"id":"p","name":"P","x":0,"y":0,"w":"girth","h":1})") << "girth";
        QTest::newRow("panels on each other")
            << form(panel + R"(,{"id":"q","name":"Q","x":9,"y":9,"w":10,"h":10})")
            << "“P” and “Q” lie on each other";
        QTest::newRow("fold at nothing")
            << form(panel, R"(,"folds":[{"id":"lost","kind":"valley","x1":10,"y1":0,"x2":10,"y2":10}])")
            << "the fold “lost” joins nothing";
        QTest::newRow("negative") << form(R"({"id":"p","name":"P","x":0,"y":0,"w":-5,"h":1})")
                                  << "has no area";
        QTest::newRow("huge") << form(R"({"id":"p","name":"P","x":0,"y":0,"w":1e9,"h":1})") << "larger";
        QTest::newRow("far out") << form(R"({"id":"p","name":"P","x":-1e9,"y":0,"w":1,"h":1})")
                                 << "farther out";
        QTest::newRow("two of one name")
            << form(panel + R"(,{"id":"p","name":"Q","x":20,"y":0,"w":10,"h":10})")
            << "two panels are called “p”";
        QTest::newRow("a circle of formulas")
            << form(
                   panel,
                   R"(,"parameters":[{"id":"a","label":"A","formula":"b"},{"id":"b","label":"B","formula":"a"}])")
            << "“b” is not known here";
        QTest::newRow("turn by a formula")
            << form(R"({"id":"p","name":"P","x":0,"y":0,"w":1,"h":1,"turn":"30 + 15"})") << "should be 0, 90";
        QTest::newRow("a brace left open")
            << form(QString(R"({"id":"p%1n","name":"P","x":0,"y":0,"w":1,"h":1})").arg(QChar(0x7b)))
            << "is not closed";
        QTest::newRow("no such sheet")
            << form(R"({"id":"p","name":"P","x":0,"y":0,"w":1,"h":1,"sheet":"lid"})") << "sheet “lid”";
        QTest::newRow("none is left")
            << form(R"({"id":"p","name":"P","x":0,"y":0,"w":1,"h":1,"when":"0 - 1"})") << "no panel is left";
        QTest::newRow("half a panel")
            << form(R"({"id":"p{n}","name":"P","x":"n*9","y":0,"w":1,"h":1,"repeat":{"as":"n","count":2.5}})")
            << "should be a whole number";
        QTest::newRow("a million panels")
            << form(
                   R"({"id":"p{n}","name":"P","x":"n*9","y":0,"w":1,"h":1,"repeat":{"as":"n","count":1000000}})")
            << "should be a whole number up to 400";
        QTest::newRow("corners of a disc")
            << form(R"({"id":"p","name":"P","shape":"disc","x":0,"y":0,"w":9,"h":9,"corners":2})")
            << "is of rectangles alone";
        QTest::newRow("an outline of two points")
            << form(
                   R"({"id":"p","name":"P","shape":"outline","x":0,"y":0,"w":9,"h":9,"outline":[[0,0],[9,9]]})")
            << "two more";
        QTest::newRow("empty panel") << form(R"({"id":"p","name":"P","x":0,"y":0,"w":0,"h":1})")
                                     << "has no area";
    }
    void wrongFormsSayWhere() {
        QFETCH(QString, json);
        QFETCH(QString, where);
        const auto form = parseForm(json.toStdString(), "mine.json");
        const QString said = form ? sentence(workOut(*form)) : sentence(form);
        QVERIFY2(said.contains(where), qPrintable(said));
    }
};

GLYPTOS_TEST(FormTest)
#include "form_test.moc"
