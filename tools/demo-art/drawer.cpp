// The stock drawer: its pictures, its book and its terms.
#include "drawer.h"

#include "stock.h"

#include "crate/indexing.h"
#include "file/disk/atomic_file.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <iterator>

namespace glyptos::demo {
namespace {

namespace fs = std::filesystem;

constexpr std::string_view kTerms = R"({
 "name": "Harbour Light Pictures",
 "licences": [
  { "name": "Harbour Open", "creditNeeded": false, "asks": "Use it for anything; no credit is asked." },
  { "name": "Harbour Credit", "creditNeeded": true, "asks": "Use it for anything; name the maker and the agency wherever the work is credited." },
  { "name": "Harbour Press", "creditNeeded": true, "asks": "For up to 5000 copies and any number of streams; name the maker and the agency." }
 ]
}
)";

Result<void> add(const StockPicture& picture, int64_t number, const fs::path& folder,
                 std::vector<CrateEntry>& entries) {
    const std::vector<uint8_t> bytes = picture.make();
    const std::string path = "pictures/" + picture.file;
    if (auto written = writeFile(folder / path, bytes); !written) return written;
    auto examined = examineBytes(bytes, picture.file);
    if (!examined) return tl::unexpected(examined.error());
    CrateEntry& entry = examined->entry;
    entry.path = path;
    entry.facts = picture.facts;
    entry.added = entry.modified = number;
    entries.push_back(std::move(entry));
    return {};
}

} // namespace

StockPicture stockPicture(const Subject& subject, int number, const char* ending,
                          std::function<std::vector<uint8_t>()> make) {
    constexpr std::array<const char*, 6> kMakers{"Ása Grenfell", "Bram Ollis",   "Orri Vane",
                                                 "Maud Skerry",  "Teodor Finch", "Ines Quayle"};
    constexpr std::array<const char*, 3> kLicences{"Harbour Credit", "Harbour Open", "Harbour Press"};
    std::string file;
    for (const char c : subject.title)
        if (std::isalnum(static_cast<unsigned char>(c)) != 0)
            file += char(std::tolower(static_cast<unsigned char>(c)));
        else if (!file.empty() && file.back() != '-')
            file += '-';
    StockPicture out;
    out.file = file + ending;
    out.facts.kind = subject.kind;
    out.facts.title = subject.title;
    out.facts.tags = subject.tags;
    out.facts.maker = kMakers[size_t(number * 5 / 2) % kMakers.size()];
    out.facts.licence = kLicences[size_t(number) % kLicences.size()];
    out.make = std::move(make);
    return out;
}

Result<void> makeDrawer(const fs::path& folder) {
    std::error_code code;
    fs::remove_all(folder, code);
    fs::create_directories(folder / "pictures", code);
    std::vector<StockPicture> all = stockPhotos();
    for (auto* more : {stockTextures, stockElements}) {
        auto pictures = more();
        all.insert(all.end(), std::make_move_iterator(pictures.begin()),
                   std::make_move_iterator(pictures.end()));
    }
    std::vector<CrateEntry> entries;
    for (const StockPicture& picture : all)
        if (auto added = add(picture, int64_t(entries.size()), folder, entries); !added) return added;
    if (auto written = writeFile(folder / "agency.json",
                                 {reinterpret_cast<const uint8_t*>(kTerms.data()), kTerms.size()});
        !written)
        return written;
    auto crate = Crate::open(folder);
    if (!crate) return tl::unexpected(crate.error());
    return (*crate)->put(entries);
}

} // namespace glyptos::demo
