#include "cli/commands.h"
#include "cli/saying.h"

#include "base/json.h"
#include "base/text.h"
#include "crate/indexing.h"
#include "file/pictures/picture_reader.h"
#include "file/project.h"
#include "release/credits.h"

#include <algorithm>
#include <iostream>

namespace glyptos::cli {
namespace {

Result<std::unique_ptr<Crate>> openedCrate(const std::string& folder) {
    return Crate::open(folder.empty() ? crateFolder() : std::filesystem::path(folder));
}

Json asJson(const CrateEntry& e, const Crate& crate) {
    Json palette = Json::list();
    for (const PaletteColour& c : e.palette)
        palette.push_back({{"colour", toHex(c.colour)}, {"share", c.share}});
    return {{"id", e.id},
            {"file", crate.fileOf(e).string()},
            {"uri", fileUri(crate.fileOf(e))},
            {"title", e.name()},
            {"kind", kSourceKindIds[size_t(e.facts.kind)]},
            {"tags", e.facts.tags},
            {"maker", e.facts.maker},
            {"licence", e.facts.licence},
            {"credit", creditLine(e.facts)},
            {"width", e.width},
            {"height", e.height},
            {"palette", palette}};
}

void tell(const CrateEntry& e) {
    std::cout << visible(e.id + "  " + e.name()) << "  (" << kSourceKindIds[size_t(e.facts.kind)] << ", "
              << e.width << " × " << e.height << " px"
              << (e.facts.maker.empty() ? "" : ", " + visible(e.facts.maker)) << ")\n";
}

void printAll(const std::vector<EntryPtr>& entries, size_t most, bool json, const Crate& crate) {
    Json out = Json::list();
    for (size_t i = 0; i < std::min(most, entries.size()); ++i)
        if (json)
            out.push_back(asJson(*entries[i], crate));
        else
            tell(*entries[i]);
    if (json) print(out, 1);
}

template <class Enum, size_t N>
Result<std::optional<Enum>> oneOf(const std::string& name, const char* what,
                                  const std::array<std::string, N>& names) {
    if (name.empty()) return std::optional<Enum>();
    std::string all;
    for (size_t i = 0; i < N; ++i) {
        if (names[i] == name) return std::optional(static_cast<Enum>(i));
        all += (i == 0 ? "" : ", ") + names[i];
    }
    return fail(Fault::Usage, "There is no " + std::string(what) + " “" + name + "”; there are " + all + ".");
}

template <class Enum, size_t N>
std::array<std::string, N> lowerNames() {
    std::array<std::string, N> out;
    for (size_t i = 0; i < N; ++i) {
        out[i] = nameOf(static_cast<Enum>(i));
        out[i][0] = char(std::tolower(static_cast<unsigned char>(out[i][0])));
    }
    return out;
}

Result<CrateQuery> queryOf(const CrateFindOptions& o) {
    CrateQuery query;
    std::array<std::string, kSourceKinds> kinds;
    std::copy(std::begin(kSourceKindIds), std::end(kSourceKindIds), kinds.begin());
    auto kind = oneOf<SourceKind>(o.kind, "kind", kinds);
    if (!kind) return tl::unexpected(kind.error());
    auto shape = oneOf<ShapeFacet>(o.shape, "shape", lowerNames<ShapeFacet, kShapeFacets>());
    if (!shape) return tl::unexpected(shape.error());
    auto colour = oneOf<ColourFamily>(o.colour, "colour", lowerNames<ColourFamily, kColourFamilies>());
    if (!colour) return tl::unexpected(colour.error());
    query.kind = *kind, query.shape = *shape, query.colour = *colour;
    if (!o.licence.empty()) query.licence = o.licence;
    query.onlyLargeEnough = o.largeEnough;
    return query;
}

/// A source by its id or the beginning of it, or by the path of its file.
Result<EntryPtr> sourceNamed(const Shelf& shelf, const std::string& name) {
    if (EntryPtr entry = shelf.entry(name)) return entry;
    std::error_code code;
    if (EntryPtr entry = shelf.at(std::filesystem::absolute(name, code).lexically_normal().string()))
        return entry;
    std::vector<EntryPtr> begins;
    for (const EntryPtr& e : shelf.entries())
        if (name.size() >= 4 && e->id.starts_with(name)) begins.push_back(e);
    if (begins.size() == 1) return begins.front();
    return fail(Fault::Usage, "The crate has no source “" + name +
                                  "”; name it by its id or its file, as crate find shows them.");
}

} // namespace

Result<Outcome> addToCrate(const CrateAddOptions& options) {
    auto crate = openedCrate(options.crate);
    if (!crate) return tl::unexpected(crate.error());
    const auto report = addFiles(**crate, {options.paths.begin(), options.paths.end()});
    if (!report) return tl::unexpected(report.error());
    warn((*crate)->notes());
    warn(report->troubles);
    if (options.json)
        print(Json{{"added", report->added}, {"already", report->already}, {"troubles", report->troubles}},
              1);
    else
        std::cout << "added " << report->added << ", there already " << report->already << ", not added "
                  << report->troubles.size() << '\n';
    return report->troubles.empty() ? Outcome::Fine : Outcome::Findings;
}

Result<Outcome> findInCrate(const CrateFindOptions& options) {
    const auto query = queryOf(options);
    if (!query) return tl::unexpected(query.error());
    auto crate = openedCrate(options.crate);
    if (!crate) return tl::unexpected(crate.error());
    std::string words;
    for (const std::string& word : options.words) words += word + ' ';
    const Found found = findIn(*(*crate)->shelf(), *query, (*crate)->matching(words));
    warn((*crate)->notes());
    printAll(found.entries, size_t(options.most), options.json, **crate);
    return found.entries.empty() ? Outcome::Findings : Outcome::Fine;
}

Result<Outcome> findSimilar(const CrateSimilarOptions& options) {
    if (options.colour < 0 || options.structure < 0 || options.colour + options.structure <= 0)
        return fail(Fault::Usage, "The weights may not be negative, nor both 0.");
    auto crate = openedCrate(options.crate);
    if (!crate) return tl::unexpected(crate.error());
    const ShelfPtr shelf = (*crate)->shelf();
    Traits of;
    std::string itself;
    if (const auto entry = sourceNamed(*shelf, options.source)) {
        of = (*entry)->traits, itself = (*entry)->id;
    } else {
        std::error_code code;
        if (!std::filesystem::exists(options.source, code)) return tl::unexpected(entry.error());
        const auto examined = examineFile(options.source);
        if (!examined) return tl::unexpected(examined.error());
        of = examined->entry.traits, itself = examined->entry.id;
    }
    warn((*crate)->notes());
    std::vector<EntryPtr> entries;
    std::vector<const Traits*> traits;
    for (const EntryPtr& e : shelf->entries())
        if (e->id != itself) entries.push_back(e), traits.push_back(&e->traits);
    Json out = Json::list();
    for (const Relative& r :
         relatives(of, traits, {options.colour, options.structure}, size_t(options.most))) {
        if (!options.json) {
            tell(*entries[r.index]);
            continue;
        }
        Json one = asJson(*entries[r.index], **crate);
        one["difference"] = r.difference;
        out.push_back(std::move(one));
    }
    if (options.json) print(out, 1);
    return Outcome::Fine;
}

Result<Outcome> tellCredits(const CreditsOptions& options) {
    auto forms = shippedForms();
    if (!forms) return tl::unexpected(forms.error());
    const auto release = openProject(options.file, *forms);
    if (!release) return tl::unexpected(release.error());
    const std::vector<CreditRow> rows = creditsOf(**release);
    if (options.csv) {
        std::cout << creditTable(**release);
    } else if (options.json) {
        Json out = Json::list();
        for (const CreditRow& row : rows)
            out.push_back({{"file", row.source->name},
                           {"credit", row.line},
                           {"maker", row.source->facts.maker},
                           {"licence", row.source->facts.licence},
                           {"pieces", row.pieces}});
        print(out, 1);
    } else if (!rows.empty()) {
        std::cout << creditText(**release) << '\n';
    }
    bool missing = false;
    for (const CreditRow& row : rows)
        if (row.makerMissing) {
            warn("The maker of “" + row.source->name + "” is not known.");
            missing = true;
        }
    return missing ? Outcome::Findings : Outcome::Fine;
}

} // namespace glyptos::cli
