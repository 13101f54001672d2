#include "render/tiles/layer_recipes.h"

#include "base/overloaded.h"
#include "raster/resample.h"
#include "release/fields.h"
#include "release/placing.h"
#include "render/tiles/key_hash.h"
#include "render/tiles/layer_tiles.h"
#include "render/tiles/mask_tiles.h"
#include "render/tiles/painted_tiles.h"
#include "render/tiles/shape_tiles.h"

#include <algorithm>
#include <cmath>

namespace glyptos {
namespace {

double scaleOf(const Affine& map) {
    return std::max(map.scaleX(), map.scaleY());
}

/// The level of the picture that is read; tiles of another one would look otherwise.
int levelRead(const Pyramid& picture, const Source& source, const Affine& map) {
    const double scale = std::max(map.scaleX() * source.width / picture.width(),
                                  map.scaleY() * source.height / picture.height());
    return levelFor(scale, picture);
}

/// Tells pictures of different sharpness of one source apart.
int stateOf(const PyramidPtr& picture) {
    return picture ? picture->width() * 32 + picture->firstLevel() : 0;
}

NamedLayer named(const TileKey& key, std::function<Tile(Scratch&)> make) {
    NamedLayer out;
    out.key = key;
    out.rows = TileRecipe{key, std::move(make)};
    return out;
}

/// Whether it surely hides what is beneath it; a pattern is left to its pixels.
bool isOpaque(const Paint& paint) {
    return std::visit(
        Overloaded{[](const Ink& c) { return c.a >= 1; },
                   [](const Gradient& g) {
                       return std::all_of(g.stops.begin(), g.stops.end(),
                                          [](const GradientStop& s) { return s.colour.a >= 1; });
                   },
                   [](const Clouds& c) { return c.low.a >= 1 && c.high.a >= 1; },
                   [](const Paper& p) { return p.colour.a >= 1; }, [](const Pattern&) { return false; }},
        paint);
}

bool isWhole(double v) {
    return std::abs(v - std::round(v)) < 1e-6;
}

bool isWhole(const Rect& r) {
    return isWhole(r.x) && isWhole(r.y) && isWhole(r.right()) && isWhole(r.bottom());
}

} // namespace

bool LayerRecipes::reaches(const Affine& map, const Rect& area) const {
    return !pixelsAround(map.mapBounds(area)).intersected(region_).empty();
}

PatternPicture LayerRecipes::pictureFor(const std::string& id, double scale) const {
    const SourcePtr source = release_.source(id);
    if (!source) return {};
    return {parts_.pictures.picture(*source, scale), source->width, source->height};
}

PatternPicture LayerRecipes::patternFor(const Paint& paint, const Affine& map) const {
    const auto* pattern = std::get_if<Pattern>(&paint);
    return pattern ? pictureFor(pattern->source, pattern->scale * scaleOf(map)) : PatternPicture{};
}

PatternPicture LayerRecipes::maskPicture(const Mask& mask, const Affine& toOutput) const {
    const auto* p = std::get_if<PictureContent>(&mask.form);
    return p ? pictureFor(p->source, scaleOf(toOutput * placementMap(mask.placement))) : PatternPicture{};
}

NamedLayer LayerRecipes::picture(const PictureContent& content, const Placement& placement,
                                 const Affine& toOutput) const {
    const SourcePtr source = release_.source(content.source);
    if (!source) return {};
    const Affine map = toOutput * pictureToPanel(placement, *source);
    const Rect shown{content.crop.x * source->width, content.crop.y * source->height,
                     content.crop.w * source->width, content.crop.h * source->height};
    if (!reaches(map, shown)) return {};
    const PyramidPtr picture = parts_.pictures.picture(*source, scaleOf(map));
    if (!picture) return {};
    if (auto rows = direct(picture, *source, map, shown)) return std::move(*rows);
    KeyHash hash(kPicture);
    hash.add(source->id).add(picture->width()).add(levelRead(*picture, *source, map));
    hash.add(map).add(shown).add(region_);
    NamedLayer out = named(hash.key(), [=, region = region_](Scratch&) {
        return pictureTile({*picture, source->width, source->height, map, shown}, region);
    });
    out.opaque = picture->opaque() && coversAll(map, shown, region_);
    return out;
}

/// Pixels that fall exactly on pixels need no sampling.
std::optional<NamedLayer> LayerRecipes::direct(const PyramidPtr& picture, const Source& source,
                                               const Affine& map, const Rect& shown) const {
    const Rect area = map.mapBounds(shown);
    if (std::abs(map.a - 1) > 1e-9 || std::abs(map.d - 1) > 1e-9 || map.b != 0 || map.c != 0 ||
        !isWhole(map.e) || !isWhole(map.f) || !isWhole(area) || picture->width() != source.width ||
        picture->height() != source.height || picture->firstLevel() > 0)
        return std::nullopt;
    const int left = int(std::lround(area.x)), top = int(std::lround(area.y));
    const PictureRows rows{
        picture,
        -int(std::lround(map.e)),
        -int(std::lround(map.f)),
        {left, top, int(std::lround(area.right())) - left, int(std::lround(area.bottom())) - top}};
    NamedLayer out;
    out.opaque = picture->level(0).opaque && rows.shown.intersected(region_) == region_;
    out.key = KeyHash(kDirect).add(source.id).add(rows.dx).add(rows.dy).add(rows.shown).key();
    out.rows = rows;
    return out;
}

NamedLayer LayerRecipes::text(const TextContent& content, const Placement& placement,
                              const Affine& toOutput) const {
    const TextSpec spec = resolvedText(content, release_);
    const auto paragraph = parts_.paragraphs.get(spec);
    const Affine map = toOutput * textToPanel(placement);
    if (!reaches(map, paragraph->ink)) return {};
    KeyHash hash(kText);
    hash.add(spec).add(content.colour).add(map).add(region_);
    return named(hash.key(), [=, colour = Rgba(content.colour), region = region_](Scratch&) {
        return textTile(paragraph->outline, map, colour, region);
    });
}

NamedLayer LayerRecipes::fill(const FillContent& fill, const Affine& toOutput) const {
    if (const auto* c = std::get_if<Ink>(&fill.paint)) {
        NamedLayer out;
        if (c->a <= 0) return out;
        out.rows = SolidRows{{c->r * c->a, c->g * c->a, c->b * c->a, c->a}};
        out.opaque = c->a >= 1;
        out.key = KeyHash(kSolid).add(*c).key();
        return out;
    }
    const PatternPicture pattern = patternFor(fill.paint, toOutput);
    KeyHash hash(kPaint);
    hash.add(fill.paint).add(stateOf(pattern.picture)).add(toOutput).add(region_);
    NamedLayer out = named(hash.key(), [=, &fill, region = region_](Scratch&) {
        return paintTile(fill.paint, toOutput, region, pattern);
    });
    out.opaque = isOpaque(fill.paint);
    return out;
}

NamedLayer LayerRecipes::shape(const ShapeContent& shape, const Affine& map) const {
    if (!reaches(map, extentOf(shape))) return {};
    const PatternPicture fill = shape.fill ? patternFor(*shape.fill, map) : PatternPicture{};
    const PatternPicture stroke = shape.stroke ? patternFor(shape.stroke->paint, map) : PatternPicture{};
    KeyHash hash(kShape);
    hash.add(shape).add(stateOf(fill.picture)).add(stateOf(stroke.picture)).add(map).add(region_);
    return named(hash.key(), [=, region = region_, &shape](Scratch&) {
        return shapeTile(shape, map, region, fill, stroke);
    });
}

TileRecipe LayerRecipes::mask(const Mask& mask, const Affine& toOutput) const {
    const PatternPicture picture = maskPicture(mask, toOutput);
    KeyHash hash(kMask);
    hash.add(mask.inverted).add(mask.strength).add(mask.feather);
    hash.add(toOutput * maskToPanel(mask, picture.width, picture.height)).add(toOutput).add(region_);
    hash.add(stateOf(picture.picture));
    // A stroke leaves alone what does not see its tiles.
    if (const auto* painted = std::get_if<PaintedMask>(&mask.form))
        hash.add(painted->shows).add(painted->tiles->hash(maskReach(mask, toOutput, region_)));
    else
        hash.add(mask.form);
    return {hash.key(),
            [=, region = region_, &mask](Scratch&) { return maskTile(mask, toOutput, region, picture); }};
}

NamedLayer LayerRecipes::painted(const PaintedContent& content, const Affine& map) const {
    const PixelTilesPtr tiles = content.tiles;
    if (!reaches(map, tiles->bounds().toRect().grown(1))) return {};
    KeyHash hash(kPainted);
    hash.add(tiles->hash(paintedReach(map, region_))).add(map).add(region_);
    return named(hash.key(), [=, region = region_](Scratch&) { return paintedTile(*tiles, map, region); });
}

std::optional<TileRecipe> LayerRecipes::edge(const PanelView& view) const {
    if (coversAll(view.toOutput, view.area, region_)) return std::nullopt;
    KeyHash hash(kEdge);
    hash.add(view.area).add(view.toOutput).add(region_);
    return TileRecipe{hash.key(), [area = view.area, map = view.toOutput, region = region_](Scratch&) {
                          return edgeTile(area, map, region);
                      }};
}

} // namespace glyptos
