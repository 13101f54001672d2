// Internal to pack: each kind of package put together. The front faces the viewer; (0, 0, 0) is in its
// middle.
#pragma once

#include "scene/pack/assembled.h"
#include "scene/pack/bodies.h"

namespace glyptos {

/// How its pieces are drawn.
struct PieceDrawing {
    Renderer& renderer;
    const ReleasePtr& release;
    double pxPerMm = 4;
    const std::atomic<bool>* cancel = nullptr;

    /// A piece folded, with what is printed on it; nothing without a piece.
    std::shared_ptr<PackedPiece> folded(const PiecePtr& piece, double filling = 0) const;
    /// A label that is stuck on, and what is printed on something else than paper; nothing without a piece.
    BoardPictures::Side label(const PiecePtr& piece, const std::string& panel) const;
    BoardPictures::Side print(const PiecePtr& piece, const std::string& panel) const;
};

Assembly jewelCase(const Package& package, const PieceDrawing& drawing);
Assembly cassetteCase(const Package& package, const PieceDrawing& drawing);
Assembly sleeve(const Package& package, const PieceDrawing& drawing);
Assembly cassetteSleeve(const Package& package, const PieceDrawing& drawing);
Assembly wallet(const Package& package, const PieceDrawing& drawing);

/// A movement that does not turn.
inline Motion slid(size_t step, const Vec3& shift, double from = 0, double to = 1) {
    Motion out;
    out.step = step, out.shift = shift, out.from = from, out.to = to;
    return out;
}

/// The room behind the front of a folded sleeve, up to the next panel, where no glue flap lies.
struct Pocket {
    double top = 0, bottom = 0; ///< z, where the front faces the viewer at 0
    double gap() const { return top - bottom; }
    double middle() const { return (top + bottom) / 2; }
};
Pocket pocketOf(const PackedPiece& sleeve);

/// A cassette `thick` deep, upright, its side A at z = 0 towards the viewer; its tape is on the left, with
/// `hand` -1 on the right.
Part cassettePart(Assembly& to, const Package& package, const PieceDrawing& drawing, double hand,
                  double thick);

/// An optical disc about the z axis, its printed side at z = 0 towards the viewer.
Part opticalDiscPart(Assembly& to, const Package& package, const PieceDrawing& drawing);

/// A surface that `assembly` keeps, for facets of its bodies.
const SurfacePicture* kept(Assembly& assembly, std::shared_ptr<const SurfacePicture> surface);

/// From a piece's own frame to where the middle of its front panel lies at `to`, facing the viewer.
Pose facingFront(const Flat& flat, const Vec3& to);

} // namespace glyptos
