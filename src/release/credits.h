// The ledger of what a release is made of: every picture that shows on a piece, and what is to be said of it.
#pragma once

#include "release/release.h"

#include <string>
#include <vector>

namespace glyptos {

struct CreditRow {
    SourcePtr source;
    std::vector<std::string> pieces; ///< names of the pieces it is on, in the order of the set
    std::string line;                ///< creditLine of its facts, or its file name
    bool makerMissing = false;
};

/// The pictures on the current takes of all pieces and in what those echo, as layers, patterns or masks,
/// lamps on or off; in the order in which the release lists its sources. References and the wall print
/// nothing and are left out.
std::vector<CreditRow> creditsOf(const Release& release);

/// The lines to print, each once; those of one maker stand together.
std::string creditText(const Release& release);

/// Comma-separated with a head line (RFC 4180): title, maker, licence, credit, origin, file, pieces.
std::string creditTable(const Release& release);

} // namespace glyptos
