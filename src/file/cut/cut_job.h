// What a cutter does to a sheet, and what is wrong with it before it does.
#pragma once

#include "base/error.h"
#include "raster/stroke.h"

#include <cstdint>
#include <span>
#include <string>
#include <vector>

namespace glyptos {

enum class CutTool : unsigned char {
    Cut,     ///< through the board
    Crease,  ///< pressed, so that it folds
    Register ///< not cut: the marks that the cutter finds the sheet by
};
/// Names of layers and groups.
inline constexpr const char* kCutToolIds[] = {"cut", "crease", "register"};

struct ToolLine {
    CutTool tool = CutTool::Cut;
    Polyline line; ///< mm, y down
};

struct CutJob {
    double width = 0, height = 0; ///< mm
    std::vector<ToolLine> lines;

    double length(CutTool tool) const; ///< mm
};

struct CutFault {
    enum class Kind : unsigned char {
        Open,     ///< a cut that does not come back to where it began
        Crossing, ///< two cuts that cross
        Twice,    ///< a stretch that is cut twice
        Short     ///< a line without length
    };
    Kind kind = Kind::Open;
    Vec2 at; ///< mm
    std::string sentence() const;
};
inline constexpr const char* kCutFaultIds[] = {"open", "crossing", "twice", "short"};

/// Ends within 0.01 mm of each other meet. Creases may end anywhere, and may meet cuts.
std::vector<CutFault> faultsOf(const CutJob& job);

/// Reads an SVG or DXF file of cut and crease paths as a cutter does. SVG: size in mm and a viewBox; lines,
/// rectangles, circles, ellipses, polygons and paths of straight lines and Béziers, without transforms; the
/// tool is the id of the nearest group, a line without one is cut. DXF: LINE, LWPOLYLINE, POLYLINE, CIRCLE
/// and ARC, in mm; the tool is the layer. Curves become lines within 0.01 mm. Anything else is refused with a
/// sentence, and so is what is larger than 5 m or has over a million points.
[[nodiscard]] Result<CutJob> readCutJob(std::span<const uint8_t> bytes, const std::string& name);

/// What is left of the board and where the tools went: sRGB, 3 bytes a pixel, rows without gaps. Cuts are
/// black, creases dashed blue, marks grey; faults are ringed in red.
struct CutPicture {
    int width = 0, height = 0;
    std::vector<uint8_t> rgb;
};
CutPicture drawCutJob(const CutJob& job, const std::vector<CutFault>& faults, int longerSide);

} // namespace glyptos
