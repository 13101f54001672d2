// A brush as a value: what its tip looks like and how dabs of it make a stroke. Lengths are in the unit of
// what is painted on; shares of the diameter are so for any size.
#pragma once

#include "raster/blend_modes.h"

#include <array>
#include <cstdint>
#include <string_view>

namespace glyptos {

enum class TipKind : unsigned char {
    Round,
    Flat,    ///< straight sides, rounded where they meet (a superellipse of degree 4)
    Grain,   ///< round, through the grain of a paper
    Spatter, ///< drops of many sizes
    Dry,     ///< bristles that leave gaps along the way
    Ink,     ///< round, with an uneven rim
    Stamp    ///< pictures or outlines, in turn or by chance
};

/// What a stroke does to the layer that it is painted on.
enum class PaintWay : unsigned char {
    Over,   ///< in the brush's blend mode
    Behind, ///< only where the layer is see-through, and as far
    Inside, ///< the layer stays as see-through as it is
    Erase
};

struct Brush {
    TipKind tip = TipKind::Round;
    BlendMode blend = BlendMode::Normal;
    PaintWay way = PaintWay::Over;

    double diameter = 40;
    double hardness = 0.7;    ///< share of the radius that is covered wholly; from there it falls smoothly
    double opacity = 1;       ///< of the whole stroke
    double flow = 1;          ///< share of what is missing to the tip's own cover that each dab adds
    double spacing = 0;       ///< from dab to dab, in diameters; 0: so close that nothing is seen of it
    double roundness = 1;     ///< of the tip: its height as a share of its width
    double turn = 0;          ///< of the tip, degrees clockwise
    double sizeJitter = 0;    ///< a dab is smaller by up to that share
    double turnJitter = 0;    ///< degrees either way
    double placeJitter = 0;   ///< diameters, in any direction
    double spread = 0;        ///< diameters to either side of the way
    double opacityJitter = 0; ///< a dab is fainter by up to that share
    double hueJitter = 0;     ///< degrees either way
    double lightJitter = 0;   ///< towards white or black by up to that share
    double steadying = 0;     ///< 0…1: how long the way is on which a shaky hand is smoothed
    double buildUp = 0;       ///< dabs a second while the pointer is held
    double taperIn = 0;       ///< diameters, from a point to the whole size
    double taperOut = 0;
    double sizeAtEnd = 1; ///< share of the size at the far end of the way, 0…8
    double seed = 1;      ///< a whole number: another one, other chances

    bool follows = false;    ///< the tip turns with the way
    bool byChance = false;   ///< which stamp comes next; else by turns
    bool tinted = false;     ///< stamps in the colour of the brush; else in their own
    bool penSize = true;     ///< the pressure of a pen changes the size,
    bool penOpacity = false; ///< the opacity of each dab;
    bool penTilt = false;    ///< a pen that lies makes the tip long, towards where it leans;
    bool penTurn = false;    ///< and the tip turns with the pen
    bool operator==(const Brush&) const = default;
};

/// One figure of a brush: its name in files and where it stands.
struct BrushFigure {
    std::string_view id;
    double Brush::*value;
    double least, most;
};

inline constexpr double kLargestBrush = 1e6; ///< in files; any unit

inline constexpr std::array kBrushFigures{BrushFigure{"diameter", &Brush::diameter, 1e-4, kLargestBrush},
                                          BrushFigure{"hardness", &Brush::hardness, 0, 1},
                                          BrushFigure{"opacity", &Brush::opacity, 0, 1},
                                          BrushFigure{"flow", &Brush::flow, 0.001, 1},
                                          BrushFigure{"spacing", &Brush::spacing, 0, 20},
                                          BrushFigure{"roundness", &Brush::roundness, 0.02, 1},
                                          BrushFigure{"turn", &Brush::turn, -360, 360},
                                          BrushFigure{"sizeJitter", &Brush::sizeJitter, 0, 1},
                                          BrushFigure{"turnJitter", &Brush::turnJitter, 0, 180},
                                          BrushFigure{"placeJitter", &Brush::placeJitter, 0, 20},
                                          BrushFigure{"spread", &Brush::spread, 0, 50},
                                          BrushFigure{"opacityJitter", &Brush::opacityJitter, 0, 1},
                                          BrushFigure{"hueJitter", &Brush::hueJitter, 0, 180},
                                          BrushFigure{"lightJitter", &Brush::lightJitter, 0, 1},
                                          BrushFigure{"steadying", &Brush::steadying, 0, 1},
                                          BrushFigure{"buildUp", &Brush::buildUp, 0, 200},
                                          BrushFigure{"taperIn", &Brush::taperIn, 0, 200},
                                          BrushFigure{"taperOut", &Brush::taperOut, 0, 200},
                                          BrushFigure{"sizeAtEnd", &Brush::sizeAtEnd, 0, 8},
                                          BrushFigure{"seed", &Brush::seed, 0, 999999}};

struct BrushFlag {
    std::string_view id;
    bool Brush::*value;
};

inline constexpr std::array kBrushFlags{
    BrushFlag{"follows", &Brush::follows},       BrushFlag{"byChance", &Brush::byChance},
    BrushFlag{"tinted", &Brush::tinted},         BrushFlag{"penSize", &Brush::penSize},
    BrushFlag{"penOpacity", &Brush::penOpacity}, BrushFlag{"penTilt", &Brush::penTilt},
    BrushFlag{"penTurn", &Brush::penTurn}};

/// Names in files, in the order of the kinds.
inline constexpr std::array kTipNames{"round", "flat", "grain", "spatter", "dry", "ink", "stamp"};
inline constexpr std::array kPaintWayNames{"over", "behind", "inside", "erase"};

/// From a dab to the next, in units, where they are that large.
double spacingOf(const Brush& brush, double diameter);
/// How far from its way a stroke can reach, in units.
double reachOf(const Brush& brush);
/// Whether dabs differ in colour, so that they lie over each other instead of making one area.
bool isColoured(const Brush& brush);

} // namespace glyptos
