#include "raster/warp/mapping.h"

#include "base/overloaded.h"

#include <utility>

namespace glyptos {
namespace {

constexpr double kFarOff = 1e7; // nothing that is drawn lies farther

Rect everywhere() {
    return {-kFarOff, -kFarOff, 2 * kFarOff, 2 * kFarOff};
}

Rect boundsOf(const std::vector<Vec2>& points) {
    double l = 1e300, t = 1e300, r = -1e300, b = -1e300;
    for (const Vec2& p : points) {
        l = std::min(l, p.x), r = std::max(r, p.x);
        t = std::min(t, p.y), b = std::max(b, p.y);
    }
    return points.empty() ? Rect{} : Rect{l, t, r - l, b - t};
}

/// The corners of a rectangle, cut where the plane comes near the eye.
std::vector<Vec2> seenCorners(const Homography& tilt, const Rect& r) {
    constexpr double kNear = 1e-4;
    const auto& m = tilt.figures();
    const auto depth = [&](Vec2 p) { return m[6] * p.x + m[7] * p.y + m[8]; };
    const std::array<Vec2, 4> c{Vec2{r.x, r.y}, {r.right(), r.y}, {r.right(), r.bottom()}, {r.x, r.bottom()}};
    std::vector<Vec2> out;
    for (size_t i = 0; i < 4; ++i) {
        const Vec2 a = c[i], b = c[(i + 1) % 4];
        const double da = depth(a), db = depth(b);
        if (da >= kNear) out.push_back(a);
        if ((da >= kNear) != (db >= kNear)) out.push_back(a + (b - a) * ((kNear - da) / (db - da)));
    }
    return out;
}

Rect mapBounds(const Homography& tilt, const Rect& r) {
    std::vector<Vec2> seen;
    for (const Vec2& p : seenCorners(tilt, r))
        if (const auto q = tilt.map(p)) seen.push_back(*q);
    return boundsOf(seen).intersected(everywhere());
}

Vec2 toShares(const Rect& box, Vec2 p) {
    return {(p.x - box.x) / box.w, (p.y - box.y) / box.h};
}
Vec2 fromShares(const Rect& box, Vec2 p) {
    return {box.x + p.x * box.w, box.y + p.y * box.h};
}
Rect toShares(const Rect& box, const Rect& r) {
    const Vec2 p = toShares(box, Vec2{r.x, r.y});
    return {p.x, p.y, r.w / box.w, r.h / box.h};
}
Rect fromShares(const Rect& box, const Rect& r) {
    const Vec2 p = fromShares(box, Vec2{r.x, r.y});
    return {p.x, p.y, r.w * box.w, r.h * box.h};
}

Rect toSteps(const Rect& box, double step, const Rect& r) {
    return {(r.x - box.x) / step, (r.y - box.y) / step, r.w / step, r.h / step};
}

/// Solves x + shift(x) · part = goal from x on, by Newton's method; a step that leads away is shortened.
/// Steps of the lattice. False when it does not get there.
bool solve(const KneadField& field, double part, Vec2 goal, Vec2& x) {
    constexpr int kRounds = 40;
    constexpr double kStill = 1e-4, kApart = 0.125; // steps
    const auto at = [&](Vec2 p) { return p + field.shiftAt(p) * part; };
    Vec2 off = goal - at(x);
    for (int i = 0; i < kRounds && off.length() > kStill; ++i) {
        const Vec2 here = at(x), across = (at(x + Vec2{kApart, 0}) - here) * (1 / kApart),
                   down = (at(x + Vec2{0, kApart}) - here) * (1 / kApart);
        const double det = across.x * down.y - across.y * down.x;
        Vec2 step = off;
        if (std::abs(det) > 1e-4)
            step = {(off.x * down.y - off.y * down.x) / det, (across.x * off.y - across.y * off.x) / det};
        bool nearer = false;
        for (double k = 1; k > 1e-3 && !nearer; k /= 2) {
            const Vec2 next = x + step * k, left = goal - at(next);
            nearer = left.length() < off.length();
            if (nearer) x = next, off = left;
        }
        if (!nearer) return false;
    }
    return off.length() <= kStill;
}

/// Where what was at `s` is seen: x + shift(x) = s. Where it is far from even, little by little from what is.
Vec2 unkneaded(const KneadStage& stage, Vec2 s) {
    const double step = stage.step();
    const Vec2 goal{(s.x - stage.box.x) / step, (s.y - stage.box.y) / step};
    Vec2 x = goal;
    if (!solve(*stage.field, 1, goal, x)) {
        constexpr int kParts = 16;
        x = goal;
        for (int i = 1; i <= kParts; ++i) solve(*stage.field, double(i) / kParts, goal, x);
    }
    return {stage.box.x + x.x * step, stage.box.y + x.y * step};
}

std::optional<Vec2> seen(const Mapping::Stage& stage, Vec2 p) {
    return std::visit(Overloaded{[&](const Affine& a) -> std::optional<Vec2> { return a.map(p); },
                                 [&](const Homography& h) { return h.map(p); },
                                 [&](const BendStage& b) -> std::optional<Vec2> {
                                     const Vec2 uv = toShares(b.box, p);
                                     constexpr double kMost = 1 + BendSurface::kMargin,
                                                      kLeast = -BendSurface::kMargin;
                                     if (uv.x < kLeast || uv.y < kLeast || uv.x > kMost || uv.y > kMost)
                                         return std::nullopt;
                                     return fromShares(b.box, b.surface->at(uv).at);
                                 },
                                 [&](const KneadStage& k) -> std::optional<Vec2> { return unkneaded(k, p); }},
                      stage);
}

Rect boundsThrough(const Mapping::Stage& stage, const Rect& r) {
    return std::visit(
        Overloaded{[&](const Affine& a) { return a.mapBounds(r); },
                   [&](const Homography& h) { return mapBounds(h, r); },
                   [&](const BendStage& b) { return fromShares(b.box, b.surface->bounds()); },
                   [&](const KneadStage& k) {
                       return r.grown(k.field->farthest(toSteps(k.box, k.step(), everywhere())) * k.step());
                   }},
        stage);
}

std::optional<Homography> asTilt(const Mapping::Stage& stage) {
    if (const auto* a = std::get_if<Affine>(&stage)) return Homography(*a);
    if (const auto* h = std::get_if<Homography>(&stage)) return *h;
    return std::nullopt;
}

void append(std::vector<Mapping::Stage>& stages, const Mapping::Stage& next) {
    if (!stages.empty()) {
        Mapping::Stage& last = stages.back();
        const auto *a = std::get_if<Affine>(&last), *b = std::get_if<Affine>(&next);
        if (a && b) return void(last = *b * *a);
        const auto s = asTilt(last), t = asTilt(next);
        if (s && t) return void(last = *t * *s);
    }
    stages.push_back(next);
}

} // namespace

std::optional<Affine> Mapping::affine() const {
    if (stages_.empty()) return Affine{};
    const auto* one = stages_.size() == 1 ? std::get_if<Affine>(&stages_[0]) : nullptr;
    return one ? std::optional(*one) : std::nullopt;
}

Mapping operator*(const Mapping& outer, const Mapping& inner) {
    Mapping out = inner;
    for (const Mapping::Stage& stage : outer.stages_) append(out.stages_, stage);
    return out;
}

std::optional<Vec2> Mapping::map(Vec2 p) const {
    std::optional<Vec2> out = p;
    for (const Stage& stage : stages_)
        if (out) out = seen(stage, *out);
    return out;
}

Rect Mapping::mapBounds(const Rect& r) const {
    Rect out = r;
    for (const Stage& stage : stages_) {
        if (out.empty()) return {};
        out = boundsThrough(stage, out);
    }
    return out;
}

namespace {

/// What of a stage's own side is seen within an area of its other side; empty when nothing is.
Rect reachThrough(const Mapping::Stage& stage, const Rect& area) {
    return std::visit(Overloaded{[&](const Affine& a) {
                                     const auto back = a.inverse();
                                     return back ? back->mapBounds(area) : Rect{};
                                 },
                                 [&](const Homography& h) {
                                     const auto back = h.inverse();
                                     return back ? mapBounds(*back, area) : Rect{};
                                 },
                                 [&](const BendStage& b) {
                                     const Rect uv = b.surface->reach(toShares(b.box, area));
                                     return uv.empty() ? Rect{} : fromShares(b.box, uv);
                                 },
                                 [&](const KneadStage& k) {
                                     const Rect there =
                                         toSteps(k.box, k.step(), area.intersected(everywhere()));
                                     return area.grown(k.field->farthest(there) * k.step());
                                 }},
                      stage);
}

} // namespace

std::vector<Rect> reachesOf(const Mapping& mapping, const Rect& area) {
    std::vector<Rect> out{area};
    for (size_t i = mapping.stages().size(); i-- > 0 && !out.back().empty();)
        out.push_back(reachThrough(mapping.stages()[i], out.back()));
    if (out.back().empty()) out.pop_back();
    return out;
}

double largestScale(const Mapping& mapping, const Rect& box) {
    Mapping plain;
    for (const Mapping::Stage& stage : mapping.stages())
        if (!std::holds_alternative<KneadStage>(stage)) plain = Mapping(stage) * plain;
    constexpr int kSamples = 5;
    const double dx = box.w / 256, dy = box.h / 256;
    double most = 0;
    for (int j = 0; j < kSamples; ++j)
        for (int i = 0; i < kSamples; ++i) {
            const Vec2 p{box.x + (box.w - dx) * i / (kSamples - 1),
                         box.y + (box.h - dy) * j / (kSamples - 1)};
            const auto here = plain.map(p), right = plain.map(p + Vec2{dx, 0}),
                       below = plain.map(p + Vec2{0, dy});
            if (here && right) most = std::max(most, (*right - *here).length() / dx);
            if (here && below) most = std::max(most, (*below - *here).length() / dy);
        }
    return most;
}

BackMapping::BackMapping(const Mapping& mapping, const Rect& area) {
    const auto& stages = mapping.stages();
    const std::vector<Rect> reaches = reachesOf(mapping, area);
    there_ = reaches.size() == stages.size() + 1;
    if (!there_) return;
    reach_ = reaches.back();
    for (size_t i = stages.size(); i-- > 0;) {
        const Rect& here = reaches[stages.size() - 1 - i];
        // A length of this stage's result, as px of the whole.
        const auto narrow = [&](double length) {
            const double share = std::sqrt(area.w * area.h / std::max(here.w * here.h, 1e-300));
            smoothOver_ = std::min(smoothOver_, length * share);
        };
        if (const auto* a = std::get_if<Affine>(&stages[i])) {
            steps_.emplace_back(*a->inverse());
        } else if (const auto* h = std::get_if<Homography>(&stages[i])) {
            steps_.emplace_back(*h->inverse());
        } else if (const auto* b = std::get_if<BendStage>(&stages[i])) {
            narrow(std::min(b->box.w / b->surface->grid().columns, b->box.h / b->surface->grid().rows) / 4);
            steps_.emplace_back(Bending{b->surface, b->box});
        } else if (const auto* k = std::get_if<KneadStage>(&stages[i])) {
            Kneading kneading{
                KneadWindow(*k->field, toSteps(k->box, k->step(), here.intersected(everywhere()))), k->box,
                k->step(), k->field->pulledIn};
            if (kneading.window.moves()) narrow(k->step());
            if (i == 0)
                inner_.emplace(std::move(kneading));
            else
                steps_.emplace_back(std::move(kneading));
        }
    }
    smoothOver_ = std::max(smoothOver_, 1.0);
}

Vec2 BackMapping::Kneading::map(Vec2 p) const {
    return p + window.shift({(p.x - box.x) / step, (p.y - box.y) / step}) * step;
}

std::optional<Vec2> BackMapping::through(Vec2 p, Near& near) const {
    near.uv.resize(steps_.size());
    std::optional<Vec2> out = p;
    for (size_t i = 0; i < steps_.size() && out; ++i)
        out = std::visit(Overloaded{[&](const Affine& a) -> std::optional<Vec2> { return a.map(*out); },
                                    [&](const Homography& h) { return h.map(*out); },
                                    [&](const Bending& b) -> std::optional<Vec2> {
                                        near.uv[i] = b.surface->back(toShares(b.box, *out), near.uv[i]);
                                        if (!near.uv[i]) return std::nullopt;
                                        return fromShares(b.box, *near.uv[i]);
                                    },
                                    [&](const Kneading& k) -> std::optional<Vec2> { return k.map(*out); }},
                         steps_[i]);
    return out;
}

std::optional<Vec2> BackMapping::mapBeforeKnead(Vec2 p, Near& near) const {
    return through(p, near);
}

Vec2 BackMapping::kneaded(Vec2 p) const {
    return inner_ ? inner_->map(p) : p;
}

std::optional<Vec2> BackMapping::map(Vec2 p, Near& near) const {
    const auto out = through(p, near);
    return out ? std::optional(kneaded(*out)) : out;
}

namespace {

/// Cuts one curve, given by what it is at t in 0…1, finer.
class Cutter {
  public:
    Cutter(const Mapping& mapping, double tolerance, Path& out)
        : mapping_(mapping)
        , tolerance_(tolerance)
        , out_(out) {}

    /// A contour of its own begins, at its first place that is seen.
    void begin(Vec2 at) {
        isOpen_ = false;
        if (const auto seen = mapping_.map(at)) add(*seen);
    }
    template <class Curve>
    void cut(const Curve& at) {
        constexpr int kAtLeast = 4; // so that a bend between two ends that lie still is seen
        std::optional<Vec2> from = mapping_.map(at(0));
        for (int i = 0; i < kAtLeast; ++i) {
            const double a = double(i) / kAtLeast, b = double(i + 1) / kAtLeast;
            const auto to = mapping_.map(at(b));
            if (from && to) halve(at, a, *from, b, *to, 0);
            if (to) add(*to);
            from = to;
        }
    }

  private:
    void add(Vec2 p) { std::exchange(isOpen_, true) ? out_.lineTo(p) : out_.moveTo(p); }
    template <class Curve>
    void halve(const Curve& at, double a, Vec2 from, double b, Vec2 to, int depth) {
        constexpr int kDeepest = 8; // a letter of 20,000 px keeps to a twentieth of one
        const double t = (a + b) / 2;
        const auto middle = mapping_.map(at(t));
        if (!middle || depth == kDeepest) return;
        if ((*middle - (from + to) * 0.5).length() <= tolerance_) return;
        halve(at, a, from, t, *middle, depth + 1);
        add(*middle);
        halve(at, t, *middle, b, to, depth + 1);
    }
    const Mapping& mapping_;
    double tolerance_;
    Path& out_;
    bool isOpen_ = false;
};

} // namespace

Path mapped(const Path& path, const Mapping& mapping, double tolerance) {
    Path out;
    if (const auto affine = mapping.affine()) {
        out.append(path, *affine);
        return out;
    }
    Cutter cutter(mapping, tolerance, out);
    Vec2 now, first;
    bool open = false;
    const auto line = [&](Vec2 from, Vec2 to) {
        if (!(from == to)) cutter.cut([=](double t) { return from + (to - from) * t; });
    };
    const Vec2* p = path.points().data();
    for (const Path::Verb verb : path.verbs()) {
        switch (verb) {
        case Path::Verb::Move:
            if (open) line(now, first); // every contour is closed when filled
            first = now = p[0];
            cutter.begin(now);
            open = true;
            p += 1;
            break;
        case Path::Verb::Line:
            line(now, p[0]);
            now = p[0], p += 1;
            break;
        case Path::Verb::Quad: {
            const Vec2 a = now, b = p[0], c = p[1];
            cutter.cut(
                [=](double t) { return a * ((1 - t) * (1 - t)) + b * (2 * t * (1 - t)) + c * (t * t); });
            now = c, p += 2;
            break;
        }
        case Path::Verb::Cubic: {
            const Vec2 a = now, b = p[0], c = p[1], d = p[2];
            cutter.cut([=](double t) {
                const double s = 1 - t;
                return a * (s * s * s) + b * (3 * s * s * t) + c * (3 * s * t * t) + d * (t * t * t);
            });
            now = d, p += 3;
            break;
        }
        }
    }
    if (open) line(now, first);
    return out;
}

} // namespace glyptos
