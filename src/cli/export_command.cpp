#include "cli/commands.h"
#include "cli/opened.h"
#include "cli/saying.h"

#include "base/text.h"
#include "file/cut/cut_paths.h"
#include "file/disk/atomic_file.h"
#include "file/open_raster.h"
#include "file/pictures/picture_reader.h"
#include "file/print/print_pdf.h"
#include "file/print/print_tiff.h"

#include <cstdio>
#include <iostream>

namespace glyptos::cli {
namespace {

/// "1,3-5" as places from 0.
Result<std::vector<size_t>> sheetsFrom(const std::string& pages) {
    constexpr int kMost = 1000;
    std::vector<size_t> out;
    if (pages.empty()) return out;
    for (const std::string& part : split(pages, ',')) {
        int from = 0, to = 0;
        char after = 0;
        const int read = std::sscanf(part.c_str(), "%d-%d%c", &from, &to, &after);
        if (read == 1) to = from;
        if (read < 1 || read > 2 || from < 1 || to < from || to > kMost ||
            (read == 1 && part.find_first_not_of("0123456789 ") != part.npos))
            return fail(Fault::Usage, "“" + pages + "” are no pages; write them as 1,3-5.");
        for (int page = from; page <= to; ++page) out.push_back(size_t(page - 1));
    }
    return out;
}

Json pageJson(const PrintedPage& page) {
    return {{"sheet", page.sheet},
            {"trimWidthMm", page.trimWidthMm},
            {"trimHeightMm", page.trimHeightMm},
            {"mostInkPercent", page.mostInk * 100},
            {"outlinedTexts", page.outlinedTexts}};
}

Result<Outcome> exportPrint(Engine& engine, const ReleasePtr& release, const Piece& piece,
                            const ExportOptions& options) {
    PrintOptions print;
    std::vector<uint8_t> profile;
    if (!options.profile.empty()) {
        auto bytes = readFile(options.profile);
        if (!bytes) return tl::unexpected(bytes.error());
        profile = std::move(*bytes);
        print.pressProfile = profile;
    }
    auto sheets = sheetsFrom(options.pages);
    if (!sheets) return tl::unexpected(sheets.error());
    print.sheets = std::move(*sheets);
    const auto write = options.as == "tiff" ? writePrintTiff : writePrintPdf;
    const auto report = write(engine.renderer, release, piece.id, print, options.out);
    if (!report) return tl::unexpected(report.error());
    if (options.json) {
        Json pages = Json::list();
        for (const PrintedPage& page : report->pages) pages.push_back(pageJson(page));
        cli::print(Json{{"bleedMm", report->bleedMm},
                        {"ppi", report->ppi},
                        {"mostInkPercent", report->mostInk() * 100},
                        {"outlinedTexts", report->outlinedTexts()},
                        {"bytes", report->bytes},
                        {"pages", pages},
                        {"notes", report->notes},
                        {"missing", missingJson(engine)}});
        return drawn(engine, {}, report->notes);
    }
    for (size_t i = 0; i < report->pages.size(); ++i) {
        const PrintedPage& page = report->pages[i];
        std::cout << "page " << i + 1 << (page.sheet.empty() ? "" : " (" + page.sheet + ")") << ": trim "
                  << sized(page.trimWidthMm, page.trimHeightMm, Unit::Mm) << ", most ink "
                  << shortNumber(page.mostInk * 100, 0) << " %\n";
    }
    std::cout << "bleed " << shortNumber(report->bleedMm) << " mm, " << shortNumber(report->ppi) << " ppi, "
              << report->bytes << " bytes\n";
    return drawn(engine, {}, report->notes);
}

/// One panel: the one named, else the piece's front.
Result<Outcome> exportOpenRaster(Engine& engine, const ReleasePtr& release, const Piece& piece,
                                 const ExportOptions& options) {
    const std::string panel = options.panel.empty() ? piece.flat->frontPanel().id : options.panel;
    const double scale = piece.flat->unit == Unit::Px ? 1 : pxPerMm({piece.flat->ppi});
    const auto notes = writeOpenRaster(engine.renderer, release, {piece.id, panel}, {scale}, options.out);
    if (!notes) return tl::unexpected(notes.error());
    if (options.json) print(Json{{"notes", *notes}, {"missing", missingJson(engine)}});
    return drawn(engine, {}, *notes);
}

Result<Outcome> exportCuts(Engine&, const ReleasePtr&, const Piece& piece, const ExportOptions& options) {
    auto pages = sheetsFrom(options.pages);
    if (!pages) return tl::unexpected(pages.error());
    if (piece.flat->unit != Unit::Mm)
        return fail(Fault::Usage, piece.name + " is made for screens: there is nothing to cut.");
    std::vector<size_t> sheets = std::move(*pages);
    for (size_t i = 0; sheets.size() < piece.flat->sheets.size() && options.pages.empty(); ++i)
        sheets.push_back(i);
    for (const size_t sheet : sheets)
        if (sheet >= piece.flat->sheets.size())
            return fail(Fault::Usage,
                        piece.name + " has no page " + std::to_string(sheet + 1) + "; nothing was written.");
    const CutJob job = cutJobOf(*piece.flat, sheets);
    const std::string text = options.as == "svg-cut" ? cutSvg(job, piece.name) : cutDxf(job);
    if (const auto written =
            writeFile(options.out, {reinterpret_cast<const uint8_t*>(text.data()), text.size()});
        !written)
        return tl::unexpected(written.error());
    if (options.json)
        print(Json{{"widthMm", job.width},
                   {"heightMm", job.height},
                   {"cutMm", job.length(CutTool::Cut)},
                   {"creaseMm", job.length(CutTool::Crease)}});
    else
        std::cout << "sheet " << sized(job.width, job.height, Unit::Mm) << ", " << text.size() << " bytes\n";
    return Outcome::Fine;
}

Result<Outcome> exportPicture(Engine& engine, const ReleasePtr& release, const Piece& piece,
                              const ExportOptions& options) {
    PictureOptions how;
    how.format = options.as == "png" ? PictureFormat::Png : PictureFormat::Jpeg;
    how.panel = options.panel;
    how.width = options.width;
    how.quality = options.quality;
    const auto picture = encodePiece(engine.renderer, release, piece.id, how);
    if (!picture) return tl::unexpected(picture.error());
    if (auto written = writeFile(options.out, picture->bytes); !written)
        return tl::unexpected(written.error());
    if (options.json)
        print(pictureJson(engine, *picture));
    else
        std::cout << picture->width << " × " << picture->height << " px, " << picture->bytes.size()
                  << " bytes\n";
    return drawn(engine, {});
}

} // namespace

Result<Outcome> exportPiece(const ExportOptions& options) {
    const auto file = opened(options.file);
    if (!file) return tl::unexpected(file.error());
    const auto piece = pieceNamed(*file->release, options.piece);
    if (!piece) return tl::unexpected(piece.error());
    const bool isPrint = options.as == "pdf" || options.as == "tiff";
    const bool isCut = options.as == "svg-cut" || options.as == "dxf-cut";
    if (!isPrint && !options.profile.empty())
        return fail(Fault::Usage, "--profile is for print files; nothing was written.");
    if (!isPrint && !isCut && !options.pages.empty())
        return fail(Fault::Usage, "--pages is for print files and cut paths; nothing was written.");
    if (options.width > 0 && options.as != "jpeg" && options.as != "png")
        return fail(Fault::Usage, "--width is for JPEG and PNG; nothing was written.");
    if (!options.panel.empty() && (isPrint || isCut))
        return fail(Fault::Usage,
                    "Print files and cut paths are of the whole flat, not one panel; nothing was written.");
    Engine engine;
    file->giveFonts(engine);
    const auto write = isPrint               ? exportPrint
                       : isCut               ? exportCuts
                       : options.as == "ora" ? exportOpenRaster
                                             : exportPicture;
    const auto done = write(engine, file->release, **piece, options);
    if (!done || file->notes.empty()) return done;
    warn(file->notes);
    return Outcome::Findings;
}

} // namespace glyptos::cli
