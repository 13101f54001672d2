#include "render/changed_area.h"

#include "release/fields.h"
#include "release/placing.h"
#include "release/walks.h"
#include "render/scene.h"

#include <algorithm>

namespace glyptos {
namespace {

/// An area, or everywhere.
using Reach = std::optional<Rect>;

Reach together(const Reach& a, const Reach& b) {
    return a && b ? Reach(a->united(*b)) : std::nullopt;
}

/// How far layers reach on a panel.
class Reaches {
  public:
    Reaches(const Release& release, ParagraphCache& paragraphs)
        : release_(release)
        , paragraphs_(paragraphs) {}

    Reach of(const Layer& layer) const {
        if (!infoOf(layer.blend).keepsBackdrop) return std::nullopt; // acts where it shows nothing too
        return grown(layer,
                     std::visit([&](const auto& content) { return reach(layer, content); }, layer.content));
    }
    /// What a change of something inside that layer reaches through its treatments.
    static Reach grown(const Layer& layer, const Reach& inside) {
        if (!inside || inside->empty() || !layer.treatments) return inside;
        // At a scale at which nothing is rounded to less than it is at any other.
        constexpr double kCoarse = 0.25, kSlack = 1.5;
        return inside->grown(kSlack * glyptos::reachOf(*layer.treatments, *inside, kCoarse));
    }

  private:
    Reach frame(const Layer& layer) const {
        const Frame frame = frameOf(layer, release_, {}, paragraphs_);
        return layer.warp ? frame.mapping().mapBounds(frame.box) : frame.bounds();
    }
    Reach reach(const Layer& layer, const PictureContent&) const { return frame(layer); }
    Reach reach(const Layer& layer, const EchoContent&) const { return frame(layer); }
    Reach reach(const Layer& layer, const PaintedContent&) const { return frame(layer); }
    Reach reach(const Layer& layer, const CodeContent&) const { return frame(layer); }
    Reach reach(const Layer&, const FillContent&) const { return std::nullopt; }
    Reach reach(const Layer&, const GradeContent&) const { return std::nullopt; }
    // Letters reach beyond their box, strokes beyond their shape.
    Reach reach(const Layer& layer, const TextContent& text) const {
        return seen(layer).mapBounds(paragraphs_.get(resolvedText(text, release_))->ink);
    }
    Reach reach(const Layer& layer, const ShapeContent& shape) const {
        return seen(layer).mapBounds(extentOf(shape));
    }
    Reach reach(const Layer& layer, const GroupContent& group) const {
        Reach all = Rect{};
        for (const LayerPtr& inside : group.layers) all = together(all, of(*inside));
        return layer.warp && all ? Reach(seen(layer).mapBounds(*all)) : all;
    }
    Mapping seen(const Layer& layer) const { return seenOnPanel(layer, release_, paragraphs_); }

    const Release& release_;
    ParagraphCache& paragraphs_;
};

/// The layers of two lists that are not the same nodes in the same order: those between what both have at
/// their front and at their back.
struct Middle {
    size_t front = 0, back = 0; ///< how many both have there

    Middle(const Stack& a, const Stack& b) {
        const size_t least = std::min(a.size(), b.size());
        while (front < least && a[front] == b[front]) ++front;
        while (back < least - front && a[a.size() - 1 - back] == b[b.size() - 1 - back]) ++back;
        // What is clipped into the middle looks otherwise with it, and so may a base into which other layers
        // are clipped now: nothing passes through it then.
        while (front > 0 && a[front - 1]->clipped) --front;
        while (back > 0 && (endsClipped(a) || endsClipped(b))) --back;
    }

  private:
    bool endsClipped(const Stack& stack) const {
        const size_t end = stack.size() - back;
        return end > front && stack[end - 1]->clipped;
    }
};

/// The group that two layers are, when all else of them is alike: then only what is inside counts.
const GroupContent* sameGroup(const Layer& a, const Layer& b) {
    const auto* group = b.as<GroupContent>();
    if (!group || !a.as<GroupContent>() || a.id != b.id) return nullptr;
    const auto plain = [](const Layer& l) {
        return std::tie(l.on, l.opacity, l.blend, l.clipped, l.mask, l.warp, l.placement, l.treatments,
                        l.as<GroupContent>()->passing);
    };
    return plain(a) == plain(b) ? group : nullptr;
}

/// What a change at a place of a stack reaches through treatments that act on it: those of the grades in
/// front of it, and of a layer into which it is clipped.
Reach seenThrough(const Stack& stack, size_t at, Reach reach) {
    const size_t base = at < stack.size() ? clipBase(stack, at) : at;
    if (base != at) reach = Reaches::grown(*stack[base], reach);
    for (size_t i = 0; i < std::min(at, stack.size()); ++i)
        if (stack[i]->as<GradeContent>()) reach = Reaches::grown(*stack[i], reach);
    return reach;
}

Reach between(const Stack& a, const Stack& b, const Reaches& before, const Reaches& after) {
    const Middle middle(a, b);
    const size_t countA = a.size() - middle.front - middle.back,
                 countB = b.size() - middle.front - middle.back;
    if (countA == 1 && countB == 1) {
        const Layer &x = *a[middle.front], &y = *b[middle.front];
        if (const GroupContent* group = sameGroup(x, y); group && !y.warp && infoOf(y.blend).keepsBackdrop)
            return seenThrough(
                b, middle.front,
                Reaches::grown(y, between(x.as<GroupContent>()->layers, group->layers, before, after)));
    }
    Reach all = Rect{};
    for (size_t i = 0; i < countA; ++i) all = together(all, before.of(*a[middle.front + i]));
    for (size_t i = 0; i < countB; ++i) all = together(all, after.of(*b[middle.front + i]));
    return seenThrough(b, middle.front, all);
}

/// Whether a panel that is echoed in a stack, or in an echo of it, looks otherwise.
bool echoesDiffer(const Release& before, const Release& after, const Stack& stack, int depth = 0) {
    constexpr int kDeepest = 8; // echoes of echoes; beyond, they are taken to differ
    return firstLayer(stack, [&](const Layer& layer) {
               const auto* echo = layer.as<EchoContent>();
               if (!echo) return false;
               const auto places = echoed(*echo, after);
               if (depth == kDeepest || places != echoed(*echo, before)) return true;
               return std::any_of(places.begin(), places.end(), [&](const PanelPlace& place) {
                   const PiecePtr a = before.piece(place.piece), b = after.piece(place.piece);
                   const Stack& shown = b->take(place.take)->stack(place.panel);
                   return a->flat != b->flat || a->take(place.take)->stack(place.panel) != shown ||
                          echoesDiffer(before, after, shown, depth + 1);
               });
           }) != nullptr;
}

/// Whether anything besides the layers of that panel could change how it looks.
bool othersMatter(const Release& before, const Release& after, const Stack& stack) {
    return before.linearLight != after.linearLight || !(before.brief == after.brief) ||
           echoesDiffer(before, after, stack) || readsLayers(stack);
}

} // namespace

std::optional<Rect> changedArea(const ReleasePtr& before, const ReleasePtr& after, const PanelRef& panel,
                                ParagraphCache& paragraphs) {
    if (before == after) return Rect{};
    const PiecePtr a = before->piece(panel.piece), b = after->piece(panel.piece);
    if (!a || !b || a->flat != b->flat) return std::nullopt;
    const Stack &from = a->take().stack(panel.panel), &to = b->take().stack(panel.panel);
    if (othersMatter(*before, *after, to)) return std::nullopt;
    // Words may tell of credits, which change with what is known of pictures.
    if (before->sources != after->sources && tellsCredits(*b)) return std::nullopt;
    return between(from, to, {*before, paragraphs}, {*after, paragraphs});
}

} // namespace glyptos
