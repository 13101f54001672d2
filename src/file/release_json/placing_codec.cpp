#include "file/release_json/placing_codec.h"
#include "release/limits.h"

#include <algorithm>
#include <cmath>

namespace glyptos {
namespace {

constexpr const char* kWays[] = {"off", "over", "beside", "split", "difference"};
constexpr double kMostSkew = 89.9;

} // namespace

Json toJson(const Placement& p) {
    Json out{{"x", p.position.x}, {"y", p.position.y}, {"scaleX", p.scaleX}, {"scaleY", p.scaleY},
             {"turn", p.turn},    {"flipX", p.flipX},  {"flipY", p.flipY}};
    if (p.skew != 0) out["skew"] = p.skew;
    return out;
}

Placement readPlacement(const Entry& e) {
    const auto place = [&](const char* key) { return e.between(key, -kFarthestPlace, kFarthestPlace); };
    const auto scale = [&](const char* key) { return e.between(key, kSmallestScale, kLargestScale); };
    Placement p{{place("x"), place("y")}, scale("scaleX"),
                scale("scaleY"),          e.between("turn", -kMostTurn, kMostTurn),
                e.flag("flipX"),          e.flag("flipY")};
    if (e.has("skew")) p.skew = e.between("skew", -kMostSkew, kMostSkew);
    return p;
}

Json toJson(const PictureContent& p) {
    return {{"source", p.source}, {"crop", Json::list({p.crop.x, p.crop.y, p.crop.w, p.crop.h})}};
}

PictureContent readPicture(const Entry& e) {
    const auto c = e.numbers<4>("crop");
    PictureContent out{e.text("source"), {c[0], c[1], c[2], c[3]}};
    const bool isFar = std::any_of(c.begin(), c.end(), [](double v) { return std::abs(v) > kLargestScale; });
    if (out.crop.empty() || isFar)
        throw Wrong{Fault::Damaged, e.path("crop") + " should be four numbers with an area"};
    return out;
}

Json toJson(const Reference& r) {
    return {{"source", r.source},
            {"placement", toJson(r.placement)},
            {"way", kWays[size_t(r.way)]},
            {"opacity", r.opacity},
            {"split", r.split}};
}

Reference readReference(const Entry& e) {
    return {e.text("source"), readPlacement(e.at("placement")), e.oneOf<Reference::Way>("way", kWays),
            e.between("opacity", 0, 1), e.between("split", 0, 1)};
}

} // namespace glyptos
