#include "file/release_json/layer_codec.h"

#include "file/release_json/fold.h"
#include "file/release_json/mask_codec.h"
#include "file/release_json/paint_codec.h"
#include "file/release_json/painted_codec.h"
#include "file/release_json/placing_codec.h"
#include "file/release_json/shape_codec.h"
#include "file/release_json/text_codec.h"
#include "file/release_json/treatment_codec.h"
#include "file/release_json/warp_codec.h"
#include "release/edits/edits.h"
#include "release/limits.h"
#include "release/walks.h"

namespace glyptos {
namespace {

/// Where a content is read: the layer's entry, what is known round it, and how deep in groups it lies.
struct At {
    const Entry& layer;
    LayerReading& reading;
    int depth;
};

/// What a content is told with.
struct To {
    Unit unit;
    const NodeTelling& inside;
};

/// How each kind of content is told, written into its layer's object, and read.
template <class T>
struct Codec;

template <>
struct Codec<PictureContent> {
    static bool reads(const std::string& kind) { return kind == "picture"; }
    static void write(Json& out, const PictureContent& p, const To&) {
        out["kind"] = "picture";
        out.update(toJson(p));
    }
    static PictureContent read(const At& at) { return readPicture(at.layer); }
};

template <>
struct Codec<TextContent> {
    static bool reads(const std::string& kind) { return kind == "text"; }
    static void write(Json& out, const TextContent& t, const To&) { writeText(out, t); }
    static TextContent read(const At& at) { return readText(at.layer); }
};

template <>
struct Codec<FillContent> {
    static bool reads(const std::string& kind) { return kind == "fill"; }
    static void write(Json& out, const FillContent& f, const To&) {
        out["kind"] = "fill";
        out["paint"] = toJson(f.paint);
    }
    /// Before version 2 a fill was one colour or an even run over the panel.
    static FillContent read(const At& at) {
        const Entry& e = at.layer;
        if (e.has("paint")) return {readPaint(e.at("paint"))};
        const Rgba first = readColour(e, "colour");
        if (!e.has("to")) return {Ink(first)};
        return {evenRun(at.reading.area, e.number("turn"), first, readColour(e, "to"))};
    }
};

template <>
struct Codec<ShapeContent> {
    static bool reads(const std::string& kind) { return kind == "shape"; }
    static void write(Json& out, const ShapeContent& s, const To&) {
        out["kind"] = "shape";
        out.update(toJson(s));
    }
    static ShapeContent read(const At& at) { return readShape(at.layer); }
};

template <>
struct Codec<EchoContent> {
    static bool reads(const std::string& kind) { return kind == "echo"; }
    static void write(Json& out, const EchoContent& e, const To&) {
        out.update(
            {{"kind", "echo"}, {"piece", e.piece}, {"panel", e.panel}, {"take", e.take}, {"bleed", e.bleed}});
    }
    static EchoContent read(const At& at) {
        const Entry& e = at.layer;
        return {e.text("piece"), e.text("panel"), e.text("take"), e.flag("bleed")};
    }
};

template <>
struct Codec<PaintedContent> {
    static bool reads(const std::string& kind) { return kind == "paint"; }
    static void write(Json& out, const PaintedContent& p, const To&) {
        out.update(
            {{"kind", "paint"}, {"bits", 8 * p.tiles->format().bytesPerSample}, {"tiles", toJson(*p.tiles)}});
        if (p.holes) out["holes"] = toJson(*p.holes);
    }
    static PaintedContent read(const At& at) {
        const Entry& e = at.layer;
        const double bits = e.number("bits");
        if (bits != 8 && bits != 16) e.wrong("has pixels of an unknown depth", Fault::Unsupported);
        PaintedContent out{
            readTiles(e.at("tiles"), bits == 16 ? kDeepPaintPixels : kPaintPixels, at.reading.tiles),
            nullptr};
        if (e.has("holes")) out.holes = readTiles(e.at("holes"), kMaskPixels, at.reading.tiles);
        return out;
    }
};

template <>
struct Codec<GroupContent> {
    static bool reads(const std::string& kind) { return kind == "group"; }
    static void write(Json& out, const GroupContent& g, const To& to) {
        out["kind"] = "group";
        if (g.passing) out["passing"] = true;
        out["layers"] = toJson(g.layers, to.unit, to.inside);
    }
    static GroupContent read(const At& at) {
        return {readStack(at.layer.at("layers"), at.reading, at.depth + 1),
                at.layer.flagOr("passing", false)};
    }
};

template <>
struct Codec<CodeContent> {
    static bool reads(const std::string& kind) { return kind == "code"; }
    static void write(Json& out, const CodeContent& c, const To&) {
        out.update({{"kind", "code"},
                    {"code", kCodeKindIds[size_t(c.kind)]},
                    {"text", c.text},
                    {"bars", withInk(Json{}, "colour", c.bars)}});
        if (c.ground) out["ground"] = withInk(Json{}, "colour", *c.ground);
    }
    static CodeContent read(const At& at) {
        const Entry& e = at.layer;
        CodeContent out{e.oneOf<CodeKind>("code", kCodeKindIds), e.text("text"),
                        readInk(e.at("bars"), "colour"), std::nullopt};
        if (e.has("ground")) out.ground = readInk(e.at("ground"), "colour");
        return out;
    }
};

template <>
struct Codec<GradeContent> {
    static bool reads(const std::string& kind) { return kind == "grade"; }
    static void write(Json& out, const GradeContent&, const To&) { out["kind"] = "grade"; }
    static GradeContent read(const At&) { return {}; }
};

BlendMode readBlend(const Entry& e) {
    const std::string name = e.text("blend");
    const auto blend = blendModeFromId(name);
    if (!blend)
        throw Wrong{Fault::Unsupported, e.path("blend") + ": the blend mode “" + name + "” is not known"};
    return *blend;
}

std::shared_ptr<const Warp> readLayerWarp(const Entry& e, const Layer& layer, const LayerReading& reading) {
    if (isFrameless(layer)) e.wrong("warps a fill or a grade, which has no frame");
    auto out = readWarp(e, reading.tiles);
    // What is as large as its content is warped as that is; all else by a box of its own.
    const bool hasOwn = layer.as<TextContent>() || layer.as<ShapeContent>();
    if (out && !hasOwn && out->box.empty()) e.wrong("has no box");
    return out;
}

} // namespace

std::string LayerReading::uniqueId(const Entry& e) {
    std::string id = e.text("id");
    if (id.empty() || !ids.insert(id).second)
        throw Wrong{Fault::Damaged, e.path("id") + " is empty or used twice"};
    return id;
}

void LayerReading::known(const std::string& source, const Entry& e) const {
    if (!release.source(source))
        throw Wrong{Fault::Damaged, e.path("source") + " names a picture that the file does not list"};
}

Json toJson(const Layer& layer, Unit unit, const NodeTelling& inside) {
    Json out{{"id", layer.id},
             {"name", layer.name},
             {"on", layer.on},
             {"opacity", layer.opacity},
             {"blend", infoOf(layer.blend).id},
             {"placement", toJson(layer.placement)}};
    if (layer.clipped) out["clipped"] = true;
    if (layer.locked) out["locked"] = true;
    if (!layer.spot.empty()) out["spot"] = layer.spot;
    if (layer.mask) out["mask"] = toJson(*layer.mask);
    if (layer.warp) out["warp"] = toJson(*layer.warp);
    if (layer.treatments) out["treatments"] = toJson(*layer.treatments, unit);
    std::visit(
        [&]<class T>(const T& content) {
            Codec<T>::write(out, content, {unit, inside});
        },
        layer.content);
    return out;
}

Json toJson(const Stack& stack, Unit unit, const NodeTelling& inside) {
    Json out = Json::list();
    for (const LayerPtr& layer : stack)
        out.push_back(inside.layer ? inside.layer(layer, unit) : toJson(*layer, unit));
    return out;
}

LayerPtr readLayer(const Entry& e, LayerReading& reading, int depth) {
    auto layer = std::make_shared<Layer>();
    layer->id = reading.uniqueId(e);
    layer->name = e.text("name");
    layer->on = e.flag("on");
    layer->opacity = e.between("opacity", 0, 1);
    layer->blend = readBlend(e);
    layer->placement = readPlacement(e.at("placement"));
    layer->clipped = e.flagOr("clipped", false);
    layer->locked = e.flagOr("locked", false);
    layer->spot = e.textOr("spot", {});
    if (e.has("mask")) layer->mask = std::make_shared<const Mask>(readMask(e.at("mask"), reading.tiles));
    const std::string kind = e.text("kind");
    auto content = readKind<Content, Codec>(kind, At{e, reading, depth});
    if (!content) e.wrong("is a layer of the unknown kind “" + kind + "”", Fault::Unsupported);
    layer->content = std::move(*content);
    if (e.has("warp")) layer->warp = readLayerWarp(e.at("warp"), *layer, reading);
    if (e.has("treatments"))
        layer->treatments = std::make_shared<const Treatments>(
            readTreatments(e.at("treatments"), {reading.unit, reading.tiles, reading.looks}));
    eachSource(*layer, [&](const std::string& source) { reading.known(source, e); });
    return layer;
}

Stack readStack(const Entry& e, LayerReading& reading, int depth) {
    if (depth > kDeepestGroup) throw Wrong{Fault::TooLarge, e.path() + ": groups are nested too deeply"};
    Stack out;
    e.each([&](const Entry& layer) {
        out.push_back(reading.namedLayer ? reading.namedLayer(layer, reading)
                                         : readLayer(layer, reading, depth));
    });
    return out;
}

} // namespace glyptos
