#include "scene/pack/packages.h"

#include <algorithm>

namespace glyptos {
namespace {

constexpr double kWall = 1.2, kRoom = 3, kAround = 0.4; // mm

/// The card's figures, which say how large the case is.
struct CardSize {
    double wide = 65, high = 101.5, deep = 12.5;
    double hand = 1; ///< 1: the spine is at the left; -1: at the right

    explicit CardSize(const PiecePtr& card) {
        if (!card) return;
        const Flat& flat = *card->flat;
        const Panel& front = flat.frontPanel();
        wide = front.width, high = front.height;
        const Panel* spine = flat.panel("spine");
        if (!spine) return;
        deep = spine->onFlat.w;
        hand = spine->onFlat.centre().x < front.onFlat.centre().x ? 1 : -1;
    }
};

/// How thick the front is with all that is folded in behind it.
double boardsOfFront(const PiecePtr& card) {
    if (!card) return 0;
    const auto& panels = card->flat->panels;
    const auto folded = std::count_if(panels.begin(), panels.end(),
                                      [](const Panel& p) { return p.id.starts_with("inner-"); });
    return double(folded + 1) * card->flat->thickness;
}

/// A box whose left and right change places with the hand of the card.
Box handed(double hand, Box box) {
    if (hand > 0) return box;
    std::swap(box.least.x, box.most.x);
    box.least.x = -box.least.x, box.most.x = -box.most.x;
    std::swap(box.without[0], box.without[1]);
    return box;
}

} // namespace

Assembly cassetteCase(const Package& package, const PieceDrawing& drawing) {
    const CardSize size(package.card);
    Assembly out;
    const double left = -size.wide / 2 - kWall, right = size.wide / 2 + kRoom, high = size.high / 2 + kRoom;
    const double back = -size.deep - kWall;
    // The pocket is open on the side away from the spine; the back has the wall there.
    Part pocket{"Case"};
    addClearBox(pocket.body, handed(size.hand, {{left, -high, -size.deep / 2},
                                                {right, high, kWall},
                                                {false, true, false, false, true, false}}));
    out.parts.push_back(std::move(pocket));
    if (const auto piece = drawing.folded(package.card)) {
        Part card{"Card"};
        card.carrier = 0;
        card.rest = facingFront(*piece->flat, {});
        card.piece = piece;
        out.parts.push_back(std::move(card));
    }
    out.steps = {"the back opens", "the cassette slides out"};
    Part cover{"Back of the case"};
    addClearBox(cover.body, handed(size.hand, {{left, -high, back},
                                               {right, high, -size.deep / 2},
                                               {true, true, false, false, false, true}}));
    addClearBox(cover.body, handed(size.hand, {{right - kWall, -high, back},
                                               {right, high, kWall},
                                               {true, false, false, false, true, false}}));
    cover.motions.push_back({0, {left * size.hand, 0, back}, {0, 1, 0}, 115 * size.hand});
    out.parts.push_back(std::move(cover));
    // Clear of the panels that are folded in behind the front.
    const double front = boardsOfFront(package.card), room = size.deep - front - kAround;
    const double thick = std::min(kShellThick, std::max(1.0, room - 2 * kAround));
    Part tape = cassettePart(out, package, drawing, size.hand, thick);
    tape.rest.origin = {size.hand * 0.5, 0, -front - kAround};
    tape.motions.push_back(slid(1, {size.hand * (size.wide + 12), 0, 0}));
    out.parts.push_back(std::move(tape));
    return out;
}

} // namespace glyptos
