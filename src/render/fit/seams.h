// Where panels meet at a fold, or where a strip ends on the sleeve that it lies round: does the art of one go
// on in the other?
#pragma once

#include "render/layer_geometry.h"
#include "render/renderer.h"

#include <string>
#include <vector>

namespace glyptos {

/// Two panels along a fold or an edge.
struct Seam {
    std::string fold;       ///< its id; of an edge "edge of" and the panel
    std::string one, other; ///< panels
    std::string otherPiece; ///< whose panel `other` is; empty: of the same piece
    std::string otherName;  ///< of that panel, with its piece where that is another
    Vec2 from, to;          ///< what of the fold they share, on the flat
    bool hasArt = false;    ///< on both sides, all along
    /// Along the fold from `from` to `to`: by how much what stands on `one` stands farther on `other`, in
    /// units of the flat; to about a twentieth of a millimetre. Nothing where art does not say: it is plain
    /// along the fold, or the sides are not alike.
    std::optional<double> offset;
    double alike = 0; ///< correlation of both sides at that offset, 0…1
    double step = 0;  ///< mean CIEDE2000 from one side to the other, as they lie
    double least = 0; ///< the same once the offset is mended; as `step` where there is none
};

/// All seams of a piece; of a strip also those with the sleeve that it is packed round (package.h). The art
/// of both panels is compared right at the fold, at 8 pixels a mm (1 a px), up to 20 mm apart (160 px).
std::vector<Seam> seamsOf(Renderer& renderer, const ReleasePtr& release, const std::string& piece,
                          const std::atomic<bool>* cancel = nullptr);

/// Moved so far that it is seen when it is folded.
bool isOff(const Seam& seam, Unit unit);
/// "meets", "off by 1.7 mm, colours 2.1 apart", for the artist.
std::string sentenceOf(const Seam& seam, Unit unit);

/// The layers of one of its panels that reach the fold, moved along it until they meet those of the other.
/// Locked ones stay. The same release where nothing is to be moved.
ReleasePtr withSeamAligned(const ReleasePtr& release, const PanelRef& moving, const Seam& seam,
                           ParagraphCache& paragraphs);

} // namespace glyptos
