// How large codes are on a panel.
#pragma once

#include "release/release.h"

namespace glyptos {

/// Width of a module at 100 %, in the unit of the form; screens count 300 px to the inch.
double codeModule(CodeKind kind, Unit unit);

/// A code for a panel, at 100 %: in the middle of the place that the form keeps for one, else low on the
/// right within the safety line. Its text is the field of the brief for it.
Layer codeFor(const Panel& panel, CodeKind kind, Unit unit, std::string name);

} // namespace glyptos
