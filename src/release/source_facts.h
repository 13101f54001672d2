// What is known of a picture besides its pixels: whose it is, what it shows, and what its licence asks.
#pragma once

#include <string>
#include <vector>

namespace glyptos {

enum class SourceKind : unsigned char { Photo, Texture, Illustration, Element, Scan, LookTable };
inline constexpr int kSourceKinds = 6;
/// "Photo", "Texture", …
const char* nameOf(SourceKind kind);
/// As files write them.
inline constexpr const char* kSourceKindIds[kSourceKinds] = {"photo",   "texture", "illustration",
                                                             "element", "scan",    "look-table"};

struct SourceFacts {
    SourceKind kind = SourceKind::Photo;
    std::string title;
    std::vector<std::string> tags;
    std::string maker;
    std::string origin; ///< where it came from: a page, an archive, an agency
    std::string licence;
    std::string credit; ///< the line that its maker or licence asks for; empty: made from the rest
    std::string notes;
    bool operator==(const SourceFacts&) const = default;
};

/// The line to print: the one asked for, or “Title”, maker, licence, as far as they are known.
std::string creditLine(const SourceFacts& facts);

} // namespace glyptos
