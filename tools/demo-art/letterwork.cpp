#include "letterwork.h"

#include "release/edits/cutout_edits.h"
#include "release/edits/style_edits.h"
#include "release/fields.h"
#include "release/placing.h"
#include "release/walks.h"
#include "work.h"

#include <numbers>

namespace glyptos::demo {
namespace {

class Letterwork : public Work {
  public:
    using Work::Work;
    Result<void> all() {
        makeStyles();
        for (const auto& [piece, panel, layer, style] : {std::tuple(0, "front", "Title", "Title"),
                                                         {0, "front", "Artist line", "Artist"},
                                                         {1, "front", "Title", "Title"},
                                                         {1, "front", "Artist line", "Artist"},
                                                         {1, "back", "Artist on back", "Artist"},
                                                         {1, "back", "Label line", "Small print"},
                                                         {1, "spine", "Spine words", "Small print"},
                                                         {2, "front", "Show line", "Small print"}}) {
            onPanel(piece, panel);
            if (auto done = follow(layer, style); !done) return done;
        }
        onPanel(1, "back");
        if (auto done = listTracks(); !done) return done;
        seal();
        return {};
    }

    Result<void> behind() {
        onPanel(0, "front");
        const PiecePtr cover = release_->pieces.front();
        for (const auto& take : cover->takes)
            if (firstLayer(take->stack("front"), [](const Layer& l) { return l.name == kHair; }))
                return inNewTake(take->id, [this] { return titleBehind(); });
        return fail(Fault::Internal, "no take has the keeper's hair");
    }

  private:
    static constexpr const char* kHair = "Hair, larger and bent";

    void onPanel(int piece, const char* panel) { panel_ = {release_->pieces[size_t(piece)]->id, panel}; }
    std::string anywhere(const std::string& name) const {
        const LayerPtr found =
            firstLayer(stack(), [&](const Layer& l) { return l.name == name && l.as<TextContent>(); });
        return found ? found->id : std::string();
    }
    std::string anyNamed(const std::string& name) const {
        const LayerPtr found = firstLayer(stack(), [&](const Layer& l) { return l.name == name; });
        return found ? found->id : std::string();
    }
    std::string style(const std::string& name) const {
        for (const TextStyle& one : release_->textStyles)
            if (one.name == name) return one.id;
        return {};
    }
    void change(const std::string& layer, const LayerChange& change) {
        release_ = withChangedLayer(release_, panel_, layer, change);
    }

    /// The colour of the words, as the palette has it.
    Ink bone() const {
        constexpr const char* kId = "s1";
        for (const Swatch& swatch : release_->palette)
            if (swatch.id == kId) return {swatch.colour, kId};
        return {1, 1, 1, 1};
    }

    void makeStyles();
    Result<void> follow(const std::string& layer, const std::string& style);
    Result<void> listTracks();
    void seal();
    Result<void> titleBehind();
};

LetterStyle letters(const char* family, const char* style, double mm, double tracking, bool capitals) {
    LetterStyle out;
    out.family = family, out.style = style, out.size = mm, out.tracking = tracking;
    if (capitals) out.letterCase = LetterCase::Capitals;
    return out;
}

/// A narrow grotesque in capitals against a quiet humanist one; what is small is based on the track titles.
void Letterwork::makeStyles() {
    const auto style = [ink = bone()](const char* name, const char* base, LetterStyle letters,
                                      double leading) {
        return TextStyle{{}, name, base, {std::move(letters), leading, Align::Left, false, ink}};
    };
    LetterStyle figures = letters("Inter", "Medium", 3.6, 40, false);
    figures.features = {{"tnum", 1}};
    release_ = withTextStyles(
        release_, {style("Title", "", letters("Bebas Neue", "Bold", 46.62, 12, true), 0.86),
                   style("Artist", "", letters("Inter", "Medium", 8.6625, 240, true), 1.2),
                   style("Track title", "", letters("Bebas Neue", "Regular", 7.4, 30, false), 1.5),
                   style("Track figures", "Track title", std::move(figures), 1.5),
                   style("Side", "Artist", letters("Inter", "Medium", 3.4, 240, true), 1.5),
                   style("Small print", "", letters("Inter", "Medium", 4.1, 120, true), 1.2)});
}

/// Words keep what is their own: sizes, sides and colours of the place.
Result<void> Letterwork::follow(const std::string& layer, const std::string& name) {
    const std::string id = anywhere(layer);
    if (id.empty()) return fail(Fault::Internal, "there is no “" + layer + "”");
    change(id, [&](Layer& l) { std::get<TextContent>(l.content).style = style(name); });
    return {};
}

Result<void> Letterwork::listTracks() {
    const std::string id = anywhere("Tracks");
    if (id.empty()) return fail(Fault::Internal, "the sleeve has no tracks");
    change(id, [](Layer& l) {
        auto& text = std::get<TextContent>(l.content);
        text.spec.text.clear();
        text.tracks.emplace();
        text.spec.frame = InTable{.width = 74, .gap = 4, .gutter = 10, .grid = 11.1, .hangs = false};
        l.placement.position = {22, 52};
    });
    release_ = withStyleOf(release_, panel_, id, style("Track title"));
    release_ = withTrackLettersOf(release_, panel_, id, kFiguresPaint, style("Track figures"));
    release_ = withTrackLettersOf(release_, panel_, id, kHeadingsPaint, style("Side"));
    return {};
}

/// The label's name once round, its number in the middle.
void Letterwork::seal() {
    constexpr Vec2 kMiddle{40, 211};
    constexpr double kRadius = 14.5;
    Layer ring;
    ring.name = "Seal";
    TextContent words;
    words.spec.text = "{label}  ·  {year}  ·";
    words.spec.frame = RoundCircle{kRadius, -90, false};
    words.spec.align = Align::Left;
    ring.content = words;
    ring.placement.position = kMiddle;
    const std::string id = put(ring);
    release_ = withStyleOf(release_, panel_, id, style("Small print"));
    // The words come round to where they began.
    ParagraphCache paragraphs(fonts_);
    change(id, [&](Layer& l) {
        auto& spec = std::get<TextContent>(l.content).spec;
        spec.letters.size = 4.1, spec.letters.tracking = 120;
        TextContent flat = std::get<TextContent>(l.content);
        flat.spec.frame = AtPoint{};
        const auto set = paragraphs.get(resolvedText(flat, *release_));
        const double round = 2 * std::numbers::pi * kRadius, width = set->lines.front().width;
        const double letters = double(set->letters.size());
        spec.letters.tracking += (round - width) / letters / spec.letters.size * 1000;
    });
    Layer number;
    number.name = "Seal number";
    TextContent middle;
    middle.spec.text = "{catalogue}";
    middle.spec.letters = letters("Bebas Neue", "Regular", 7, 20, true);
    middle.spec.align = Align::Centre, middle.colour = bone();
    number.content = middle;
    number.placement.position = {kMiddle.x, kMiddle.y - 4.2};
    put(number);
}

/// As large as the cover is wide, between the sky and the keeper.
Result<void> Letterwork::titleBehind() {
    const std::string lettering = named("Lettering"), keeper = named("Keeper"), title = anywhere("Title");
    if (lettering.empty() || keeper.empty() || title.empty())
        return fail(Fault::Internal, "the take of the keeper's hair lacks words");
    size_t below = 0;
    while (below < stack().size() && stack()[below]->id != keeper) ++below;
    release_ = withMovedLayer(release_, panel_, lettering, {}, below + 1);
    // He makes room, so that every letter can be told.
    for (const std::string& id : {wholeFigureOf(stack(), keeper), named(kHair)})
        change(id, [](Layer& l) { l = moved(std::move(l), {330, 40}); });
    change(title, [](Layer& l) {
        auto& spec = std::get<TextContent>(l.content).spec;
        spec.text = "Slack\nTide";
        spec.frame = AtPoint{};
        spec.letters.size = 880;
        l.placement.position = {180, 150};
    });
    const LayerPtr first = findLayer(stack(), title);
    Layer second = *first;
    second.id.clear(), second.name = "Almanac";
    auto& rest = std::get<TextContent>(second.content).spec;
    rest.text = "Almanac", rest.letters.size = 300, rest.letters.tracking = 60;
    second.placement.position = {190, 1690};
    put(std::move(second), title);
    change(anyNamed("Artist line"), [](Layer& l) {
        auto& spec = std::get<TextContent>(l.content).spec;
        spec.align = Align::Left, spec.letters.size = 66, spec.letters.tracking = 140;
        l.placement.position = {190, 2740};
    });
    change(anyNamed("Rule"), [](Layer& l) { l.placement.position = {520, 2690}; });
    return {};
}

} // namespace

Result<ReleasePtr> withLetterwork(const ReleasePtr& release) {
    Letterwork work(release);
    if (auto done = work.all(); !done) return tl::unexpected(done.error());
    return work.release();
}

Result<ReleasePtr> withTitleBehind(const ReleasePtr& release) {
    Letterwork work(release);
    if (auto done = work.behind(); !done) return tl::unexpected(done.error());
    return work.release();
}

} // namespace glyptos::demo
