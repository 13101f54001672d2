#include "piecework.h"

#include "file/project.h"
#include "release/code_size.h"
#include "release/edits/palette_edits.h"
#include "release/edits/refit.h"
#include "release/edits/small_print.h"
#include "release/edits/wrap_edits.h"
#include "release/fields.h"
#include "release/placing.h"
#include "release/text_style.h"
#include "release/track_listing.h"
#include "work.h"

#include <numbers>

namespace glyptos::demo {
namespace {

constexpr size_t kCover = 0, kSleeve = 1; ///< places of the pieces that are there

class Piecework : public Work {
  public:
    Piecework(ReleasePtr release, FormList forms)
        : Work(std::move(release))
        , forms_(std::move(forms)) {}

    Result<void> all() {
        facts();
        for (const auto make :
             {&Piecework::gatefold, &Piecework::innerSleeve, &Piecework::labels, &Piecework::booklet,
              &Piecework::trayCard, &Piecework::discFace, &Piecework::cassetteCard, &Piecework::shellLabel,
              &Piecework::obi, &Piecework::social})
            if (auto done = (this->*make)(); !done) return done;
        return {};
    }

  private:
    // -- what all of them are made with

    void facts() {
        Brief brief = release_->brief;
        brief.barcode = "200000000417";
        brief.address = "https://gannet-street.example/slack-tide";
        brief.copyright = "© 2026 The Gannet Hours";
        brief.phonogram = "℗ 2026 Gannet Street Recordings";
        brief.madeIn = "Made on the north shore";
        release_ = withBrief(release_, brief);
        release_ = withSwatches(release_, {{"brass", {0.725f, 0.561f, 0.243f, 1}}});
    }

    Ink ink(const std::string& name) const {
        for (const Swatch& swatch : release_->palette)
            if (swatch.name == name) return {swatch.colour, swatch.id};
        return {1, 1, 1, 1};
    }
    Ink bone() const { return ink("lamp glow"); }
    Ink night() const { return ink("night water"); }

    /// A new piece whose front is like that of another, or an empty one.
    Result<void> begin(const char* form, const ParameterValues& values, std::optional<size_t> like = {}) {
        const auto found =
            std::find_if(forms_.begin(), forms_.end(), [&](const auto& f) { return f->id == form; });
        if (found == forms_.end()) return fail(Fault::Internal, std::string("there is no form ") + form);
        auto made = like ? withPieceLike(release_, *found, release_->pieces[*like]->id)
                         : withPiece(release_, *found, values);
        if (!made) return tl::unexpected(made.error());
        release_ = *made;
        piece_ = release_->pieces.back()->id;
        on(release_->pieces.back()->flat->frontPanel().id);
        return {};
    }
    void on(const std::string& panel) { panel_ = {piece_, panel}; }
    const Panel& panel() const { return *release_->piece(piece_)->flat->panel(panel_.panel); }

    std::string fill(const char* name, const Paint& paint) {
        Layer layer;
        layer.name = name;
        layer.content = FillContent{paint};
        const std::string id = put(std::move(layer));
        release_ = withMovedLayer(release_, panel_, id, {}, stack().size());
        return id;
    }
    std::string ellipse(const char* name, Vec2 middle, double side, const std::optional<Paint>& paint,
                        const std::optional<StrokeStyle>& stroke = {}) {
        Layer layer;
        layer.name = name;
        ShapeContent shape;
        shape.kind = ShapeKind::Ellipse;
        shape.width = shape.height = side;
        shape.fill = paint, shape.stroke = stroke;
        layer.content = shape;
        layer.placement.position = middle;
        return put(std::move(layer));
    }
    std::string bar(const char* name, const Rect& r, const Paint& paint) {
        Layer layer;
        layer.name = name;
        ShapeContent shape;
        shape.width = r.w, shape.height = r.h, shape.fill = paint;
        layer.content = shape;
        layer.placement.position = r.centre();
        return put(std::move(layer));
    }
    StrokeStyle line(double width, const Ink& colour) const {
        StrokeStyle stroke;
        stroke.width = width, stroke.paint = colour;
        return stroke;
    }

    struct Set {
        const char *text, *style;
        double size; ///< mm, or px of screens
        Vec2 at;
        Align align = Align::Left;
        double turn = 0;
        std::optional<Ink> colour = {};
        TextFrame frame = AtPoint{};
        double tracking = -1; ///< as the style has it
    };
    std::string words(const Set& set) {
        TextContent text;
        text.spec.text = set.text;
        const auto style =
            std::find_if(release_->textStyles.begin(), release_->textStyles.end(),
                         [&](const TextStyle& s) { return s.name == std::string_view(set.style); });
        if (style != release_->textStyles.end()) {
            text.style = style->id;
            setLook(text, style->look, release_->piece(piece_)->flat->unit);
        }
        text.spec.letters.size = set.size;
        if (set.tracking >= 0) text.spec.letters.tracking = set.tracking;
        text.spec.align = set.align;
        text.spec.frame = set.frame;
        if (set.colour) text.colour = *set.colour;
        Layer layer;
        layer.name = set.text;
        layer.content = std::move(text);
        layer.placement.position = set.at, layer.placement.turn = set.turn;
        return put(std::move(layer));
    }
    /// The track list, with sizes for a table of that width.
    std::string tracks(double width, double size, Vec2 at, const std::vector<std::string>& sides = {},
                       const std::optional<Ink>& colour = {}) {
        const std::string id = words({"", "Track title", size, at, Align::Left, 0, colour});
        const double grid = size * 1.5;
        release_ = withChangedLayer(release_, panel_, id, [&](Layer& l) {
            l.name = "Tracks";
            auto& text = std::get<TextContent>(l.content);
            text.tracks.emplace();
            text.tracks->sides = sides;
            text.tracks->headings = sides.empty();
            text.spec.frame = InTable{
                .width = width, .gap = size * 0.5, .gutter = size * 1.3, .grid = grid, .hangs = false};
            for (TrackLetters* letters : {&text.tracks->figures, &text.tracks->headingLetters}) {
                letters->letters = text.spec.letters;
                letters->letters->family = "Inter", letters->letters->style = "Medium";
                letters->letters->size = size * 0.5;
            }
            if (colour) text.colours = {*colour, *colour, *colour};
        });
        return id;
    }
    /// Words once round a circle, however long they are.
    void round(const char* text, Vec2 middle, double radius, double size, const Ink& colour) {
        const std::string id = words(
            {text, "Small print", size, middle, Align::Left, 0, colour, RoundCircle{radius, -90, false}, 0});
        ParagraphCache paragraphs(fonts_);
        release_ = withChangedLayer(release_, panel_, id, [&](Layer& l) {
            auto& spec = std::get<TextContent>(l.content).spec;
            TextContent flat = std::get<TextContent>(l.content);
            flat.spec.frame = AtPoint{};
            const auto set = paragraphs.get(resolvedText(flat, *release_));
            const double left = 2 * std::numbers::pi * radius - set->lines.front().width;
            spec.letters.tracking = left / double(set->letters.size()) / size * 1000;
        });
    }
    Paint mist(const Rgba& high, double size, uint32_t seed) const {
        Clouds clouds;
        clouds.low = night(), clouds.high = Ink(high);
        clouds.size = size, clouds.contrast = 0.8, clouds.seed = seed;
        return clouds;
    }
    /// Moon and gulls, placed by shares of an area.
    void moonAndGulls(const Rect& area, Vec2 moon, double moonShare, Vec2 gulls, double gullShare) {
        const auto place = [&](Vec2 share) {
            return Vec2{area.x + share.x * area.w, area.y + share.y * area.h};
        };
        Layer disc = pictureLayer("Moon", "moon.png", place(moon), area.h * moonShare / 1500);
        disc.opacity = 0.92;
        put(std::move(disc));
        put(pictureLayer("Gulls", "gulls.svg", place(gulls), area.h * gullShare / 360));
    }
    /// All that a panel of another piece holds.
    void takeOver(size_t piece, const char* from, const char* to) {
        const PanelRef source{release_->pieces[piece]->id, from};
        std::vector<std::string> ids;
        for (const LayerPtr& layer : stackOf(*release_, source)) ids.push_back(layer->id);
        release_ = withCopiesOn(release_, source, ids, {piece_, to}, false);
    }

    // -- the pieces

    Result<void> gatefold();
    Result<void> innerSleeve();
    Result<void> labels();
    Result<void> booklet();
    void bookletPages();
    Result<void> trayCard();
    Result<void> discFace();
    Result<void> cassetteCard();
    Result<void> shellLabel();
    Result<void> obi();
    Result<void> social();

    FormList forms_;
    std::string piece_;
};

/// Outside as the sleeve, inside one picture from edge to edge, over three panels.
Result<void> Piecework::gatefold() {
    if (auto done = begin("gatefold-12", {}); !done) return done;
    for (const char* panel : {"back", "spine", "front"}) takeOver(kSleeve, panel, panel);
    on("spine");
    for (const LayerPtr& layer : Stack(stack()))
        if (layer->as<TextContent>())
            release_ = withChangedLayer(release_, panel_, layer->id,
                                        [](Layer& l) { l.placement.position.y += 1.6; });
    auto wrap = withWrap(release_, piece_, {"inner-left", "inner-spine", "inner-right"});
    if (!wrap) return tl::unexpected(wrap.error());
    release_ = wrap->release;
    on(wrap->id);
    const Rect wide = panel().trim();
    Gradient dusk = evenRun(panel().withBleed(), 0, night(), Ink{0.35f, 0.27f, 0.24f, 1});
    dusk.stops.insert(dusk.stops.begin() + 1, {0.55, Ink{0.13f, 0.27f, 0.32f, 1}});
    fill("Dusk", dusk);
    moonAndGulls(wide, {0.5, 0.36}, 0.36, {0.71, 0.24}, 0.16);
    bar("Sea", {-3, wide.h * 0.66, wide.w + 6, wide.h * 0.34 + 3}, night());
    for (int i = 0; i < 7; ++i) {
        const double y = wide.h * (0.665 + 0.012 * i * (1 + 0.25 * i)), w = wide.w * (0.05 + 0.036 * i);
        bar("Light on the water", {wide.w / 2 - w / 2, y, w, 0.7 + 0.22 * i}, bone());
    }
    on("inner-left");
    tracks(150, 9, {28, 226}, {"A"});
    on("inner-right");
    tracks(150, 9, {137, 226}, {"B"});
    return {};
}

Result<void> Piecework::innerSleeve() {
    if (auto done = begin("inner-sleeve", {}); !done) return done;
    for (const char* panel : {"front", "back"}) {
        on(panel);
        Paper paper;
        paper.colour = bone(), paper.seed = 7;
        fill("Paper", paper);
    }
    on("front");
    constexpr Vec2 kMiddle{152.5, 152.5};
    for (int i = 0; i < 9; ++i)
        ellipse("Ripple", kMiddle, 56 + 19.0 * i, std::nullopt, line(0.5 + 0.12 * i, night()));
    ellipse("Moon", kMiddle, 44, ink("rust"));
    words({"{artist}", "Artist", 7, {20, 20}, Align::Left, 0, night()});
    words({"{title}", "Title", 18, {20, 264}, Align::Left, 0, night()});
    on("back");
    tracks(180, 12, {20, 26}, {}, night());
    words({"{label} · {catalogue} · {year}", "Small print", 4, {20, 280}, Align::Left, 0, night()});
    return {};
}

/// A dark side with a light rim, and the same the other way round.
Result<void> Piecework::labels() {
    if (auto done = begin("label-12", {}); !done) return done;
    for (const auto& [panel, side] : {std::pair("side-a", "A"), {"side-b", "B"}}) {
        on(panel);
        const bool dark = *side == 'A';
        const Ink ground = dark ? night() : bone(), print = dark ? bone() : night();
        fill("Ground", ground);
        constexpr Vec2 kMiddle{50, 50};
        ellipse("Rim", kMiddle, 92, std::nullopt, line(0.6, print));
        round("{label}  ·  {catalogue}  ·  {year}  ·", kMiddle, 41.2, 3.1, print);
        words({"{title}", "Title", 6.4, {50, 17.5}, Align::Centre, 0, print});
        words({"{artist}", "Artist", 2.6, {50, 25.4}, Align::Centre, 0, print, AtPoint{}, 120});
        words({dark ? "A" : "B", "Title", 15, {18.5, 42}, Align::Centre, 0, ink("rust")});
        words({"33⅓", "Track figures", 4, {81.5, 47}, Align::Centre, 0, print});
        tracks(42, 3.5, {29, 61}, {side}, print);
    }
    return {};
}

Result<void> Piecework::booklet() {
    if (auto done = begin("disc-booklet", {}, kCover); !done) return done;
    bookletPages();
    return {};
}

void Piecework::bookletPages() {
    on("back");
    fill("Night", night());
    ellipse("Moon", {60, 52}, 34, bone());
    words({"{artist}", "Artist", 3, {60, 96}, Align::Centre, 0, {}, AtPoint{}, 200});
    words({"{label} · {year}", "Small print", 2.4, {60, 103}, Align::Centre});
    const struct {
        const char *panel, *title, *text;
        bool dark;
    } pages[] = {{"page-2", "Low Water",
                  "The boats lie down like cattle\non the mud at half past four\nand somebody is "
                  "whistling\nbehind a painted "
                  "door.",
                  false},
                 {"page-3", "Lantern Room",
                  "Ninety steps and then a landing,\nninety more and then the light;\nI have swept the "
                  "stairs of evening,\nI "
                  "have wound the clock of night.",
                  true},
                 {"page-6", "Salt Ledger",
                  "In the book of what was taken\nthere’s a line for every crate,\nand a column left for "
                  "weather,\nand a "
                  "column left for late.",
                  true},
                 {"page-7", "Nightjar",
                  "Turn it over, turn it over,\nsaid the bird that has no bed;\nall the summer in two "
                  "pieces\nand a stitch of dark for thread.",
                  false}};
    for (const auto& page : pages) {
        on(page.panel);
        const Ink print = page.dark ? bone() : night();
        if (page.dark) {
            fill("Mist", mist({0.16f, 0.3f, 0.36f, 1}, 60, 11));
        } else {
            Paper paper;
            paper.colour = bone(), paper.seed = 3;
            fill("Paper", paper);
        }
        words({page.title, "Title", 11, {12, 14}, Align::Left, 0, page.dark ? print : ink("rust")});
        const std::string verse =
            words({page.text, "Small print", 4, {12, 34}, Align::Left, 0, print, AtPoint{}, 0});
        release_ = withChangedLayer(release_, panel_, verse, [](Layer& l) {
            auto& spec = std::get<TextContent>(l.content).spec;
            spec.letters.letterCase = LetterCase::AsWritten, spec.letters.style = "Regular",
            spec.leading = 1.5;
        });
    }
    auto wrap = withWrap(release_, piece_, {"page-4", "page-5"});
    if (!wrap) return;
    release_ = wrap->release;
    on(wrap->id);
    fill("Mist", mist({0.2f, 0.36f, 0.42f, 1}, 110, 5));
    moonAndGulls(panel().trim(), {0.5, 0.44}, 0.5, {0.24, 0.3}, 0.2);
    words({"{title}", "Title", 15, {120, 98}, Align::Centre});
}

Result<void> Piecework::trayCard() {
    if (auto done = begin("tray-card", {}); !done) return done;
    for (const char* panel : {"back", "spine-left", "spine-right"}) {
        on(panel);
        fill("Night", night());
    }
    on("back");
    ellipse("Moon", {109, 34}, 40, ink("rust"));
    words({"{title}", "Title", 11, {8, 8}});
    words({"{artist}", "Artist", 3, {8.4, 19.4}, Align::Left, 0, {}, AtPoint{}, 180});
    tracks(70, 4.4, {8, 27});
    put(codeFor(panel(), CodeKind::Ean13, Unit::Mm, "Barcode"));
    const Made small = withSmallPrint(release_, panel_, "Fine print", bone());
    release_ = withChangedLayer(small, panel_, small.id, [](Layer& l) {
        std::get<TextContent>(l.content).spec.text = "{copyright} {phonogram}\n{made in} {catalogue}";
        l.placement.position = {8, 107};
    });
    for (const char* side : {"spine-left", "spine-right"}) {
        on(side);
        words({"{artist}  —  {title}", "Artist", 2.7, {6, 2.2}, Align::Left, 0, {}, AtPoint{}, 90});
        words({"{catalogue}", "Artist", 2.7, {112, 2.2}, Align::Right, 0, {}, AtPoint{}, 90});
    }
    return {};
}

Result<void> Piecework::discFace() {
    if (auto done = begin("disc-face", {}); !done) return done;
    constexpr Vec2 kMiddle{59, 59};
    fill("Night", night());
    for (int i = 0; i < 4; ++i)
        ellipse("Ripple", kMiddle, 44 + 5.5 * i, std::nullopt, line(0.3 + 0.1 * i, bone()));
    words({"{title}", "Title", 9, {59, 91}, Align::Centre});
    words({"{artist}", "Artist", 2.9, {59, 19}, Align::Centre, 0, {}, AtPoint{}, 160});
    round("{label}  ·  {catalogue}  ·  {copyright}  ·  {phonogram}  ·", kMiddle, 53.4, 2.3, bone());
    words({"{catalogue}", "Track title", 5, {17.5, 56}, Align::Centre, 0, ink("brass")});
    return {};
}

Result<void> Piecework::cassetteCard() {
    if (auto done = begin("cassette-card", {}, kCover); !done) return done;
    for (const char* panel : {"spine", "flap"}) {
        on(panel);
        for (const LayerPtr& layer : Stack(stack())) release_ = withoutLayer(release_, panel_, layer->id);
        fill("Night", night());
    }
    on("spine");
    words({"{title}", "Title", 7, {5, 1.7}});
    words({"{artist}", "Artist", 2.2, {5.2, 8.7}, Align::Left, 0, {}, AtPoint{}, 140});
    words({"{catalogue}", "Track title", 4.6, {96.5, 3.8}, Align::Right, 0, ink("brass")});
    on("flap");
    words({"{label}\n{copyright}\n{phonogram}",
           "Small print",
           2.1,
           {3, 97},
           Align::Left,
           -90,
           {},
           AtPoint{},
           20});
    return {};
}

Result<void> Piecework::shellLabel() {
    if (auto done = begin("shell-label", {}); !done) return done;
    for (const auto& [panel, side] : {std::pair("side-a", "A"), {"side-b", "B"}}) {
        on(panel);
        const bool dark = *side == 'A';
        const Ink print = dark ? bone() : night();
        fill("Ground", dark ? night() : bone());
        words({"{title}", "Title", 6.4, {5, 3.4}, Align::Left, 0, print});
        words({"{artist}", "Artist", 1.9, {84, 5.2}, Align::Right, 0, print, AtPoint{}, 90});
        words({side, "Title", 13, {11, 14.5}, Align::Centre, 0, ink("rust")});
        words({"{catalogue} · {label}", "Small print", 2, {5, 35.6}, Align::Left, 0, print, AtPoint{}, 40});
    }
    return {};
}

Result<void> Piecework::obi() {
    if (auto done = begin("obi", {}); !done) return done;
    auto wrap = withWrap(release_, piece_, {"front", "spine", "back"});
    if (!wrap) return tl::unexpected(wrap.error());
    release_ = wrap->release;
    on(wrap->id);
    fill("Bone", bone());
    const Rect wide = panel().trim();
    for (int i = 0; i < 9; ++i)
        bar("Tide line", {-3, wide.h * (0.74 + 0.028 * i), wide.w + 6, 0.5 + 0.45 * i}, night());
    on("front");
    words({"{title}", "Title", 30, {50, 12}, Align::Left, 90, night()});
    words({"{artist}", "Artist", 6, {17.5, 14}, Align::Left, 90, night()});
    on("back");
    words({"{artist}\n{title}", "Artist", 4, {8, 14}, Align::Left, 0, night(), AtPoint{}, 60});
    tracks(52, 5.2, {8, 34}, {}, night());
    words({"{catalogue}", "Track title", 9, {8, 204}, Align::Left, 0, ink("rust")});
    on("spine");
    words({"{artist} — {title}", "Small print", 2.4, {8, 0.9}, Align::Left, 0, night(), AtPoint{}, 60});
    return {};
}

Result<void> Piecework::social() {
    for (const char* form : {"square-post", "tall-story", "wide-card", "page-banner"}) {
        if (auto done = begin(form, {}, kCover); !done) return done;
        if (panel().width <= panel().height) continue;
        // In a strip there is no room for the moon's light, and the tower stands on the edge.
        if (const std::string light = named("Moon in the water"); !light.empty())
            release_ = withoutLayer(release_, panel_, light);
        for (const char* name : {"Lighthouse", "Beam"})
            if (const std::string id = named(name); !id.empty())
                release_ = withChangedLayer(release_, panel_, id, [&](Layer& l) {
                    l = moved(std::move(l), {0, panel().height * 0.2});
                });
    }
    return {};
}

} // namespace

Result<ReleasePtr> withPiecework(const ReleasePtr& release) {
    auto forms = shippedForms();
    if (!forms) return tl::unexpected(forms.error());
    Piecework work(release, std::move(*forms));
    if (auto done = work.all(); !done) return tl::unexpected(done.error());
    return work.release();
}

} // namespace glyptos::demo
