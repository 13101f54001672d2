#include "render/tiles/layer_recipes.h"

#include "base/overloaded.h"
#include "raster/resample.h"
#include "release/fields.h"
#include "release/placing.h"
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

constexpr double kOutlineTolerance = 0.05; // px, of outlines that are warped
constexpr double kFinest = 16;             // times as fine as it is seen on average, where it is seen larger
constexpr Rect kEverywhere{-1e7, -1e7, 2e7, 2e7};

/// Output pixels for a unit of what a region sees, about.
double scaleAbout(const Mapping& mapping, const IntRect& region) {
    const Rect there = reachesOf(mapping, region.toRect()).back();
    return std::sqrt(double(region.w) * region.h / std::max(there.w * there.h, 1e-12));
}

/// Of colours alone, so that its outlines say all.
bool isPlain(const ShapeContent& shape) {
    return (!shape.fill || std::holds_alternative<Ink>(*shape.fill)) &&
           (!shape.stroke || (std::holds_alternative<Ink>(shape.stroke->paint) && !shape.stroke->brushed));
}

bool isWhole(double v) {
    return std::abs(v - std::round(v)) < 1e-6;
}

bool isWhole(const Rect& r) {
    return isWhole(r.x) && isWhole(r.y) && isWhole(r.right()) && isWhole(r.bottom());
}

} // namespace

bool LayerRecipes::reaches(const Mapping& map, const Rect& area) const {
    return !pixelsAround(map.mapBounds(area)).intersected(region_).empty();
}

PatternPicture LayerRecipes::pictureFor(const std::string& id, double scale) const {
    const SourcePtr source = release_.source(id);
    if (!source) return {};
    return {parts_.pictures.picture(*source, scale), source->width, source->height};
}

PatternPicture LayerRecipes::patternFor(const Paint& paint, double scale) const {
    const auto* pattern = std::get_if<Pattern>(&paint);
    return pattern ? pictureFor(pattern->source, pattern->scale * scale) : PatternPicture{};
}

PatternPicture LayerRecipes::maskPicture(const Mask& mask, double scale) const {
    const auto* p = std::get_if<PictureContent>(&mask.form);
    return p ? pictureFor(p->source, scale) : PatternPicture{};
}

NamedLayer LayerRecipes::warped(KeyHash hash, WarpedDrawing drawing) const {
    drawing.sampling = sampling_;
    hash.add(sampling_);
    addMapping(hash, drawing.mapping, region_);
    return named(hash.add(kWarped).add(region_).key(),
                 [drawing, region = region_](Scratch&) { return warpedTile(drawing, region); });
}

NamedLayer LayerRecipes::picture(const PictureContent& content, const Mapping& mapping) const {
    const SourcePtr source = release_.source(content.source);
    if (!source) return {};
    const Rect shown{content.crop.x * source->width, content.crop.y * source->height,
                     content.crop.w * source->width, content.crop.h * source->height};
    if (!reaches(mapping, shown)) return {};
    const auto affine = mapping.affine();
    const PyramidPtr picture =
        parts_.pictures.picture(*source, affine ? scaleOf(*affine) : largestScale(mapping, shown));
    if (!picture) return {};
    if (!affine) {
        KeyHash hash(kWarpedPicture);
        hash.add(source->id).add(picture->width()).add(picture->firstLevel()).add(shown).add(region_);
        hash.add(sampling_);
        addMapping(hash, mapping, region_);
        return named(hash.key(), [=, region = region_, sampling = sampling_](Scratch&) {
            return warpedPictureTile({*picture, source->width, source->height, mapping, shown, sampling},
                                     region);
        });
    }
    const Affine& map = *affine;
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

NamedLayer LayerRecipes::text(const TextContent& content, const Mapping& map) const {
    const TextSpec spec = resolvedText(content, release_);
    const auto paragraph = parts_.paragraphs.get(spec);
    if (!reaches(map, paragraph->ink)) return {};
    KeyHash hash(kText);
    hash.add(spec).add(content.colour).add(content.colours).add(region_).add(parts_.paragraphs.generation());
    return inked(std::move(hash), inkedWords(content, paragraph), map);
}

NamedLayer LayerRecipes::code(const CodeContent& content, const Mapping& map) const {
    const auto drawn = parts_.paragraphs.code(content, release_);
    if (!reaches(map, drawn->box)) return {};
    KeyHash hash(kCode);
    hash.add(content.kind).add(drawn->text).add(content.bars).add(region_);
    hash.add(content.ground.has_value()).add(content.ground.value_or(Ink()));
    hash.add(parts_.paragraphs.generation());
    return inked(std::move(hash), inkedCode(content, drawn), map);
}

NamedLayer LayerRecipes::inked(KeyHash hash, std::vector<InkedOutline> outlines, const Mapping& map) const {
    addMapping(hash, map, region_);
    return named(hash.key(), [=, outlines = std::move(outlines), region = region_](Scratch&) {
        if (const auto affine = map.affine()) return textTile(outlines, *affine, region);
        std::vector<InkedOutline> bent;
        for (const InkedOutline& one : outlines)
            bent.push_back(
                {std::make_shared<const Path>(mapped(*one.outline, map, kOutlineTolerance)), one.colour});
        return textTile(bent, {}, region);
    });
}

NamedLayer LayerRecipes::fill(const FillContent& fill, const Mapping& mapping) const {
    if (const auto* c = std::get_if<Ink>(&fill.paint)) {
        NamedLayer out;
        if (c->a <= 0) return out;
        out.rows = SolidRows{{c->r * c->a, c->g * c->a, c->b * c->a, c->a}};
        out.opaque = c->a >= 1;
        out.key = KeyHash(kSolid).add(*c).key();
        return out;
    }
    const auto affine = mapping.affine();
    const double scale = affine ? scaleOf(*affine) : scaleAbout(mapping, region_);
    const PatternPicture pattern = patternFor(fill.paint, scale);
    KeyHash hash(kPaint);
    hash.add(fill.paint).add(stateOf(pattern.picture));
    if (!affine)
        return warped(std::move(hash), {mapping, kEverywhere, kFinest * scale,
                                        [&fill, pattern](const Affine& map, const IntRect& region) {
                                            return paintTile(fill.paint, map, region, pattern);
                                        }});
    hash.add(*affine).add(region_);
    NamedLayer out = named(hash.key(), [=, &fill, map = *affine, region = region_](Scratch&) {
        return paintTile(fill.paint, map, region, pattern);
    });
    out.opaque = isOpaque(fill.paint);
    return out;
}

ShapeParts LayerRecipes::partsFor(const ShapeContent& shape, double scale, KeyHash& hash) const {
    ShapeParts out;
    if (shape.fill) out.fill = patternFor(*shape.fill, scale);
    if (shape.stroke) out.stroke = patternFor(shape.stroke->paint, scale);
    hash.add(stateOf(out.fill.picture)).add(stateOf(out.stroke.picture));
    if (!shape.stroke || !shape.stroke->brushed) return out;
    out.dabs = parts_.brushes.dabs(shape);
    for (const Stamp& stamp : shape.stroke->brushed->stamps) {
        if (stamp.source.empty()) {
            out.stamps.push_back(parts_.brushes.stamp(stamp.outline));
            continue;
        }
        // As large as the brush: one that is smaller in places is read from the same picture.
        const SourcePtr source = release_.source(stamp.source);
        const int longer = source ? std::max({source->width, source->height, 1}) : 1;
        StampLook look{pictureFor(stamp.source, shape.stroke->width * scale / longer).picture};
        hash.add(stateOf(look.picture));
        out.stamps.push_back(std::move(look));
    }
    return out;
}

NamedLayer LayerRecipes::shape(const ShapeContent& shape, const Mapping& mapping) const {
    const Rect extent = extentOf(shape);
    if (!reaches(mapping, extent)) return {};
    const auto affine = mapping.affine();
    const double scale = affine ? scaleOf(*affine) : largestScale(mapping, extent);
    KeyHash hash(kShape);
    hash.add(shape);
    const ShapeParts parts = partsFor(shape, scale, hash);
    if (!affine && !isPlain(shape))
        return warped(std::move(hash), {mapping, extent, kFinest * scale,
                                        [=, &shape](const Affine& map, const IntRect& region) {
                                            return shapeTile(shape, map, region, parts);
                                        }});
    addMapping(hash, mapping, region_);
    return named(hash.add(region_).key(), [=, region = region_, &shape](Scratch&) {
        return affine ? shapeTile(shape, *affine, region, parts)
                      : warpedShapeTile(shape, mapping, scale, region);
    });
}

TileRecipe LayerRecipes::uprightMask(const Mask& mask, const Affine& toOutput) const {
    const PatternPicture picture = maskPicture(mask, scaleOf(toOutput * placementMap(mask.placement)));
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

TileRecipe LayerRecipes::mask(const Mask& mask, const Mapping& toOutput) const {
    if (const auto affine = toOutput.affine()) return uprightMask(mask, *affine);
    const double scale = scaleAbout(toOutput, region_);
    const PatternPicture picture = maskPicture(mask, scale * scaleOf(placementMap(mask.placement)));
    KeyHash hash(kMask);
    hash.add(kWarped).add(sampling_).add(mask.inverted).add(mask.strength).add(mask.feather).add(mask.form);
    hash.add(maskToPanel(mask, picture.width, picture.height)).add(stateOf(picture.picture)).add(region_);
    addMapping(hash, toOutput, region_);
    return {hash.key(), [=, region = region_, sampling = sampling_, &mask](Scratch&) {
                return warpedMaskTile({toOutput, kEverywhere, kFinest * scale,
                                       [&](const Affine& map, const IntRect& area) {
                                           return maskTile(mask, map, area, picture);
                                       },
                                       sampling},
                                      region);
            }};
}

NamedLayer LayerRecipes::painted(const PaintedContent& content, const Mapping& mapping) const {
    const PixelTilesPtr tiles = content.tiles;
    const Rect extent = tiles->bounds().toRect().grown(1);
    if (!reaches(mapping, extent)) return {};
    KeyHash hash(kPainted);
    if (const auto affine = mapping.affine()) {
        hash.add(tiles->hash(paintedReach(*affine, region_))).add(*affine).add(region_);
        return named(hash.key(), [=, map = *affine, region = region_](Scratch&) {
            return paintedTile(*tiles, map, region);
        });
    }
    const std::vector<Rect> reach = reachesOf(mapping, region_.toRect().grown(2 * kRemapBlock));
    if (reach.size() <= mapping.stages().size()) return {};
    hash.add(tiles->hash(pixelsAround(reach.back().grown(16).intersected(extent))));
    return warped(std::move(hash), {mapping, extent, 1, [tiles](const Affine& map, const IntRect& region) {
                                        return paintedTile(*tiles, map, region);
                                    }});
}

double LayerRecipes::uprightScale(const Mapping& toOutput) const {
    return std::exp2(std::ceil(std::log2(scaleAbout(toOutput, region_))));
}

NamedLayer LayerRecipes::drawn(KeyHash hash, const Mapping& toOutput,
                               std::function<Tile(const Affine&, const IntRect&)> draw) const {
    return warped(std::move(hash), {toOutput, kEverywhere, 2 * uprightScale(toOutput), std::move(draw)});
}

TileRecipe LayerRecipes::within(const std::shared_ptr<const Path>& outline, const Mapping& toOutput) const {
    KeyHash hash(kOutline);
    for (const Path::Verb verb : outline->verbs()) hash.add(verb);
    hash.add(outline->points()).add(region_);
    addMapping(hash, toOutput, region_);
    return TileRecipe{hash.key(), [=, region = region_](Scratch&) {
                          return edgeTile(mapped(*outline, toOutput, kOutlineTolerance), region);
                      }};
}

std::optional<TileRecipe> LayerRecipes::edge(const Rect& area, const Mapping& toOutput) const {
    if (const auto affine = toOutput.affine(); affine && coversAll(*affine, area, region_))
        return std::nullopt;
    KeyHash hash(kEdge);
    hash.add(area).add(region_);
    addMapping(hash, toOutput, region_);
    return TileRecipe{hash.key(), [=, region = region_](Scratch&) {
                          Path edge;
                          edge.addRect(area);
                          return edgeTile(mapped(edge, toOutput, kOutlineTolerance), region);
                      }};
}

} // namespace glyptos
