#include "file/json_values.h"
#include "file/release_json.h"
#include "release/wall.h"

namespace glyptos {
namespace {

Json toJson(const Brief& b) {
    Json tracks = Json::array();
    for (const Track& t : b.tracks)
        tracks.push_back({{"side", t.side}, {"title", t.title}, {"seconds", t.seconds}});
    return {{"artist", b.artist},     {"title", b.title}, {"label", b.label}, {"catalogue", b.catalogue},
            {"year", b.year},         {"tracks", tracks}, {"mood", b.mood},   {"genre", b.genre},
            {"audience", b.audience}, {"notes", b.notes}};
}

Json toJson(const Layer& layer);

Json toJson(const Stack& stack) {
    Json out = Json::array();
    for (const LayerPtr& layer : stack) out.push_back(toJson(*layer));
    return out;
}

void addContent(Json& out, const PictureContent& p) {
    out["kind"] = "picture";
    out.update(toJson(p));
}

void addContent(Json& out, const TextContent& t) {
    out["kind"] = "text";
    out["text"] = t.spec.text;
    out["family"] = t.spec.family;
    out["style"] = t.spec.style;
    out["size"] = t.spec.size;
    out["tracking"] = t.spec.tracking;
    out["leading"] = t.spec.leading;
    out["align"] = kAlignNames[int(t.spec.align)];
    out["measure"] = t.spec.measure;
    out = withInk(std::move(out), "colour", t.colour);
    out["capitals"] = t.capitals;
}

void addContent(Json& out, const FillContent& f) {
    out["kind"] = "fill";
    out["paint"] = toJson(f.paint);
}

void addContent(Json& out, const GroupContent& g) {
    out["kind"] = "group";
    if (g.passing) out["passing"] = true;
    out["layers"] = toJson(g.layers);
}

void addContent(Json& out, const ShapeContent& s) {
    out["kind"] = "shape";
    out.update(toJson(s));
}

void addContent(Json& out, const EchoContent& e) {
    out["kind"] = "echo";
    out["piece"] = e.piece;
    out["panel"] = e.panel;
    out["take"] = e.take;
    out["bleed"] = e.bleed;
}

Json toJson(const Layer& layer) {
    Json out{{"id", layer.id},
             {"name", layer.name},
             {"on", layer.on},
             {"opacity", layer.opacity},
             {"blend", infoOf(layer.blend).id},
             {"placement", toJson(layer.placement)}};
    if (layer.clipped) out["clipped"] = true;
    if (layer.locked) out["locked"] = true;
    if (layer.mask) out["mask"] = toJson(*layer.mask);
    std::visit([&](const auto& content) { addContent(out, content); }, layer.content);
    return out;
}

Json toJson(const Piece& piece) {
    Json values = Json::object(), takes = Json::array();
    for (const auto& [id, value] : piece.values) values[id] = value;
    for (const auto& take : piece.takes) {
        Json panels = Json::object();
        for (const Panel& panel : piece.flat->panels) panels[panel.id] = toJson(take->stack(panel.id));
        takes.push_back({{"id", take->id}, {"panels", panels}});
    }
    Json out{{"id", piece.id},   {"name", piece.name},       {"form", piece.form->id},
             {"values", values}, {"current", piece.current}, {"takes", takes}};
    for (const auto& [panel, reference] : piece.references) out["references"][panel] = toJson(reference);
    return out;
}

} // namespace

std::string releaseToJson(const Release& release) {
    Json sources = Json::array(), pieces = Json::array(), palette = Json::array();
    for (const SourcePtr& s : release.sources)
        sources.push_back({{"id", s->id},
                           {"name", s->name},
                           {"format", s->format},
                           {"width", s->width},
                           {"height", s->height},
                           {"facts", toJson(s->facts)}});
    for (const Swatch& s : release.palette)
        palette.push_back({{"id", s.id}, {"name", s.name}, {"colour", toHex(s.colour)}});
    for (const PiecePtr& p : release.pieces) pieces.push_back(toJson(*p));
    const Json all{{"version", kReleaseFormatVersion},
                   {"brief", toJson(release.brief)},
                   {"nextId", release.nextId},
                   {"linearLight", release.linearLight},
                   {"palette", palette},
                   {"sources", sources},
                   {"pieces", pieces},
                   {"wall", toJson(release.wall->take().stack(kWallId))}};
    // What is not UTF-8 was made so when it came in; should any be left, the rest is saved all the same.
    return all.dump(1, ' ', false, Json::error_handler_t::replace) + "\n";
}

} // namespace glyptos
