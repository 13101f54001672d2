// What an area is filled with, as values. Points and lengths are in the units of whatever is filled: of the
// panel for fills and masks, of the shape's own frame for shapes.
#pragma once

#include "base/geometry.h"
#include "color/colour_run.h"

#include <string>
#include <variant>
#include <vector>

namespace glyptos {

enum class GradientKind : unsigned char {
    Linear, ///< along the line from `from` to `to`
    Radial, ///< outwards from `from`, reaching the last stop at the distance of `to`
    Conic,  ///< once clockwise round `from`, starting in the direction of `to`
    Spiral  ///< like conic, and winding outwards `turns` times as far as `to`
};

/// How a linear or radial run goes on before its first and behind its last stop. The others go round.
enum class GradientSpread : unsigned char { Hold, Repeat, Mirror };

/// Colours between stops run evenly, premultiplied and sRGB-encoded.
struct Gradient {
    GradientKind kind = GradientKind::Linear;
    GradientSpread spread = GradientSpread::Hold;
    Vec2 from, to;
    double turns = 3;                ///< spiral: revolutions out to `to`; negative winds the other way; not 0
    std::vector<GradientStop> stops; ///< at least one, in rising order; equal places make a hard edge
    bool operator==(const Gradient&) const = default;
};

/// A linear run over `area` in the direction `turn` (degrees clockwise, 0 from top to bottom), so that its
/// far corners get the end colours.
Gradient evenRun(const Rect& area, double turn, const Ink& first, const Ink& last);

/// Whether it runs round its middle, from where it starts back to there.
bool goesRound(const Gradient& gradient);
/// Where a place of the run stands: along its line, or round its middle through `to`.
Vec2 stopPlace(const Gradient& gradient, double at);
/// The turns of a spiral, from its middle to `reach`: points along the line where its run starts, close
/// enough to each other to be straight between. None of other gradients.
std::vector<Vec2> turnsOf(const Gradient& gradient, double reach);
/// The place on the run nearest to a point, 0…1.
double nearestOnRun(const Gradient& gradient, Vec2 point);

/// Fractal noise between two colours (raster/noise.h).
struct Clouds {
    Ink low{0, 0, 0, 1}, high{1, 1, 1, 1};
    double size = 100;   ///< of the largest cloud, > 0
    int octaves = 6;     ///< 1…12
    double contrast = 1; ///< 0 flat, 1 as it comes, more is harder
    uint32_t seed = 1;
    bool operator==(const Clouds&) const = default;
};

/// A sheet of one colour with fibres and grain.
struct Paper {
    Ink colour{0.93f, 0.9f, 0.83f, 1};
    double grain = 0.15; ///< 0…1: how far the grain goes from the colour
    double size = 1;     ///< of the grain, > 0
    uint32_t seed = 1;
    bool operator==(const Paper&) const = default;
};

/// A picture repeated without end.
struct Pattern {
    std::string source;
    Vec2 origin;           ///< where the left-top corner of one picture lies
    double scale = 1;      ///< units a pixel, > 0
    double turn = 0;       ///< degrees clockwise about the origin
    double shift = 0;      ///< each row starts this share of the picture's width later
    bool mirrored = false; ///< every other picture is flipped, so that edges meet
    bool operator==(const Pattern&) const = default;
};

using Paint = std::variant<Ink, Gradient, Clouds, Paper, Pattern>;

/// How an area of other measures takes over what filled one: points keep their way from `from` to `to`,
/// `spread` times as far; grain, clouds and repeated pictures are scaled by `size`.
struct PaintScale {
    Vec2 from, to;
    double spread = 1, size = 1;
};
Paint scaled(Paint paint, const PaintScale& scale);
/// Shifted, turned or mirrored with the area it fills. A mirrored pattern lies mirrored and its picture does
/// not; clouds and paper are the same everywhere.
Paint mapped(Paint paint, const Affine& map);

} // namespace glyptos
