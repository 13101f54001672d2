#include "treatwork.h"

#include "file/looks.h"
#include "release/edits/light_edits.h"
#include "release/placing.h"
#include "release/walks.h"
#include "release/warp.h"
#include "render/treated_picture.h"
#include "work.h"

namespace glyptos::demo {
namespace {

using Setting = std::pair<const char*, FigureValue>;

/// Lengths in units of the piece.
Treatment treatment(const char* kind, const std::vector<Setting>& settings, double unit) {
    Treatment out = newTreatment(*treatmentKind(kind), unit);
    for (const auto& [id, value] : settings) out.figures.set(out.kind->find(id), value);
    return out;
}

class Treatwork : public Work {
  public:
    using Work::Work;
    Result<void> all() {
        if (auto done = inNewTake("C", [this] { return fog(); }); !done) return done;
        if (auto done = inNewTake("A", [this] { return night(); }); !done) return done;
        if (auto done = inNewTake("A", [this] { return papers(); }); !done) return done;
        panel_ = {release_->pieces[1]->id, "front"};
        if (auto done = inNewTake("A", [this] { return brass(); }); !done) return done;
        panel_ = {release_->pieces[2]->id, "front"};
        return inNewTake("A", [this] { return twoInks(); });
    }

  private:
    Result<void> fog();
    Result<void> night();
    Result<void> papers();
    Result<void> brass();
    Result<void> twoInks();
    void treat(const std::string& id, Treatments list) {
        release_ = withChangedLayer(release_, panel_, id, [&](Layer& l) {
            l.treatments = std::make_shared<const Treatments>(std::move(list));
        });
    }
    std::string grade(const char* name, Treatments list) {
        Layer out;
        out.name = name, out.content = GradeContent{};
        out.treatments = std::make_shared<const Treatments>(std::move(list));
        return put(std::move(out), {});
    }
    Treatment look(const char* name, double opacity) {
        for (const NamedLook& one : shippedLooks()) {
            if (one.name != name) continue;
            Treatment out = asOne(one.treatments, one.name, fonts_).front();
            out.opacity = opacity;
            return out;
        }
        return {};
    }
    /// The layer of words that is set in the largest size, of all on the panel.
    LayerPtr largestWords() const {
        LayerPtr out;
        eachLayer(stack(), [&](const LayerPtr& layer) {
            const auto* text = layer->as<TextContent>();
            if (text && (!out || text->spec.letters.size > out->as<TextContent>()->spec.letters.size))
                out = layer;
        });
        return out;
    }
};

/// Pale, blurred along the wind, the letters ghosted off with it.
Result<void> Treatwork::fog() {
    const double px = unitsPerMm(true);
    const auto sea = firstLayer(stack(), [](const Layer& l) { return l.name == "Sea and sky"; });
    if (!sea) return fail(Fault::Internal, "the take of the keeper has no sea");
    treat(sea->id, {treatment("angle-blur", {{"angle", -4.0}, {"length", 260.0}}, px),
                    treatment("soft-blur", {{"sigma", 9.0}}, px)});
    eachLayer(Stack(stack()), [&](const LayerPtr& layer) {
        if (layer->name == "Keeper") treat(layer->id, {treatment("edge-fade", {{"width", 90.0}}, px)});
    });
    const std::string haze = grade(
        "Fog",
        {treatment("tone-curve", {{"all", ToneCurve{{0, 0.3}, {0.4, 0.58}, {1, 0.95}}}}, px),
         treatment("chroma", {{"amount", -0.45}, {"spareSkin", 1.0}}, px),
         treatment("three-way-tint",
                   {{"shadowTint", 0.18}, {"shadowHue", 235.0}, {"lightTint", 0.1}, {"lightHue", 90.0}}, px),
         treatment("grain", {{"amount", 0.12}, {"size", 3.5}}, px)});
    // The words stand before the fog.
    const auto words = firstLayer(stack(), [](const Layer& l) { return l.name == "Lettering"; });
    if (!words || haze.empty()) return fail(Fault::Internal, "the take of the keeper has no words");
    release_ = withOrder(release_, panel_, {words->id}, Nearer::Front);
    if (const LayerPtr title = largestWords())
        treat(title->id,
              {treatment(
                  "ghosts",
                  {{"count", 5.0}, {"direction", -4.0}, {"step", 95.0}, {"fade", 0.5}, {"softness", 16.0}},
                  px)});
    return {};
}

/// Three looks, each at part of its strength, and the lamp left burning.
Result<void> Treatwork::night() {
    const double px = unitsPerMm(true);
    grade("Night of three looks", {look("Night watch", 0.75), look("Slack water", 0.5), look("Red sky", 0.3),
                                   treatment("corners", {{"amount", 0.55}, {"size", 0.5}}, px)});
    const auto words = firstLayer(stack(), [](const Layer& l) { return l.name == "Lettering"; });
    if (words) release_ = withOrder(release_, panel_, {words->id}, Nearer::Front);
    Gradient glow;
    glow.kind = GradientKind::Radial;
    glow.from = {910, 1060}, glow.to = {1500, 1060};
    glow.stops = {
        {0, Ink{1, 0.8f, 0.42f, 0.85f}}, {0.3, Ink{1, 0.6f, 0.25f, 0.3f}}, {1, Ink{1, 0.5f, 0.2f, 0}}};
    Layer lamp;
    lamp.name = "Lamp burning", lamp.content = FillContent{glow}, lamp.blend = BlendMode::Screen;
    put(std::move(lamp), {});
    return {};
}

/// The harbour cut from three papers, and one strong colour over all of it.
Result<void> Treatwork::papers() {
    const double px = unitsPerMm(true);
    grade("Three papers", {treatment("cut-paper",
                                     {{"papers", 3.0},
                                      {"dark", Ink{0.08f, 0.15f, 0.24f, 1}},
                                      {"middle", Ink{0.72f, 0.4f, 0.33f, 1}},
                                      {"light", Ink{0.95f, 0.86f, 0.68f, 1}},
                                      {"plain", 44.0},
                                      {"closely", 0.45},
                                      {"lighter", 0.22},
                                      {"shadow", 0.55},
                                      {"shadowSize", 16.0}},
                                     px)});
    Layer over;
    over.name = "Ember over all", over.content = FillContent{Ink{0.93f, 0.42f, 0.14f, 1}};
    over.blend = BlendMode::Overlay, over.opacity = 0.8;
    put(std::move(over), {});
    const auto words = firstLayer(stack(), [](const Layer& l) { return l.name == "Lettering"; });
    if (!words) return fail(Fault::Internal, "the cover has no words");
    release_ = withOrder(release_, panel_, {words->id}, Nearer::Front);
    return {};
}

/// Letters that answer as metal on a ground that answers as cloth, both under one lamp, laid down.
Result<void> Treatwork::brass() {
    const LayerPtr title = largestWords();
    if (!title) return fail(Fault::Internal, "the sleeve has no title");
    const std::string id = title->id;
    for (const LayerPtr& layer : Stack(stack()))
        if (layer->id != id && layer->name != "Artist line")
            release_ = withoutLayer(release_, panel_, layer->id);
    const Rect area = release_->piece(panel_.piece)->flat->panel("front")->withBleed();
    Layer canvas = pictureLayer("Tarred canvas", "paper.jpg", area.centre(), 1);
    canvas.placement = covering(area, *source("paper.jpg"));
    canvas.treatments = std::make_shared<const Treatments>(Treatments{
        treatment("tone-curve", {{"all", ToneCurve{{0, 0}, {0.6, 0.08}, {1, 0.24}}}}, 1),
        treatment("chroma", {{"amount", -0.7}}, 1),
        treatment("three-way-tint",
                  {{"shadowHue", 60.0}, {"shadowTint", 0.12}, {"middleHue", 65.0}, {"middleTint", 0.1}}, 1),
        treatment("scene-light",
                  {{"ambient", 0.5},
                   {"relief", 1.6},
                   {"detail", 0.35},
                   {"roughness", 0.45},
                   {"firstAt", std::optional<Vec2>(Vec2{90, 60})},
                   {"firstAbove", 110.0},
                   {"firstReach", 190.0},
                   {"firstLight", 2.6}},
                  1)});
    const std::string ground = put(std::move(canvas), {});
    release_ = withOrder(release_, panel_, {ground}, Nearer::Back);
    const auto metal = [&](double width) {
        return Treatments{
            treatment("bevel",
                      {{"width", width},
                       {"height", 0.9},
                       {"material", 1.0},
                       {"roughness", 0.25},
                       {"direction", -120.0},
                       {"elevation", 38.0}},
                      1),
            treatment("grain", {{"amount", 0.06}, {"size", 0.2}, {"middles", 0.0}}, 1),
            treatment("lifted-shadow", {{"height", 4.0}, {"direction", 60.0}, {"strength", 0.75}}, 1)};
    };
    const auto inBrass = [](Layer& l) {
        std::get<TextContent>(l.content).colour = Ink{0.78f, 0.58f, 0.24f, 1};
    };
    release_ = withChangedLayer(release_, panel_, id, inBrass);
    treat(id, metal(2.2));
    if (const auto artist = firstLayer(stack(), [](const Layer& l) { return l.name == "Artist line"; })) {
        release_ = withChangedLayer(release_, panel_, artist->id, inBrass);
        treat(artist->id, metal(0.7));
    }
    // A rope above and below, and all of it seen from the foot.
    for (const double y : {0.18, 0.6}) {
        Layer rope = pictureLayer("Rope ornament", "rope.png", {area.centre().x, area.y + y * area.h}, 1);
        rope.placement.scaleX = rope.placement.scaleY = 0.8 * area.w / source("rope.png")->width;
        rope.treatments = std::make_shared<const Treatments>(Treatments{
            treatment("ink-map",
                      {{"dark", Ink{0.2f, 0.11f, 0.03f, 1}}, {"light", Ink{0.95f, 0.78f, 0.42f, 1}}}, 1),
            treatment("lifted-shadow", {{"height", 3.0}, {"direction", 60.0}, {"strength", 0.7}}, 1)});
        put(std::move(rope), {});
    }
    std::vector<std::string> ids;
    for (const LayerPtr& layer : stack())
        if (layer->id != ground) ids.push_back(layer->id);
    const auto grouped = withGrouped(release_, panel_, ids);
    if (!grouped) return tl::unexpected(grouped.error());
    release_ = grouped->release;
    release_ = withChangedLayer(release_, panel_, grouped->id, [&](Layer& l) {
        l.name = "Brass, in perspective";
        Warp warp;
        warp.box = area;
        warp.corners = std::array<Vec2, 4>{Vec2{0.09, 0.06}, {0.91, 0.06}, {1, 0.97}, {0, 0.97}};
        l = withWarp(std::move(l), std::make_shared<const Warp>(std::move(warp)));
    });
    return {};
}

/// Words in two inks that do not quite meet, on the chart as a screen of dots in a third.
Result<void> Treatwork::twoInks() {
    const double px = unitsPerMm(true);
    const LayerPtr words = largestWords();
    if (!words) return fail(Fault::Internal, "the podcast tile has no words");
    for (const LayerPtr& layer : Stack(stack()))
        if (layer->as<PictureContent>())
            treat(layer->id, {treatment("halftone",
                                        {{"lines", 9.0},
                                         {"angle", 30.0},
                                         {"ink", Ink{0.13f, 0.32f, 0.36f, 1}},
                                         {"paper", Ink{0.95f, 0.9f, 0.78f, 1}}},
                                        px)});
    release_ = withChangedLayer(release_, panel_, words->id, [](Layer& l) {
        std::get<TextContent>(l.content).colour = Ink{0.2f, 0.07f, 0.06f, 1};
    });
    treat(words->id, {treatment("out-of-register",
                                {{"first", Ink{0.1f, 0.18f, 0.3f, 1}},
                                 {"second", Ink{0.85f, 0.28f, 0.18f, 1}},
                                 {"direction", 20.0},
                                 {"distance", 22.0}},
                                px),
                      treatment("outline", {{"colour", Ink{0.95f, 0.9f, 0.78f, 1}}, {"width", 14.0}}, px)});
    return {};
}

} // namespace

Result<ReleasePtr> withTreatwork(const ReleasePtr& release) {
    Treatwork work(release);
    if (auto done = work.all(); !done) return tl::unexpected(done.error());
    return work.release();
}

} // namespace glyptos::demo
