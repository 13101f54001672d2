#include "crate/agency.h"

#include "base/json_entry.h"
#include "crate/indexing.h"
#include "file/pictures/picture_reader.h"

#include <cstdlib>
#include <thread>

namespace glyptos {
namespace {

constexpr auto kSlow = std::chrono::milliseconds(2500), kStep = std::chrono::milliseconds(25);

Result<void> readTerms(const std::filesystem::path& file, std::string& name,
                       std::vector<AgencyLicence>& licences) {
    auto bytes = readFile(file);
    if (!bytes) return tl::unexpected(bytes.error());
    auto read = agencyTermsFromJson({reinterpret_cast<const char*>(bytes->data()), bytes->size()});
    if (!read) return fail(read.error().fault, "“" + file.string() + "”: " + read.error().message + ".");
    name = std::move(read->name), licences = std::move(read->licences);
    return {};
}

} // namespace

Result<AgencyTerms> agencyTermsFromJson(std::string_view json) {
    return guarded(json, "agency", [](const Entry& e) {
        AgencyTerms out{e.text("name"), {}};
        e.each("licences", [&](const Entry& l) {
            out.licences.push_back({l.text("name"), l.flag("creditNeeded"), l.text("asks")});
        });
        return out;
    });
}

std::filesystem::path drawerFolder() {
    if (const char* set = std::getenv("GLYPTOS_DRAWER"); set && *set) return set;
    std::error_code code;
    const auto home = std::filesystem::read_symlink("/proc/self/exe", code).parent_path().parent_path();
    const auto installed = home / "share" / "glyptos" / "drawer";
    return std::filesystem::is_directory(installed, code) ? installed : home / "drawer";
}

Result<std::unique_ptr<Agency>> Agency::open(const std::filesystem::path& folder) {
    std::error_code code;
    if (!std::filesystem::exists(folder / "agency.json", code))
        return fail(Fault::Unreadable, "The stock drawer is not installed (“" + folder.string() +
                                           "”); the crate works without it.");
    std::unique_ptr<Agency> out(new Agency);
    if (auto terms = readTerms(folder / "agency.json", out->name_, out->licences_); !terms)
        return tl::unexpected(terms.error());
    auto stock = Crate::open(folder);
    if (!stock) return tl::unexpected(stock.error());
    out->stock_ = std::move(*stock);
    return out;
}

const AgencyLicence* Agency::licence(const std::string& name) const {
    for (const AgencyLicence& l : licences_)
        if (l.name == name) return &l;
    return nullptr;
}

Result<void> Agency::wait(const std::atomic<bool>* cancel) {
    const AgencyLine line = line_;
    const unsigned number = asked_++;
    if (line == AgencyLine::Offline)
        return fail(Fault::Unreadable,
                    "The agency cannot be reached: there is no line to it. Your crate is as it was; try "
                    "again when you are online.");
    if (line == AgencyLine::Failing && number % 2 == 0)
        return fail(
            Fault::Unreadable,
            "The agency answered with an error of its own. Nothing was taken; try again in a moment.");
    if (line == AgencyLine::Slow)
        for (auto waited = kStep * 0; waited < kSlow && !isCancelled(cancel); waited += kStep)
            std::this_thread::sleep_for(kStep);
    if (isCancelled(cancel)) return cancelled();
    return {};
}

Result<Found> Agency::find(const std::string& words, const CrateQuery& query,
                           const std::atomic<bool>* cancel) {
    if (auto line = wait(cancel); !line) return tl::unexpected(line.error());
    return findIn(*stock_->shelf(), query, stock_->matching(words));
}

Result<std::vector<uint8_t>> Agency::fetch(const std::string& id, const std::atomic<bool>* cancel) {
    if (auto line = wait(cancel); !line) return tl::unexpected(line.error());
    const EntryPtr found = entry(id);
    if (!found) return fail(Fault::Usage, "The agency does not have that picture any more.");
    const std::filesystem::path file = fileOf(*found);
    if (file.empty())
        return fail(Fault::Unsafe, "The agency names a file outside its own drawer; nothing was taken.");
    return readFile(file);
}

Result<std::string> Agency::take(const std::string& id, Crate& crate, const std::atomic<bool>* cancel) {
    auto bytes = fetch(id, cancel);
    if (!bytes) return tl::unexpected(bytes.error());
    const EntryPtr found = entry(id);
    SourceFacts facts = found->facts;
    facts.origin = name_;
    const AgencyLicence* terms = licence(facts.licence);
    if (terms && terms->creditNeeded)
        facts.credit = "“" + facts.title + "” by " + facts.maker + " / " + name_;
    return addBytes(crate, *bytes, found->fileName(), facts);
}

} // namespace glyptos
