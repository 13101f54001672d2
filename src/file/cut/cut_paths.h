// Cut and crease paths of a piece, for a cutter at home.
#pragma once

#include "file/cut/cut_job.h"
#include "form/flat.h"

namespace glyptos {

/// Sheets of a flat side by side as they lie on it, printed side up, with three registration marks round
/// each: the fourth corner has none, so that a sheet that is turned round is seen. Other sides of a sheet are
/// not cut.
CutJob cutJobOf(const Flat& flat, const std::vector<size_t>& sheets);

/// SVG 1.1, lengths in mm: groups "cut", "crease" and "register", black, blue dashed and grey.
std::string cutSvg(const CutJob& job, const std::string& title);
/// DXF of release 12, lengths in mm: layers CUT, CREASE and REGISTER, y up.
std::string cutDxf(const CutJob& job);

} // namespace glyptos
