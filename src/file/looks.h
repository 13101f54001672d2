// Looks: lists of treatments under a name, those that come with the application and those that the artist
// keeps.
#pragma once

#include "base/error.h"
#include "base/units.h"
#include "release/treatment.h"

#include <filesystem>
#include <vector>

namespace glyptos {

struct NamedLook {
    std::string name;
    Treatments treatments; ///< lengths for a panel whose shorter side is `side`
    double side = 1000;    ///< units
    Unit unit = Unit::Px;
    std::filesystem::path file;
    bool own = false; ///< kept by the artist
};

/// The list for a panel whose shorter side is so many of its own units.
Treatments fitted(const NamedLook& look, double shorterSide);
/// The look of a list as it is on such a panel.
NamedLook lookOf(std::string name, Treatments treatments, double shorterSide, Unit unit);

/// Reads one (docs/file-format.md); tables that it names lie beside it. Fails with a sentence that names the
/// file.
[[nodiscard]] Result<NamedLook> readLookFile(const std::filesystem::path& file);
/// Those in data/looks, by name. What cannot be read is left out.
const std::vector<NamedLook>& shippedLooks();
/// Where own looks are: looks/ in the application's folder in the XDG data folder.
std::filesystem::path ownLookFolder();
/// Those there, by name, and a sentence for each that cannot be read.
std::vector<NamedLook> ownLooks(std::vector<std::string>& troubles);
/// Writes it into that folder, its tables beside it, over one of the same name; fails whole.
[[nodiscard]] Result<NamedLook> saveLook(NamedLook look);
[[nodiscard]] Result<void> removeLook(const NamedLook& look);

/// A .cube file. Fails with a sentence that names it and says what is wrong. One without a title is called as
/// its file.
[[nodiscard]] Result<LookTablePtr> readCubeFile(const std::filesystem::path& file);
[[nodiscard]] Result<void> writeCubeFile(const std::filesystem::path& file, const LookTable& table);

} // namespace glyptos
