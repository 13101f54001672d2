#include "file/json_values.h"

#include "release/limits.h"

namespace glyptos {
namespace {

constexpr const char* kGradientKinds[] = {"linear", "radial", "conic", "spiral"};
constexpr const char* kSpreads[] = {"hold", "repeat", "mirror"};
constexpr const char* kShapeKinds[] = {"rectangle", "ellipse", "polygon", "star", "line", "free"};
constexpr const char* kPlaces[] = {"inside", "centre", "outside"};
constexpr const char* kJoins[] = {"mitre", "round", "bevel"};
constexpr const char* kCaps[] = {"flat", "round", "square", "arrow"};
constexpr const char* kWays[] = {"off", "over", "beside", "split", "difference"};
constexpr size_t kMostStops = 1000, kMostNodes = 200'000;

template <size_t N>
const char* nameOf(const char* const (&names)[N], auto value) {
    return names[size_t(value)];
}

Json pair(Vec2 v) {
    return {v.x, v.y};
}

Vec2 readPair(const Entry& e, const char* key) {
    const auto v = e.numbers<2>(key);
    return {v[0], v[1]};
}

/// Beside a colour "high" stands the swatch it follows as "highSwatch"; beside "colour" just "swatch".
std::string swatchKey(const char* key) {
    return std::string_view(key) == "colour" ? "swatch" : std::string(key) + "Swatch";
}

Json gradientJson(const Gradient& g) {
    Json stops = Json::array();
    for (const GradientStop& stop : g.stops)
        stops.push_back(withInk({{"at", stop.at}}, "colour", stop.colour));
    return {{"paint", nameOf(kGradientKinds, g.kind)},
            {"spread", nameOf(kSpreads, g.spread)},
            {"from", pair(g.from)},
            {"to", pair(g.to)},
            {"turns", g.turns},
            {"stops", stops}};
}

Gradient readGradient(const Entry& e) {
    Gradient g;
    g.kind = e.oneOf<GradientKind>("paint", kGradientKinds);
    g.spread = e.oneOf<GradientSpread>("spread", kSpreads);
    g.from = readPair(e, "from");
    g.to = readPair(e, "to");
    g.turns = e.between("turns", -1000, 1000);
    if (g.turns == 0) throw Wrong{Fault::Damaged, e.path("turns") + " should not be 0"};
    e.each("stops", [&](const Json& item, const std::string& at) {
        const Entry stop(item, at);
        g.stops.push_back({stop.between("at", 0, 1), readInk(stop, "colour")});
        if (g.stops.size() > kMostStops || (g.stops.size() > 1 && g.stops.end()[-2].at > g.stops.back().at))
            throw Wrong{Fault::Damaged, at + " is one stop too many, or not in order"};
    });
    if (g.stops.empty()) throw Wrong{Fault::Damaged, e.path("stops") + " should not be empty"};
    return g;
}

Json paintJson(const Ink& c) {
    return withInk({{"paint", "colour"}}, "colour", c);
}
Json paintJson(const Gradient& g) {
    return gradientJson(g);
}
Json paintJson(const Clouds& c) {
    return withInk(withInk({{"paint", "clouds"},
                            {"size", c.size},
                            {"octaves", c.octaves},
                            {"contrast", c.contrast},
                            {"seed", c.seed}},
                           "low", c.low),
                   "high", c.high);
}
Json paintJson(const Paper& p) {
    return withInk({{"paint", "paper"}, {"grain", p.grain}, {"size", p.size}, {"seed", p.seed}}, "colour",
                   p.colour);
}
Json paintJson(const Pattern& p) {
    return {{"paint", "pattern"}, {"source", p.source}, {"origin", pair(p.origin)}, {"scale", p.scale},
            {"turn", p.turn},     {"shift", p.shift},   {"mirrored", p.mirrored}};
}

uint32_t readSeed(const Entry& e) {
    return uint32_t(e.whole("seed", 0, 2'000'000'000));
}

Json contoursJson(const std::vector<Contour>& contours) {
    Json out = Json::array();
    for (const Contour& contour : contours) {
        Json nodes = Json::array();
        for (const PathNode& n : contour.nodes)
            nodes.push_back({n.at.x, n.at.y, n.before.x, n.before.y, n.after.x, n.after.y});
        out.push_back({{"closed", contour.closed}, {"nodes", nodes}});
    }
    return out;
}

std::vector<Contour> readContours(const Entry& e) {
    std::vector<Contour> out;
    size_t count = 0;
    e.each("contours", [&](const Json& item, const std::string& at) {
        const Entry entry(item, at);
        Contour contour;
        contour.closed = entry.flag("closed");
        entry.each("nodes", [&](const Json& node, const std::string& where) {
            double v[6] = {};
            bool good = node.is_array() && node.size() == 6 && ++count <= kMostNodes;
            for (size_t i = 0; good && i < 6; ++i) {
                good = node[i].is_number() && std::isfinite(node[i].get<double>());
                if (good) v[i] = node[i].get<double>();
            }
            if (!good) throw Wrong{Fault::Damaged, where + " should be six numbers"};
            contour.nodes.push_back({{v[0], v[1]}, {v[2], v[3]}, {v[4], v[5]}});
        });
        out.push_back(std::move(contour));
    });
    return out;
}

Json strokeJson(const StrokeStyle& s) {
    return {{"width", s.width},
            {"place", nameOf(kPlaces, s.place)},
            {"join", nameOf(kJoins, s.join)},
            {"startCap", nameOf(kCaps, s.startCap)},
            {"endCap", nameOf(kCaps, s.endCap)},
            {"paint", toJson(s.paint)}};
}

StrokeStyle readStroke(const Entry& e) {
    return {e.positive("width"),
            e.oneOf<StrokePlace>("place", kPlaces),
            e.oneOf<LineJoin>("join", kJoins),
            e.oneOf<LineCap>("startCap", kCaps),
            e.oneOf<LineCap>("endCap", kCaps),
            readPaint(e.inside("paint"))};
}

} // namespace

Json withInk(Json json, const char* key, const Ink& ink) {
    json[key] = toHex(ink);
    if (!ink.swatch.empty()) json[swatchKey(key)] = ink.swatch;
    return json;
}

Ink readInk(const Entry& e, const char* key) {
    const std::string swatch = swatchKey(key);
    return {e.colour(key), e.has(swatch.c_str()) ? e.text(swatch.c_str()) : std::string()};
}

Json toJson(const Placement& p) {
    Json out{{"x", p.position.x}, {"y", p.position.y}, {"scaleX", p.scaleX}, {"scaleY", p.scaleY},
             {"turn", p.turn},    {"flipX", p.flipX},  {"flipY", p.flipY}};
    if (p.skew != 0) out["skew"] = p.skew;
    return out;
}

Placement readPlacement(const Entry& e) {
    Placement p{{e.number("x"), e.number("y")},
                e.number("scaleX"),
                e.number("scaleY"),
                e.number("turn"),
                e.flag("flipX"),
                e.flag("flipY")};
    if (e.has("skew")) p.skew = e.between("skew", -89.9, 89.9);
    if (p.scaleX <= 0 || p.scaleY <= 0)
        throw Wrong{Fault::Damaged, e.path("scaleX") + " or scaleY is not positive"};
    return p;
}

Json toJson(const PictureContent& p) {
    return {{"source", p.source}, {"crop", {p.crop.x, p.crop.y, p.crop.w, p.crop.h}}};
}

PictureContent readPicture(const Entry& e) {
    const auto c = e.numbers<4>("crop");
    PictureContent out{e.text("source"), {c[0], c[1], c[2], c[3]}};
    if (out.crop.empty())
        throw Wrong{Fault::Damaged, e.path("crop") + " should be four numbers with an area"};
    return out;
}

Json toJson(const Paint& paint) {
    return std::visit([](const auto& p) { return paintJson(p); }, paint);
}

Paint readPaint(const Entry& e) {
    const std::string kind = e.text("paint");
    if (kind == "colour") return readInk(e, "colour");
    if (kind == "clouds")
        return Clouds{readInk(e, "low"),
                      readInk(e, "high"),
                      e.positive("size"),
                      e.whole("octaves", 1, 12),
                      e.between("contrast", 0, 100),
                      readSeed(e)};
    if (kind == "paper")
        return Paper{readInk(e, "colour"), e.between("grain", 0, 1), e.positive("size"), readSeed(e)};
    if (kind == "pattern")
        return Pattern{e.text("source"), readPair(e, "origin"),    e.positive("scale"),
                       e.number("turn"), e.between("shift", 0, 1), e.flag("mirrored")};
    return readGradient(e);
}

Json toJson(const ShapeContent& s) {
    Json out{{"shape", nameOf(kShapeKinds, s.kind)}, {"width", s.width}, {"height", s.height}};
    if (s.kind == ShapeKind::Free)
        out["contours"] = contoursJson(s.contours);
    else
        out.update({{"corner", s.corner}, {"points", s.points}, {"inner", s.inner}});
    if (s.fill) out["fill"] = toJson(*s.fill);
    if (s.stroke) out["stroke"] = strokeJson(*s.stroke);
    return out;
}

ShapeContent readShape(const Entry& e) {
    ShapeContent s;
    s.kind = e.oneOf<ShapeKind>("shape", kShapeKinds);
    s.width = e.between("width", 0, kLargestSide);
    s.height = e.between("height", 0, kLargestSide);
    if (s.kind == ShapeKind::Free) {
        s.contours = readContours(e);
    } else {
        s.corner = e.between("corner", 0, kLargestSide);
        s.points = e.whole("points", 3, 200);
        s.inner = e.between("inner", 0.05, 1);
    }
    s.fill.reset();
    if (e.has("fill")) s.fill = readPaint(e.inside("fill"));
    if (e.has("stroke")) s.stroke = readStroke(e.inside("stroke"));
    return s;
}

Json toJson(const Mask& m) {
    Json out{{"on", m.on},           {"inverted", m.inverted},
             {"linked", m.linked},   {"strength", m.strength},
             {"feather", m.feather}, {"placement", toJson(m.placement)}};
    if (const auto* picture = std::get_if<PictureContent>(&m.form)) out["picture"] = toJson(*picture);
    if (const auto* gradient = std::get_if<Gradient>(&m.form)) out["gradient"] = gradientJson(*gradient);
    if (const auto* shape = std::get_if<ShapeContent>(&m.form)) out["shape"] = toJson(*shape);
    return out;
}

Mask readMask(const Entry& e) {
    Mask m;
    m.on = e.flag("on");
    m.inverted = e.flag("inverted");
    m.linked = e.flag("linked");
    m.strength = e.between("strength", 0, 1);
    m.feather = e.between("feather", 0, kLargestSide);
    m.placement = readPlacement(e.inside("placement"));
    if (e.has("picture"))
        m.form = readPicture(e.inside("picture"));
    else if (e.has("gradient"))
        m.form = readGradient(e.inside("gradient"));
    else
        m.form = readShape(e.inside("shape"));
    return m;
}

Json toJson(const Reference& r) {
    return {{"source", r.source},
            {"placement", toJson(r.placement)},
            {"way", nameOf(kWays, r.way)},
            {"opacity", r.opacity},
            {"split", r.split}};
}

Reference readReference(const Entry& e) {
    return {e.text("source"), readPlacement(e.inside("placement")), e.oneOf<Reference::Way>("way", kWays),
            e.between("opacity", 0, 1), e.between("split", 0, 1)};
}

Json toJson(const SourceFacts& f) {
    Json out{{"kind", kSourceKindIds[size_t(f.kind)]}};
    const std::pair<const char*, const std::string*> texts[] = {
        {"title", &f.title},     {"maker", &f.maker},   {"origin", &f.origin},
        {"licence", &f.licence}, {"credit", &f.credit}, {"notes", &f.notes}};
    for (const auto& [key, text] : texts)
        if (!text->empty()) out[key] = *text;
    if (!f.tags.empty()) out["tags"] = f.tags;
    return out;
}

SourceFacts readFacts(const Entry& e) {
    SourceFacts out;
    out.kind = e.oneOf<SourceKind>("kind", kSourceKindIds);
    const std::pair<const char*, std::string*> texts[] = {{"title", &out.title},   {"maker", &out.maker},
                                                          {"origin", &out.origin}, {"licence", &out.licence},
                                                          {"credit", &out.credit}, {"notes", &out.notes}};
    for (const auto& [key, text] : texts)
        if (e.has(key)) *text = e.text(key);
    if (e.has("tags"))
        e.each("tags", [&](const Json& tag, const std::string& at) {
            if (!tag.is_string()) throw Wrong{Fault::Damaged, at + " should be text"};
            out.tags.push_back(tag.get<std::string>());
        });
    return out;
}

} // namespace glyptos
