// A table of colours for colours: what a grade does, as numbers that other programs read too.
#pragma once

#include "base/error.h"

#include <array>
#include <cstdint>
#include <memory>
#include <string>
#include <string_view>
#include <vector>

namespace glyptos {

/// One dimension: a curve for each of red, green, blue. Three: a cube, red fastest. Values are sRGB-encoded
/// and may lie outside 0…1; what comes in is taken to lie within the domain, and kept to its ends outside.
struct LookTable {
    std::string title;
    int dimensions = 3;
    int size = 2; ///< entries along a side: 2…65536 in one dimension, 2…256 in three
    std::array<float, 3> least{0, 0, 0}, most{1, 1, 1}; ///< the domain
    std::vector<std::array<float, 3>> entries;
    std::array<uint64_t, 2> hash{}; ///< of the rest, set by kept()

    bool operator==(const LookTable&) const = default;
};
using LookTablePtr = std::shared_ptr<const LookTable>;

/// The table as treatments hold it.
LookTablePtr kept(LookTable table);

inline constexpr int kLargestCube = 256, kLongestTable = 65536;

/// From the text of a .cube file. Fails with a part of a sentence that says what is wrong and in which line.
Result<LookTable> lookTableFromCube(std::string_view text);
/// The text of a .cube file of that table; reading it gives the same numbers.
std::string cubeText(const LookTable& table);

/// What the table makes of a colour: of a cube between its entries by tetrahedra (J. M. Kasson et al.,
/// "Performing color space conversions with three-dimensional linear interpolation", 1995).
std::array<float, 3> lookedUp(const LookTable& table, const std::array<float, 3>& rgb);

} // namespace glyptos
