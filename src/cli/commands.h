// The commands of glyptos-cli. Each prints to standard output and fails with one sentence. A command that did
// its work but has something to say of it prints that to standard error and ends with findings.
#pragma once

#include "base/error.h"

#include <string>
#include <vector>

namespace glyptos::cli {

enum class Outcome { Fine, Findings };

struct NewOptions {
    std::string file, brief;
    std::vector<std::string> forms;
};
Result<Outcome> makeNew(const NewOptions& options);

struct InfoOptions {
    std::string file;
    bool json = false;
};
Result<Outcome> tellInfo(const InfoOptions& options);

struct FormsOptions {
    std::string name;
    std::vector<std::string> set;
    bool json = false;
};
Result<Outcome> listForms(const FormsOptions& options);

struct RenderOptions {
    std::string file, piece, panel, take, out;
    double ppi = 0;
    int width = 0;
    bool bleed = false, json = false;
};
Result<Outcome> renderPicture(const RenderOptions& options);

struct ExportOptions {
    std::string file, piece, panel, as, out;
    int width = 0;
    int quality = 95;
    bool json = false;
};
Result<Outcome> exportPiece(const ExportOptions& options);

// An empty `crate` is the user's own.

struct CrateAddOptions {
    std::string crate;
    std::vector<std::string> paths;
    bool json = false;
};
[[nodiscard]] Result<Outcome> addToCrate(const CrateAddOptions& options);

struct CrateFindOptions {
    std::string crate, kind, shape, colour, licence;
    std::vector<std::string> words;
    bool largeEnough = false, json = false;
    int most = 50;
};
/// Findings when there is nothing like that.
[[nodiscard]] Result<Outcome> findInCrate(const CrateFindOptions& options);

struct CrateSimilarOptions {
    std::string crate, source;
    double colour = 1, structure = 1;
    bool json = false;
    int most = 12;
};
[[nodiscard]] Result<Outcome> findSimilar(const CrateSimilarOptions& options);

struct CreditsOptions {
    std::string file;
    bool csv = false, json = false;
};
/// Findings when the maker of a picture is not known.
Result<Outcome> tellCredits(const CreditsOptions& options);

} // namespace glyptos::cli
