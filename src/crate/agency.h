// The stock drawer: a stand-in, shipped with Glyptos, for a picture agency that is asked over a line. Its
// pictures lie in a crate of their own; the line can be made slow, cut or failing, to see what then happens.
#pragma once

#include "crate/crate.h"

#include <atomic>

namespace glyptos {

enum class AgencyLine : unsigned char { Good, Slow, Offline, Failing };

/// What a licence of the agency asks of who uses a picture.
struct AgencyLicence {
    std::string name;
    bool creditNeeded = false;
    std::string asks; ///< a sentence
};

/// What an agency says of itself.
struct AgencyTerms {
    std::string name;
    std::vector<AgencyLicence> licences;
};
/// {"name", "licences": [{"name", "creditNeeded", "asks"}]}. Fails with a part of a sentence.
[[nodiscard]] Result<AgencyTerms> agencyTermsFromJson(std::string_view json);

/// Where the drawer is: $GLYPTOS_DRAWER, else with the installed files, else beside the folder of the
/// program.
std::filesystem::path drawerFolder();

class Agency {
  public:
    [[nodiscard]] static Result<std::unique_ptr<Agency>> open(const std::filesystem::path& folder);

    const std::string& name() const { return name_; }
    const std::vector<AgencyLicence>& licences() const { return licences_; }
    /// Nothing when the agency has no such licence.
    const AgencyLicence* licence(const std::string& name) const;
    void setLine(AgencyLine line) { line_ = line; }

    // Requests. They take as long as the line does, and fail as it does, with a sentence; all may be called
    // from any thread and are given up when `cancel` is set.
    [[nodiscard]] Result<Found> find(const std::string& words, const CrateQuery& query,
                                     const std::atomic<bool>* cancel = nullptr);
    /// The bytes of a picture.
    [[nodiscard]] Result<std::vector<uint8_t>> fetch(const std::string& id,
                                                     const std::atomic<bool>* cancel = nullptr);
    /// Fetches a picture into a crate, with its facts and, where its licence asks for one, its credit line.
    /// The id of the source.
    [[nodiscard]] Result<std::string> take(const std::string& id, Crate& crate,
                                           const std::atomic<bool>* cancel = nullptr);

    /// Where the small picture of an entry is; the agency's page shows it without asking.
    /// Nothing when it would lie outside the drawer.
    std::filesystem::path fileOf(const CrateEntry& entry) const {
        const bool leadsOut = std::filesystem::path(entry.path).is_absolute();
        return leadsOut ? std::filesystem::path() : stock_->fileOf(entry);
    }
    EntryPtr entry(const std::string& id) const { return stock_->shelf()->entry(id); }

  private:
    Agency() = default;
    Result<void> wait(const std::atomic<bool>* cancel);
    std::unique_ptr<Crate> stock_;
    std::string name_;
    std::vector<AgencyLicence> licences_;
    std::atomic<AgencyLine> line_ = AgencyLine::Good;
    std::atomic<unsigned> asked_ = 0;
};

} // namespace glyptos
