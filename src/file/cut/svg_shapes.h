// Internal to file: shapes of SVG (1.1) as paths. What is wrong is thrown as BadSvg, as the end of a
// sentence.
#pragma once

#include "raster/path.h"

#include <QXmlStreamReader>
#include <optional>
#include <stdexcept>

namespace glyptos {

struct BadSvg : std::runtime_error {
    using std::runtime_error::runtime_error;
};

double svgNumber(QStringView text, const char* what);
/// A length in mm, or in units of 1/96 inch where it says none (SVG 1.1, 7.10).
double svgLengthMm(QStringView text, const char* what);
/// The value of an attribute of any namespace; empty when it is not there.
QStringView svgAttribute(const QXmlStreamAttributes& attributes, const char* name);

/// The outline of a path, line, rectangle, circle, ellipse, polyline or polygon in its own units; nothing for
/// other elements. Paths of straight lines and Béziers; rectangles without round corners.
std::optional<Path> svgShape(QStringView element, const QXmlStreamAttributes& attributes);

/// From the units of the viewBox to mm, and the size.
struct SvgSize {
    double width = 0, height = 0; ///< mm
    Affine toMm;
};
SvgSize svgSize(const QXmlStreamAttributes& attributes);

} // namespace glyptos
