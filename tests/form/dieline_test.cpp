// Forms traced from lines, changed by hand, and written as they were read.
#include "form/dieline.h"

#include "form/form_edits.h"
#include "support/forms.h"
#include "support/register.h"

#include <QTest>
#include <numbers>

using namespace glyptos;
using test::shippedForm;

namespace {

DielineLine line(DielineRole role, std::vector<Vec2> points, bool closed = false) {
    return {role, {std::move(points), closed}, {}};
}

std::vector<DielineLine> box(DielineRole role, const Rect& r) {
    return {line(role, {{r.x, r.y}, {r.right(), r.y}, {r.right(), r.bottom()}, {r.x, r.bottom()}}, true)};
}

QString said(const Error& error) {
    return QString::fromStdString(error.message);
}

} // namespace

class DielineTest : public QObject {
    Q_OBJECT
    static Flat worked(const Form& form) {
        const auto flat = workOut(form);
        if (!flat) qFatal("%s", flat.error().message.c_str());
        return *flat;
    }

  private Q_SLOTS:
    void namesSayWhatLinesAreFor() {
        for (const char* name : {"CutContour", "die line", "Trim", "kiss-cut"})
            QCOMPARE(dielineRole(name), DielineRole::Cut);
        for (const char* name : {"Fold", "CREASE", "score lines", "cut guide for the crease"})
            QCOMPARE(dielineRole(name), DielineRole::Fold);
        for (const char* name : {"Bleed 3 mm", "bleed of the cut"})
            QCOMPARE(dielineRole(name), DielineRole::Bleed);
        for (const char* name : {"", "Text", "Layer 1"}) QCOMPARE(dielineRole(name), DielineRole::Other);
    }

    /// A card of three parts, cut as four loose lines in any order and way, one fold dashed, a round hole, a
    /// bleed line, and a note that is none of these.
    void aCardOfLooseLines() {
        std::vector<DielineLine> lines{line(DielineRole::Cut, {{50, 20}, {250.03, 20}}),
                                       line(DielineRole::Cut, {{50, 120}, {50, 20.04}}),
                                       line(DielineRole::Cut, {{250, 20}, {250, 120}}),
                                       line(DielineRole::Cut, {{250, 120}, {50, 120}}),
                                       line(DielineRole::Other, {{0, 0}, {300, 200}}),
                                       line(DielineRole::Fold, {{190, 18}, {190, 122}})};
        for (int i = 0; i < 20; ++i)
            lines.push_back(line(DielineRole::Fold, {{90, 20.0 + 5 * i}, {90, 22.5 + 5 * i}}));
        std::vector<Vec2> hole;
        for (int i = 0; i < 90; ++i) {
            const double a = i * std::numbers::pi / 45;
            hole.push_back({140 + 10 * std::cos(a), 70 + 10 * std::sin(a)});
        }
        lines.push_back(line(DielineRole::Cut, hole, true));
        for (DielineLine& l : box(DielineRole::Bleed, {47, 17, 206, 106})) lines.push_back(l);
        const auto traced = tracedForm(lines, "card", "Card");
        QVERIFY2(traced, qPrintable(said(traced ? Error{} : traced.error())));
        QVERIFY((traced->origin - Vec2{50, 20}).length() < 0.1);
        const Form& form = traced->form;
        QCOMPARE(form.panels.size(), size_t(3));
        QCOMPARE(form.folds.size(), size_t(2));
        QCOMPARE(form.bleed, std::string("3"));
        const Flat flat = worked(form);
        const double widths[] = {40, 100, 60};
        for (size_t i = 0; i < 3; ++i) {
            QCOMPARE(flat.panels[i].name, "Panel " + std::to_string(i + 1));
            QVERIFY(std::abs(flat.panels[i].width - widths[i]) < 0.06);
            QVERIFY(std::abs(flat.panels[i].height - 100) < 0.06);
        }
        QCOMPARE(flat.frontPanel().name, std::string("Panel 2"));
        QCOMPARE(flat.cutouts.size(), size_t(1));
        QCOMPARE(flat.cutouts[0].outline.kind, Outline::Kind::Disc);
        QVERIFY(std::abs(flat.cutouts[0].outline.box.w - 20) < 0.1);
    }

    /// A row on a row: folds part what they go through and nothing beyond; a tapered edge is a flap.
    void partsOfAnL() {
        std::vector<DielineLine> lines{line(DielineRole::Cut,
                                            {{0, 0},
                                             {100, 0},
                                             {100, 100},
                                             {200, 100},
                                             {200, 200},
                                             {190, 215},
                                             {110, 215},
                                             {100, 200},
                                             {0, 200}},
                                            true),
                                       line(DielineRole::Fold, {{0, 100}, {100, 100}}),
                                       line(DielineRole::Fold, {{100, 100}, {100, 200}}),
                                       line(DielineRole::Fold, {{100, 200}, {200, 200}})};
        const auto traced = tracedForm(lines, "l", "L");
        QVERIFY(traced.has_value());
        QCOMPARE(traced->form.panels.size(), size_t(3));
        QCOMPARE(traced->form.flaps.size(), size_t(1));
        const Flat flat = worked(traced->form);
        for (const Panel& panel : flat.panels) {
            QVERIFY(std::abs(panel.width - 100) < 0.05 && std::abs(panel.height - 100) < 0.05);
            QVERIFY(panel.outline.isPlain());
        }
        QCOMPARE(flat.folds.size(), size_t(3));
        for (const Fold& fold : flat.folds) QVERIFY(!fold.joins.empty());
    }

    void whatCannotBeTraced() {
        const auto none = tracedForm({line(DielineRole::Fold, {{0, 0}, {10, 0}})}, "x", "X");
        QVERIFY(!none && said(none.error()).contains("there is no board to trace"));
        const auto open =
            tracedForm({line(DielineRole::Cut, {{0, 0}, {10, 0}, {10, 10}, {5, 14}})}, "x", "X");
        QVERIFY(!open);
    }

    /// What is written is read as what it was.
    void everyFormThroughItsText() {
        const FormList forms = shippedForms().value();
        for (const auto& form : forms) {
            const std::string text = formToJson(*form);
            const auto back = parseForm(text, form->id);
            QVERIFY2(back, qPrintable(said(back ? Error{} : back.error())));
            QCOMPARE(QByteArray::fromStdString(formToJson(*back)), QByteArray::fromStdString(text));
            const Flat a = worked(*form), b = worked(*back);
            QCOMPARE(a.panels.size(), b.panels.size());
            for (size_t i = 0; i < a.panels.size(); ++i) {
                QCOMPARE(a.panels[i].id, b.panels[i].id);
                QCOMPARE(a.panels[i].onFlat, b.panels[i].onFlat);
                QCOMPARE(a.panels[i].zones.size(), b.panels[i].zones.size());
            }
            QCOMPARE(a.working, b.working);
            QCOMPARE(a.folds.size(), b.folds.size());
            QVERIFY(a.thickness == b.thickness && a.bound == b.bound);
        }
    }

    void partsAreFoundAndChanged() {
        const Form sleeve = *shippedForm("sleeve-12");
        const Flat flat = workOut(sleeve).value();
        const auto parts = partsOf(sleeve, flat.values, {});
        QVERIFY(parts.has_value());
        const auto named = [&](const char* name) {
            return *std::find_if(parts->begin(), parts->end(),
                                 [&](const FormPart& p) { return p.name == name; });
        };
        const FormPart front = named("Front");
        QCOMPARE(front.outline.box, flat.panel("front")->onFlat);
        // Only what changes becomes a figure; the rest follows the form's sums as before.
        Rect wider = front.outline.box;
        wider.w += 5;
        const Form changed = withBox(sleeve, front.ref, front.outline.box, wider);
        const auto before = figuresOf(sleeve, front.ref), after = figuresOf(changed, front.ref);
        QVERIFY(before[0] == after[0] && before[1] == after[1] && before[3] == after[3]);
        QCOMPARE(after[2], std::string("320"));
        const Flat larger = worked(changed);
        QCOMPARE(larger.panel("front")->width, 320.0);
        // A hole on it, and a panel more beside it, with a fold between.
        PartRef made;
        Form more = withPart(sleeve, PartKind::Cutout, {500, 100, 80, 80}, {}, made);
        QCOMPARE(nameOf(more, made), std::string("Hole 1"));
        more = withPart(more, PartKind::Panel, {flat.trim().right(), 0, 100, 315}, {}, made);
        more = withName(more, made, "Wing");
        more = withPart(more, PartKind::Fold, {flat.trim().right(), 0, 0, 315}, {}, made);
        const Flat made3 = worked(more);
        QVERIFY(made3.panels.size() == flat.panels.size() + 1 && made3.panels.back().name == "Wing");
        QCOMPARE(made3.panel("front")->cutouts.size(), size_t(1));
        QCOMPARE(made3.folds.back().joins.size(), size_t(1));
        QVERIFY(workOut(withoutPart(more, made)).has_value());
        const Form own = asOwn(more, "Sleeve with a Wing!");
        QVERIFY(own.own && own.id == "own-sleeve-with-a-wing");
    }

    /// What repeats is shown once for each time it is there, and is of the sheet that is asked for.
    void partsOfOneSheet() {
        const Form booklet = *shippedForm("disc-booklet");
        const Flat flat = workOut(booklet).value();
        const auto cover = partsOf(booklet, flat.values, "cover"),
                   spread = partsOf(booklet, flat.values, "spread-2");
        QVERIFY(cover && spread);
        const auto panels = [](const std::vector<FormPart>& parts) {
            return std::count_if(parts.begin(), parts.end(),
                                 [](const FormPart& p) { return p.ref.kind == PartKind::Panel; });
        };
        QCOMPARE(panels(*cover), ptrdiff_t(2));
        QCOMPARE(panels(*spread), ptrdiff_t(2));
        QVERIFY(!cover->front().repeats && spread->front().repeats);
        QVERIFY(!partsOf(booklet, {}, "cover")); // without figures nothing resolves
    }
};

GLYPTOS_TEST(DielineTest)
#include "dieline_test.moc"
