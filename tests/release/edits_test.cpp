#include "release/edits/edits.h"

#include "file/release_json/release_json.h"
#include "release/edits/palette_edits.h"
#include "release/history/history.h"
#include "support/noting.h"
#include "support/pictures.h"
#include "support/register.h"

#include <QRandomGenerator>

using namespace glyptos;
using test::frontOf;
using test::noting;
using test::screenRelease;

namespace {

ReleasePtr withNamed(ReleasePtr release, std::initializer_list<const char*> frontToBack) {
    std::vector<const char*> names(frontToBack);
    for (auto it = names.rbegin(); it != names.rend(); ++it) {
        Layer layer;
        layer.id = layer.name = *it;
        layer.content = FillContent{};
        release = withLayer(release, frontOf(release), layer);
    }
    return release;
}

std::string order(const Stack& stack) {
    std::string out;
    for (const LayerPtr& l : stack) {
        out += l->name;
        if (const auto* g = l->as<GroupContent>()) out += "(" + order(g->layers) + ")";
    }
    return out;
}

std::string order(const ReleasePtr& r) {
    return order(stackOf(*r, frontOf(r)));
}

} // namespace

class EditsTest : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void editsShareWhatTheyDoNotTouch() {
        const ReleasePtr a = withNamed(screenRelease(10, 10), {"x", "y", "z"});
        const ReleasePtr b = withChangedLayer(a, frontOf(a), "y", [](Layer& l) { l.opacity = 0.5; });
        QCOMPARE(findLayer(stackOf(*a, frontOf(a)), "y")->opacity, 1.0);
        QCOMPARE(findLayer(stackOf(*b, frontOf(b)), "y")->opacity, 0.5);
        QVERIFY(findLayer(stackOf(*a, frontOf(a)), "x") ==
                findLayer(stackOf(*b, frontOf(b)), "x")); // the same node
        QVERIFY(withChangedLayer(a, frontOf(a), "nobody", [](Layer&) {}) == a);
        QVERIFY(withBrief(a, a->brief) == a);
    }

    /// Edits that come to nothing give back the release itself, so that no step is made of them.
    void whatChangesNothingIsTheSameRelease() {
        Layer fill;
        fill.name = "Fill";
        fill.content = FillContent{Ink{1, 0, 0, 1}};
        Mask mask;
        mask.form = ShapeContent{};
        fill.mask = std::make_shared<const Mask>(mask);
        ReleasePtr r = screenRelease(10, 10);
        const PanelRef front = frontOf(r);
        std::string a, b, group;
        r = noting(b, withLayer(noting(a, withLayer(r, front, fill)), front, fill));
        r = noting(group, *withGrouped(r, front, {a}));
        r = withSwatches(r, {{"rust", {0.5f, 0.2f, 0.1f, 1}}});
        const std::string rust = r->palette[0].id;
        QCOMPARE(withChangedLayer(r, front, a, [](Layer&) {}), r);
        QCOMPARE(withChangedLayer(r, front, a, [](Layer& l) { l.opacity = 1, l.name = "Fill"; }), r);
        QCOMPARE(
            withChangedLayer(r, front, a, [&](Layer& l) { l.mask = std::make_shared<const Mask>(mask); }), r);
        QCOMPARE(withChangedLayer(r, front, group, [](Layer& l) { l.on = true; }), r);
        QVERIFY(withChangedLayer(r, front, a, [](Layer& l) { l.opacity = 0.5; }) != r);
        QVERIFY(withChangedLayer(r, front, a, [](Layer& l) {
                    Mask other = *l.mask;
                    other.feather = 3;
                    l.mask = std::make_shared<const Mask>(other);
                }) != r);
        QCOMPARE(withMovedLayer(r, front, a, group, 0), r);
        QCOMPARE(withUngrouped(r, front, b), r);
        QCOMPARE(withOrder(r, front, {b}, Nearer::Front), r);
        QCOMPARE(withBrief(r, r->brief), r);
        QCOMPARE(withReference(r, front, std::nullopt), r);
        const Reference reference{"none", {}, Reference::Way::Over, 0.5, 0.5};
        const ReleasePtr referred = withReference(r, front, reference);
        QVERIFY(referred != r);
        QCOMPARE(withReference(referred, front, reference), referred);
        QCOMPARE(withSwatchName(r, rust, "rust"), r);
        QCOMPARE(withSwatchColour(r, rust, {0.5f, 0.2f, 0.1f, 1}), r);
        QCOMPARE(withMovedSwatch(r, rust, 0), r);
        QCOMPARE(withPalette(r, {{"rust", {0.5f, 0.2f, 0.1f, 1}}}), r);
        QCOMPARE(*withTake(r, front.piece, "A"), r);
    }

    void orderInTheStack() {
        const ReleasePtr r = withNamed(screenRelease(10, 10), {"a", "b", "c", "d"});
        const PanelRef p = frontOf(r);
        QCOMPARE(order(r), "abcd");
        QCOMPARE(order(withMovedLayer(r, p, "a", {}, 4)), "bcda");
        QCOMPARE(order(withMovedLayer(r, p, "a", {}, 2)), "bacd");
        QCOMPARE(order(withMovedLayer(r, p, "d", {}, 0)), "dabc");
        QCOMPARE(order(withoutLayer(r, p, "b")), "acd");
        Layer e;
        e.id = e.name = "e";
        e.content = FillContent{};
        QCOMPARE(order(withLayer(r, p, e, "c")), "abecd");
    }

    void nearerAndFarther() {
        const ReleasePtr r = withNamed(screenRelease(10, 10), {"a", "b", "c", "d"});
        const PanelRef p = frontOf(r);
        const auto moved = [&](std::vector<std::string> layers, Nearer where) {
            return order(withOrder(r, p, layers, where));
        };
        QCOMPARE(moved({"c"}, Nearer::Front), "cabd");
        QCOMPARE(moved({"d", "b"}, Nearer::Front), "bdac"); // those that move keep their order
        QCOMPARE(moved({"a", "c"}, Nearer::Back), "bdac");
        QCOMPARE(moved({"b", "c"}, Nearer::OneForward), "bcad");
        QCOMPARE(moved({"a", "b"}, Nearer::OneForward), "abcd"); // they are there already
        QCOMPARE(moved({"a", "c"}, Nearer::OneForward), "acbd");
        QCOMPARE(moved({"b", "c"}, Nearer::OneBack), "adbc");
        QCOMPARE(moved({"c", "d"}, Nearer::OneBack), "abcd");
        QCOMPARE(withOrder(r, p, {"a"}, Nearer::Front), r);
        std::string id;
        const ReleasePtr g = noting(id, *withGrouped(r, p, {"b", "c"}));
        QCOMPARE(order(withOrder(g, p, {"c"}, Nearer::Front)), "aGroup(cb)d"); // in the list it is in
    }

    void groups() {
        const ReleasePtr r = withNamed(screenRelease(10, 10), {"a", "b", "c"});
        const PanelRef p = frontOf(r);
        std::string id;
        ReleasePtr g = noting(id, *withGrouped(r, p, {"b"}));
        g = withChangedLayer(g, p, id, [](Layer& l) { l.name = "G"; });
        QCOMPARE(order(g), "aG(b)c");
        const ReleasePtr filled = withMovedLayer(g, p, "c", id, 0);
        QCOMPARE(order(filled), "aG(cb)");
        QCOMPARE(order(withMovedLayer(filled, p, "b", {}, 0)), "baG(c)");
        QCOMPARE(order(withMovedLayer(filled, p, "b", id, 0)), "aG(bc)");
        QVERIFY(withMovedLayer(filled, p, id, id, 0) == filled); // not into itself
        QCOMPARE(order(withUngrouped(filled, p, id)), "acb");
        const ReleasePtr inner = *withGrouped(filled, p, {"b"});
        const std::string innerId = findLayer(stackOf(*inner, p), id)->as<GroupContent>()->layers[1]->id;
        QVERIFY(withMovedLayer(inner, p, id, innerId, 0) == inner); // nor into what it holds
        std::string copy;
        const ReleasePtr twice = noting(copy, withDuplicate(filled, p, id));
        QCOMPARE(order(twice), "aG(cb)G(cb)");
        QVERIFY(findLayer(stackOf(*twice, p), copy)->as<GroupContent>()->layers[0]->id != "c");
    }

    void piecesAndParameters() {
        auto form = std::make_shared<Form>(
            loadForm(std::string(SOURCE_FOLDER) + "/data/forms/sleeve-12.json").value());
        ReleasePtr r = withPiece(std::make_shared<const Release>(), form).value();
        const std::string id = r->pieces[0]->id;
        r = withParameter(r, id, "discs", 2).value();
        QVERIFY(std::abs(r->pieces[0]->flat->values.at("spine") - 6.4) < 1e-12);
        QVERIFY(!withParameter(r, id, "spine", 500));
        r = withParameter(r, id, "discs", std::nullopt).value();
        QVERIFY(std::abs(r->pieces[0]->flat->values.at("spine") - 3.8) < 1e-12);
        QVERIFY(!withTake(r, id, "B"));
        QVERIFY(withoutPiece(r, id)->pieces.empty());
    }

    void historyIsNamedAndMerges() {
        ReleasePtr r = withNamed(screenRelease(10, 10), {"a"});
        History h(r);
        const auto opacity = [&](double v) {
            return withChangedLayer(h.current(), frontOf(r), "a", [&](Layer& l) { l.opacity = v; });
        };
        h.push("Dim", opacity(0.9), "opacity a");
        h.push("Dim", opacity(0.8), "opacity a");
        h.push("Dim", opacity(0.7), "opacity a");
        h.push("Nothing", h.current());
        QCOMPARE(h.steps().size(), size_t(2));
        QCOMPARE(h.steps()[1].name, "Dim");
        h.settle();
        h.push("Dim", opacity(0.6), "opacity a");
        QCOMPARE(h.steps().size(), size_t(3));
        h.undo();
        h.undo();
        QVERIFY(h.current() == r && !h.canUndo() && h.redoName() == "Dim");
        h.redo();
        h.push("Bright", opacity(1));
        QVERIFY(!h.canRedo());
        // What was undone and left by going another way is still there.
        QCOMPARE(h.left().size(), size_t(1));
        QCOMPARE(h.left()[0].from, size_t(1));
        QCOMPARE(h.left()[0].steps[0].name, "Dim");
        h.go(0);
        QVERIFY(h.current() == r);
    }

    /// Without the number of the next id, which only rises.
    static std::string text(const Release& release) {
        Release copy = release;
        copy.nextId = 1;
        return releaseToJson(copy);
    }

    void fiveHundredRandomEditsReplay() {
        // Edits are functions: done again from the same beginning they give the same releases, and none of
        // them has touched a release that was there before it.
        QRandomGenerator random(3);
        const ReleasePtr start = withNamed(screenRelease(10, 10), {"a", "b", "c"});
        const PanelRef front = frontOf(start);
        History h(start);
        std::vector<std::function<ReleasePtr(const ReleasePtr&)>> edits;
        std::vector<std::string> seen{text(*start)};
        while (edits.size() < 500) {
            const Stack& stack = stackOf(*h.current(), front);
            const std::string id = stack[random.bounded(quint32(stack.size()))]->id;
            const quint32 kind = random.bounded(5u), index = random.bounded(6u);
            const double opacity = random.generateDouble();
            if (kind == 1 && stack.size() <= 2) continue;
            const auto edit = [=](const ReleasePtr& r) -> ReleasePtr {
                switch (kind) {
                case 0:
                    return withDuplicate(r, front, id);
                case 1:
                    return withoutLayer(r, front, id);
                case 2:
                    return withMovedLayer(r, front, id, {}, index);
                case 3:
                    return *withGrouped(r, front, {id});
                default:
                    return withChangedLayer(r, front, id, [&](Layer& l) { l.opacity = opacity; });
                }
            };
            const ReleasePtr next = edit(h.current());
            if (next == h.current()) continue;
            h.push("edit", next);
            edits.push_back(edit);
            seen.push_back(text(*next));
        }
        ReleasePtr again = start;
        for (size_t i = 0; i < edits.size(); ++i) {
            again = edits[i](again);
            QCOMPARE(text(*again), seen[i + 1]);
        }
        for (size_t i = seen.size(); i-- > 0; h.undo()) QCOMPARE(text(*h.current()), seen[i]);
        for (size_t i = 0; i < seen.size(); ++i, h.redo()) QCOMPARE(text(*h.current()), seen[i]);
    }
};

GLYPTOS_TEST(EditsTest)
#include "edits_test.moc"
