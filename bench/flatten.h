// Benches of the compositor.
#pragma once

#include "clock.h"
#include "release/release.h"

#include "type/font_library.h"

#include <vector>

namespace glyptos::bench {

/// Twelve layers of 3750² against every peer.
std::vector<Row> flattenAgainstPeers(const FontLibrary& fonts);
/// What would change if decoded pictures were stored as tiles; prints the times of both.
void whatTilesWouldGain(const FontLibrary& fonts);
/// Changes of one layer at 900 × 600 and fit zoom: its opacity, and its place as in a drag.
std::vector<Row> oneLayerChanges(const FontLibrary& fonts);
/// A brush of 1000 px drawn over the mask of one of the twelve layers, to what is shown of it.
std::vector<Row> maskStrokes(const FontLibrary& fonts);
/// Moving a window of 900 × 600 over the twelve layers by 100 px at a time, there and back, at fit zoom and
/// at one pixel to a pixel.
std::vector<Row> panning(const FontLibrary& fonts);
/// Three sizes by three depths; prints the times for each pixel and layer.
void linearity(const FontLibrary& fonts);
/// Pictures that each cover a piece, in the five modes by turns.
struct PictureLoad {
    int width, height; ///< of the piece
    uint32_t count;
    int pictureWidth, pictureHeight;
};
/// Twenty layers of a gatefold at its full size; thirty 45-megapixel photos on a cover.
inline constexpr PictureLoad kGatefold{7617, 3756, 20, 7617, 3756}, kThirty{3000, 3000, 30, 8256, 5504};
/// A JPEG of noise, as large as a photo; each seed another.
SourcePtr photo(int width, int height, uint32_t seed);
/// A release of one piece with those pictures as JPEGs on its panel "front".
std::pair<ReleasePtr, PanelRef> releaseOfPictures(const PictureLoad& load, std::shared_ptr<const Form> form);
/// Makes the pictures as JPEGs, reads and flattens them with the memory that an export has; ms of the
/// flatten. For a process of its own, whose peak memory is that of this work.
double flattenPictures(const FontLibrary& fonts, const PictureLoad& load);

} // namespace glyptos::bench
