// Treatments as JSON, both ways (docs/file-format.md): in releases, in sets of one's own, and as the chains
// that `glyptos-cli treat` takes. Everything about their figures comes from the table.
#pragma once

#include "base/json_entry.h"
#include "base/units.h"
#include "file/release_json/release_json.h"
#include "release/release.h"

namespace glyptos {

/// What treatments are read with.
struct TreatmentReading {
    Unit unit = Unit::Mm; ///< of lengths, once they are read
    TileSource tiles = noTiles;
    LookSource looks = noLooks;
};

/// Lengths are told in `unit`, look tables by `lookName`.
Json toJson(const Treatments& treatments, Unit unit);
/// These throw Wrong. Whether a named picture is there is left to the caller.
Treatments readTreatments(const Entry& list, const TreatmentReading& reading);

/// Where a table lies in a release: "looks/HASH.cube".
std::string lookName(const LookTable& table);

} // namespace glyptos
