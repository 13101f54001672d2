#include "release/same.h"
#include "release/warp.h"

#include <algorithm>
#include <tuple>

namespace glyptos {
namespace {

/// The same node, or nodes that `same` finds to be alike.
template <class Pointer, class Same>
bool sameNodes(const std::vector<Pointer>& a, const std::vector<Pointer>& b, Same same) {
    return std::equal(a.begin(), a.end(), b.begin(), b.end(),
                      [&](const Pointer& x, const Pointer& y) { return x == y || same(*x, *y); });
}

bool sameContent(const Content& a, const Content& b) {
    const auto* x = std::get_if<GroupContent>(&a);
    const auto* y = std::get_if<GroupContent>(&b);
    return x && y ? x->passing == y->passing && sameStack(x->layers, y->layers) : a == b;
}

bool sameTake(const Take& a, const Take& b) {
    return a.id == b.id && std::equal(a.stacks.begin(), a.stacks.end(), b.stacks.begin(), b.stacks.end(),
                                      [](const auto& x, const auto& y) {
                                          return x.first == y.first && sameStack(x.second, y.second);
                                      });
}

} // namespace

bool sameLayer(const Layer& a, const Layer& b) {
    const auto plain = [](const Layer& l) {
        return std::tie(l.id, l.name, l.on, l.opacity, l.blend, l.placement, l.clipped, l.locked, l.spot);
    };
    const bool sameMask = a.mask == b.mask || (a.mask && b.mask && *a.mask == *b.mask);
    const bool sameWarp = a.warp == b.warp || (a.warp && b.warp && *a.warp == *b.warp);
    const bool sameTreatments =
        a.treatments == b.treatments || (a.treatments && b.treatments && *a.treatments == *b.treatments);
    return plain(a) == plain(b) && sameMask && sameWarp && sameTreatments &&
           sameContent(a.content, b.content);
}

bool sameStack(const Stack& a, const Stack& b) {
    return sameNodes(a, b, sameLayer);
}

bool samePiece(const Piece& a, const Piece& b) {
    return a.id == b.id && a.name == b.name && a.form == b.form && a.values == b.values &&
           a.reasons == b.reasons && a.wraps == b.wraps && a.current == b.current &&
           a.references == b.references && a.selections == b.selections &&
           sameNodes(a.takes, b.takes, sameTake);
}

bool sameRelease(const Release& a, const Release& b) {
    return a.brief == b.brief && a.sources == b.sources && a.fonts == b.fonts &&
           a.linearLight == b.linearLight && a.palette == b.palette && a.textStyles == b.textStyles &&
           (a.wall == b.wall || samePiece(*a.wall, *b.wall)) && sameNodes(a.pieces, b.pieces, samePiece);
}

} // namespace glyptos
