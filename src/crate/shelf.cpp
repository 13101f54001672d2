#include "crate/shelf.h"

#include <algorithm>

namespace glyptos {
namespace {

/// Facets that an entry passes, one bit each.
enum Facet : unsigned {
    kKind = 1,
    kShape = 2,
    kColour = 4,
    kLicence = 8,
    kUsed = 16,
    kLarge = 32,
    kAll = 63
};

unsigned passed(const CrateEntry& e, const CrateQuery& q, bool used) {
    unsigned out = 0;
    if (!q.kind || *q.kind == e.facts.kind) out |= kKind;
    if (!q.shape || *q.shape == shapeOf(e)) out |= kShape;
    if (!q.colour || *q.colour == e.mainColour) out |= kColour;
    if (!q.licence || *q.licence == e.facts.licence) out |= kLicence;
    if (!q.onlyUsed || used) out |= kUsed;
    if (!q.onlyLargeEnough || isLargeEnough(e)) out |= kLarge;
    return out;
}

void count(FacetCounts& counts, const CrateEntry& e, unsigned passes, bool used) {
    const auto butFor = [&](unsigned facet) { return (passes | facet) == kAll; };
    if (butFor(kKind)) ++counts.kinds[size_t(e.facts.kind)];
    if (butFor(kShape)) ++counts.shapes[size_t(shapeOf(e))];
    if (butFor(kColour)) ++counts.colours[size_t(e.mainColour)];
    if (butFor(kLicence)) ++counts.licences[e.facts.licence];
    if (butFor(kUsed) && used) ++counts.used;
    if (butFor(kLarge) && isLargeEnough(e)) ++counts.largeEnough;
}

void sortBy(CrateOrder order, std::vector<EntryPtr>& entries) {
    if (order == CrateOrder::Newest)
        std::stable_sort(entries.begin(), entries.end(),
                         [](const EntryPtr& a, const EntryPtr& b) { return a->added > b->added; });
    if (order == CrateOrder::Title)
        std::stable_sort(entries.begin(), entries.end(),
                         [](const EntryPtr& a, const EntryPtr& b) { return a->name() < b->name(); });
    if (order == CrateOrder::Largest)
        std::stable_sort(entries.begin(), entries.end(), [](const EntryPtr& a, const EntryPtr& b) {
            return int64_t(a->width) * a->height > int64_t(b->width) * b->height;
        });
}

std::vector<EntryPtr> byLikeness(const EntryPtr& of, const std::vector<EntryPtr>& entries,
                                 const LikenessWeights& weights) {
    std::vector<const Traits*> traits;
    traits.reserve(entries.size());
    for (const EntryPtr& e : entries) traits.push_back(&e->traits);
    std::vector<EntryPtr> out;
    for (const Relative& r : relatives(of->traits, traits, weights, traits.size()))
        out.push_back(entries[r.index]);
    return out;
}

} // namespace

EntryPtr Shelf::entry(const std::string& id) const {
    const auto found = byId_.find(id);
    return found == byId_.end() ? nullptr : entries_[found->second];
}

EntryPtr Shelf::at(const std::string& path) const {
    const auto found = byPath_.find(path);
    return found == byPath_.end() ? nullptr : entry(found->second);
}

void Shelf::put(CrateEntry entry) {
    byPath_[entry.path] = entry.id;
    for (const std::string& copy : entry.copies) byPath_[copy] = entry.id;
    auto next = std::make_shared<const CrateEntry>(std::move(entry));
    const auto [at, isNew] = byId_.emplace(next->id, entries_.size());
    if (isNew)
        entries_.push_back(std::move(next));
    else
        entries_[at->second] = std::move(next);
}

void Shelf::drop(const std::string& id) {
    const auto found = byId_.find(id);
    if (found == byId_.end()) return;
    std::erase_if(byPath_, [&](const auto& pair) { return pair.second == id; });
    entries_.erase(entries_.begin() + ptrdiff_t(found->second));
    byId_.clear();
    for (size_t i = 0; i < entries_.size(); ++i) byId_[entries_[i]->id] = i;
}

Found findIn(const Shelf& shelf, const CrateQuery& query,
             const std::optional<std::vector<std::string>>& matches, const std::set<std::string>& used) {
    Found out;
    const auto look = [&](const EntryPtr& entry) {
        const bool isUsed = used.contains(entry->id);
        const unsigned passes = passed(*entry, query, isUsed);
        count(out.counts, *entry, passes, isUsed);
        if (passes == kAll) out.entries.push_back(entry);
    };
    if (matches) {
        for (const std::string& id : *matches)
            if (const EntryPtr entry = shelf.entry(id)) look(entry);
    } else {
        for (const EntryPtr& entry : shelf.entries()) look(entry);
    }
    if (const EntryPtr like = query.like.empty() ? nullptr : shelf.entry(query.like))
        out.entries = byLikeness(like, out.entries, query.weights);
    else
        sortBy(query.order == CrateOrder::BestMatch && !matches ? CrateOrder::Newest : query.order,
               out.entries);
    return out;
}

} // namespace glyptos
