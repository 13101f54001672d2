// One figure of a treatment as its table says it: from this the panel, files, the words of undo, the command
// line and the documents are made.
#pragma once

#include "color/color.h"

#include <span>
#include <string_view>

namespace glyptos {

enum class FigureKind : unsigned char {
    Number,
    Flag,
    Choice,
    Colour,  ///< an Ink
    Point,   ///< of the piece, in its units
    Curve,   ///< a ToneCurve
    Run,     ///< of colours: stops from 0 to 1
    Path,    ///< lines on the piece, in its units
    Picture, ///< what is read besides: the id of a source of the release, or kLayerMark and that of a layer
    Table    ///< a LookTable
};

enum class FigureUnit : unsigned char {
    Plain,
    Share,   ///< 1 is shown as 100 %
    Degrees, ///< clockwise
    Hue,     ///< degrees of Oklch, which can be picked in the picture
    Length,  ///< in units of the piece: mm, or px where it is for screens
    LinesPerInch,
    Stops, ///< doublings of light
    Whole,
    Chance ///< a whole number: another one, other chances
};

/// Before the id of a layer of the panel in the value of a picture.
inline constexpr std::string_view kLayerMark = "layer:";

struct Figure {
    std::string_view id;    ///< in files; of a length followed by "_mm" or "_px" there
    std::string_view label; ///< in the window, in English
    FigureKind kind = FigureKind::Number;
    FigureUnit unit = FigureUnit::Plain;
    double least = 0, most = 1; ///< of a number; outside it is refused, never clamped
    double standard = 0;        ///< of a number (a length in mm), a flag (0 or 1) or a choice (its place)
    std::span<const char* const> choices{}; ///< in files and, in English, in the window
    bool lasting = true;                    ///< kept in files
    Rgba colour{}; ///< standard of a colour, of a point its shares of the panel (r, g)
};

constexpr Figure number(std::string_view id, std::string_view label, double least, double most,
                        double standard) {
    return {id, label, FigureKind::Number, FigureUnit::Plain, least, most, standard};
}
constexpr Figure share(std::string_view id, std::string_view label, double standard, double least = 0,
                       double most = 1) {
    return {id, label, FigureKind::Number, FigureUnit::Share, least, most, standard};
}
constexpr Figure degrees(std::string_view id, std::string_view label, double standard, double least = -360,
                         double most = 360) {
    return {id, label, FigureKind::Number, FigureUnit::Degrees, least, most, standard};
}
inline constexpr double kLongestFigure = 1e5; ///< units of a piece
constexpr Figure length(std::string_view id, std::string_view label, double standard, double least = 0,
                        double most = kLongestFigure) {
    return {id, label, FigureKind::Number, FigureUnit::Length, least, most, standard};
}
constexpr Figure whole(std::string_view id, std::string_view label, double least, double most,
                       double standard) {
    return {id, label, FigureKind::Number, FigureUnit::Whole, least, most, standard};
}
constexpr Figure chance(std::string_view id = "seed", std::string_view label = "Chance no.") {
    return {id, label, FigureKind::Number, FigureUnit::Chance, 0, 999999, 1};
}
constexpr Figure flag(std::string_view id, std::string_view label, bool standard) {
    return {id, label, FigureKind::Flag, FigureUnit::Plain, 0, 1, standard ? 1.0 : 0.0};
}
/// A flag of how it is looked at, which files do not keep.
constexpr Figure passingFlag(std::string_view id, std::string_view label) {
    Figure out = flag(id, label, false);
    out.lasting = false;
    return out;
}
constexpr Figure hue(std::string_view id, std::string_view label, double standard) {
    return {id, label, FigureKind::Number, FigureUnit::Hue, 0, 360, standard};
}
constexpr Figure choice(std::string_view id, std::string_view label, std::span<const char* const> choices,
                        int standard = 0) {
    return {
        id,     label, FigureKind::Choice, FigureUnit::Plain, 0, double(choices.size()) - 1, double(standard),
        choices};
}
constexpr Figure colour(std::string_view id, std::string_view label, Rgba standard) {
    return {id, label, FigureKind::Colour, FigureUnit::Plain, 0, 1, 0, {}, true, standard};
}
/// A point that stands at shares of the panel's width and height until it is dragged.
constexpr Figure point(std::string_view id, std::string_view label, float x = 0.5f, float y = 0.5f) {
    return {id, label, FigureKind::Point, FigureUnit::Length, 0, 1, 0, {}, true, {x, y, 0, 1}};
}
constexpr Figure curve(std::string_view id, std::string_view label) {
    return {id, label, FigureKind::Curve};
}
constexpr Figure run(std::string_view id, std::string_view label) {
    return {id, label, FigureKind::Run};
}
constexpr Figure path(std::string_view id, std::string_view label) {
    return {id, label, FigureKind::Path, FigureUnit::Length};
}
constexpr Figure picture(std::string_view id, std::string_view label) {
    return {id, label, FigureKind::Picture};
}
constexpr Figure table(std::string_view id, std::string_view label) {
    return {id, label, FigureKind::Table};
}

} // namespace glyptos
