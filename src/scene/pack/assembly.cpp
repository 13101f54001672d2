#include "scene/pack/assembly.h"

#include "scene/draw/nearest_share.h"
#include "scene/draw/rasterize.h"
#include "scene/draw/seen_facet.h"
#include "scene/fold/folded_facets.h"

#include <algorithm>

namespace glyptos {
namespace {

/// How far a motion has come on the way out.
double outOf(const Motion& motion, const PackShares& shares) {
    const double out = 1 - shares[motion.step];
    return std::clamp((out - motion.from) / (motion.to - motion.from), 0.0, 1.0);
}

Pose moved(const Motion& motion, const PackShares& shares) {
    const double out = outOf(motion, shares);
    Pose pose = turnedAbout(motion.at, motion.axis, motion.degrees * out);
    pose.origin = pose.origin + motion.shift * out;
    return pose;
}

Facet placed(Facet facet, const Pose& pose) {
    facet.corner = pose.map(facet.corner);
    facet.right = pose.mapVector(facet.right), facet.down = pose.mapVector(facet.down);
    return facet;
}

std::vector<Facet> ownFacets(const Part& part, const PackShares& shares) {
    std::vector<Facet> out = part.body;
    if (!part.piece) return out;
    const PackedPiece& piece = *part.piece;
    const auto printed = foldedFacets(*piece.flat, *piece.folding, piece.sharesAt(shares), piece.pictures);
    out.insert(out.end(), printed.begin(), printed.end());
    return out;
}

/// Whether the surface is there, at shares of the facet.
bool isThere(const Facet& facet, Vec2 at) {
    if (!facet.picture || facet.picture->isWhole()) return true;
    const SurfacePicture::Level& level = facet.picture->levels().front();
    const Vec2 on = facet.onPicture.map(at);
    const auto px = [](double share, int n) { return size_t(std::clamp(int(share * n), 0, n - 1)); };
    return level.bytes[(px(on.y, level.height) * size_t(level.width) + px(on.x, level.width)) * 4 + 3] > 127;
}

/// Steps that move the part itself; without any those of what carries it.
std::vector<size_t> stepsOf(const Assembly& assembly, size_t part) {
    for (std::optional<size_t> p = part; p; p = assembly.parts[*p].carrier) {
        std::vector<size_t> out;
        for (const Motion& motion : assembly.parts[*p].motions) out.push_back(motion.step);
        const auto& piece = assembly.parts[*p].piece;
        if (piece && piece->step) out.push_back(*piece->step);
        if (!out.empty()) return out;
    }
    return {};
}

} // namespace

FoldShares PackedPiece::sharesAt(const PackShares& shares) const {
    const double out = step ? 1 - shares[*step] : 0;
    return folding->sharesAt(madeUp + (open - madeUp) * out);
}

PackShares Assembly::sharesAt(double at) const {
    PackShares out;
    const double come = (1 - std::clamp(at, 0.0, 1.0)) * double(steps.size());
    for (size_t i = 0; i < steps.size(); ++i) out.push_back(1 - gentle(come - double(i)));
    return out;
}

std::vector<Pose> Assembly::poses(const PackShares& shares) const {
    std::vector<Pose> out;
    for (const Part& part : parts) {
        Pose pose = part.rest;
        for (const Motion& motion : part.motions) pose = moved(motion, shares) * pose;
        if (part.carrier && part.carrierBoard) {
            const PackedPiece& piece = *parts[*part.carrier].piece;
            pose = piece.folding->poses(piece.sharesAt(shares))[*part.carrierBoard] * pose;
        }
        if (part.carrier) {
            // Parts are packed in the frame of all; what moved the carrier moves them too.
            const Part& carrier = parts[*part.carrier];
            const Pose carried =
                part.carrierBoard ? out[*part.carrier] : out[*part.carrier] * inverse(carrier.rest);
            pose = carried * pose;
        }
        out.push_back(pose);
    }
    return out;
}

std::vector<Facet> Assembly::facets(const PackShares& shares) const {
    std::vector<Facet> out;
    const std::vector<Pose> where = poses(shares);
    for (size_t i = 0; i < parts.size(); ++i)
        for (const Facet& facet : ownFacets(parts[i], shares)) out.push_back(placed(facet, where[i]));
    return out;
}

std::vector<Facet> Assembly::facetsOf(size_t part, const PackShares& shares) const {
    std::vector<Facet> out = ownFacets(parts[part], shares);
    const Pose pose = poses(shares)[part];
    for (Facet& facet : out) facet = placed(facet, pose);
    return out;
}

Eye eyeOn(std::span<const Facet> facets, const Pose& turn, double nearness, int width, int height) {
    Bounds3 bounds;
    for (const Facet& f : facets)
        for (const Vec3& p : {f.corner, f.corner + f.right, f.corner + f.down, f.corner + f.right + f.down})
            bounds.take(p);
    return eyeFitting(bounds, turn, nearness, width, height);
}

std::optional<PartGrab> partAt(const Assembly& assembly, const PackShares& shares, const Eye& eye, Vec2 at) {
    std::optional<PartGrab> out;
    double nearest = 0; // one over the depth
    const std::vector<Pose> where = assembly.poses(shares);
    for (size_t i = 0; i < assembly.parts.size(); ++i)
        for (const Facet& own : ownFacets(assembly.parts[i], shares)) {
            const Facet facet = placed(own, where[i]);
            const auto seen = seenFacet(facet, eye);
            if (!seen) continue;
            const double w = seen->q[2].at(at.x, at.y);
            const double s = seen->q[0].at(at.x, at.y) / w, t = seen->q[1].at(at.x, at.y) / w;
            if (w <= nearest || s < 0 || t < 0 || s > 1 || t > 1 || !isThere(facet, {s, t})) continue;
            nearest = w;
            out = PartGrab{i, own.corner + own.right * s + own.down * t};
        }
    return out;
}

bool isMoved(const Assembly& assembly, size_t part) {
    return !stepsOf(assembly, part).empty();
}

std::optional<StepTowards> stepTowards(const Assembly& assembly, const PackShares& shares,
                                       const PartGrab& grab, const Eye& eye, Vec2 at) {
    const std::vector<size_t> steps = stepsOf(assembly, grab.part);
    if (steps.empty()) return std::nullopt;
    constexpr double kUnderWay = 0.999;
    size_t step = *std::max_element(steps.begin(), steps.end());
    for (auto it = steps.rbegin(); it != steps.rend(); ++it)
        if (shares[*it] > 1 - kUnderWay) step = *it; // the first that is not all the way out
    PackShares tried = shares;
    const double share = nearestShare(
        [&](double s) {
            tried[step] = s;
            return seenAt(assembly.poses(tried)[grab.part].map(grab.onPart), eye);
        },
        shares[step], at);
    return StepTowards{step, share};
}

} // namespace glyptos
