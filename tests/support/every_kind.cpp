#include "support/every_kind.h"

#include "raster/noise.h"
#include "release/edits/palette_edits.h"
#include "release/edits/selection_edits.h"
#include "release/placing.h"
#include "release/warp.h"

namespace glyptos::test {
namespace {

constexpr int kWidth = 700, kHeight = 520;

Picture noise(int width, int height, uint32_t seed, bool opaque) {
    return pictureOf(width, height, [=](int x, int y) {
        const auto v = [&](uint32_t c) {
            return uint8_t(valueNoise(float(x) / 9, float(y) / 9, seed + c) * 255);
        };
        return std::array<uint8_t, 4>{v(0), v(1), v(2), opaque ? uint8_t(255) : v(3)};
    });
}

Layer layerOf(const char* name, Content content, Vec2 at) {
    Layer out;
    out.id = name, out.name = name;
    out.content = std::move(content);
    out.placement.position = at;
    return out;
}

LayerPtr inside(Layer layer) {
    return std::make_shared<const Layer>(std::move(layer));
}

std::shared_ptr<const Mask> maskOf(Mask::Form form, Vec2 at, double feather) {
    Mask mask;
    mask.form = std::move(form);
    mask.placement.position = at;
    mask.feather = feather;
    return std::make_shared<const Mask>(std::move(mask));
}

Gradient run(GradientKind kind, const Ink& first, const Ink& last) {
    Gradient g;
    g.kind = kind;
    g.from = {40, 40}, g.to = {400, 300};
    g.stops = {{0, first}, {1, last}};
    return g;
}

ShapeContent star(std::optional<Paint> fill, std::optional<Paint> stroke) {
    ShapeContent out;
    out.kind = ShapeKind::Star;
    out.width = out.height = 260;
    out.fill = std::move(fill);
    if (stroke)
        out.stroke =
            StrokeStyle{12, StrokePlace::Centre, LineJoin::Round, LineCap::Flat, LineCap::Flat, *stroke};
    return out;
}

} // namespace

ReleasePtr releaseOfEveryKind(HeldPictures& pictures) {
    auto r = std::make_shared<Release>(*screenRelease(kWidth, kHeight));
    r->palette = {{"tide", "Tide", {0.1f, 0.4f, 0.5f, 1}}};
    ReleasePtr release = r;
    release = withPiece(release, release->pieces[0]->form).value();
    release = pictures.add(release, kPhoto, noise(900, 700, 1, true));
    release = pictures.add(release, kGlow, noise(300, 300, 20, false));
    release = pictures.add(release, kWeave, noise(64, 48, 40, true));
    release = pictures.add(release, kVeil, noise(350, 260, 60, true));
    release = pictures.add(release, kStroke, noise(32, 32, 80, true));
    const PanelRef front = frontOf(release), other{release->pieces[1]->id, "front"};
    const auto tide = [](float alpha = 1) { return Ink({0.1f, 0.4f, 0.5f, alpha}, "tide"); };
    const Ink sand(0.9f, 0.8f, 0.6f, 1);
    const auto put = [&](const PanelRef& panel, Layer layer) {
        release = withLayer(release, panel, std::move(layer));
    };

    put(other, layerOf("ground of the other", FillContent{Paper{tide(), 0.4, 3, 7}}, {}));
    put(other, layerOf("weave of the other", FillContent{Pattern{kWeave, {5, 7}, 1.3, 11, 0.5, true}}, {}));

    Layer photo = layerOf("photo", PictureContent{kPhoto, {0.1, 0, 0.8, 1}}, {340, 250});
    photo.placement.turn = 7, photo.placement.scaleX = 0.8, photo.placement.scaleY = 0.7,
    photo.placement.skew = 6;
    put(front, photo);
    Layer clouds = layerOf("clouds", FillContent{Clouds{tide(), sand, 120, 5, 1.2, 3}}, {});
    clouds.blend = BlendMode::SoftLight;
    clouds.mask = maskOf(PictureContent{kVeil, {0, 0, 1, 1}}, {350, 260}, 0);
    put(front, clouds);
    Layer spiral = layerOf("spiral", FillContent{run(GradientKind::Spiral, tide(0.8f), {1, 1, 1, 0})}, {});
    spiral.blend = BlendMode::Overlay, spiral.opacity = 0.6;
    spiral.mask = maskOf(star(tide(), Pattern{kStroke, {}, 1, 0, 0, false}), {350, 260}, 9);
    put(front, spiral);
    put(front,
        layerOf("star", star(run(GradientKind::Linear, tide(), sand), Clouds{sand, tide(), 20, 3, 1, 5}),
                {180, 160}));
    Layer hole = layerOf("hole", star(Paper{tide(), 0.2, 2, 2}, std::nullopt), {520, 380});
    hole.blend = BlendMode::DestinationOut, hole.opacity = 0.7;
    Layer glow = layerOf("glow", PictureContent{kGlow, {0, 0, 1, 1}}, {520, 380});
    glow.blend = BlendMode::ColourDodge;
    GroupContent isolated{{inside(hole), inside(glow)}, false}, passing;
    TextContent words;
    words.spec.text = "Þórsmörk {title}", words.spec.letters.size = 90;
    words.colour = tide();
    Layer text = layerOf("words", words, {60, 420});
    text.mask = maskOf(run(GradientKind::Linear, tide(), {1, 1, 1, 1}), {}, 0);
    ShapeContent brushed = star(std::nullopt, run(GradientKind::Linear, tide(), sand));
    brushed.stroke->width = 26;
    brushed.stroke->brushed =
        BrushedLine{{}, {{kStroke, {}}, {{}, asFree(star(tide(), {})).contours}}, {0.3f, 1, 0.5f}};
    Brush& brush = brushed.stroke->brushed->brush;
    brush.tip = TipKind::Stamp, brush.spacing = 0.7, brush.turnJitter = 40, brush.spread = 1,
    brush.blend = BlendMode::Screen;
    put(front, layerOf("brushed", brushed, {440, 200}));
    brushed.stroke->brushed = BrushedLine{};
    brushed.stroke->brushed->brush.tip = TipKind::Dry, brushed.stroke->brushed->brush.follows = true;
    put(front, layerOf("bristled", brushed, {300, 330}));
    Layer clipped = layerOf("clipped", FillContent{run(GradientKind::Conic, tide(), sand)}, {});
    clipped.clipped = true, clipped.blend = BlendMode::Multiply;
    passing.layers = {inside(clipped), inside(text)};
    passing.passing = true;
    put(front, layerOf("isolated", isolated, {}));
    put(front, layerOf("passing", passing, {}));
    // Tilted, bent and kneaded: pixels, outlines, a group as a whole, and a mask that goes along.
    const auto warpOf = [](const Rect& box, bool isTilted, bool isBent, bool isKneaded) {
        Warp warp;
        warp.box = box;
        if (isTilted) warp.corners = std::array<Vec2, 4>{Vec2{0.1, 0}, {0.95, 0.1}, {1, 0.9}, {0, 1}};
        if (isBent) {
            BendGrid grid = readyBend(ReadyBend::Wave, 0.5, 0.7, 4, 3);
            grid.node(2, 1).across = Vec2{0.2, 0.05};
            warp.bend = std::make_shared<const BendSurface>(grid);
        }
        if (isKneaded) {
            KneadTip tip;
            tip.radius = 0.3, tip.height = 0.7;
            KneadStroke stroke({}, tip);
            for (const double x : {0.3, 0.4, 0.5}) stroke.moveTo({x, 0.35});
            stroke.finish();
            KneadField field = stroke.field();
            field.pulledIn = PulledIn::Mirror, field.strength = 1.2;
            warp.knead = std::make_shared<const KneadField>(field);
        }
        return std::make_shared<const Warp>(std::move(warp));
    };
    Layer bent = layerOf("bent photo", PictureContent{kGlow, {0, 0.1, 1, 0.9}}, {150, 380});
    bent.placement.turn = -12;
    bent.mask = maskOf(star(tide(), std::nullopt), {150, 380}, 4);
    bent = withWarp(bent, warpOf({0, 0, 300, 300}, true, true, true));
    put(front, bent);
    TextContent wave;
    wave.spec.text = "Slack {title}", wave.spec.letters.size = 60;
    wave.colour = sand;
    put(front, withWarp(layerOf("bent words", wave, {330, 90}), warpOf({}, false, true, true)));
    Layer sign = layerOf("sign", star(tide(0.9f), sand), {560, 300}),
          veil = layerOf("veil", FillContent{run(GradientKind::Radial, tide(0.3f), {1, 1, 1, 0})}, {});
    GroupContent board{{inside(veil), inside(sign)}, false};
    put(front,
        withWarp(layerOf("tilted group", board, {}), warpOf({420, 160, 280, 280}, true, false, false)));
    Layer echo = layerOf("echo", EchoContent{other.piece, "front", "", true}, {560, 120});
    echo.placement.scaleX = echo.placement.scaleY = 0.3, echo.placement.turn = -5;
    put(front, echo);
    // Painted, with a painted mask.
    auto pixels = std::make_shared<PixelTiles>(kPaintPixels),
         deep = std::make_shared<PixelTiles>(kDeepPaintPixels),
         values = std::make_shared<PixelTiles>(kMaskPixels);
    const auto paint = [](PixelTiles& tiles, const IntRect& area, uint32_t seed) {
        tiles.change(area, [&](const PixelPart& part) {
            const size_t bytes = size_t(part.area.w) * tiles.format().pixelBytes();
            for (int y = part.area.y; y < part.area.bottom(); ++y)
                for (size_t i = 0; i < bytes; ++i)
                    part.row(y)[i] = uint8_t(255 * valueNoise(float(i) / 40, float(y) / 9, seed));
        });
    };
    paint(*pixels, {-90, -60, 300, 200}, 5);
    paint(*deep, {0, 0, 120, 90}, 6);
    paint(*values, {-40, -30, 260, 180}, 7);
    Layer painted = layerOf("painted", PaintedContent{pixels, nullptr}, {300, 200});
    painted.placement.turn = 12, painted.placement.scaleX = 1.4;
    const auto hints = std::make_shared<const CutoutHints>(
        CutoutHints{{10, 20.5, 300, 200},
                    {{true, {{12, 40}, {-3.25, 1e5}}, 7.5}, {false, {}, 1}, {false, {{0, 0}}, 0.5}}});
    painted.mask = maskOf(PaintedMask{values, true, hints}, {330, 220}, 3);
    put(front, painted);
    Layer mend = layerOf("mend", PaintedContent{deep, values}, {90, 330});
    mend.placement.scaleX = mend.placement.scaleY = 0.6;
    put(front, mend);
    // Treated: every kind of figure, every family; on a picture, words, a group, all beneath, and one not
    // known.
    const auto treatment = [](const char* kind,
                              std::initializer_list<std::pair<const char*, FigureValue>> figures) {
        Treatment out = newTreatment(*treatmentKind(kind), 1);
        for (const auto& [id, value] : figures) out.figures.set(out.kind->find(id), value);
        return out;
    };
    const auto treated = [](Layer layer, Treatments list) {
        layer.treatments = std::make_shared<const Treatments>(std::move(list));
        return layer;
    };
    LookTable table;
    table.title = "Nátt", table.most = {1.5f, 1, 1};
    for (int i = 0; i < 8; ++i)
        table.entries.push_back({float(i & 1), 0.1f + 0.7f * float(i >> 1 & 1), 1.0f / 3 * float(i >> 2)});
    Treatments grades{
        treatment("tone-curve", {{"all", ToneCurve{{0, 0.05}, {0.4, 0.6}, {1, 1}}}, {"black", 0.02}}),
        treatment("look-table", {{"file", kept(table)}}),
        treatment("colour-run", {{"run", ColourRun{{0, tide()}, {1, sand}}}, {"reversed", 1.0}})};
    grades[1].opacity = 0.5, grades[2].blend = BlendMode::SoftLight, grades[2].opacity = 0.4;
    grades[0].mask = maskOf(PaintedMask{values, false, nullptr}, {330, 220}, 2);
    grades[1].mask = maskOf(run(GradientKind::Linear, tide(), {1, 1, 1, 1}), {}, 0);
    put(front,
        treated(layerOf("treated photo", PictureContent{kPhoto, {0.2, 0.2, 0.4, 0.4}}, {420, 330}), grades));
    Treatment shadow = treatment("cast-shadow", {{"colour", tide()}, {"distance", 9.5}, {"softness", 6.0}});
    TextContent listed;
    listed.spec.letters.size = 22, listed.spec.leading = 1.4;
    listed.spec.frame =
        InTable{.width = 300, .gap = 12, .strips = 2, .gutter = 30, .leader = ".", .hangs = true};
    listed.tracks.emplace();
    listed.tracks->facts.push_back(TrackFact::Performer);
    listed.tracks->figures.letters = LetterStyle{.family = "Bebas Neue", .size = 24};
    listed.colours = {sand};
    put(front, layerOf("tracks", listed, {120, 430}));
    TextContent lit;
    lit.spec.text = "Ljós {title}", lit.spec.letters.size = 50, lit.colour = sand;
    Treatment unknown;
    unknown.unknown = R"({"kind":"of another time","figure":[1,2.5,{"deep":"þ"}]})";
    Treatment asleep = treatment("soft-blur", {{"sigma", 12.0}});
    asleep.on = false;
    put(front,
        treated(layerOf("treated words", lit, {40, 250}),
                {treatment("turning-blur", {{"middle", std::optional<Vec2>(Vec2{70, 240})}, {"turn", 3.0}}),
                 shadow, unknown, asleep, treatment("outline", {{"place", 2.0}, {"width", 2.0}})}));
    GroupContent treatedGroup{{inside(layerOf("dot", star(sand, std::nullopt), {600, 450}))}, false};
    put(front, treated(layerOf("treated group", treatedGroup, {}),
                       {treatment("ghosts", {{"step", 8.0}, {"direction", 200.0}})}));
    put(front,
        treated(layerOf("grade", GradeContent{}, {}),
                {treatment("light-contrast", {{"contrast", 0.1}}), treatment("grain", {{"amount", 0.1}})}));
    Layer haze = treated(layerOf("haze", GradeContent{}, {}), {treatment("soft-blur", {{"sigma", 3.0}})});
    haze.opacity = 0.4;
    haze.mask = maskOf(star(tide(), std::nullopt), {200, 200}, 5);
    put(front, haze);
    CodeContent ean{CodeKind::Ean13, "200000000417", tide(), sand},
        qr{CodeKind::Qr, "{title}", sand, std::nullopt};
    for (const auto& [name, code, at] :
         {std::tuple{"ean", ean, Vec2{520, 440}}, std::tuple{"qr", qr, Vec2{640, 60}}}) {
        Layer layer = layerOf(name, code, at);
        layer.placement.scaleX = layer.placement.scaleY = 1.5, layer.placement.turn = 4;
        put(front, layer);
    }
    put(front, layerOf("tint", FillContent{Ink({0.1f, 0.4f, 0.5f, 0.15f}, "tide")}, {}));
    release = withSelection(release, front, Selection{values, 1.5});
    release = withKeptSelection(release, front, "Hár");
    return release;
}

} // namespace glyptos::test
