#include "base/text.h"
#include "file/json_values.h"
#include "file/release_json.h"
#include "file/starts.h"
#include "release/edits.h"
#include "release/wall.h"

#include <algorithm>
#include <set>

namespace glyptos {
namespace {

Brief readBrief(const Json& json, const std::string& path) {
    const Entry e(json, path);
    Brief b;
    b.artist = e.text("artist"), b.title = e.text("title"), b.label = e.text("label");
    b.catalogue = e.text("catalogue"), b.year = e.text("year");
    if (e.has("mood"))
        e.each("mood", [&](const Json& word, const std::string& where) {
            if (!word.is_string()) throw Wrong{Fault::Damaged, where + " should be text"};
            b.mood.push_back(word.get<std::string>());
        });
    for (const auto& [key, member] :
         {std::pair("genre", &Brief::genre), std::pair("audience", &Brief::audience),
          std::pair("notes", &Brief::notes)})
        if (e.has(key)) b.*member = e.text(key);
    e.each("tracks", [&](const Json& item, const std::string& where) {
        const Entry t(item, where);
        b.tracks.push_back({t.text("side"), t.text("title"), t.whole("seconds", 0, kLongestTrack)});
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
        release_.linearLight = e.flagOr("linearLight", false);
        e.each("sources", [&](const Json& item, const std::string& where) { source(item, where); });
        if (e.has("palette"))
            e.each("palette", [&](const Json& item, const std::string& where) { swatch(item, where); });
        e.each("pieces", [&](const Json& item, const std::string& where) { piece(item, where); });
        if (e.has("wall")) wall(e.at("wall"));
        return std::move(release_);
    }

    StartingComposition start(const Json& json) {
        const Entry e(json, "start");
        StartingComposition out{e.text("id"), e.text("name"), e.text("note"), {}, {}};
        e.each("palette", [&](const Json& item, const std::string& where) {
            const Entry c(item, where);
            out.palette.push_back({c.text("name"), c.colour("colour")});
        });
        area_ = {0, 0, kStartSide, kStartSide};
        out.layers = stack(e.at("layers"), "start.layers", 0);
        return out;
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
        if (e.has("facts")) s->facts = readFacts(e.inside("facts"));
        release_.sources.push_back(std::move(s));
    }

    void swatch(const Json& json, const std::string& where) {
        const Entry e(json, where);
        release_.palette.push_back({uniqueId(e), e.text("name"), e.colour("colour")});
    }

    void wall(const Json& json) {
        auto piece = std::make_shared<Piece>(*release_.wall);
        auto take = std::make_shared<Take>(piece->take());
        area_ = piece->flat->panels.front().withBleed();
        take->stacks[kWallId] = stack(json, "wall", 0);
        piece->takes.front() = std::move(take);
        release_.wall = std::move(piece);
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
        if (e.has("references"))
            e.members("references", [&](const std::string& name, const Json& item, const std::string& at) {
                const Entry reference(item, at);
                if (!p->flat->panel(name)) throw Wrong{Fault::Damaged, at + ": the form has no such panel"};
                p->references[name] = readReference(reference);
                known(p->references[name].source, reference);
            });
        release_.pieces.push_back(std::move(p));
    }

    void take(Piece& piece, const Json& json, const std::string& where) {
        const Entry e(json, where);
        auto t = std::make_shared<Take>();
        t->id = e.text("id");
        if (t->id.empty() || piece.take(t->id) != nullptr)
            throw Wrong{Fault::Damaged, e.path("id") + " is empty or used twice"};
        e.members("panels", [&](const std::string& name, const Json& layers, const std::string& at) {
            const Panel* panel = piece.flat->panel(name);
            if (!panel) throw Wrong{Fault::Damaged, at + ": the form has no such panel"};
            area_ = panel->withBleed();
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
        layer->placement = readPlacement(e.inside("placement"));
        layer->clipped = e.flagOr("clipped", false);
        layer->locked = e.flagOr("locked", false);
        if (e.has("mask")) layer->mask = std::make_shared<const Mask>(mask(e.inside("mask")));
        layer->content = content(e, where, depth);
        return layer;
    }

    Content content(const Entry& e, const std::string& where, int depth) {
        const std::string kind = e.text("kind");
        if (kind == "picture") return picture(e);
        if (kind == "text") return text(e);
        if (kind == "fill") return fill(e);
        if (kind == "shape") return checked(readShape(e), e);
        if (kind == "echo")
            return EchoContent{e.text("piece"), e.text("panel"), e.text("take"), e.flag("bleed")};
        if (kind == "group")
            return GroupContent{stack(e.at("layers"), where + ".layers", depth + 1),
                                e.has("passing") && e.flag("passing")};
        throw Wrong{Fault::Unsupported, where + " is a layer of the unknown kind “" + kind + "”"};
    }

    /// Before version 2 a fill was one colour or an even run over the panel.
    FillContent fill(const Entry& e) {
        if (e.has("paint")) return {checked(readPaint(e.inside("paint")), e)};
        if (!e.has("to")) return {e.colour("colour")};
        return {evenRun(area_, e.number("turn"), e.colour("colour"), e.colour("to"))};
    }

    PictureContent picture(const Entry& e) {
        PictureContent out = readPicture(e);
        known(out.source, e);
        return out;
    }

    Mask mask(const Entry& e) {
        Mask out = readMask(e);
        if (const auto* picture = std::get_if<PictureContent>(&out.form)) known(picture->source, e);
        if (const auto* shape = std::get_if<ShapeContent>(&out.form)) checked(*shape, e);
        return out;
    }

    void known(const std::string& source, const Entry& e) const {
        if (!release_.source(source))
            throw Wrong{Fault::Damaged, e.path("source") + " names a picture that the file does not list"};
    }
    Paint checked(Paint paint, const Entry& e) const {
        if (const auto* pattern = std::get_if<Pattern>(&paint)) known(pattern->source, e);
        return paint;
    }
    ShapeContent checked(ShapeContent shape, const Entry& e) const {
        if (shape.fill) checked(*shape.fill, e);
        if (shape.stroke) checked(shape.stroke->paint, e);
        return shape;
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
        out.spec.align = e.oneOf<Align>("align", kAlignNames);
        out.spec.measure = e.number("measure");
        out.colour = readInk(e, "colour");
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
    Rect area_; ///< of the panel that is being read
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

Result<Release> releaseFromJson(std::string_view json,
                                const std::vector<std::shared_ptr<const Form>>& forms) {
    return guarded(json, [&](const Json& parsed) { return ReleaseReader(forms).read(parsed); });
}

Result<StartingComposition> startFromJson(std::string_view json, const std::string& where) {
    auto start = guarded(json, [](const Json& parsed) {
        const std::vector<std::shared_ptr<const Form>> none;
        return ReleaseReader(none).start(parsed);
    });
    if (!start)
        return fail(start.error().fault, "The starting composition “" + where +
                                             "” cannot be used: " + start.error().message + ".");
    return start;
}

Result<Brief> briefFromJson(std::string_view json) {
    return guarded(json, [](const Json& parsed) { return readBrief(parsed, "brief"); });
}

} // namespace glyptos
