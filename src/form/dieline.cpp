#include "form/dieline.h"

#include "base/text.h"
#include "form/clipping.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace glyptos {
namespace {

namespace cl = ClipperLib;

constexpr double kMeets = 0.1;       // mm between ends that meet
constexpr double kGap = 12;          // mm between strokes of one dashed fold
constexpr double kSameFigure = 0.05; // mm
constexpr double kLeastPart = 1;     // mm² of board that is a part
constexpr double kFar = 20000;       // mm: beyond any sheet
constexpr double kMostTaper = 30;    // mm: how narrow a flap is

double distance(Vec2 a, Vec2 b) {
    return (a - b).length();
}

/// Pieces of line joined end to end.
std::vector<Polyline> joined(std::vector<Polyline> open) {
    std::vector<Polyline> out;
    while (!open.empty()) {
        Polyline chain = std::move(open.back());
        open.pop_back();
        for (bool grown = true; grown && distance(chain.points.front(), chain.points.back()) > kMeets;) {
            grown = false;
            for (auto it = open.begin(); it != open.end() && !grown; ++it) {
                const Vec2 end = chain.points.back();
                if (distance(it->points.back(), end) <= kMeets)
                    std::reverse(it->points.begin(), it->points.end());
                if (distance(it->points.front(), end) > kMeets) continue;
                chain.points.insert(chain.points.end(), it->points.begin() + 1, it->points.end());
                open.erase(it);
                grown = true;
            }
        }
        chain.closed = distance(chain.points.front(), chain.points.back()) <= kMeets;
        if (chain.closed) chain.points.pop_back();
        out.push_back(std::move(chain));
    }
    return out;
}

/// Closed contours of the lines of one role.
std::vector<Polyline> contoursOf(const std::vector<DielineLine>& lines, DielineRole role) {
    std::vector<Polyline> closed, open;
    for (const DielineLine& l : lines) {
        if (l.role != role || l.line.points.size() < 2) continue;
        Polyline line = l.line;
        if (line.closed ||
            (line.points.size() > 3 && distance(line.points.front(), line.points.back()) <= kMeets)) {
            if (distance(line.points.front(), line.points.back()) <= kMeets) line.points.pop_back();
            line.closed = true;
            closed.push_back(std::move(line));
        } else {
            open.push_back(std::move(line));
        }
    }
    for (Polyline& chain : joined(std::move(open)))
        if (chain.closed) closed.push_back(std::move(chain));
    return closed;
}

struct Crease {
    Vec2 from, to;
};

/// On one line, and so near that they are strokes of one fold.
bool continues(const Crease& a, const Crease& b) {
    const Vec2 way = a.to - a.from;
    const double length = way.length();
    if (length < 1e-9) return false;
    const Vec2 along = way * (1 / length);
    const auto off = [&](Vec2 p) {
        return std::abs(along.x * (p.y - a.from.y) - along.y * (p.x - a.from.x));
    };
    const auto at = [&](Vec2 p) { return along.x * (p.x - a.from.x) + along.y * (p.y - a.from.y); };
    if (off(b.from) > kMeets || off(b.to) > kMeets) return false;
    const double low = std::min(at(b.from), at(b.to)), high = std::max(at(b.from), at(b.to));
    return low <= length + kGap && high >= -kGap;
}

Crease together(const Crease& a, const Crease& b) {
    const Vec2 way = a.to - a.from;
    const auto at = [&](Vec2 p) { return way.x * p.x + way.y * p.y; };
    const auto [low, high] = std::minmax({a.from, a.to, b.from, b.to},
                                         [&](const Vec2& p, const Vec2& q) { return at(p) < at(q); });
    return {low, high};
}

std::vector<Crease> creasesOf(const std::vector<DielineLine>& lines) {
    std::vector<Crease> out;
    for (const DielineLine& l : lines) {
        if (l.role != DielineRole::Fold) continue;
        for (size_t i = 0; i + 1 < l.line.points.size(); ++i) {
            Crease crease{l.line.points[i], l.line.points[i + 1]};
            if (distance(crease.from, crease.to) < kMeets) continue;
            for (auto it = out.begin(); it != out.end();) {
                if (!continues(crease, *it) && !continues(*it, crease)) {
                    ++it;
                    continue;
                }
                crease = together(crease, *it);
                it = out.erase(it);
            }
            out.push_back(crease);
        }
    }
    return out;
}

/// The part of a polygon on the left, or right, of a line.
cl::Paths sideOf(const cl::Path& polygon, const Crease& line, bool left) {
    const Vec2 along = (line.to - line.from) * (1 / distance(line.from, line.to));
    const Vec2 out = Vec2{-along.y, along.x} * (left ? kFar : -kFar);
    const Vec2 a = line.from - along * kFar, b = line.to + along * kFar;
    const cl::Path half{toStep(a), toStep(b), toStep(b + out), toStep(a + out)};
    cl::Clipper clipper;
    clipper.AddPath(polygon, cl::ptSubject, true);
    clipper.AddPath(half, cl::ptClip, true);
    cl::Paths parts;
    clipper.Execute(cl::ctIntersection, parts, cl::pftNonZero, cl::pftNonZero);
    std::erase_if(parts, [](const cl::Path& p) {
        return std::abs(cl::Area(p)) < kLeastPart * kClippingSteps * kClippingSteps;
    });
    return parts;
}

double lengthWithin(Vec2 from, Vec2 to, const cl::Path& polygon) {
    double length = 0;
    for (const auto& [a, b] : stretchesWithin(from, to, {polygon})) length += distance(a, b);
    return length;
}

/// Whether the crease goes through the part, from edge to edge: about as long as the whole line is in it.
bool parts(const Crease& crease, const cl::Path& polygon) {
    const Vec2 along = (crease.to - crease.from) * (kFar / distance(crease.from, crease.to));
    const double length = lengthWithin(crease.from, crease.to, polygon);
    return length > 1 && length > lengthWithin(crease.from - along, crease.to + along, polygon) - 2 * kGap;
}

std::vector<cl::Path> partedBy(const std::vector<Crease>& creases, cl::Path board) {
    std::vector<cl::Path> out{std::move(board)};
    for (const Crease& crease : creases) {
        std::vector<cl::Path> next;
        for (const cl::Path& part : out) {
            if (!parts(crease, part)) {
                next.push_back(part);
                continue;
            }
            for (const bool left : {true, false})
                for (cl::Path& side : sideOf(part, crease, left)) next.push_back(std::move(side));
        }
        out = std::move(next);
    }
    return out;
}

Rect boundsOf(const std::vector<Vec2>& points) {
    Rect box{points[0].x, points[0].y, 0, 0};
    double right = box.x, bottom = box.y;
    for (const Vec2& p : points) {
        box.x = std::min(box.x, p.x), box.y = std::min(box.y, p.y);
        right = std::max(right, p.x), bottom = std::max(bottom, p.y);
    }
    return {box.x, box.y, right - box.x, bottom - box.y};
}

double areaOf(const std::vector<Vec2>& p) {
    double sum = 0;
    for (size_t i = 0; i < p.size(); ++i) {
        const Vec2 &a = p[i], &b = p[(i + 1) % p.size()];
        sum += a.x * b.y - b.x * a.y;
    }
    return std::abs(sum) / 2;
}

std::string figure(double v) {
    constexpr int kDecimals = 2;
    return shortNumber(v, kDecimals);
}

/// Points of one side of a polygon that say nothing are left out.
std::vector<Vec2> cleaned(const std::vector<Vec2>& p) {
    std::vector<Vec2> out;
    for (size_t i = 0; i < p.size(); ++i) {
        const Vec2 before = p[(i + p.size() - 1) % p.size()], here = p[i], after = p[(i + 1) % p.size()];
        const Vec2 way = after - before;
        const double length = way.length();
        const double off = length < 1e-9
                               ? distance(here, before)
                               : std::abs(way.x * (here.y - before.y) - way.y * (here.x - before.x)) / length;
        if (off > kSameFigure / 5) out.push_back(here);
    }
    return out.size() < 3 ? p : out;
}

/// A rectangle or a disc where it is one, else its corners.
OutlineForm outlineOf(const std::vector<Vec2>& written, Vec2 origin) {
    const std::vector<Vec2> points = cleaned(written);
    const Rect box = boundsOf(points);
    OutlineForm out;
    out.x = figure(box.x - origin.x), out.y = figure(box.y - origin.y);
    out.w = figure(box.w), out.h = figure(box.h);
    const double area = areaOf(points), whole = box.w * box.h, slack = kSameFigure * (box.w + box.h);
    if (std::abs(area - whole) <= slack) return out;
    const bool round = std::abs(box.w - box.h) <= kSameFigure && points.size() > 12;
    if (round && std::abs(area - std::numbers::pi / 4 * whole) <= slack) {
        out.kind = Outline::Kind::Disc;
        return out;
    }
    out.kind = Outline::Kind::Free;
    for (const Vec2& p : points) out.nodes.push_back({figure(p.x - box.x), figure(p.y - box.y)});
    return out;
}

class Tracer {
  public:
    explicit Tracer(const std::vector<DielineLine>& lines)
        : lines_(lines) {}

    Result<Traced> run(const std::string& id, const std::string& name) {
        std::vector<Polyline> cuts = contoursOf(lines_, DielineRole::Cut);
        if (cuts.empty())
            return fail(Fault::Damaged, "No line of the sheet that is cut comes back to where it began, so "
                                        "there is no board to trace; mark the lines that are cut.");
        std::sort(cuts.begin(), cuts.end(),
                  [](const Polyline& a, const Polyline& b) { return areaOf(a.points) > areaOf(b.points); });
        form_.id = id, form_.name = name;
        form_.group = FormGroup::Record;
        std::vector<cl::Path> boards;
        std::vector<Polyline> holes;
        for (const Polyline& cut : cuts) {
            cl::Path path;
            for (const Vec2& p : cut.points) path.push_back(toStep(p));
            const bool inside = std::any_of(boards.begin(), boards.end(), [&](const cl::Path& b) {
                return cl::PointInPolygon(path.front(), b) != 0;
            });
            if (inside)
                holes.push_back(cut);
            else
                boards.push_back(std::move(path));
        }
        origin_ = cornerOf(boards.front());
        for (const cl::Path& board : boards) {
            const Vec2 corner = cornerOf(board);
            origin_ = {std::min(origin_.x, corner.x), std::min(origin_.y, corner.y)};
        }
        const std::vector<Crease> creases = creasesOf(lines_);
        for (const cl::Path& board : boards)
            for (const cl::Path& part : partedBy(creases, board)) parts_.push_back(pointsOf(part));
        addParts();
        for (const Polyline& hole : holes) addHole(hole);
        addFolds(creases);
        form_.bleed = bleed();
        form_.safety = "3";
        return Traced{std::move(form_), origin_};
    }

  private:
    static std::vector<Vec2> pointsOf(const cl::Path& path) {
        std::vector<Vec2> out;
        for (const cl::IntPoint& p : path) out.push_back(fromStep(p));
        return out;
    }

    static Vec2 cornerOf(const cl::Path& path) {
        const Rect box = boundsOf(pointsOf(path));
        return {box.x, box.y};
    }

    /// Narrow, at the edge, and no rectangle.
    static bool isFlap(const std::vector<Vec2>& part) {
        const Rect box = boundsOf(part);
        const double area = areaOf(cleaned(part));
        return std::min(box.w, box.h) <= kMostTaper && area < box.w * box.h - kSameFigure * (box.w + box.h);
    }

    void addParts() {
        constexpr double kRow = 10; // mm by which tops of one row may differ
        std::sort(parts_.begin(), parts_.end(), [&](const auto& a, const auto& b) {
            const Rect p = boundsOf(a), q = boundsOf(b);
            return std::abs(p.y - q.y) > kRow ? p.y < q.y : p.x < q.x;
        });
        double largest = 0;
        for (const auto& part : parts_) {
            if (parts_.size() > 1 && isFlap(part)) {
                const std::string n = std::to_string(form_.flaps.size() + 1);
                form_.flaps.push_back({"flap-" + n, "Flap " + n, {}, outlineOf(part, origin_), {}});
                continue;
            }
            const std::string n = std::to_string(form_.panels.size() + 1);
            PanelForm panel;
            panel.id = "panel-" + n, panel.name = "Panel " + n;
            panel.outline = outlineOf(part, origin_);
            panel.turn = "0";
            if (const double area = areaOf(part); area >= largest) largest = area, form_.front = panel.id;
            form_.panels.push_back(std::move(panel));
        }
    }

    void addHole(const Polyline& hole) {
        const std::string n = std::to_string(form_.cutouts.size() + 1);
        form_.cutouts.push_back({"hole-" + n, "Hole " + n, {}, outlineOf(hole.points, origin_), {}});
    }

    void addFolds(const std::vector<Crease>& creases) {
        for (const Crease& crease : creases) {
            FoldForm fold;
            fold.id = "fold-" + std::to_string(form_.folds.size() + 1);
            fold.x1 = figure(crease.from.x - origin_.x), fold.y1 = figure(crease.from.y - origin_.y);
            fold.x2 = figure(crease.to.x - origin_.x), fold.y2 = figure(crease.to.y - origin_.y);
            fold.angle = "90", fold.order = "1";
            form_.folds.push_back(std::move(fold));
        }
    }

    /// How far the bleed line lies outside the cut, where there is one.
    std::string bleed() const {
        constexpr double kMost = 20;
        const auto bleeds = contoursOf(lines_, DielineRole::Bleed),
                   cuts = contoursOf(lines_, DielineRole::Cut);
        if (bleeds.empty()) return "3";
        const auto largest = [](const std::vector<Polyline>& all) {
            Rect box;
            for (const Polyline& one : all) box = box.united(boundsOf(one.points));
            return box;
        };
        const Rect outer = largest(bleeds), inner = largest(cuts);
        const double by = std::max(inner.x - outer.x, inner.y - outer.y);
        return by > 0 && by < kMost ? shortNumber(by, 1) : "3";
    }

    const std::vector<DielineLine>& lines_;
    Form form_;
    Vec2 origin_;
    std::vector<std::vector<Vec2>> parts_;
};

} // namespace

DielineRole dielineRole(const std::string& written) {
    std::string name;
    for (const char c : written) name += char(std::tolower(static_cast<unsigned char>(c)));
    const auto says = [&](std::initializer_list<const char*> words) {
        return std::any_of(words.begin(), words.end(),
                           [&](const char* word) { return name.find(word) != name.npos; });
    };
    // A “cut guide for the crease” is a crease, and a “bleed of the cut” a bleed.
    if (says({"bleed"})) return DielineRole::Bleed;
    if (says({"fold", "crease", "score"})) return DielineRole::Fold;
    if (says({"cut", "die", "trim", "kiss"})) return DielineRole::Cut;
    return DielineRole::Other;
}

Result<Traced> tracedForm(const std::vector<DielineLine>& lines, const std::string& id,
                          const std::string& name) {
    return Tracer(lines).run(id, name);
}

} // namespace glyptos
