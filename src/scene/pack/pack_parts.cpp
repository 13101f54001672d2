#include "scene/pack/packages.h"

namespace glyptos {

std::shared_ptr<PackedPiece> PieceDrawing::folded(const PiecePtr& piece, double filling) const {
    if (!piece) return nullptr;
    auto out = std::make_shared<PackedPiece>();
    out->flat = piece->flat;
    out->folding = std::make_shared<const Folding>(*piece->flat, filling);
    out->pictures = boardPictures(renderer, release, piece->id, *out->folding, pxPerMm, cancel);
    return out;
}

BoardPictures::Side PieceDrawing::label(const PiecePtr& piece, const std::string& panel) const {
    return piece ? panelOnPaper(renderer, release, {piece->id, panel}, pxPerMm, cancel) : nullptr;
}

BoardPictures::Side PieceDrawing::print(const PiecePtr& piece, const std::string& panel) const {
    return piece ? panelWithoutPaper(renderer, release, {piece->id, panel}, pxPerMm, cancel) : nullptr;
}

const SurfacePicture* kept(Assembly& assembly, std::shared_ptr<const SurfacePicture> surface) {
    if (!surface) return nullptr;
    assembly.surfaces.push_back(std::move(surface));
    return assembly.surfaces.back().get();
}

Pose facingFront(const Flat& flat, const Vec3& to) {
    const Rect& front = flat.frontPanel().onFlat;
    Pose out;
    out.origin = to - Vec3{front.centre().x, front.centre().y, 0};
    return out;
}

Part opticalDiscPart(Assembly& to, const Package& package, const PieceDrawing& drawing) {
    constexpr double kPrint = 0.02; // over the disc
    Part disc{"Disc"};
    const Vec3 across{kDisc, 0, 0}, down{0, kDisc, 0};
    disc.body.push_back(pictured({}, across, down, kept(to, opticalDisc(true))));
    disc.body.push_back(pictured({0, 0, -kDiscThick}, across * -1, down, kept(to, opticalDisc(false))));
    addRim(disc.body, kDisc, 0, -kDiscThick, {0.72F, 0.74F, 0.75F});
    if (const SurfacePicture* print = kept(to, drawing.print(package.disc, "front"))) {
        const Panel& face = package.disc->flat->frontPanel();
        disc.body.push_back(pictured({0, 0, kPrint}, {face.width, 0, 0}, {0, face.height, 0}, print));
    }
    return disc;
}

} // namespace glyptos
