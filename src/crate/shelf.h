// All sources of the crate at one moment, and what of them answers a question.
#pragma once

#include "crate/entry.h"

#include <array>
#include <map>
#include <set>
#include <unordered_map>

namespace glyptos {

/// An immutable list of what is in the crate, the last added at the end.
class Shelf {
  public:
    const std::vector<EntryPtr>& entries() const { return entries_; }
    EntryPtr entry(const std::string& id) const;
    /// The entry whose file, or a copy of it, has that path.
    EntryPtr at(const std::string& path) const;

    void put(CrateEntry entry);
    void drop(const std::string& id);

  private:
    std::vector<EntryPtr> entries_;
    std::unordered_map<std::string, size_t> byId_;
    std::unordered_map<std::string, std::string> byPath_;
};
using ShelfPtr = std::shared_ptr<const Shelf>;

enum class CrateOrder : unsigned char { BestMatch, Newest, Title, Largest };

/// What is looked for. A facet without a value lets everything pass.
struct CrateQuery {
    std::optional<SourceKind> kind;
    std::optional<ShapeFacet> shape;
    std::optional<ColourFamily> colour;
    std::optional<std::string> licence;
    bool onlyUsed = false;                    ///< in this release
    bool onlyLargeEnough = false;             ///< for a 12-inch front at 300 ppi
    CrateOrder order = CrateOrder::BestMatch; ///< without words or a likeness: newest
    std::string like; ///< a source; what is found comes from the most alike to the least
    LikenessWeights weights;
};

/// How many would be found with each value of one facet, the others as they are.
struct FacetCounts {
    std::array<int, kSourceKinds> kinds{};
    std::array<int, kShapeFacets> shapes{};
    std::array<int, kColourFamilies> colours{};
    std::map<std::string, int> licences;
    int used = 0, largeEnough = 0;
};

struct Found {
    std::vector<EntryPtr> entries;
    FacetCounts counts;
};

/// `matches` are the ids that the words match, the best first, or nothing when there are no words. `used` are
/// ids of sources in the release.
Found findIn(const Shelf& shelf, const CrateQuery& query,
             const std::optional<std::vector<std::string>>& matches, const std::set<std::string>& used = {});

} // namespace glyptos
