#include "form/imposition.h"
#include "scene/fold/printed_sides.h"

namespace glyptos {
/// Leaves turn about one line, the middle of their stack, so that they lie on the left the other way round.
void Folding::addLeaves(const Flat& flat) {
    const std::vector<size_t> pages = readingOrder(flat);
    const Panel& front = flat.frontPanel();
    const Rect place = front.onFlat;
    const size_t leaves = pages.size() / 2;
    const Vec3 spine{place.x, place.y, -thickness_ * double(leaves) / 2};
    const Vec3 axis{0, 1, 0};
    const Pose turnedOver = turnedAbout(spine, axis, -180);
    for (size_t i = 0; i < leaves; ++i) {
        const Panel& face = flat.panels[pages[2 * i]];
        const Affine move = Affine::translation(face.onFlat.x - place.x, face.onFlat.y - place.y);
        Board leaf{front.outline.mapped(front.toFlat()),
                   {},
                   PrintedSide{pages[2 * i], ontoPanel(face) * move},
                   backOf(flat, pages[2 * i + 1], place)};
        boards_.push_back(std::move(leaf));
        Pose rest = turnedOver;
        rest.origin = turnedOver.map({0, 0, -thickness_ * double(i)});
        rests_.push_back(rest);
        Hinge hinge;
        hinge.child = hinge.fold = i, hinge.at = spine, hinge.axis = axis, hinge.angle = 180;
        hinges_.push_back(hinge);
        orders_.push_back(int(leaves - 1 - i)); // the last leaf lies on the others when all are turned over
    }
    steps_ = int(leaves);
}

} // namespace glyptos
