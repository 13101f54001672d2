#include "scene/pack/packages.h"

#include <algorithm>

namespace glyptos {

Part cassettePart(Assembly& to, const Package& package, const PieceDrawing& drawing, double hand,
                  double thick) {
    constexpr double kStuck = 0.04, kFromEdge = 2.5;
    Part out{"Cassette"};
    const SurfacePicture* shell = kept(to, cassetteShell());
    addBox(out.body, {{-kShellHigh / 2, -kShellWide / 2, -thick},
                      {kShellHigh / 2, kShellWide / 2, 0},
                      {false, false, false, false, true, true},
                      {0.17F, 0.18F, 0.20F}});
    for (const bool front : {true, false}) {
        const double z = front ? 0 : -thick, out1 = front ? kStuck : -kStuck;
        // The label's top is away from the spine.
        const Vec3 right{0, front == (hand > 0) ? 1.0 : -1.0, 0}, down{-hand, 0, 0};
        out.body.push_back(pictured({0, 0, z}, right * kShellWide, down * kShellHigh, shell));
        const SurfacePicture* label = kept(to, drawing.label(package.shell, front ? "side-a" : "side-b"));
        if (!label) continue;
        const Panel& panel = *package.shell->flat->panel(front ? "side-a" : "side-b");
        const Vec3 middle{hand * (kShellHigh / 2 - kFromEdge - panel.height / 2), 0, z + out1};
        out.body.push_back(pictured(middle, right * panel.width, down * panel.height, label));
    }
    return out;
}

/// The cassette slides out at the top.
Assembly cassetteSleeve(const Package& package, const PieceDrawing& drawing) {
    constexpr double kLoose = 0.2, kClear = 12; // mm
    Assembly out;
    const auto piece = drawing.folded(package.sleeve);
    if (!piece) return out;
    Part round{"Sleeve"};
    round.rest = facingFront(*piece->flat, {});
    round.piece = piece;
    out.parts.push_back(std::move(round));
    out.steps = {"the cassette slides out"};
    const Pocket pocket = pocketOf(*piece);
    const double thick = std::min(kShellThick, std::max(1.0, pocket.gap() - 2 * kLoose));
    Part tape = cassettePart(out, package, drawing, 1, thick);
    tape.rest.origin = {0, 0, pocket.middle() + thick / 2};
    const double way = (piece->flat->frontPanel().height + kShellWide) / 2 + kClear;
    tape.motions.push_back(slid(0, {0, -way, 0}));
    out.parts.push_back(std::move(tape));
    return out;
}

} // namespace glyptos
