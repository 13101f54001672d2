#include "file/release_json.h"

#include "base/text.h"
#include "release/fields.h"

#include <algorithm>
#include <nlohmann/json.hpp>
#include <set>

namespace glyptos {
namespace {

using Json = nlohmann::ordered_json;

/// Thrown inside this file only: what is wrong, and where.
struct Wrong {
    Fault fault;
    std::string what;
};

constexpr int kDeepestGroup = 64;
constexpr const char* kAlignNames[] = {"left", "centre", "right"};

// ---- writing

Json toJson(const Brief& b) {
    Json tracks = Json::array();
    for (const Track& t : b.tracks)
        tracks.push_back({{"side", t.side}, {"title", t.title}, {"seconds", t.seconds}});
    return {{"artist", b.artist},       {"title", b.title}, {"label", b.label},
            {"catalogue", b.catalogue}, {"year", b.year},   {"tracks", tracks}};
}

Json toJson(const Placement& p) {
    return {{"x", p.position.x}, {"y", p.position.y}, {"scaleX", p.scaleX}, {"scaleY", p.scaleY},
            {"turn", p.turn},    {"flipX", p.flipX},  {"flipY", p.flipY}};
}

Json toJson(const Layer& layer);

Json toJson(const Stack& stack) {
    Json out = Json::array();
    for (const LayerPtr& layer : stack) out.push_back(toJson(*layer));
    return out;
}

void addContent(Json& out, const PictureContent& p) {
    out["kind"] = "picture";
    out["source"] = p.source;
    out["crop"] = {p.crop.x, p.crop.y, p.crop.w, p.crop.h};
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
    out["colour"] = toHex(t.colour);
    out["capitals"] = t.capitals;
}

void addContent(Json& out, const FillContent& f) {
    out["kind"] = "fill";
    out["colour"] = toHex(f.colour);
    if (f.to) out["to"] = toHex(*f.to);
    out["turn"] = f.turn;
}

void addContent(Json& out, const GroupContent& g) {
    out["kind"] = "group";
    if (g.passing) out["passing"] = true;
    out["layers"] = toJson(g.layers);
}

Json toJson(const Layer& layer) {
    Json out{{"id", layer.id},
             {"name", layer.name},
             {"on", layer.on},
             {"opacity", layer.opacity},
             {"blend", infoOf(layer.blend).id},
             {"placement", toJson(layer.placement)}};
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
    return {{"id", piece.id},   {"name", piece.name},       {"form", piece.form->id},
            {"values", values}, {"current", piece.current}, {"takes", takes}};
}

// ---- reading

/// An object and where it stands, for messages.
class Entry {
  public:
    Entry(const Json& json, std::string path)
        : json_(json)
        , path_(std::move(path)) {
        if (!json.is_object()) throw Wrong{Fault::Damaged, path_ + " should be an object"};
    }
    const Json& at(const char* key) const {
        if (!json_.contains(key)) throw Wrong{Fault::Damaged, path_ + "." + key + " is missing"};
        return json_[key];
    }
    std::string path(const char* key) const { return path_ + "." + key; }
    std::string text(const char* key) const {
        if (!at(key).is_string()) throw Wrong{Fault::Damaged, path(key) + " should be text"};
        return at(key).get<std::string>();
    }
    double number(const char* key) const {
        if (!at(key).is_number() || !std::isfinite(at(key).get<double>()))
            throw Wrong{Fault::Damaged, path(key) + " should be a number"};
        return at(key).get<double>();
    }
    int whole(const char* key, int least, int most) const {
        const double v = number(key);
        if (v != std::floor(v) || v < least || v > most)
            throw Wrong{Fault::Damaged, path(key) + " is out of range"};
        return static_cast<int>(v);
    }
    bool flag(const char* key) const {
        if (!at(key).is_boolean()) throw Wrong{Fault::Damaged, path(key) + " should be true or false"};
        return at(key).get<bool>();
    }
    Rgba colour(const char* key) const {
        const auto value = rgbaFromHex(text(key));
        if (!value) throw Wrong{Fault::Damaged, path(key) + " is not a colour"};
        return *value;
    }
    bool has(const char* key) const { return json_.contains(key); }
    template <class Read>
    void each(const char* key, Read read) const {
        if (!at(key).is_array()) throw Wrong{Fault::Damaged, path(key) + " should be a list"};
        size_t i = 0;
        for (const Json& item : at(key)) read(item, path(key) + "[" + std::to_string(i++) + "]");
    }
    template <class Read>
    void members(const char* key, Read read) const {
        if (!at(key).is_object()) throw Wrong{Fault::Damaged, path(key) + " should be an object"};
        for (const auto& [name, item] : at(key).items()) read(name, item, path(key) + "." + name);
    }

  private:
    const Json& json_;
    std::string path_;
};

Brief readBrief(const Json& json, const std::string& path) {
    const Entry e(json, path);
    Brief b{e.text("artist"), e.text("title"), e.text("label"), e.text("catalogue"), e.text("year"), {}};
    e.each("tracks", [&](const Json& item, const std::string& where) {
        const Entry t(item, where);
        b.tracks.push_back({t.text("side"), t.text("title"), t.whole("seconds", 0, 86400)});
    });
    return b;
}

class ReleaseReader {
  public:
    explicit ReleaseReader(const std::vector<std::shared_ptr<const Form>>& forms)
        : forms_(forms) {}

    Release read(const Json& json) {
        const Entry e(json, "release");
        if (e.number("version") > kReleaseFormatVersion)
            throw Wrong{Fault::Unsupported, "it was written by a newer version of Glyptos (format " +
                                                shortNumber(e.number("version")) +
                                                "); update Glyptos to open it"};
        release_.brief = readBrief(e.at("brief"), "brief");
        release_.nextId = e.whole("nextId", 1, 1'000'000'000);
        e.each("sources", [&](const Json& item, const std::string& where) { source(item, where); });
        e.each("pieces", [&](const Json& item, const std::string& where) { piece(item, where); });
        return std::move(release_);
    }

  private:
    void source(const Json& json, const std::string& where) {
        const Entry e(json, where);
        auto s = std::make_shared<Source>();
        s->id = e.text("id");
        if (s->id.size() != 32 || s->id.find_first_not_of("0123456789abcdef") != s->id.npos)
            throw Wrong{Fault::Damaged, e.path("id") + " is not an id"};
        s->name = e.text("name");
        s->format = e.text("format");
        s->width = e.whole("width", 1, 65000);
        s->height = e.whole("height", 1, 65000);
        release_.sources.push_back(std::move(s));
    }

    void piece(const Json& json, const std::string& where) {
        const Entry e(json, where);
        auto p = std::make_shared<Piece>();
        p->id = uniqueId(e);
        p->name = e.text("name");
        const std::string form = e.text("form");
        const auto found =
            std::find_if(forms_.begin(), forms_.end(), [&](const auto& f) { return f->id == form; });
        if (found == forms_.end())
            throw Wrong{Fault::Unsupported, where + " uses the form “" + form + "”, which is not installed"};
        p->form = *found;
        e.members("values", [&](const std::string& name, const Json& value, const std::string& at) {
            if (!value.is_number()) throw Wrong{Fault::Damaged, at + " should be a number"};
            p->values[name] = value.get<double>();
        });
        auto flat = workOut(*p->form, p->values);
        if (!flat) throw Wrong{Fault::Damaged, where + ": " + flat.error().message};
        p->flat = std::make_shared<const Flat>(std::move(*flat));
        e.each("takes", [&](const Json& item, const std::string& at) { take(*p, item, at); });
        if (p->takes.empty()) throw Wrong{Fault::Damaged, where + " has no take"};
        p->current = size_t(e.whole("current", 0, int(p->takes.size()) - 1));
        release_.pieces.push_back(std::move(p));
    }

    void take(Piece& piece, const Json& json, const std::string& where) {
        const Entry e(json, where);
        auto t = std::make_shared<Take>();
        t->id = e.text("id");
        e.members("panels", [&](const std::string& name, const Json& layers, const std::string& at) {
            if (!piece.flat->panel(name)) throw Wrong{Fault::Damaged, at + ": the form has no such panel"};
            t->stacks[name] = stack(layers, at, 0);
        });
        piece.takes.push_back(std::move(t));
    }

    Stack stack(const Json& json, const std::string& where, int depth) {
        if (!json.is_array()) throw Wrong{Fault::Damaged, where + " should be a list"};
        if (depth > kDeepestGroup) throw Wrong{Fault::TooLarge, where + ": groups are nested too deeply"};
        Stack out;
        for (const Json& item : json)
            out.push_back(layer(item, where + "[" + std::to_string(out.size()) + "]", depth));
        return out;
    }

    LayerPtr layer(const Json& json, const std::string& where, int depth) {
        const Entry e(json, where);
        auto layer = std::make_shared<Layer>();
        layer->id = uniqueId(e);
        layer->name = e.text("name");
        layer->on = e.flag("on");
        layer->opacity = e.number("opacity");
        if (layer->opacity < 0 || layer->opacity > 1)
            throw Wrong{Fault::Damaged, e.path("opacity") + " should lie between 0 and 1"};
        const auto blend = blendModeFromId(e.text("blend"));
        if (!blend)
            throw Wrong{Fault::Unsupported,
                        e.path("blend") + ": the blend mode “" + e.text("blend") + "” is not known"};
        layer->blend = *blend;
        const Entry p(e.at("placement"), e.path("placement"));
        layer->placement = {{p.number("x"), p.number("y")},
                            p.number("scaleX"),
                            p.number("scaleY"),
                            p.number("turn"),
                            p.flag("flipX"),
                            p.flag("flipY")};
        if (layer->placement.scaleX <= 0 || layer->placement.scaleY <= 0)
            throw Wrong{Fault::Damaged, where + ".placement has a scale that is not positive"};
        layer->content = content(e, where, depth);
        return layer;
    }

    Content content(const Entry& e, const std::string& where, int depth) {
        const std::string kind = e.text("kind");
        if (kind == "picture") return picture(e);
        if (kind == "text") return text(e);
        if (kind == "fill") {
            FillContent fill{e.colour("colour"), std::nullopt, e.number("turn")};
            if (e.has("to")) fill.to = e.colour("to");
            return fill;
        }
        if (kind == "group")
            return GroupContent{stack(e.at("layers"), where + ".layers", depth + 1),
                                e.has("passing") && e.flag("passing")};
        throw Wrong{Fault::Unsupported, where + " is a layer of the unknown kind “" + kind + "”"};
    }

    PictureContent picture(const Entry& e) {
        PictureContent out{e.text("source"), {}};
        if (!release_.source(out.source))
            throw Wrong{Fault::Damaged, e.path("source") + " names a picture that the file does not list"};
        double v[4] = {};
        size_t n = 0;
        e.each("crop", [&](const Json& item, const std::string& at) {
            if (!item.is_number() || n >= 4)
                throw Wrong{Fault::Damaged, at + " should be one of four numbers"};
            v[n++] = item.get<double>();
        });
        out.crop = {v[0], v[1], v[2], v[3]};
        if (n != 4 || out.crop.empty())
            throw Wrong{Fault::Damaged, e.path("crop") + " should be four numbers with an area"};
        return out;
    }

    static TextContent text(const Entry& e) {
        TextContent out;
        out.spec.text = e.text("text");
        out.spec.family = e.text("family");
        out.spec.style = e.text("style");
        out.spec.size = e.number("size");
        if (!(out.spec.size > 0)) throw Wrong{Fault::Damaged, e.path("size") + " should be positive"};
        out.spec.tracking = e.number("tracking");
        out.spec.leading = e.number("leading");
        const auto name = std::find(std::begin(kAlignNames), std::end(kAlignNames), e.text("align"));
        if (name == std::end(kAlignNames))
            throw Wrong{Fault::Damaged, e.path("align") + " should be left, centre or right"};
        out.spec.align = static_cast<Align>(name - std::begin(kAlignNames));
        out.spec.measure = e.number("measure");
        out.colour = e.colour("colour");
        out.capitals = e.flag("capitals");
        return out;
    }

    std::string uniqueId(const Entry& e) {
        std::string id = e.text("id");
        if (id.empty() || !ids_.insert(id).second)
            throw Wrong{Fault::Damaged, e.path("id") + " is empty or used twice"};
        return id;
    }

    const std::vector<std::shared_ptr<const Form>>& forms_;
    Release release_;
    std::set<std::string> ids_;
};

template <class Read>
auto guarded(std::string_view text, Read read) -> Result<decltype(read(Json()))> {
    try {
        return read(Json::parse(text));
    } catch (const nlohmann::json::exception& e) {
        return fail(Fault::Damaged, "its text is not valid JSON");
    } catch (const Wrong& w) {
        return fail(w.fault, w.what);
    }
}

} // namespace

std::string releaseToJson(const Release& release) {
    Json sources = Json::array(), pieces = Json::array();
    for (const SourcePtr& s : release.sources)
        sources.push_back({{"id", s->id},
                           {"name", s->name},
                           {"format", s->format},
                           {"width", s->width},
                           {"height", s->height}});
    for (const PiecePtr& p : release.pieces) pieces.push_back(toJson(*p));
    const Json all{{"version", kReleaseFormatVersion},
                   {"brief", toJson(release.brief)},
                   {"nextId", release.nextId},
                   {"sources", sources},
                   {"pieces", pieces}};
    return all.dump(1) + "\n";
}

Result<Release> releaseFromJson(std::string_view json,
                                const std::vector<std::shared_ptr<const Form>>& forms) {
    return guarded(json, [&](const Json& parsed) { return ReleaseReader(forms).read(parsed); });
}

Result<Brief> briefFromJson(std::string_view json) {
    return guarded(json, [](const Json& parsed) { return readBrief(parsed, "brief"); });
}

} // namespace glyptos
