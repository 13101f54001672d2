#include "file/release_json/paint_codec.h"

#include "file/release_json/fold.h"
#include "release/limits.h"

#include <algorithm>
#include <cmath>

namespace glyptos {
namespace {

constexpr const char* kGradientKinds[] = {"linear", "radial", "conic", "spiral"};
constexpr const char* kSpreads[] = {"hold", "repeat", "mirror"};
constexpr size_t kMostStops = 1000;
constexpr int kMostTurns = 1000, kMostOctaves = 12, kMostSeed = 2'000'000'000;

/// Beside a colour "high" stands the swatch it follows as "highSwatch"; beside "colour" just "swatch".
std::string swatchKey(const char* key) {
    return std::string_view(key) == "colour" ? "swatch" : std::string(key) + "Swatch";
}

uint32_t readSeed(const Entry& e) {
    return uint32_t(e.whole("seed", 0, kMostSeed));
}

/// How each kind of paint is told, written and read.
template <class T>
struct Codec;

template <>
struct Codec<Ink> {
    static bool reads(const std::string& kind) { return kind == "colour"; }
    static Json write(const Ink& c) { return withInk({{"paint", "colour"}}, "colour", c); }
    static Ink read(const Entry& e) { return readInk(e, "colour"); }
};

template <>
struct Codec<Gradient> {
    static bool reads(const std::string& kind) {
        return std::find(std::begin(kGradientKinds), std::end(kGradientKinds), kind) !=
               std::end(kGradientKinds);
    }
    static Json write(const Gradient& g) { return toJson(g); }
    static Gradient read(const Entry& e) { return readGradient(e); }
};

template <>
struct Codec<Clouds> {
    static bool reads(const std::string& kind) { return kind == "clouds"; }
    static Json write(const Clouds& c) {
        Json out{{"paint", "clouds"},
                 {"size", c.size},
                 {"octaves", c.octaves},
                 {"contrast", c.contrast},
                 {"seed", c.seed}};
        return withInk(withInk(std::move(out), "low", c.low), "high", c.high);
    }
    static Clouds read(const Entry& e) {
        return {readInk(e, "low"),
                readInk(e, "high"),
                e.between("size", kSmallestScale, kLargestSide),
                e.whole("octaves", 1, kMostOctaves),
                e.between("contrast", 0, 100),
                readSeed(e)};
    }
};

template <>
struct Codec<Paper> {
    static bool reads(const std::string& kind) { return kind == "paper"; }
    static Json write(const Paper& p) {
        return withInk({{"paint", "paper"}, {"grain", p.grain}, {"size", p.size}, {"seed", p.seed}}, "colour",
                       p.colour);
    }
    static Paper read(const Entry& e) {
        return {readInk(e, "colour"), e.between("grain", 0, 1),
                e.between("size", kSmallestScale, kLargestSide), readSeed(e)};
    }
};

template <>
struct Codec<Pattern> {
    static bool reads(const std::string& kind) { return kind == "pattern"; }
    static Json write(const Pattern& p) {
        return {{"paint", "pattern"},    {"source", p.source}, {"origin", pairJson(p.origin)},
                {"scale", p.scale},      {"turn", p.turn},     {"shift", p.shift},
                {"mirrored", p.mirrored}};
    }
    static Pattern read(const Entry& e) {
        return {e.text("source"),
                readPair(e, "origin"),
                e.between("scale", kSmallestScale, kLargestScale),
                e.between("turn", -kMostTurn, kMostTurn),
                e.between("shift", 0, 1),
                e.flag("mirrored")};
    }
};

} // namespace

Json pairJson(Vec2 v) {
    return Json::list({v.x, v.y});
}

Vec2 readPair(const Entry& e, const char* key) {
    const auto v = e.numbers<2>(key);
    if (std::abs(v[0]) > kFarthestPlace || std::abs(v[1]) > kFarthestPlace)
        e.at(key).wrong("lies too far away");
    return {v[0], v[1]};
}

Json withInk(Json json, const char* key, const Ink& ink) {
    json[key] = toHex(ink);
    if (!ink.swatch.empty()) json[swatchKey(key)] = ink.swatch;
    return json;
}

Rgba readColour(const Entry& e, const char* key) {
    const auto value = rgbaFromHex(e.text(key));
    if (!value) throw Wrong{Fault::Damaged, e.path(key) + " is not a colour"};
    return *value;
}

Ink readInk(const Entry& e, const char* key) {
    return {readColour(e, key), e.textOr(swatchKey(key).c_str(), {})};
}

Json stopsJson(const std::vector<GradientStop>& stops) {
    Json out = Json::list();
    for (const GradientStop& stop : stops) out.push_back(withInk({{"at", stop.at}}, "colour", stop.colour));
    return out;
}

std::vector<GradientStop> readStops(const Entry& list) {
    std::vector<GradientStop> out;
    list.each([&](const Entry& stop) {
        out.push_back({stop.between("at", 0, 1), readInk(stop, "colour")});
        if (out.size() > kMostStops || (out.size() > 1 && out.end()[-2].at > out.back().at))
            stop.wrong("is one stop too many, or not in order");
    });
    if (out.empty()) list.wrong("should not be empty");
    return out;
}

Json toJson(const Gradient& g) {
    return {{"paint", kGradientKinds[size_t(g.kind)]},
            {"spread", kSpreads[size_t(g.spread)]},
            {"from", pairJson(g.from)},
            {"to", pairJson(g.to)},
            {"turns", g.turns},
            {"stops", stopsJson(g.stops)}};
}

Gradient readGradient(const Entry& e) {
    Gradient g;
    g.kind = e.oneOf<GradientKind>("paint", kGradientKinds);
    g.spread = e.oneOf<GradientSpread>("spread", kSpreads);
    g.from = readPair(e, "from");
    g.to = readPair(e, "to");
    g.turns = e.between("turns", -kMostTurns, kMostTurns);
    if (g.turns == 0) throw Wrong{Fault::Damaged, e.path("turns") + " should not be 0"};
    g.stops = readStops(e.at("stops"));
    return g;
}

Json toJson(const Paint& paint) {
    return std::visit([]<class T>(const T& p) { return Codec<T>::write(p); }, paint);
}

Paint readPaint(const Entry& e) {
    const std::string kind = e.text("paint");
    auto paint = readKind<Paint, Codec>(kind, e);
    if (!paint) e.wrong("is a paint of the unknown kind “" + kind + "”", Fault::Unsupported);
    return *paint;
}

} // namespace glyptos
