// Pieces packed together: what belongs together, that nothing goes through anything on its way out, and how
// parts are taken hold of.
#include "scene/draw/rasterize.h"
#include "scene/pack/assembled.h"
#include "scene/pack/bodies.h"
#include "support/forms.h"
#include "support/pictures.h"
#include "support/register.h"

using namespace glyptos;
using namespace glyptos::test;

namespace {

using Pieces = std::vector<std::pair<const char*, ParameterValues>>;

ReleasePtr releaseWith(const Pieces& pieces) {
    ReleasePtr out = std::make_shared<const Release>();
    for (const auto& [form, set] : pieces) out = withPiece(out, shippedForm(form), set).value();
    return out;
}

struct Polygon {
    std::array<Vec3, 4> at;
    size_t part = 0;
};

/// The large sides of each part, drawn in by a little.
std::vector<Polygon> polygonsOf(const Assembly& assembly, const PackShares& shares) {
    constexpr double kSmall = 100, kIn = 1.6; // mm², mm
    std::vector<Polygon> out;
    for (size_t i = 0; i < assembly.parts.size(); ++i) {
        for (const Facet& f : assembly.facetsOf(i, shares)) {
            const double w = f.right.length(), h = f.down.length();
            if (w * h < kSmall || std::min(w, h) < 3 * kIn) continue;
            const Vec3 u = f.right * (kIn / w), v = f.down * (kIn / h);
            out.push_back({{f.corner + u + v, f.corner + f.right - u + v, f.corner + f.right - u + f.down - v,
                            f.corner + u + f.down - v},
                           i});
        }
    }
    return out;
}

bool goesThrough(const Vec3& a, const Vec3& b, const Polygon& p) {
    const Vec3 u = p.at[1] - p.at[0], v = p.at[3] - p.at[0], n = u.cross(v);
    const double da = n.dot(a - p.at[0]), db = n.dot(b - p.at[0]);
    if (da * db >= 0) return false;
    const Vec3 at = a + (b - a) * (da / (da - db)) - p.at[0];
    const double s = at.dot(u) / u.dot(u), t = at.dot(v) / v.dot(v);
    return s > 0 && s < 1 && t > 0 && t < 1;
}

bool cross(const Polygon& a, const Polygon& b) {
    for (size_t i = 0; i < 4; ++i)
        if (goesThrough(a.at[i], a.at[(i + 1) % 4], b) || goesThrough(b.at[i], b.at[(i + 1) % 4], a))
            return true;
    return false;
}

Bounds3 boundsOf(const std::vector<Facet>& facets) {
    Bounds3 out;
    for (const Facet& f : facets)
        for (const Vec3& p : {f.corner, f.corner + f.right, f.corner + f.down, f.corner + f.right + f.down})
            out.take(p);
    return out;
}

} // namespace

class PackingTest : public QObject {
    Q_OBJECT
    FontLibrary fonts{dataFolder() / "fonts", true};
    HeldPictures pictures;
    Renderer renderer{pictures, fonts};

    Assembly packed(const ReleasePtr& release, const char* form) {
        for (const PiecePtr& piece : release->pieces)
            if (piece->form->id == form)
                return assembled(renderer, release, packageOf(*release, piece->id).value(), 1);
        throw std::invalid_argument(form);
    }
    static std::string idOf(const ReleasePtr& release, const char* form, int which = 0) {
        for (const PiecePtr& piece : release->pieces)
            if (piece->form->id == form && which-- == 0) return piece->id;
        return {};
    }
    static const Part* part(const Assembly& assembly, const char* name) {
        for (const Part& p : assembly.parts)
            if (p.name == name) return &p;
        return nullptr;
    }
    static size_t place(const Assembly& assembly, const char* name) {
        return size_t(part(assembly, name) - assembly.parts.data());
    }

  private Q_SLOTS:
    void piecesThatBelongTogetherAreFound() {
        const ReleasePtr r = releaseWith({{"digital-cover", {}},
                                          {"sleeve-12", {}},
                                          {"sleeve-7", {}},
                                          {"inner-sleeve", {}},
                                          {"label-12", {}},
                                          {"label-7", {}},
                                          {"obi", {}},
                                          {"disc-booklet", {}},
                                          {"disc-face", {}},
                                          {"disc-booklet", {{"pages", 4}}},
                                          {"cassette-card", {}},
                                          {"wallet-4", {}}});
        QVERIFY(!packageOf(*r, idOf(r, "digital-cover")) && !packageOf(*r, "none"));
        const Package lp = packageOf(*r, idOf(r, "label-12")).value();
        QVERIFY(lp.kind == PackKind::Sleeve && lp.sleeve->form->id == "sleeve-12");
        QVERIFY(lp.inner && lp.label && lp.strip && !lp.disc && !lp.booklet && !lp.card);
        const Package single = packageOf(*r, idOf(r, "sleeve-7")).value();
        QVERIFY(single.label->form->id == "label-7" && !single.inner && !single.strip);
        QCOMPARE(packageOf(*r, idOf(r, "label-7"))->sleeve->form->id, std::string("sleeve-7"));
        // The piece in hand stands before others of its kind.
        QCOMPARE(packageOf(*r, idOf(r, "disc-booklet", 1))->booklet->id, idOf(r, "disc-booklet", 1));
        QCOMPARE(packageOf(*r, idOf(r, "disc-face"))->booklet->id, idOf(r, "disc-booklet", 0));
        QVERIFY(packageOf(*r, idOf(r, "cassette-card"))->kind == PackKind::CassetteCase);
        QVERIFY(packageOf(*r, idOf(r, "wallet-4"))->disc);
        // A cassette with no card is in the sleeve.
        const ReleasePtr tape = releaseWith({{"shell-label", {}}, {"cassette-sleeve", {}}});
        for (const char* form : {"shell-label", "cassette-sleeve"}) {
            const Package sleeve = packageOf(*tape, idOf(tape, form)).value();
            QVERIFY(sleeve.kind == PackKind::CassetteSleeve && sleeve.sleeve && sleeve.shell && !sleeve.card);
        }
        // A disc with no case lies in the wallet.
        const ReleasePtr wallet = releaseWith({{"disc-face", {}}, {"wallet-6", {}}});
        QVERIFY(packageOf(*wallet, idOf(wallet, "disc-face"))->kind == PackKind::Wallet);
    }

    void nothingGoesThroughAnythingOnItsWayOut() {
        const std::vector<std::pair<Pieces, const char*>> cases{
            {{{"disc-booklet", {}}, {"tray-card", {}}, {"tray-liner", {}}, {"disc-face", {}}}, "tray-card"},
            {{{"disc-booklet", {{"pages", 32}}}, {"tray-card", {{"spine", 12}}}}, "disc-booklet"},
            {{{"disc-booklet", {{"pages", 2}}}}, "disc-booklet"},
            {{{"disc-face", {}}}, "disc-face"},
            {{{"cassette-card", {}}, {"shell-label", {}}}, "cassette-card"},
            {{{"cassette-card", {{"more", 4}, {"hand", 1}, {"both", 1}}}, {"shell-label", {}}},
             "shell-label"},
            {{{"shell-label", {}}}, "shell-label"},
            {{{"cassette-sleeve", {}}, {"shell-label", {}}}, "cassette-sleeve"},
            {{{"cassette-sleeve", {{"spine", 8}, {"flap", 15}}}}, "cassette-sleeve"},
            {{{"sleeve-12", {}}, {"inner-sleeve", {{"window", 1}}}, {"label-12", {}}, {"obi", {}}},
             "sleeve-12"},
            {{{"gatefold-12", {}}, {"inner-sleeve", {}}, {"label-12", {}}}, "gatefold-12"},
            {{{"gatefold-12", {{"discs", 1}}}}, "gatefold-12"},
            {{{"sleeve-10", {}}, {"label-12", {}}}, "sleeve-10"},
            {{{"sleeve-7", {}}, {"label-7", {{"hole", 38}}}}, "label-7"},
            {{{"sleeve-7-spine", {}}}, "sleeve-7-spine"},
            {{{"inner-sleeve", {}}, {"label-12", {}}}, "inner-sleeve"},
            {{{"label-12", {}}}, "label-12"},
            {{{"card-wallet", {}}, {"disc-face", {}}}, "card-wallet"},
            {{{"wallet-4", {}}, {"disc-face", {}}}, "wallet-4"},
            {{{"wallet-6", {}}}, "wallet-6"}};
        for (const auto& [pieces, form] : cases) {
            const Assembly assembly = packed(releaseWith(pieces), form);
            for (int step = 0; step <= 40; ++step) {
                const auto all = polygonsOf(assembly, assembly.sharesAt(step / 40.0));
                for (size_t a = 0; a < all.size(); ++a)
                    for (size_t b = a + 1; b < all.size(); ++b)
                        QVERIFY2(
                            all[a].part == all[b].part || !cross(all[a], all[b]),
                            qPrintable(QString("%1 at %2: %3 and %4")
                                           .arg(form)
                                           .arg(step)
                                           .arg(QString::fromStdString(assembly.parts[all[a].part].name),
                                                QString::fromStdString(assembly.parts[all[b].part].name))));
            }
        }
    }

    /// Outer sizes of the trade: 142 × 125 and about 10 thick; closed nothing stands out of the case.
    void aClosedCaseHoldsAll() {
        const Assembly jewel = packed(releaseWith({{"disc-booklet", {{"pages", 32}}},
                                                   {"tray-card", {}},
                                                   {"tray-liner", {}},
                                                   {"disc-face", {}}}),
                                      "tray-card");
        const Bounds3 box = boundsOf(jewel.facets(jewel.sharesAt(1)));
        const Vec3 size = box.most - box.least;
        QVERIFY(std::abs(size.x - 142) < 0.01 && std::abs(size.y - 125) < 0.01);
        QVERIFY2(size.z > 10 && size.z < 10.8, qPrintable(QString::number(size.z)));
        const Bounds3 open = boundsOf(jewel.facets(jewel.sharesAt(0)));
        QVERIFY(open.most.x - open.least.x > 350);
        const Assembly tape =
            packed(releaseWith({{"cassette-card", {}}, {"shell-label", {}}}), "shell-label");
        const Bounds3 closed = boundsOf(tape.facets(tape.sharesAt(1)));
        const Vec3 outer = closed.most - closed.least;
        QVERIFY(outer.y > 106 && outer.y < 110 && outer.x > 68 && outer.x < 71 && outer.z < 17);
    }

    /// The spine letters of a tray card read upright when the case lies face up: the card's printed side is
    /// down, its spines stand up.
    void theTrayCardLiesFaceDown() {
        const Assembly jewel = packed(releaseWith({{"tray-card", {}}}), "tray-card");
        const size_t card = place(jewel, "Tray card");
        const PackShares in = jewel.sharesAt(1);
        const PackedPiece& piece = *jewel.parts[card].piece;
        const Pose pose = jewel.poses(in)[card];
        const auto boards = piece.folding->poses(piece.sharesAt(in));
        const size_t back = size_t(piece.flat->panel("back") - piece.flat->panels.data());
        QVERIFY((pose * boards[back]).z.z < -0.9999);
        for (const char* id : {"spine-left", "spine-right"}) {
            const size_t spine = size_t(piece.flat->panel(id) - piece.flat->panels.data());
            const Vec3 out = (pose * boards[spine]).z;
            QVERIFY(std::abs(out.z) < 1e-6 && std::abs(std::abs(out.x) - 1) < 1e-6);
        }
    }

    void stepsComeOneAfterTheOther() {
        const Assembly lp = packed(
            releaseWith({{"sleeve-12", {}}, {"inner-sleeve", {}}, {"label-12", {}}, {"obi", {}}}), "obi");
        QCOMPARE(lp.steps.size(), size_t(3));
        QCOMPARE(lp.sharesAt(1), (PackShares{1, 1, 1}));
        QCOMPARE(lp.sharesAt(0), (PackShares{0, 0, 0}));
        const PackShares half = lp.sharesAt(0.5);
        QVERIFY(half[0] == 0 && half[1] > 0 && half[1] < 1 && half[2] == 1);
        // The record goes with the inner sleeve first, then on its own.
        const size_t record = place(lp, "Record"), inner = place(lp, "Inner sleeve");
        const auto x = [&](size_t p, double at) { return lp.poses(lp.sharesAt(at))[p].origin.x; };
        const double moved = x(inner, 1.0 / 3) - x(inner, 1);
        QVERIFY(moved > 150);
        QVERIFY(std::abs((x(record, 1.0 / 3) - x(record, 1)) - moved) < 1e-9);
        QVERIFY(x(record, 0) - x(record, 1.0 / 3) > 150 && x(inner, 0) == x(inner, 1.0 / 3));
    }

    void aPartIsTakenHoldOfAndDragged() {
        const Assembly lp = packed(releaseWith({{"sleeve-12", {}}, {"label-12", {}}}), "sleeve-12");
        const PackShares half = lp.sharesAt(0.5);
        const Eye eye = eyeOn(lp.facets(half), {}, 1, 800, 600);
        const size_t record = place(lp, "Record");
        const Vec3 on{120, 10, 0}; // of the record, outside of the sleeve by now
        const Vec2 seen = seenAt(lp.poses(half)[record].map(on), eye).value();
        const auto grab = partAt(lp, half, eye, seen);
        QVERIFY(grab && grab->part == record);
        QVERIFY((grab->onPart - on).length() < 0.5);
        for (const double share : {0.2, 0.7}) {
            PackShares there = half;
            there[0] = share;
            const Vec2 to = seenAt(lp.poses(there)[record].map(on), eye).value();
            const auto towards = stepTowards(lp, half, *grab, eye, to);
            QVERIFY(towards && towards->step == 0);
            QVERIFY2(std::abs(towards->share - share) < 0.03, qPrintable(QString::number(towards->share)));
        }
        // Nothing moves the sleeve, and through the hole of the label nothing is taken.
        const auto sleeve = partAt(lp, half, eye, seenAt({-100, 0, 0}, eye).value());
        QVERIFY(sleeve && sleeve->part == place(lp, "Sleeve"));
        QVERIFY(!stepTowards(lp, half, *sleeve, eye, {0, 0}));
        const PackShares out = lp.sharesAt(0);
        const Eye wide = eyeOn(lp.facets(out), {}, 1, 800, 600);
        QVERIFY(!partAt(lp, out, wide, seenAt(lp.poses(out)[record].map({0, 0, 0}), wide).value()));
    }

    /// The label of a record is seen through the window of its inner sleeve, and a liner through its tray.
    void whatShowsThroughIsSeen() {
        const auto filled = [](ReleasePtr r, const char* form, const char* panel, const Rgba& colour) {
            Layer fill;
            fill.content = FillContent{colour};
            return withLayer(r, {idOf(r, form), panel}, fill).release;
        };
        const auto colourAt = [&](const Assembly& assembly, double at, const Vec3& point) {
            const PackShares shares = assembly.sharesAt(at);
            const Eye eye = eyeOn(assembly.facets(shares), {}, 1, 400, 300);
            const auto drawn = drawFacets(assembly.facets(shares), eye, {{0, 0, 1}, 1}, {400, 300, 1});
            const Vec2 seen = seenAt(point, eye).value() + Vec2{200, 150};
            const uint8_t* p = drawn.data() + (size_t(seen.y) * 400 + size_t(seen.x)) * 4;
            return std::array<int, 4>{p[2], p[1], p[0], p[3]};
        };
        for (const int window : {0, 1}) {
            ReleasePtr r = releaseWith({{"inner-sleeve", {{"window", double(window)}}}, {"label-12", {}}});
            r = filled(r, "label-12", "side-a", {0.9f, 0.1f, 0.1f, 1});
            r = filled(r, "inner-sleeve", "front", {0.1f, 0.1f, 0.9f, 1});
            const auto seen = colourAt(packed(r, "inner-sleeve"), 1, {20, 5, 0});
            QVERIFY2(window ? seen[0] > 200 && seen[2] < 60 : seen[2] > 200 && seen[0] < 60,
                     qPrintable(QString("%1 %2 %3").arg(seen[0]).arg(seen[1]).arg(seen[2])));
        }
        for (const bool liner : {true, false}) {
            ReleasePtr r = releaseWith({{"tray-card", {}}});
            if (liner)
                r = filled(withPiece(r, shippedForm("tray-liner"), {}).value(), "tray-liner", "front",
                           {0.1f, 0.8f, 0.1f, 1});
            const auto seen = colourAt(packed(r, "tray-card"), 0, {30, 20, -3});
            QVERIFY2(liner ? seen[1] > seen[0] + 60 : seen[0] < 90,
                     qPrintable(QString("%1 %2 %3").arg(seen[0]).arg(seen[1]).arg(seen[2])));
        }
    }

    void tracksAreSpreadOverTheGrooves() {
        QVERIFY(trackEnds({}).empty() && trackEnds({100}).empty());
        QCOMPARE(trackEnds({100, 300}), std::vector<double>{0.25});
        QCOMPARE(trackEnds({0, 0}).size(), size_t(0));
    }
};

GLYPTOS_TEST(PackingTest)
#include "packing_test.moc"
