// A print file as it is handed over: in one file or one a page, with a report beside it.
#pragma once

#include "file/print/print_pdf.h"

namespace glyptos {

struct PrintJob {
    enum class As : unsigned char { Pdf, Tiff };
    As as = As::Pdf;
    PrintOptions options = {};
    bool filePerPage = false; ///< “name 1.pdf”, “name 2.pdf”, …
    bool report = false;      ///< “name report.txt” beside it
};

/// What was written, in the order of the pages, the report last.
struct PrintDone {
    PrintReport report;
    std::vector<std::filesystem::path> files;
};

/// Writes the piece to `file`, or to files of that name with numbers. What fails in the middle says which
/// files are written; none is half written.
[[nodiscard]] Result<PrintDone> writePrintJob(Renderer& renderer, const ReleasePtr& release,
                                              const std::string& piece, const PrintJob& job,
                                              const std::filesystem::path& file);

/// The report as text: each page with its size, resolution, inks and how much of them, then what is doubtful.
std::string reportText(const PrintReport& report, const std::string& title,
                       const std::vector<std::string>& files);

} // namespace glyptos
