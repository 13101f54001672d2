// What stands below the bleed of a print page for whoever prints it: names, measures and a bar of all inks.
#pragma once

#include "color/ink.h"
#include "file/print/page_content.h"
#include "render/layer_geometry.h"

namespace glyptos {

/// The line of the slug, in outlines of all inks, and the colour bar: each of the four inks full and at
/// half, their overprints in pairs, and every spot ink (colour spaces as plateSpace() names them), as many
/// as have room.
std::string slugOperators(const PrintPage& page, const std::string& line, const std::vector<Swatch>& spots,
                          ParagraphCache& paragraphs);

} // namespace glyptos
