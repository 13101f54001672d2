#include "release/paths/outline_contours.h"

namespace glyptos {

std::vector<Contour> contoursOf(const Path& path) {
    std::vector<Contour> out;
    const Vec2* p = path.points().data();
    for (const Path::Verb verb : path.verbs()) {
        if (verb == Path::Verb::Move) {
            out.push_back({{{*p++, {}, {}}}, true});
            continue;
        }
        auto& nodes = out.back().nodes;
        const Vec2 here = nodes.back().at;
        if (verb == Path::Verb::Line) {
            nodes.push_back({*p++, {}, {}});
        } else if (verb == Path::Verb::Quad) {
            nodes.back().after = (p[0] - here) * (2.0 / 3);
            nodes.push_back({p[1], (p[0] - p[1]) * (2.0 / 3), {}});
            p += 2;
        } else {
            nodes.back().after = p[0] - here;
            nodes.push_back({p[2], p[1] - p[2], {}});
            p += 3;
        }
    }
    for (Contour& contour : out) {
        auto& nodes = contour.nodes;
        if (nodes.size() > 2 && (nodes.front().at - nodes.back().at).length() < 1e-9) {
            nodes.front().before = nodes.back().before;
            nodes.pop_back();
        }
    }
    return out;
}

} // namespace glyptos
