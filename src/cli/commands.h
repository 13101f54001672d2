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
    bool bleed = false;
};
Result<Outcome> renderPicture(const RenderOptions& options);

struct ExportOptions {
    std::string file, piece, panel, as, out;
    int width = 0;
    int quality = 95;
    bool json = false;
};
Result<Outcome> exportPiece(const ExportOptions& options);

} // namespace glyptos::cli
