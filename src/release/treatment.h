// Treatments of a layer: a list that is gone through in order, every entry of which stays as it was set.
#pragma once

#include "raster/blend_modes.h"
#include "treat/kind.h"

#include <memory>
#include <string>
#include <vector>

namespace glyptos {

struct Mask;

struct Treatment {
    const TreatmentKind* kind = nullptr; ///< of the table; nothing: one that this version does not know
    Figures figures;
    bool on = true;
    double opacity = 1; ///< 0…1
    /// Normal: what is treated takes the place of what was there; any other: it is blended over that.
    BlendMode blend = BlendMode::Normal;
    std::shared_ptr<const Mask> mask; ///< where it acts; nothing: everywhere
    std::string unknown;              ///< the JSON of one that is not known, kept as it was

    bool acts() const { return kind && on && opacity > 0; }
    bool operator==(const Treatment& o) const;
};
using Treatments = std::vector<Treatment>;

/// How many units of a piece make a millimetre: of pieces in px, those at 300 ppi.
double unitsPerMm(bool inPx);

/// One of a kind with its standards; lengths, whose standards are mm, in units of the piece.
Treatment newTreatment(const TreatmentKind& kind, double unitsPerMm);

/// With all lengths `factor` times as long; the kinds' own limits still hold.
Treatments scaled(Treatments treatments, double factor);
/// With their points, lines and linked masks mapped on the piece.
Treatments mapped(Treatments treatments, const Affine& onPiece);

/// How far around itself a list looks, units of the piece, about; 0 for grades.
double reachOf(const Treatments& treatments, const Rect& panel, double pxPerUnit);
/// Whether everything that acts changes colours one pixel at a time.
bool changesColoursOnly(const Treatments& treatments);

} // namespace glyptos
