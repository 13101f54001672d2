// Things that are packed into each other: where each part lies, and how it comes out, step by step.
#pragma once

#include "scene/draw/facet.h"
#include "scene/fold/board_pictures.h"
#include "scene/fold/folding.h"

#include <memory>
#include <span>
#include <string>

namespace glyptos {

/// How far each step has come: 1 packed, 0 all the way out.
using PackShares = std::vector<double>;

/// A movement of one step, in the frame in which its part is packed: a turn about a line, then a shift.
struct Motion {
    size_t step = 0;
    Vec3 at, axis{0, 1, 0}; ///< a unit vector
    double degrees = 0;
    Vec3 shift = {};
    double from = 0, to = 1; ///< the part of the step that it takes, on the way out
};

/// A printed piece, folded.
struct PackedPiece {
    std::shared_ptr<const Flat> flat;
    std::shared_ptr<const Folding> folding;
    BoardPictures pictures;
    std::optional<size_t> step = {}; ///< by which it is folded up on the way in; nothing: it stays made up
    double madeUp = 1, open = 1;     ///< Folding::sharesAt of both ends
    FoldShares sharesAt(const PackShares& shares) const;
};

struct Part {
    std::string name;
    std::optional<size_t> carrier = {};      ///< an earlier part that takes it along
    std::optional<size_t> carrierBoard = {}; ///< of the carrier's piece: on that board
    Pose rest = {};                          ///< from its own frame to where it is packed
    std::vector<Motion> motions = {};        ///< the first acts first
    std::vector<Facet> body = {};            ///< what of it is no printed piece, in its own frame
    std::shared_ptr<const PackedPiece> piece = nullptr;
};

/// A package with what is in it. Lengths in mm.
struct Assembly {
    std::vector<Part> parts;
    std::vector<std::string> steps; ///< what each does on the way out: "the lid opens"
    std::vector<std::shared_ptr<const SurfacePicture>> surfaces; ///< that facets of bodies show

    /// With 1 all packed and 0 all out, one step after the other.
    PackShares sharesAt(double at) const;
    std::vector<Pose> poses(const PackShares& shares) const;
    std::vector<Facet> facets(const PackShares& shares) const;
    /// Those of one part.
    std::vector<Facet> facetsOf(size_t part, const PackShares& shares) const;
};

/// An eye that sees all of what is there; see eyeFitting().
Eye eyeOn(std::span<const Facet> facets, const Pose& turn, double nearness, int width, int height);

/// A place on a part.
struct PartGrab {
    size_t part = 0;
    Vec3 onPart; ///< in its own frame
};

/// The nearest part at a point, px from the middle of the picture; nothing where none is, or through a hole.
std::optional<PartGrab> partAt(const Assembly& assembly, const PackShares& shares, const Eye& eye, Vec2 at);

/// Whether any step moves a part, or what carries it.
bool isMoved(const Assembly& assembly, size_t part);

/// How far the step that moves a part, or what carries it, must have come for the grabbed place to be seen
/// nearest to a point; of a part with several steps the one that is under way, else the next on its way out.
/// Nothing when nothing moves it.
struct StepTowards {
    size_t step = 0;
    double share = 0;
};
std::optional<StepTowards> stepTowards(const Assembly& assembly, const PackShares& shares,
                                       const PartGrab& grab, const Eye& eye, Vec2 at);

} // namespace glyptos
