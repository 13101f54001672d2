// The commands of glyptos-cli. Each prints to standard output and fails with one sentence.
#pragma once

#include "base/error.h"

#include <string>
#include <vector>

namespace glyptos::cli {

struct NewOptions {
    std::string file, brief;
    std::vector<std::string> forms;
};
Result<void> makeNew(const NewOptions& options);

struct InfoOptions {
    std::string file;
    bool json = false;
};
Result<void> tellInfo(const InfoOptions& options);

struct FormsOptions {
    std::string name;
    std::vector<std::string> set;
    bool json = false;
};
Result<void> listForms(const FormsOptions& options);

struct RenderOptions {
    std::string file, piece, panel, take, out;
    double ppi = 0;
    int width = 0;
    bool bleed = false;
};
Result<void> renderPicture(const RenderOptions& options);

struct ExportOptions {
    std::string file, piece, as, out;
    int width = 0;
    int quality = 95;
    bool json = false;
};
Result<void> exportPiece(const ExportOptions& options);

} // namespace glyptos::cli
