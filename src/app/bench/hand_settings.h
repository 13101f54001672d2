// What the hands that have settings are set to.
#pragma once

#include "file/brushes.h"
#include "raster/brush/symmetry.h"
#include "raster/warp/knead_field.h"
#include "render/painting.h"

namespace glyptos {

/// How Select finds what it selects.
enum class SelectBy : unsigned char { Figure, Box, Ellipse, Freehand, Corners, Edge, Colour, Brush, Itself };

/// How Mend mends.
enum class MendBy : unsigned char { Surroundings, Patch, Clone };

/// A round brush in the unit of the panel.
struct BrushSettings {
    double diameter = 0; ///< 0: a twentieth of the panel
    double hardness = 0.7, opacity = 1, flow = 1;
};

/// Of the Slice hand. Lengths in the unit of the panel; below 0: what suits its size.
struct SliceSettings {
    bool drawn = false; ///< lines as the pointer goes; else straight ones
    double gap = -1, shade = 0.35, shadeWidth = -1;
};

struct KneadSettings {
    KneadWay way = KneadWay::Push;
    double strength = 0.8; ///< 0…1, of a stroke
    bool holdEdges = true; ///< of the layer
};

/// What of a layer Bend takes hold of.
enum class BendBy : unsigned char { Corners, Grid };

struct BendSettings {
    BendBy by = BendBy::Corners;
    int columns = 3, rows = 3;              ///< of a grid that is laid anew
    double amount = 0.5;                    ///< -1…1, of a ready bend
    double around = 0, over = 0, eye = 1.5; ///< degrees; widths: a tilt by angles, seen from there
};

/// Of the Paint hand.
struct PaintSettings {
    NamedBrush brush;               ///< in hand: the one of that name, as it is set by now
    std::vector<SourcePtr> sources; ///< pictures of its stamps that the release may not have
    Ink colour{0.09f, 0.1f, 0.12f, 1};
    bool keepsCurves = false; ///< strokes are kept as lines that are drawn with the brush
    Symmetry symmetry;        ///< panel units; its centre counts from the middle of the panel
};

/// Of the Fill hand. Lengths in the unit of the panel; below 0: what suits its size.
struct FillSettings {
    bool between = false; ///< fills areas between lines; else lays gradients
    double gap = -1, speck = -1;
    double tolerance = 0.25; ///< line_areas.h
    Paint paint = Ink{0.85f, 0.72f, 0.5f, 1};
};

struct HandSettings {
    SelectBy selectBy = SelectBy::Figure;
    Combine combine = Combine::Replace;
    double tolerance = 12;                     ///< CIEDE2000
    bool connected = true;                     ///< only the patch that was clicked
    bool fromLayer = false;                    ///< colours of the layer in hand, not of all that shows
    BrushSettings brush;                       ///< of Select, Mask and Mend alike
    double maskValue = 0;                      ///< 0 hides, 1 shows
    bool refines = false;                      ///< the brush of Mask works out the edge under it instead
    bool maskRuns = false;                     ///< Mask paints a run from here to there instead of strokes
    double edgeBand = 12;                      ///< px of the mask to each side
    double edgeFirmness = 0, edgeOutwards = 0; ///< edge_refine.h
    MendBy mendBy = MendBy::Surroundings;
    bool aligned = true;                  ///< each stroke of the clone goes on from the place of the first
    double cloneTurn = 0, cloneScale = 1; ///< degrees; of the copy
    SliceSettings slice;
    PaintSettings paint;
    FillSettings fill;
    bool maskAsPaint = false; ///< Mask paints with the brush of Paint
    KneadSettings knead;
    BendSettings bend;
};

/// How a selection is seen on the bench.
enum class SelectionLook : unsigned char { Outline, Tint, BlackAndWhite };

} // namespace glyptos
