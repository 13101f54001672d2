// Selections and painted masks made of what is there, and of each other. Pure functions; what is 24
// megapixels large takes as long as that takes, so callers keep them off the window's thread.
#pragma once

#include "raster/path.h"
#include "release/release.h"
#include "render/picture_provider.h"
#include "vision/cutout/alpha_map.h"

#include <functional>

namespace glyptos {

/// The side of a pixel of what is painted on a piece, panel units: one of its own resolution.
double paintPixel(const Flat& flat);

/// How a new selection meets the one that is there.
enum class Combine : unsigned char { Replace, Add, TakeAway, Intersect };

/// Nothing when nothing is left.
std::optional<Selection> combined(const std::optional<Selection>& before,
                                  const std::optional<Selection>& with, Combine how);

/// What a path covers; curves and slants are soft by a pixel. Nothing when that is nothing.
std::optional<Selection> selectionOf(const Path& onPanel, double pixel, const Rect& panelArea);
/// What a mask of its own pixels covers, mapped onto the panel.
std::optional<Selection> selectionOf(const AlphaMap& map, const Affine& toPanel, double pixel,
                                     const Rect& panelArea);
/// Where a mask shows; one of a picture that cannot be had shows everywhere.
std::optional<Selection> selectionOf(const Mask& mask, double pixel, const Rect& panelArea,
                                     const Release& release, PictureProvider& pictures);
/// What is not selected of the panel; nothing selected: all of it.
std::optional<Selection> inverted(const std::optional<Selection>& selection, double pixel,
                                  const Rect& panelArea);
/// Values of one channel in pixels of an output, its sizes changed as those of pictures are.
AlphaMap paintedBytes(const PixelTiles& tiles, const Affine& toOutput, const IntRect& region);
/// The same, 0…1, as factors.
Buffer<float> paintedShares(const PixelTiles& tiles, const Affine& toOutput, const IntRect& region);
/// What is selected of pixels of an output that the panel is mapped to, as factors; empty when nothing is
/// selected: then all of them count.
Buffer<float> selectedShares(const std::optional<Selection>& selection, const Affine& panelToOutput,
                             const IntRect& region);
/// The values of some pixels of a selection or a mask.
AlphaMap valuesOf(const PixelTiles& tiles, const IntRect& area);
/// The values at their places, from (x, y) on.
PixelTilesPtr tilesOf(const AlphaMap& map, int x, int y);
/// The selection changed as a whole: grown, softened, …; `reach` px is how far that reaches beyond it.
std::optional<Selection> reshaped(const Selection& selection, double reach,
                                  const std::function<AlphaMap(const AlphaMap&)>& change);
/// Mapped on the panel: moved, scaled, turned.
std::optional<Selection> transformed(const Selection& selection, const Affine& onPanel,
                                     const Rect& panelArea);

/// Whether a painted mask keeps 255 where it hides: by what a zero stands for, and by being inverted.
bool keepsHidden(const Mask& mask);
/// How much a painted mask shows, 0…1, as it keeps that.
uint8_t keptValue(const Mask& mask, double shows);
/// A mask that shows what is selected and nothing else.
Mask maskOf(const Selection& selection);
/// A mask of values 0…255 in a frame of its own.
Mask maskOf(const AlphaMap& values, const Placement& placement);
/// The mask as one that can be painted on: as it is when it is painted already; else drawn once in the
/// panel's pixels, its softness, inversion and strength included. No mask: one that shows everything.
Mask paintable(const std::shared_ptr<const Mask>& mask, double pixel, const Rect& panelArea,
               const Release& release, PictureProvider& pictures);

} // namespace glyptos
