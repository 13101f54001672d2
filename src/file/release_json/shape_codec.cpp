#include "file/release_json/shape_codec.h"

#include "file/release_json/brush_codec.h"
#include "file/release_json/paint_codec.h"
#include "release/limits.h"

namespace glyptos {
namespace {

constexpr const char* kShapeKinds[] = {"rectangle", "ellipse", "polygon", "star", "line", "free"};
constexpr const char* kPlaces[] = {"inside", "centre", "outside"};
constexpr const char* kJoins[] = {"mitre", "round", "bevel"};
constexpr const char* kCaps[] = {"flat", "round", "square", "arrow"};
constexpr size_t kMostNodes = 200'000;

} // namespace

Json contoursJson(const std::vector<Contour>& contours) {
    Json out = Json::list();
    for (const Contour& contour : contours) {
        Json nodes = Json::list();
        for (const PathNode& n : contour.nodes)
            nodes.push_back(Json::list({n.at.x, n.at.y, n.before.x, n.before.y, n.after.x, n.after.y}));
        out.push_back({{"closed", contour.closed}, {"nodes", std::move(nodes)}});
    }
    return out;
}

std::vector<Contour> readContours(const Entry& list) {
    std::vector<Contour> out;
    size_t count = 0;
    list.each([&](const Entry& entry) {
        Contour contour;
        contour.closed = entry.flag("closed");
        entry.each("nodes", [&](const Entry& node) {
            std::array<double, 6> v{};
            node.numbers(v);
            if (++count > kMostNodes) node.wrong("is one node too many");
            contour.nodes.push_back({{v[0], v[1]}, {v[2], v[3]}, {v[4], v[5]}});
        });
        out.push_back(std::move(contour));
    });
    return out;
}

namespace {

Json strokeJson(const StrokeStyle& s) {
    Json out{{"width", s.width},
             {"place", kPlaces[size_t(s.place)]},
             {"join", kJoins[size_t(s.join)]},
             {"startCap", kCaps[size_t(s.startCap)]},
             {"endCap", kCaps[size_t(s.endCap)]},
             {"paint", toJson(s.paint)}};
    if (s.brushed) out["brushed"] = toJson(*s.brushed);
    return out;
}

StrokeStyle readStroke(const Entry& e) {
    StrokeStyle out{e.between("width", kSmallestScale, kLargestSide),
                    e.oneOf<StrokePlace>("place", kPlaces),
                    e.oneOf<LineJoin>("join", kJoins),
                    e.oneOf<LineCap>("startCap", kCaps),
                    e.oneOf<LineCap>("endCap", kCaps),
                    readPaint(e.at("paint")),
                    {}};
    if (e.has("brushed")) out.brushed = readBrushedLine(e.at("brushed"));
    return out;
}

} // namespace

Json toJson(const ShapeContent& s) {
    Json out{{"shape", kShapeKinds[size_t(s.kind)]}, {"width", s.width}, {"height", s.height}};
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
        s.contours = readContours(e.at("contours"));
    } else {
        s.corner = e.between("corner", 0, kLargestSide);
        s.points = e.whole("points", 3, 200);
        s.inner = e.between("inner", 0.05, 1);
    }
    s.fill.reset();
    if (e.has("fill")) s.fill = readPaint(e.at("fill"));
    if (e.has("stroke")) s.stroke = readStroke(e.at("stroke"));
    return s;
}

} // namespace glyptos
