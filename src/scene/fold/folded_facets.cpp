#include "scene/fold/folded_facets.h"

#include "scene/draw/rasterize.h"

namespace glyptos {
namespace {

constexpr std::array<float, 3> kPaper{0.98f, 0.98f, 0.98f}, kEdge{0.93f, 0.92f, 0.9f};

class FacetMaker {
  public:
    FacetMaker(const Flat& flat, const Folding& folding, const BoardPictures& pictures)
        : flat_(flat)
        , folding_(folding)
        , pictures_(pictures) {}

    void addBoard(size_t place, const Pose& pose) {
        const Board& board = folding_.boards()[place];
        const Rect& box = board.outline.box;
        if (box.empty()) return;
        const double t = folding_.thickness();
        const auto& sides = pictures_.boards[place];
        Facet face{pose.map({box.x, box.y, 0}), pose.mapVector({box.w, 0, 0}), pose.mapVector({0, box.h, 0})};
        setPicture(face, sides.face.get(), board.face, {box.w, 0, 0, box.h, box.x, box.y});
        Facet back{pose.map({box.right(), box.y, -t}), pose.mapVector({-box.w, 0, 0}),
                   pose.mapVector({0, box.h, 0})};
        setPicture(back, sides.back.get(), board.back, {-box.w, 0, 0, box.h, box.right(), box.y});
        facets.push_back(face), facets.push_back(back);
        addRim(board, pose);
    }

    /// The board between a part and the one that hangs on it, as it turns from the one to the other.
    void addBend(const Hinge& hinge, double degrees, const std::vector<Pose>& poses) {
        if (!hinge.parent || degrees < 1) return;
        const Board &parent = folding_.boards()[*hinge.parent], &child = folding_.boards()[hinge.child];
        const Fold& fold = flat_.folds[hinge.fold];
        const Vec2 line = fold.to - fold.from;
        const Rect shared = touching(parent.outline.box, child.outline.box);
        const Vec2 way = line * (1 / std::max(line.length(), 1e-9));
        const auto along = [&](Vec2 p) { return (p - fold.from).x * way.x + (p - fold.from).y * way.y; };
        const double a = std::max(0.0, along({shared.x, shared.y}));
        const double b = std::min(line.length(), along({shared.right(), shared.bottom()}));
        if (std::abs(b - a) < 1e-6) return;
        const Vec2 from = fold.from + way * std::min(a, b), to = fold.from + way * std::max(a, b);
        const Pose& rest = poses[*hinge.parent];
        bend(hinge, degrees, rest, from, to, 0, parent.face, pictures_.boards[*hinge.parent].face.get());
        bend(hinge, degrees, rest, from, to, -folding_.thickness(), parent.back,
             pictures_.boards[*hinge.parent].back.get());
    }

    std::vector<Facet> facets;

  private:
    /// Where two boxes meet, as thin as that may be.
    static Rect touching(const Rect& a, const Rect& b) {
        const double l = std::max(a.x, b.x), t = std::max(a.y, b.y);
        return {l, t, std::max(0.0, std::min(a.right(), b.right()) - l),
                std::max(0.0, std::min(a.bottom(), b.bottom()) - t)};
    }

    /// `onFlat` leads from shares of the facet to the flat.
    void setPicture(Facet& facet, const SurfacePicture* picture, const std::optional<PrintedSide>& side,
                    const Affine& onFlat) const {
        facet.picture = picture, facet.colour = kPaper;
        if (!picture || !side) return; // blank paper is as large as its facet
        const Panel& panel = flat_.panels[side->panel];
        facet.onPicture = Affine::scaling(1 / panel.width, 1 / panel.height) * side->toPanel * onFlat;
    }

    void addRim(const Board& board, const Pose& pose) {
        const Vec3 through = pose.mapVector({0, 0, -folding_.thickness()});
        for (const Polyline& line : board.rim)
            for (size_t i = 0; i < line.points.size(); ++i) {
                const Vec2 p = line.points[i], q = line.points[(i + 1) % line.points.size()];
                if ((q - p).length() < 1e-6) continue;
                Facet edge{pose.map({q.x, q.y, 0}), pose.mapVector({p.x - q.x, p.y - q.y, 0}), through};
                edge.colour = kEdge;
                facets.push_back(edge);
            }
    }

    /// One side of a bend, in strips that turn by a few degrees each, with what is printed at the fold.
    void bend(const Hinge& hinge, double degrees, const Pose& rest, Vec2 from, Vec2 to, double height,
              const std::optional<PrintedSide>& side, const SurfacePicture* picture) {
        const int strips = std::max(1, int(std::ceil(degrees / 18)));
        const auto at = [&](int i, Vec2 p) {
            return (rest * turnedAbout(hinge.at, hinge.axis, degrees * i / strips)).map({p.x, p.y, height});
        };
        for (int i = 0; i < strips; ++i) {
            Facet strip{at(i, from), at(i, to) - at(i, from), at(i + 1, from) - at(i, from)};
            if (strip.down.length() < 1e-9) return;
            const Pose middle = rest * turnedAbout(hinge.at, hinge.axis, degrees * (i + 0.5) / strips);
            const bool towards = strip.right.cross(strip.down).dot(middle.z) > 0;
            Affine onFlat{to.x - from.x, to.y - from.y, 0, 0, from.x, from.y};
            if (towards != (height == 0)) {
                strip.corner = strip.corner + strip.right, strip.right = strip.right * -1;
                onFlat = {from.x - to.x, from.y - to.y, 0, 0, to.x, to.y};
            }
            setPicture(strip, side ? picture : nullptr, side, onFlat);
            facets.push_back(strip);
        }
    }

    const Flat& flat_;
    const Folding& folding_;
    const BoardPictures& pictures_;
};

} // namespace

std::vector<Facet> foldedFacets(const Flat& flat, const Folding& folding, const FoldShares& shares,
                                const BoardPictures& pictures) {
    FacetMaker maker(flat, folding, pictures);
    const std::vector<Pose> poses = folding.poses(shares);
    for (size_t i = 0; i < poses.size(); ++i) maker.addBoard(i, poses[i]);
    if (!flat.bound)
        for (const Hinge& hinge : folding.hinges())
            maker.addBend(hinge, hinge.angle * shares[hinge.fold], poses);
    return std::move(maker.facets);
}

namespace {

constexpr double kFar = 4; // distances of its own reach

/// At the middle of the box, but for how large it is seen.
Eye eyeAt(const Bounds3& bounds, const Pose& turn) {
    Eye eye;
    eye.turn = turn;
    eye.turn.origin = {};
    if (bounds.least.x > bounds.most.x) return eye; // nothing is there
    eye.middle = (bounds.least + bounds.most) * 0.5;
    eye.distance = kFar * std::max((bounds.most - bounds.least).length() / 2, 1e-6);
    return eye;
}

} // namespace

Eye eyeFitting(const Bounds3& bounds, const Pose& turn, double nearness, int width, int height) {
    Eye eye = eyeAt(bounds, turn);
    constexpr double kOfView = 0.94;
    double focal = 1e12;
    for (const double x : {bounds.least.x, bounds.most.x})
        for (const double y : {bounds.least.y, bounds.most.y})
            for (const double z : {bounds.least.z, bounds.most.z}) {
                const Vec3 p = eye.turn.mapVector(Vec3{x, y, z} - eye.middle);
                const double depth = eye.distance - p.z;
                focal = std::min({focal, width / 2.0 * depth / std::max(std::abs(p.x), 1e-6),
                                  height / 2.0 * depth / std::max(std::abs(p.y), 1e-6)});
            }
    eye.focal = nearness * kOfView * focal;
    return eye;
}

Eye eyeFor(const Folding& folding, const FoldShares& shares, const Pose& turn, double nearness, int width,
           int height) {
    Bounds3 bounds;
    const std::vector<Pose> poses = folding.poses(shares);
    for (size_t i = 0; i < poses.size(); ++i) {
        const Rect& r = folding.boards()[i].outline.box;
        if (r.empty()) continue;
        for (const Vec2& at :
             {Vec2{r.x, r.y}, Vec2{r.right(), r.y}, Vec2{r.x, r.bottom()}, Vec2{r.right(), r.bottom()}})
            bounds.take(poses[i].map({at.x, at.y, 0}));
    }
    Eye eye = eyeAt(bounds, turn);
    eye.focal = nearness * kFar * std::min(width / 2.0, height / 2.0);
    return eye;
}

} // namespace glyptos
