// Internal to render: how each kind of content is named and made in one tile.
#pragma once

#include "render/tiles/key_hash.h"
#include "render/tiles/named_stack.h"
#include "render/tiles/paint_tiles.h"
#include "render/tiles/shape_tiles.h"
#include "render/tiles/warped_tiles.h"

namespace glyptos {

/// What a key is of, so that the same figures of another kind give another name.
enum TileKind : int {
    kPicture = 1,
    kText,
    kPaint,
    kShape,
    kMask,
    kMasked,
    kSolid,
    kDirect,
    kGroup,
    kEdge,
    kComposite,
    kPainted,
    kWarpedPicture,
    kWarped,
    kTreated,
    kTreatedInput,
    kGrade,
    kOutline,
    kCode
};

/// Mappings lead to output pixels: `map` from a layer's own frame (px of the whole source, units of words and
/// shapes, painted pixels), `toOutput` from panel units. What does not reach into the region is Nothing.
class LayerRecipes {
  public:
    LayerRecipes(const RenderParts& parts, const Release& release, const IntRect& region, Sampling sampling)
        : parts_(parts)
        , release_(release)
        , region_(region)
        , sampling_(sampling) {}

    NamedLayer picture(const PictureContent& content, const Mapping& map) const;
    NamedLayer text(const TextContent& content, const Mapping& map) const;
    NamedLayer code(const CodeContent& content, const Mapping& map) const;
    NamedLayer fill(const FillContent& fill, const Mapping& toOutput) const;
    NamedLayer shape(const ShapeContent& shape, const Mapping& map) const;
    NamedLayer painted(const PaintedContent& content, const Mapping& map) const;
    /// What is drawn upright in panel units and seen through a mapping, under the name that `hash` gives it.
    NamedLayer drawn(KeyHash hash, const Mapping& toOutput,
                     std::function<Tile(const Affine& map, const IntRect& region)> draw) const;
    /// Pixels for a unit where it is drawn so: of a power of two.
    double uprightScale(const Mapping& toOutput) const;
    TileRecipe mask(const Mask& mask, const Mapping& toOutput) const;
    /// The edge of a panel's area that is shown inside another; none when it covers all of the region.
    std::optional<TileRecipe> edge(const Rect& area, const Mapping& toOutput) const;
    /// What lies within an outline.
    TileRecipe within(const std::shared_ptr<const Path>& outline, const Mapping& toOutput) const;

  private:
    /// Outlines of one colour each, under the name that `hash` gives them so far.
    NamedLayer inked(KeyHash hash, std::vector<InkedOutline> outlines, const Mapping& map) const;
    bool reaches(const Mapping& map, const Rect& area) const;
    PatternPicture pictureFor(const std::string& id, double scale) const;
    PatternPicture patternFor(const Paint& paint, double scale) const;
    PatternPicture maskPicture(const Mask& mask, double scale) const;
    /// `hash` learns of the pictures' sharpness.
    ShapeParts partsFor(const ShapeContent& shape, double scale, KeyHash& hash) const;
    std::optional<NamedLayer> direct(const PyramidPtr& picture, const Source& source, const Affine& map,
                                     const Rect& shown) const;
    /// What `drawing` shows, under the name that `hash` gives it so far.
    NamedLayer warped(KeyHash hash, WarpedDrawing drawing) const;
    TileRecipe uprightMask(const Mask& mask, const Affine& toOutput) const;

    RenderParts parts_;
    const Release& release_;
    IntRect region_;
    Sampling sampling_; ///< of what is warped
};

} // namespace glyptos
