#include "scene/pack/packages.h"

namespace glyptos {

/// The tray is glued on the inside of the back.
Assembly wallet(const Package& package, const PieceDrawing& drawing) {
    constexpr double kTray = 4; // mm
    Assembly out;
    const auto piece = drawing.folded(package.sleeve);
    if (!piece) return out;
    out.steps = {"the wallet opens", "the disc comes out"};
    piece->step = 0, piece->madeUp = 1, piece->open = 0;
    Part card{"Wallet"};
    card.rest = facingFront(*piece->flat, {});
    card.piece = piece;
    out.parts.push_back(std::move(card));

    const Panel& back = *piece->flat->panel("back");
    const size_t board = size_t(&back - piece->flat->panels.data());
    const double t = piece->flat->thickness;
    const Vec3 middle{back.onFlat.centre().x, back.onFlat.centre().y, -t};
    Part tray{"Tray"};
    tray.carrier = 0, tray.carrierBoard = board;
    addClearBox(tray.body, {middle - Vec3{back.width / 2 - 1, back.height / 2 - 1, kTray},
                            middle + Vec3{back.width / 2 - 1, back.height / 2 - 1, 0},
                            {false, false, false, false, false, true}});
    out.parts.push_back(std::move(tray));

    // On the inside it lies with its printed side away from the board.
    Part disc = opticalDiscPart(out, package, drawing);
    disc.carrier = 0, disc.carrierBoard = board;
    disc.rest = turnedAbout({}, {0, 1, 0}, 180);
    disc.rest.origin = middle - Vec3{0, 0, kTray - 1};
    disc.motions.push_back(slid(1, {0, 0, -30}, 0, 0.5));
    disc.motions.push_back(slid(1, {0, back.height * 0.9, 0}, 0.3, 1));
    out.parts.push_back(std::move(disc));
    return out;
}

} // namespace glyptos
