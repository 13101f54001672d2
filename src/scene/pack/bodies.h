// What of a package is no printed piece: boxes, clear plastic, discs, records, cassettes. Lengths in mm.
#pragma once

#include "scene/pack/assembly.h"

namespace glyptos {

using Rgb = std::array<float, 3>; ///< sRGB-encoded, 0…1

/// A rectangle about `middle` that is seen from both sides.
struct Pane {
    Vec3 middle, right, down; ///< all of its edges
    Rgb colour{1, 1, 1};
    float opacity = 1;
};
void addPane(std::vector<Facet>& body, const Pane& pane);

/// A picture about `middle`, seen from the side from which `right` leads to `down` clockwise.
Facet pictured(const Vec3& middle, const Vec3& right, const Vec3& down, const SurfacePicture* picture);

/// The six sides of a box between two corners; `without` leaves out some: -x, +x, -y, +y, -z, +z.
struct Box {
    Vec3 least, most;
    std::array<bool, 6> without{};
    Rgb colour{1, 1, 1};
    float opacity = 1;
};
void addBox(std::vector<Facet>& body, const Box& box);

/// A box of clear plastic: its sides are hardly seen, its edges are.
void addClearBox(std::vector<Facet>& body, const Box& box);

/// The rim of a disc about the z axis.
void addRim(std::vector<Facet>& body, double diameter, double top, double bottom, const Rgb& colour);

/// Shares of a record's grooves, from its edge inwards, at which tracks of a side end.
std::vector<double> trackEnds(const std::vector<int>& seconds);

/// Pressed vinyl with a hole: grooves, run-in, smooth bands at `ends`, and the run-out round its label.
std::shared_ptr<const SurfacePicture> vinyl(double diameter, double label, double hole,
                                            const std::vector<double>& ends);
/// The side of an optical disc: `printed` the one that print goes on, else the one that is read.
std::shared_ptr<const SurfacePicture> opticalDisc(bool printed);
/// The broad side of a cassette's shell, 100.4 × 63.8, its tape below, as it is read.
std::shared_ptr<const SurfacePicture> cassetteShell();
inline constexpr double kShellWide = 100.4, kShellHigh = 63.8, kShellThick = 11.6; ///< IEC 60094-7, about
inline constexpr double kDisc = 120, kDiscThick = 1.2, kDiscHole = 15;             ///< IEC 60908
inline constexpr double kRecordThick = 1.9;

} // namespace glyptos
