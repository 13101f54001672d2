// All families at hand with what they look like, to choose from.
#pragma once

#include "type/faces/face_facts.h"

#include <functional>

namespace glyptos {

/// One family, by its face that is nearest to regular.
struct FaceEntry {
    std::string family, style;
    bool shipped = false, brought = false, hasItalic = false;
    int lightest = 80, heaviest = 80; ///< weights of its styles, see StyleTraits
    std::optional<FaceFacts> facts;   ///< nothing of a face without Latin capitals
};

FaceEntry entryOf(const FamilyInfo& family, const FontLibrary& fonts);

/// What is looked for; what is not said lets all pass.
struct FaceFilter {
    std::string name = {};            ///< part of the family's name, whatever its case
    std::vector<FaceSort> sorts = {}; ///< all of them
    std::string letters = {};         ///< it must have them all
    bool italic = false;
    enum class Weight { Any, Light, Bold, Black } weight = Weight::Any; ///< a style of it
    enum class XHeight { Any, Small, Large } xHeight = XHeight::Any;    ///< below or above 0.7 of capitals
};
bool passes(const FaceEntry& entry, const FaceFilter& filter, const FontLibrary& fonts);

/// A family that goes with another: it contrasts in structure and agrees in proportion.
struct FacePair {
    size_t entry = 0;   ///< of those compared
    double score = 0;   ///< higher is better
    std::string reason; ///< "serif beside grotesque; x as high to a hundredth"
};
/// For one entry the others that go with it, best first. Empty for a face that has not been measured.
std::vector<FacePair> pairsFor(const FaceEntry& face, const std::vector<FaceEntry>& others);

/// Of the shipped text faces the one that goes best with a family: its family and style. Nothing when the
/// family cannot be measured or nothing goes with it.
std::optional<std::pair<std::string, std::string>> shippedPartner(const std::string& family,
                                                                  const FontLibrary& fonts);

} // namespace glyptos
