// Internal to render: how each kind of content is named and made in one tile.
#pragma once

#include "render/tiles/named_stack.h"
#include "render/tiles/paint_tiles.h"

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
    kPainted
};

/// `toOutput` maps panel units to output pixels. What does not reach into the region is Nothing.
class LayerRecipes {
  public:
    LayerRecipes(const RenderParts& parts, const Release& release, const IntRect& region)
        : parts_(parts)
        , release_(release)
        , region_(region) {}

    NamedLayer picture(const PictureContent& content, const Placement& placement,
                       const Affine& toOutput) const;
    NamedLayer text(const TextContent& content, const Placement& placement, const Affine& toOutput) const;
    NamedLayer fill(const FillContent& fill, const Affine& toOutput) const;
    /// `map`: from the shape's own frame to output pixels.
    NamedLayer shape(const ShapeContent& shape, const Affine& map) const;
    /// `map`: from the painted pixels to output pixels.
    NamedLayer painted(const PaintedContent& content, const Affine& map) const;
    TileRecipe mask(const Mask& mask, const Affine& toOutput) const;
    /// The edge of a panel that is shown inside another; none when it covers all of the region.
    std::optional<TileRecipe> edge(const PanelView& view) const;

  private:
    bool reaches(const Affine& map, const Rect& area) const;
    PatternPicture pictureFor(const std::string& id, double scale) const;
    PatternPicture patternFor(const Paint& paint, const Affine& map) const;
    PatternPicture maskPicture(const Mask& mask, const Affine& toOutput) const;
    std::optional<NamedLayer> direct(const PyramidPtr& picture, const Source& source, const Affine& map,
                                     const Rect& shown) const;

    const RenderParts& parts_;
    const Release& release_;
    IntRect region_;
};

} // namespace glyptos
