#include "file/print/print_job.h"

#include "base/text.h"
#include "file/disk/atomic_file.h"
#include "file/print/print_tiff.h"

namespace glyptos {
namespace {

std::filesystem::path beside(const std::filesystem::path& file, const std::string& ending) {
    return file.parent_path() / (file.stem().string() + ending);
}

std::string joined(const std::vector<std::string>& words) {
    std::string out;
    for (const std::string& word : words) out += (out.empty() ? "" : ", ") + word;
    return out;
}

class Writing {
  public:
    Writing(Renderer& renderer, const ReleasePtr& release, std::string piece, const PrintJob& job)
        : renderer_(renderer)
        , release_(release)
        , piece_(std::move(piece))
        , job_(job) {}

    Result<PrintDone> run(const std::filesystem::path& file) {
        const auto order = printOrder(release_, piece_, job_.options);
        if (!order) return tl::unexpected(order.error());
        const bool apart = job_.filePerPage && order->sheets.size() > 1;
        for (size_t i = 0; i < (apart ? order->sheets.size() : 1); ++i) {
            PrintOptions options = job_.options;
            if (apart) options.sheets = {order->sheets[i]};
            const auto target =
                apart ? beside(file, " " + std::to_string(i + 1) + file.extension().string()) : file;
            if (auto written = write(options, target); !written) return tl::unexpected(written.error());
        }
        if (job_.report)
            if (auto written = writeReport(*order, file); !written) return tl::unexpected(written.error());
        return std::move(done_);
    }

  private:
    Error explained(Error error) const {
        if (!done_.files.empty()) error.message += " Written before that: " + joined(names()) + ".";
        return error;
    }

    std::vector<std::string> names() const {
        std::vector<std::string> out;
        for (const auto& file : done_.files) out.push_back(file.filename().string());
        return out;
    }

    Result<void> write(const PrintOptions& options, const std::filesystem::path& target) {
        const auto writer = job_.as == PrintJob::As::Tiff ? writePrintTiff : writePrintPdf;
        auto report = writer(renderer_, release_, piece_, options, target);
        if (!report) return tl::unexpected(explained(report.error()));
        if (done_.files.empty()) {
            done_.report = std::move(*report);
        } else {
            auto& all = done_.report;
            all.pages.insert(all.pages.end(), report->pages.begin(), report->pages.end());
            all.bytes += report->bytes;
            for (const std::string& note : report->notes) addNew(all.notes, note);
        }
        done_.files.push_back(target);
        return {};
    }

    Result<void> writeReport(const PrintOrder& order, const std::filesystem::path& file) {
        const Brief& brief = release_->brief;
        const std::string text =
            reportText(done_.report, brief.artist + " – " + brief.title + " – " + order.piece->name, names());
        const auto target = beside(file, " report.txt");
        const auto written = writeFile(target, {reinterpret_cast<const uint8_t*>(text.data()), text.size()});
        if (!written) return tl::unexpected(explained(written.error()));
        done_.files.push_back(target);
        return {};
    }

    Renderer& renderer_;
    const ReleasePtr& release_;
    const std::string piece_;
    const PrintJob& job_;
    PrintDone done_;
};

} // namespace

Result<PrintDone> writePrintJob(Renderer& renderer, const ReleasePtr& release, const std::string& piece,
                                const PrintJob& job, const std::filesystem::path& file) {
    return Writing(renderer, release, piece, job).run(file);
}

std::string reportText(const PrintReport& report, const std::string& title,
                       const std::vector<std::string>& files) {
    std::string out = title + "\n" + joined(files) + "\n\n";
    for (size_t i = 0; i < report.pages.size(); ++i) {
        const PrintedPage& page = report.pages[i];
        out += "Page " + std::to_string(i + 1) + (page.sheet.empty() ? "" : ": " + page.sheet) + "\n";
        out += "  trim " + shortNumber(page.trimWidthMm) + " × " + shortNumber(page.trimHeightMm) +
               " mm, bleed " + shortNumber(report.bleedMm) + " mm\n";
        out += "  art at " + shortNumber(report.ppi) + " ppi";
        if (page.coarsest)
            out += "; the coarsest picture, " + page.coarsest->first + ", has " +
                   shortNumber(page.coarsest->second, 0) + " ppi of its own";
        out += "\n  most ink " + shortNumber(page.mostInk * 100, 0) + " %";
        if (!page.inks.empty()) out += "; inks: " + joined(page.inks);
        out += "\n  words and codes kept as outlines: " + std::to_string(page.outlinedTexts) + "\n";
    }
    for (const std::string& note : report.notes) out += "\nNote: " + note + "\n";
    return out;
}

} // namespace glyptos
