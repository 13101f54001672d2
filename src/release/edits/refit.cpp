#include "release/edits/refit.h"

#include "release/edits/edits.h"
#include "release/placing.h"

#include <algorithm>
#include <numbers>

namespace glyptos {
namespace {

/// How many of the new panel's units one of the old one's becomes, and where the middles are.
struct Refit {
    double fit, cover;
    Vec2 from, to;
};

/// Where what stands on a panel has room: of a disc the square in it.
Rect roomOf(const Panel& panel) {
    if (panel.outline.kind != Outline::Kind::Disc) return panel.trim();
    const double shrink = (1 - std::numbers::sqrt2 / 2) / 2 * std::min(panel.width, panel.height);
    return panel.trim().grown(-shrink);
}

Refit between(const Panel& from, const Panel& to) {
    const Rect a = from.withBleed(), b = to.withBleed(), room = roomOf(from), there = roomOf(to);
    return {std::min(there.w / room.w, there.h / room.h), std::max(b.w / a.w, b.h / a.h),
            from.trim().centre(), to.trim().centre()};
}

bool contains(const Rect& outer, const Rect& inner, double slack) {
    return outer.x <= inner.x + slack && outer.y <= inner.y + slack &&
           outer.right() >= inner.right() - slack && outer.bottom() >= inner.bottom() - slack;
}

Rect shownOf(const Layer& layer, const Source& source) {
    const Rect& crop = layer.as<PictureContent>()->crop;
    const Affine fromMiddle = Affine::translation(-source.width / 2.0, -source.height / 2.0);
    return (placementMap(layer.placement) * fromMiddle)
        .mapBounds(
            {crop.x * source.width, crop.y * source.height, crop.w * source.width, crop.h * source.height});
}

/// Pictures that cover the panel: of it what shows is the ground.
SourcePtr groundPicture(const Layer& layer, const Panel& panel, const Release& release) {
    const auto* picture = layer.as<PictureContent>();
    const SourcePtr source = picture ? release.source(picture->source) : nullptr;
    constexpr double kSlack = 0.01; // of the panel's width
    return source && contains(shownOf(layer, *source), panel.trim(), kSlack * panel.width) ? source : nullptr;
}

/// A picture from edge to edge, which does so again.
bool spansPanel(const Layer& layer, const Panel& panel, const Release& release) {
    const auto* picture = layer.as<PictureContent>();
    const SourcePtr source = picture ? release.source(picture->source) : nullptr;
    if (!source) return false;
    const Rect shown = shownOf(layer, *source), trim = panel.trim();
    return (shown.x <= trim.x && shown.right() >= trim.right()) ||
           (shown.y <= trim.y && shown.bottom() >= trim.bottom());
}

Layer ground(const Layer& layer, const Source& source, const Panel& to, const Refit& refit) {
    Layer out = moved(scaled(layer, refit.from, refit.cover), refit.to - refit.from);
    if (contains(shownOf(out, source), to.withBleed(), 1e-6)) return out;
    out.placement = covering(to.withBleed(), source, layer.as<PictureContent>()->crop);
    out.mask = nullptr; // it lay over the picture as it was turned
    return out;
}

LayerPtr refitted(const Layer& layer, const Panel& from, const Panel& to, const Release& release,
                  const Refit& refit) {
    Layer out = layer;
    if (auto* fill = std::get_if<FillContent>(&out.content)) {
        fill->paint = scaled(fill->paint, {refit.from, refit.to, refit.cover, refit.fit});
    } else if (const SourcePtr source = groundPicture(layer, from, release)) {
        out = ground(layer, *source, to, refit);
    } else if (auto* group = std::get_if<GroupContent>(&out.content); group && !out.warp) {
        group->layers = refitted(group->layers, from, to, release);
    } else {
        // Where it lay between the edges, so that what stood at the foot does so again.
        const Vec2 at = layer.placement.position;
        const bool spans = spansPanel(layer, from, release);
        const Rect room = spans ? from.trim() : roomOf(from), other = spans ? to.trim() : roomOf(to);
        const Vec2 there{other.x + (at.x - room.x) / room.w * other.w,
                         other.y + (at.y - room.y) / room.h * other.h};
        out = moved(scaled(std::move(out), at, spans ? refit.cover : refit.fit), there - at);
    }
    out.id.clear();
    return std::make_shared<const Layer>(std::move(out));
}

/// The rearmost layer of a front that fills it with one paint.
LayerPtr rearmostFill(const Stack& stack) {
    return !stack.empty() && stack.back()->as<FillContent>() ? stack.back() : nullptr;
}

} // namespace

Stack refitted(const Stack& stack, const Panel& from, const Panel& to, const Release& release) {
    const Refit refit = between(from, to);
    Stack out;
    for (const LayerPtr& layer : stack) out.push_back(refitted(*layer, from, to, release, refit));
    return out;
}

bool isGround(const Layer& layer, const Panel& panel, const Release& release) {
    return layer.as<FillContent>() || groundPicture(layer, panel, release);
}

Result<ReleasePtr> withPieceLike(const ReleasePtr& release, std::shared_ptr<const Form> form,
                                 const std::string& like) {
    auto made = withPiece(release, std::move(form));
    const PiecePtr old = release->piece(like);
    if (!made || !old) return made;
    ReleasePtr next = *made;
    const PiecePtr piece = next->pieces.back();
    const Panel& from = old->flat->frontPanel();
    const Stack& front = old->take().stack(from.id);
    for (const Panel& to : piece->flat->panels) {
        const bool isFront = to.id == piece->flat->frontPanel().id;
        const LayerPtr fill = rearmostFill(front);
        const Stack layers = isFront ? front : fill ? Stack{fill} : Stack{};
        const Stack laid = refitted(layers, from, to, *next);
        for (size_t i = laid.size(); i-- > 0;) next = withLayer(next, {piece->id, to.id}, *laid[i]);
    }
    return next;
}

} // namespace glyptos
