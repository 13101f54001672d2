#include "render/stack_preparer.h"

#include "raster/resample.h"
#include "release/fields.h"
#include "release/placing.h"
#include "render/key_hash.h"
#include "render/layer_tiles.h"
#include "render/mask_tiles.h"
#include "render/shape_tiles.h"

#include <algorithm>
#include <cmath>

namespace glyptos {
namespace {

/// Echoes drawn into one tile. A release that asks for more is meant to harm; the rest is left out.
constexpr int kMostEchoes = 2000;

enum Kind : int { kPicture = 1, kText, kPaint, kShape, kMask, kSolid, kDirect, kGroup, kEdge };

class StackPreparer {
  public:
    StackPreparer(const RenderParts& parts, const Release& release, const IntRect& region,
                  const std::string& inHand)
        : parts_(parts)
        , release_(release)
        , region_(region)
        , inHand_(inHand) {}

    std::vector<PreparedLayer> prepare(const PanelView& view) {
        opened_.push_back(view.place);
        auto out = prepare(view.stack, view);
        opened_.pop_back();
        return out;
    }

  private:
    std::vector<PreparedLayer> prepare(const Stack& stack, const PanelView& view) {
        std::vector<PreparedLayer> out;
        for (size_t i = 0; i < stack.size(); ++i) {
            const size_t base = clipBase(stack, i);
            PreparedLayer prepared;
            const bool any =
                base > i ? clipRun(stack, i, base, view, prepared) : single(*stack[i], view, prepared);
            i = base;
            if (!any) continue;
            out.push_back(std::move(prepared));
            if (out.back().opaque) break;
        }
        std::reverse(out.begin(), out.end());
        return out;
    }

    /// False when the layer changes nothing in this tile.
    bool single(const Layer& layer, const PanelView& view, PreparedLayer& out) {
        if (!layer.on) return false;
        if (layer.opacity <= 0 || !content(layer, view, out)) {
            if (infoOf(layer.blend).keepsBackdrop) return false;
            out = {}; // nothing, which still takes the backdrop away
        }
        settle(layer, out);
        return true;
    }

    /// What the layer shows within its mask, before it is blended. False when that is nothing.
    bool content(const Layer& layer, const PanelView& view, PreparedLayer& out) {
        return rowsOf(layer, view, out) && addMask(layer, view, out);
    }

    void settle(const Layer& layer, PreparedLayer& out) const {
        out.blend = layer.blend;
        out.opacity = float(std::clamp(layer.opacity, 0.0, 1.0));
        out.opaque = out.opaque && layer.blend == BlendMode::Normal && layer.opacity >= 1;
        out.inHand = out.inHand || holds(layer);
    }

    bool holds(const Layer& layer) const {
        if (inHand_.empty()) return false;
        if (layer.id == inHand_) return true;
        const auto* group = layer.as<GroupContent>();
        return group && findLayer(group->layers, inHand_);
    }

    /// Layers [from, base) of the stack inside the layer `base`.
    bool clipRun(const Stack& stack, size_t from, size_t base, const PanelView& view, PreparedLayer& out) {
        const Layer& below = *stack[base];
        GroupRows rows{{}, GroupKind::Clip};
        PreparedLayer first;
        const bool shown = below.on && below.opacity > 0 && content(below, view, first);
        // What is clipped into it meets the base alone, so nothing passes through that.
        if (auto* group = std::get_if<GroupRows>(&first.rows); group && group->kind == GroupKind::Passing)
            group->kind = GroupKind::Isolated;
        if (!shown && (!below.on || infoOf(below.blend).keepsBackdrop)) return false;
        bool opaque = first.opaque;
        if (shown) {
            rows.layers.push_back(std::move(first));
            for (size_t i = base; i-- > from;) {
                PreparedLayer inside;
                if (!single(*stack[i], view, inside)) continue;
                out.inHand = out.inHand || inside.inHand;
                opaque = opaque && !cutsBackdrop(inside.blend);
                rows.layers.push_back(std::move(inside));
            }
        }
        out.inHand = out.inHand || holds(below);
        out.opaque = opaque;
        if (rows.layers.empty()) rows.kind = GroupKind::Isolated;
        addGroup(std::move(rows), out);
        settle(below, out);
        return true;
    }

    void addGroup(GroupRows rows, PreparedLayer& out) const {
        KeyHash hash(kGroup);
        hash.add(rows.kind);
        for (const PreparedLayer& layer : rows.layers)
            hash.add(layer.key).add(layer.blend).add(layer.opacity);
        out.key = hash.key();
        out.rows = std::move(rows);
    }

    /// False when the mask hides all of the layer here.
    bool addMask(const Layer& layer, const PanelView& view, PreparedLayer& out) {
        if (!layer.mask || !layer.mask->on) return true;
        const Mask& mask = *layer.mask;
        const PatternPicture picture = maskPicture(mask, view);
        KeyHash hash(kMask);
        hash.add(mask.inverted).add(mask.strength).add(mask.feather);
        hash.add(view.toOutput * maskToPanel(mask, picture.width, picture.height))
            .add(view.toOutput)
            .add(region_);
        if (const auto* p = std::get_if<PictureContent>(&mask.form))
            hash.add(p->source).add(p->crop).add(stateOf(picture.picture));
        else if (const auto* gradient = std::get_if<Gradient>(&mask.form))
            hash.add(*gradient);
        else
            hash.add(std::get<ShapeContent>(mask.form));
        putMask(keptTile(parts_.tiles, hash.key(),
                         [&] { return maskTile(mask, view.toOutput, region_, picture); }),
                hash.key(), out);
        return !out.mask || !out.mask->empty;
    }

    static void putMask(const TilePtr& tile, const TileKey& key, PreparedLayer& out) {
        if (tile->opaque) return;
        out.mask = tile;
        out.opaque = false;
        out.key = KeyHash(kMask).add(out.key).add(key).key();
    }

    PatternPicture maskPicture(const Mask& mask, const PanelView& view) {
        const auto* p = std::get_if<PictureContent>(&mask.form);
        if (!p) return {};
        const Affine map = view.toOutput * placementMap(mask.placement);
        return pictureFor(p->source, std::max(map.scaleX(), map.scaleY()));
    }

    PatternPicture pictureFor(const std::string& id, double scale) {
        const SourcePtr source = release_.source(id);
        if (!source) return {};
        return {parts_.pictures.picture(*source, scale), source->width, source->height};
    }

    PatternPicture patternFor(const Paint& paint, const Affine& map) {
        const auto* pattern = std::get_if<Pattern>(&paint);
        if (!pattern) return {};
        return pictureFor(pattern->source, pattern->scale * std::max(map.scaleX(), map.scaleY()));
    }

    /// False when the layer shows nothing in this tile.
    bool rowsOf(const Layer& layer, const PanelView& view, PreparedLayer& out) {
        return std::visit([&](const auto& content) { return rows(layer, content, view, out); },
                          layer.content);
    }

    bool rows(const Layer& layer, const GroupContent& content, const PanelView& view, PreparedLayer& out) {
        const bool passing = content.passing && layer.blend == BlendMode::Normal;
        GroupRows group{prepare(content.layers, view), passing ? GroupKind::Passing : GroupKind::Isolated};
        const bool any = !group.layers.empty();
        out.opaque = any && group.layers.front().opaque &&
                     std::none_of(group.layers.begin(), group.layers.end(),
                                  [](const PreparedLayer& l) { return cutsBackdrop(l.blend); });
        addGroup(std::move(group), out);
        return any;
    }

    bool rows(const Layer& layer, const PictureContent& content, const PanelView& view, PreparedLayer& out) {
        const SourcePtr source = release_.source(content.source);
        if (!source) return false;
        const Affine map = view.toOutput * pictureToPanel(layer.placement, *source);
        const Rect shown{content.crop.x * source->width, content.crop.y * source->height,
                         content.crop.w * source->width, content.crop.h * source->height};
        if (pixelsAround(map.mapBounds(shown)).intersected(region_).empty()) return false;
        const PyramidPtr picture = parts_.pictures.picture(*source, std::max(map.scaleX(), map.scaleY()));
        if (!picture) return false;
        if (direct(picture, *source, map, shown, out)) return true;
        KeyHash hash(kPicture);
        hash.add(source->id)
            .add(picture->width())
            .add(levelRead(*picture, *source, map))
            .add(map)
            .add(shown)
            .add(region_);
        return cachedTile(hash.key(), out, [&] {
            return pictureTile(*picture, source->width, source->height, map, shown, region_);
        });
    }

    /// The level of the picture that is read; tiles of another one would look otherwise.
    static int levelRead(const Pyramid& picture, const Source& source, const Affine& map) {
        const double scale = std::max(map.scaleX() * source.width / picture.width(),
                                      map.scaleY() * source.height / picture.height());
        return levelFor(scale, picture);
    }

    /// Tells pictures of different sharpness of one source apart.
    static int stateOf(const PyramidPtr& picture) {
        return picture ? picture->width() * 32 + picture->firstLevel() : 0;
    }

    /// Pixels that fall exactly on pixels need no sampling.
    bool direct(const PyramidPtr& picture, const Source& source, const Affine& map, const Rect& shown,
                PreparedLayer& out) const {
        const auto whole = [](double v) { return std::abs(v - std::round(v)) < 1e-6; };
        const Rect area = map.mapBounds(shown);
        if (std::abs(map.a - 1) > 1e-9 || std::abs(map.d - 1) > 1e-9 || map.b != 0 || map.c != 0 ||
            !whole(map.e) || !whole(map.f) || !whole(area.x) || !whole(area.y) || !whole(area.right()) ||
            !whole(area.bottom()) || picture->width() != source.width || picture->height() != source.height ||
            picture->firstLevel() > 0)
            return false;
        const int left = int(std::lround(area.x)), top = int(std::lround(area.y));
        PictureRows rows{
            picture,
            -int(std::lround(map.e)),
            -int(std::lround(map.f)),
            {left, top, int(std::lround(area.right())) - left, int(std::lround(area.bottom())) - top}};
        out.opaque = picture->level(0).opaque && rows.shown.intersected(region_) == region_;
        out.key = KeyHash(kDirect).add(source.id).add(rows.dx).add(rows.dy).add(rows.shown).key();
        out.rows = std::move(rows);
        return true;
    }

    bool rows(const Layer& layer, const TextContent& content, const PanelView& view, PreparedLayer& out) {
        const TextSpec spec = resolvedText(content, release_);
        const auto paragraph = parts_.paragraphs.get(spec);
        const Affine map = view.toOutput * textToPanel(layer.placement);
        if (pixelsAround(map.mapBounds(paragraph->ink)).intersected(region_).empty()) return false;
        KeyHash hash(kText);
        hash.add(spec).add(content.colour).add(map).add(region_);
        return cachedTile(hash.key(), out,
                          [&] { return textTile(paragraph->outline, map, content.colour, region_); });
    }

    bool rows(const Layer&, const FillContent& fill, const PanelView& view, PreparedLayer& out) {
        if (const auto* c = std::get_if<Ink>(&fill.paint)) {
            out.rows = SolidRows{{c->r * c->a, c->g * c->a, c->b * c->a, c->a}};
            out.opaque = c->a >= 1;
            out.key = KeyHash(kSolid).add(*c).key();
            return c->a > 0;
        }
        const PatternPicture pattern = patternFor(fill.paint, view.toOutput);
        KeyHash hash(kPaint);
        hash.add(fill.paint).add(stateOf(pattern.picture)).add(view.toOutput).add(region_);
        return cachedTile(hash.key(), out,
                          [&] { return paintTile(fill.paint, view.toOutput, region_, pattern); });
    }

    bool rows(const Layer& layer, const ShapeContent& shape, const PanelView& view, PreparedLayer& out) {
        const Affine map = view.toOutput * placementMap(layer.placement);
        if (pixelsAround(map.mapBounds(extentOf(shape))).intersected(region_).empty()) return false;
        const PatternPicture fill = shape.fill ? patternFor(*shape.fill, map) : PatternPicture{};
        const PatternPicture stroke = shape.stroke ? patternFor(shape.stroke->paint, map) : PatternPicture{};
        KeyHash hash(kShape);
        hash.add(shape).add(stateOf(fill.picture)).add(stateOf(stroke.picture)).add(map).add(region_);
        return cachedTile(hash.key(), out, [&] { return shapeTile(shape, map, region_, fill, stroke); });
    }

    /// The other panel's layers, each cut to its own frame. An echo of something that is being drawn already
    /// shows nothing.
    bool rows(const Layer& layer, const EchoContent& echo, const PanelView& view, PreparedLayer& out) {
        const auto frame = echoFrame(echo, release_);
        if (!frame || ++echoes_ > kMostEchoes) return false;
        const Affine toOutput = view.toOutput * echoToPanel(layer.placement, *frame);
        GroupRows group;
        for (const PanelView& inner : echoViews(echo, release_, toOutput)) {
            if (std::find(opened_.begin(), opened_.end(), inner.place) != opened_.end()) continue;
            if (pixelsAround(inner.toOutput.mapBounds(inner.area)).intersected(region_).empty()) continue;
            PreparedLayer panel;
            GroupRows layers{prepare(inner)};
            if (layers.layers.empty()) continue;
            panel.opaque = layers.layers.front().opaque;
            addGroup(std::move(layers), panel);
            addEdge(inner, panel);
            group.layers.push_back(std::move(panel));
        }
        const bool any = !group.layers.empty();
        out.opaque = any && group.layers.front().opaque;
        addGroup(std::move(group), out);
        return any;
    }

    void addEdge(const PanelView& inner, PreparedLayer& out) {
        if (coversAll(inner.toOutput, inner.area, region_)) return;
        KeyHash hash(kEdge);
        hash.add(inner.area).add(inner.toOutput).add(region_);
        putMask(
            keptTile(parts_.tiles, hash.key(), [&] { return edgeTile(inner.area, inner.toOutput, region_); }),
            hash.key(), out);
    }

    template <class Make>
    bool cachedTile(const TileKey& key, PreparedLayer& out, Make make) {
        const TilePtr tile = keptTile(parts_.tiles, key, make);
        out.opaque = tile->opaque;
        out.key = key;
        out.rows = TileRows{tile};
        return !tile->empty;
    }

    const RenderParts& parts_;
    const Release& release_;
    IntRect region_;
    const std::string& inHand_;
    std::vector<PanelPlace> opened_; ///< panels that are being prepared, outermost first
    int echoes_ = 0;
};

} // namespace

std::vector<PreparedLayer> prepareStack(const RenderParts& parts, const Release& release,
                                        const PanelView& view, const IntRect& region,
                                        const std::string& inHand) {
    return StackPreparer(parts, release, region, inHand).prepare(view);
}

} // namespace glyptos
