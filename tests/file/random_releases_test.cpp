// What can be made can be saved, and what is saved can be opened: releases made at random by the edits that
// the window and the readers of track lists use.
#include "file/open_raster.h"
#include "file/project.h"
#include "file/release_json/release_json.h"
#include "file/track_lists.h"
#include "release/edits/palette_edits.h"
#include "release/edits/refit.h"
#include "release/edits/style_edits.h"
#include "release/placing.h"
#include "release/same.h"
#include "release/wall.h"
#include "support/noting.h"
#include "support/pictures.h"
#include "support/register.h"

#include <QRandomGenerator>
#include <QTemporaryDir>

using namespace glyptos;
using namespace glyptos::test;

namespace {

class Maker {
  public:
    explicit Maker(quint32 seed)
        : random_(seed) {}

    ReleasePtr release(const FormList& forms, const std::vector<SourcePtr>& sources) {
        ReleasePtr r = withLinearLight(withBrief(std::make_shared<const Release>(), brief()), flip());
        std::vector<NamedColour> colours;
        for (int i = below(5); i >= 0; --i) colours.push_back({text(), colour()});
        r = withSwatches(r, colours);
        for (const SourcePtr& source : sources) r = withFacts(withSource(r, source), source->id, facts());
        for (int i = below(4); i >= 0; --i) r = piece(r, forms);
        for (int i = 0; i < 12; ++i) r = edited(r);
        return r;
    }

  private:
    int below(int n) { return int(random_.bounded(quint32(n))); }
    bool flip() { return below(2); }
    double share() { return below(5) == 0 ? below(2) : random_.generateDouble(); }
    /// Of any size that a field or a hand can give.
    double length() { return std::pow(10.0, -3 + 7 * random_.generateDouble()) * (below(9) ? 1 : 1e-6); }
    double place() { return (random_.generateDouble() - 0.5) * length() * 10; }
    Vec2 point() { return {place(), place()}; }
    Rgba colour() { return {float(share()), float(share()), float(share()), float(share())}; }
    template <class Enum>
    Enum one(int count) {
        return static_cast<Enum>(below(count));
    }

    /// Words of many scripts, with what tears naive readers: quotes, controls, ends and beginnings of two
    /// bytes.
    std::string text() {
        static const std::vector<std::string> parts{
            "Et voilà", "Š",  "¿Qué?", "Höfn í Hornafirði", "灯室",   "ليل", "\"", "\\",
            "\n",       "\t", "🌊",     "{title}",           "\u2028", "é",   " ",  "B\u00a0side",
            "",         "-0"};
        std::string out;
        for (int i = below(4); i >= 0; --i) out += parts[size_t(below(int(parts.size())))];
        return out;
    }

    Brief brief() {
        Brief b;
        b.artist = text(), b.title = text(), b.label = text(), b.catalogue = text(), b.year = text();
        b.genre = text(), b.audience = text(), b.notes = text();
        for (int i = below(3); i > 0; --i) b.mood.push_back(text());
        std::string cue = "TITLE \"" + std::string("Nætur") + "\"\nFILE \"a.wav\" WAVE\n", list;
        for (int i = 1, at = 0; i <= 1 + below(5); ++i) {
            cue += "TRACK " + std::to_string(i) + " AUDIO\nTITLE \"Lag à\"\nINDEX 01 " + std::to_string(at) +
                   ":00:00\n";
            at = std::min(5999, at + below(i == 2 ? 5000 : 400));
            list += std::to_string(i) + ". " + text() + " " + std::to_string(below(90)) + ":" +
                    (flip() ? "07" : "59") + "\n";
        }
        const auto tracks = flip() ? tracksFromCue(cue, "a.cue") : tracksFromText(list);
        if (tracks) b.tracks = tracks->tracks;
        for (Track& track : b.tracks)
            if (flip()) track.performer = text();
        return b;
    }

    SourceFacts facts() {
        SourceFacts f;
        f.kind = one<SourceKind>(int(std::size(kSourceKindIds)));
        f.title = text(), f.maker = text(), f.origin = text(), f.licence = text(), f.credit = text(),
        f.notes = text();
        for (int i = below(3); i > 0; --i) f.tags.push_back(text());
        return f;
    }

    ReleasePtr piece(const ReleasePtr& r, const FormList& forms) {
        const auto form = forms[size_t(below(int(forms.size())))];
        ReleasePtr next = r->pieces.empty() || flip() ? *withPiece(r, form)
                                                      : *withPieceLike(r, form, r->pieces.front()->id);
        const std::string id = next->pieces.back()->id;
        for (const Parameter& p : form->parameters)
            if (below(4) == 0)
                if (const auto set = withParameter(next, id, p.id, p.least + (p.most - p.least) * share()))
                    next = *set;
        return next;
    }

    Gradient gradient() {
        Gradient g{one<GradientKind>(4), one<GradientSpread>(3), point(), point(), place(), {}};
        if (g.turns == 0 || std::abs(g.turns) > 200) g.turns = 1;
        for (int i = below(4); i >= 0; --i) putStop(g.stops, {share(), colour()});
        return g;
    }

    Paint paint(const Release& r) {
        switch (below(5)) {
        case 0:
            return ink(r);
        case 1:
            return Clouds{ink(r), ink(r), length(), 1 + below(12), share() * 10, quint32(below(1'000'000))};
        case 2:
            return Paper{ink(r), share(), length(), quint32(below(1'000'000))};
        case 3:
            if (!r.sources.empty())
                return Pattern{source(r)->id, point(), length() / 100, place(), share(), flip()};
            [[fallthrough]];
        default:
            return gradient();
        }
    }
    Ink ink(const Release& r) {
        if (r.palette.empty() || flip()) return Ink{colour()};
        const Swatch& s = r.palette[size_t(below(int(r.palette.size())))];
        Ink out{s.colour};
        out.swatch = s.id;
        return out;
    }
    SourcePtr source(const Release& r) { return r.sources[size_t(below(int(r.sources.size())))]; }

    ShapeContent shape(const Release& r) {
        ShapeContent s;
        s.kind = one<ShapeKind>(6);
        s.width = std::min(length(), 1e6), s.height = std::min(length(), 1e6),
        s.corner = std::min(length(), 1e6);
        s.points = 3 + below(60), s.inner = 0.05 + 0.95 * share();
        s.fill.reset();
        if (flip()) s.fill = paint(r);
        if (flip() || !s.fill)
            s.stroke = StrokeStyle{length(),        one<StrokePlace>(3), one<LineJoin>(3),
                                   one<LineCap>(4), one<LineCap>(4),     paint(r)};
        if (s.kind == ShapeKind::Free)
            for (int i = below(2); i >= 0; --i) {
                Contour c;
                for (int n = 1 + below(5); n >= 0; --n) c.nodes.push_back({point(), point(), point()});
                c.closed = flip();
                s.contours.push_back(c);
            }
        return s;
    }

    LetterStyle letters() {
        LetterStyle out;
        out.family = flip() ? "Inter" : text(), out.style = flip() ? "Semi Bold" : text();
        out.size = length(), out.tracking = place(), out.shift = share();
        out.kerning = one<Kerning>(3), out.letterCase = one<LetterCase>(3), out.paint = below(4);
        if (flip()) out.language = "is", out.features = {{"onum", 1}, {"ss01", 3}};
        if (flip()) out.axes = {{"wght", 300 + 400 * share()}};
        return out;
    }
    TextFrame frame() {
        Contour line{{{point(), point(), point()}, {point(), point(), point()}}, flip()};
        switch (below(6)) {
        case 0:
            return InArea{length(), flip() ? 0 : length()};
        case 1:
            return InShape{{line, line}};
        case 2:
            return AlongPath{line, place(), flip()};
        case 3:
            return RoundCircle{length(), 360 * share() - 180, flip()};
        case 4: {
            InTable out{length(), length(), {}, length(), 1 + below(5), length(), length(), text(), flip()};
            for (int i = below(4); i > 0; --i) out.columns.push_back({one<Align>(4), flip()});
            return out;
        }
        default:
            return AtPoint{};
        }
    }
    /// Runs, kerns, poses and rules, at the beginnings of characters.
    void markLetters(TextSpec& spec) {
        std::vector<size_t> starts;
        for (size_t i = 0; i <= spec.text.size(); ++i)
            if (i == spec.text.size() || (spec.text[i] & 0xc0) != 0x80) starts.push_back(i);
        if (starts.size() > 2 && flip())
            spec.runs = {{starts[0], starts[1], letters()}, {starts[1], starts.back(), letters()}};
        const size_t at = starts[size_t(below(int(starts.size())))];
        if (flip()) spec.kerns = {{at, share()}}, spec.leadings = {{at, 1 + share()}};
        if (flip()) spec.poses = {{at, point(), 90 * share(), 0.5 + share(), share()}};
        if (flip())
            spec.rules = {{one<LetterRule::Kind>(4), share(), 30 * share(), share(), share(), 5 * share(),
                           unsigned(below(99))}};
        if (flip()) spec.tabs = {{place(), one<TabAlign>(4), flip() ? "." : ""}};
    }

    TrackListing listing(const Release& r) {
        TrackListing out;
        out.facts.clear();
        for (const TrackFact fact :
             {TrackFact::Length, TrackFact::Performer, TrackFact::Title, TrackFact::Number})
            if (flip()) out.facts.push_back(fact);
        out.numbers = one<TrackNumbers>(4), out.first = 1 + below(3), out.last = below(9);
        if (flip()) out.sides = {"A", text()};
        out.headings = flip(), out.headingWord = text(), out.performerBelow = flip();
        for (TrackLetters* one : lettersOf(out)) {
            if (flip()) one->letters = letters();
            if (one->letters && !r.textStyles.empty() && flip()) one->style = r.textStyles.front().id;
        }
        return out;
    }

    Content content(const Release& r, const PanelRef& panel) {
        switch (below(5)) {
        case 0: {
            TextContent t;
            t.spec.text = text(), t.spec.letters = letters();
            t.spec.leading = 0.3 + share();
            t.spec.frame = frame(), t.spec.align = one<Align>(4);
            t.spec.hyphenate = flip(), t.spec.hangPunctuation = flip(), t.spec.balance = flip(),
            t.spec.breakAtSpaces = flip();
            markLetters(t.spec);
            if (!r.textStyles.empty() && flip()) t.style = r.textStyles.front().id;
            t.colour = ink(r);
            for (int i = below(3); i > 0; --i) t.colours.push_back(ink(r));
            if (below(3) == 0) t.tracks = listing(r);
            return t;
        }
        case 1:
            if (!r.sources.empty())
                return PictureContent{source(r)->id, {share() / 2, share() / 2, 0.5, 0.25}};
            [[fallthrough]];
        case 2:
            return FillContent{paint(r)};
        case 3: {
            const PiecePtr& other = r.pieces[size_t(below(int(r.pieces.size())))];
            if (other->id != panel.piece)
                return EchoContent{other->id, flip() ? "" : other->flat->panels[0].id, "", flip()};
            [[fallthrough]];
        }
        case 4: {
            CodeContent code{one<CodeKind>(3), text(), ink(r), std::nullopt};
            if (flip()) code.ground = ink(r);
            return code;
        }
        default:
            return shape(r);
        }
    }

    Placement placement() {
        Placement p{point(), length(), length(), place(), flip(), flip()};
        if (flip()) p.skew = (share() - 0.5) * 160;
        return p;
    }

    Layer layer(const Release& r, const PanelRef& panel) {
        Layer l;
        l.name = text(), l.on = flip(), l.opacity = share(), l.blend = one<BlendMode>(int(kBlendModeCount));
        l.placement = placement(), l.clipped = flip(), l.locked = flip();
        l.content = content(r, panel);
        if (below(3) == 0) {
            Mask m;
            m.form = flip() ? Mask::Form(gradient()) : Mask::Form(shape(r));
            if (!r.sources.empty() && flip()) m.form = PictureContent{source(r)->id, {0, 0, 1, 1}};
            m.placement = placement(), m.on = flip(), m.inverted = flip(), m.linked = flip();
            m.strength = share(), m.feather = std::min(length(), 1e6);
            l.mask = std::make_shared<const Mask>(m);
        }
        return l;
    }

    /// With one style more, which prints in some ink.
    ReleasePtr withStyle(const ReleasePtr& r) {
        const Made made =
            withTextStyle(r, text(), {letters(), 1 + share(), one<Align>(4), flip(), ink(*r)},
                          r->textStyles.empty() || flip() ? std::string() : r->textStyles.front().id);
        return r->palette.empty() || flip() ? made.release
                                            : withStyleSpot(made, made.id, r->palette.front().id);
    }

    ReleasePtr edited(const ReleasePtr& r) {
        const PiecePtr& piece = below(6) ? r->pieces[size_t(below(int(r->pieces.size())))] : r->wall;
        const PanelRef panel{piece->id,
                             piece->flat->panels[size_t(below(int(piece->flat->panels.size())))].id};
        const Stack& stack = stackOf(*r, panel);
        const std::string some = stack.empty() ? "" : stack[size_t(below(int(stack.size())))]->id;
        switch (below(11)) {
        case 10:
            return withStyle(r);
        case 0:
            return withNewTake(r, piece->id);
        case 1:
            return withDuplicate(r, panel, some);
        case 2:
            if (const auto grouped = withGrouped(r, panel, {some})) return *grouped;
            return r;
        case 3:
            return withChangedLayer(r, panel, some,
                                    [&](Layer& l) { l = flipped(scaled(l, point(), length()), flip()); });
        case 4:
            if (!r->sources.empty())
                return withReference(r, panel, referenceOver(piece->flat->trim(), *source(*r)));
            return r;
        case 5:
            return withGhosts(r, panel, some, {1 + below(3), point(), share()});
        default: {
            Layer made = layer(*r, panel);
            if (made.as<EchoContent>()) {
                if (const auto echo = withEcho(r, panel, made)) return *echo;
                return r;
            }
            return withLayer(r, panel, made, some);
        }
        }
    }

    QRandomGenerator random_;
};

} // namespace

class RandomReleasesTest : public QObject {
    Q_OBJECT
    FormList forms = shippedForms().value();
    QTemporaryDir folder;
    std::filesystem::path file(const char* name) const { return folder.filePath(name).toStdString(); }

    void savedAndOpened(const ReleasePtr& release, const std::string& what) {
        const auto path = file("some.glyptos");
        const auto saved = saveProject(*release, path);
        QVERIFY2(saved, (what + ": " + sentence(saved).toStdString()).c_str());
        const auto again = openProject(path, forms);
        QVERIFY2(again, (what + ": " + sentence(again).toStdString()).c_str());
        QCOMPARE(releaseToJson(**again), releaseToJson(*withoutUnusedSources(release)));
    }

  private Q_SLOTS:
    void madeAtRandom() {
        std::vector<SourcePtr> sources;
        for (int i = 0; i < 3; ++i)
            sources.push_back(
                importBytes(
                    pngOf(8 + i, 6,
                          [=](int x, int y) {
                              return std::array<uint8_t, 4>{uint8_t(x * 9), uint8_t(y * 7), uint8_t(i), 200};
                          }),
                    "Höfn " + std::to_string(i) + ".png")
                    ->source);
        for (quint32 seed = 1; seed <= 250; ++seed) {
            savedAndOpened(Maker(seed).release(forms, sources), "seed " + std::to_string(seed));
            if (QTest::currentTestFailed()) return;
        }
    }

    /// Groups as deep as they can be made, and a file of nested layers brought into the deepest.
    void groupsAsDeepAsTheyGo() {
        ReleasePtr r = *withPiece(std::make_shared<const Release>(), forms[0]);
        const PanelRef front{r->pieces[0]->id, "front"};
        Layer fill;
        fill.content = FillContent{};
        std::string inner, outer;
        r = noting(inner, withLayer(r, front, fill));
        outer = inner;
        int depth = 0;
        for (; depth < 2 * kDeepestGroup; ++depth) {
            const auto next = withGrouped(r, front, {outer});
            if (!next) break;
            r = noting(outer, *next);
        }
        QCOMPARE(depth, kDeepestGroup);
        savedAndOpened(r, "deep groups");
        Layer nested = fill;
        for (int i = 0; i < 5; ++i) {
            Layer group;
            group.content = GroupContent{{std::make_shared<const Layer>(nested)}, false};
            nested = group;
        }
        savedAndOpened(withLayer(r, front, nested, inner), "groups put into the deepest one");
    }

    void lengthsThatNoReleaseHolds() {
        std::string cue =
            "FILE \"a.wav\" WAVE\nTRACK 01 AUDIO\nTITLE \"Long\"\nINDEX 01 0:00:00\n"
            "TRACK 02 AUDIO\nTITLE \"Next\"\nINDEX 01 5000:00:00\nTRACK 03 AUDIO\nINDEX 01 5010:00:00\n";
        const auto list = tracksFromCue(cue, "a.cue");
        QVERIFY(list);
        QCOMPARE(list->tracks[0].seconds, 0);
        QCOMPARE(list->tracks[1].seconds, 600);
        QVERIFY(std::any_of(list->notes.begin(), list->notes.end(), [](const std::string& n) {
            return n.find("“Long”") != n.npos && n.find("24 hours") != n.npos;
        }));
        Brief brief;
        brief.tracks = list->tracks;
        savedAndOpened(withBrief(std::make_shared<const Release>(), brief), "a cue sheet");
    }

    void titlesThatEndInTwoBytes() {
        const auto list = tracksFromText("A1 Et voilà\nA2 Kamenný Š 3:10\nB1 ¿Qué?\n");
        QVERIFY(list);
        QCOMPARE(list->tracks[0].title, std::string("Et voilà"));
        QCOMPARE(list->tracks[1].title, std::string("Kamenný Š"));
        QCOMPARE(list->tracks[1].seconds, 190);
        QCOMPARE(list->tracks[2].title, std::string("¿Qué?"));
        Brief brief;
        brief.tracks = list->tracks;
        savedAndOpened(withBrief(std::make_shared<const Release>(), brief), "titles");
    }

    /// Whatever a name on disk holds, the release can be saved.
    void namesThatAreNoText() {
        const auto path = file("") / "caf\xe9.png";
        write(path, pngOf(4, 4, [](int, int) { return std::array<uint8_t, 4>{1, 2, 3, 255}; }));
        const auto picture = importPicture(path);
        QVERIFY2(picture, qPrintable(sentence(picture)));
        ReleasePtr r = *withPiece(std::make_shared<const Release>(), forms[0]);
        r = withSource(r, picture->source);
        Layer layer;
        layer.content = PictureContent{picture->source->id, {0, 0, 1, 1}};
        savedAndOpened(withLayer(r, {r->pieces[0]->id, "front"}, layer), "a name in Latin-1");
    }
};

GLYPTOS_TEST(RandomReleasesTest)
#include "random_releases_test.moc"
