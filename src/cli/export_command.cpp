#include "cli/commands.h"
#include "cli/opened.h"
#include "cli/saying.h"

#include "base/text.h"
#include "file/cut/cut_paths.h"
#include "file/disk/atomic_file.h"
#include "file/open_raster.h"
#include "file/pictures/picture_reader.h"
#include "file/print/home_print.h"
#include "file/print/print_job.h"

#include <cstdio>
#include <cstdlib>
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
            {"outlinedTexts", page.outlinedTexts},
            {"inks", page.inks}};
}

PrintOptions printOptions(const ExportOptions& options) {
    PrintOptions print;
    const auto intent =
        std::find(std::begin(kRenderingIntentIds), std::end(kRenderingIntentIds), options.intent);
    print.look.intent = RenderingIntent(intent - std::begin(kRenderingIntentIds));
    print.look.blackPoint = !options.noBlackPoint;
    print.inPairs = options.pairs;
    print.sharpen = options.sharpen;
    print.richBlackFrom = options.richBlack;
    print.slug = options.slug;
    // The time that files say they were made, for those who must be able to make them again.
    if (const char* moment = std::getenv("SOURCE_DATE_EPOCH"))
        print.moment = std::strtoll(moment, nullptr, 10);
    for (const std::string& plate : options.spot)
        (plate == "cut" ? print.extra.dieline : print.extra.white) = true;
    return print;
}

Result<Outcome> exportPrint(Engine& engine, const ReleasePtr& release, const Piece& piece,
                            const ExportOptions& options) {
    PrintOptions print = printOptions(options);
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
    const auto as = options.as == "tiff" ? PrintJob::As::Tiff : PrintJob::As::Pdf;
    const auto done = writePrintJob(engine.renderer, release, piece.id,
                                    {as, print, options.filePerPage, options.report}, options.out);
    if (!done) return tl::unexpected(done.error());
    const PrintReport* report = &done->report;
    if (options.json) {
        Json files = Json::list();
        for (const auto& file : done->files) files.push_back(file.string());
        Json pages = Json::list();
        for (const PrintedPage& page : report->pages) pages.push_back(pageJson(page));
        cli::print(Json{{"bleedMm", report->bleedMm},
                        {"ppi", report->ppi},
                        {"mostInkPercent", report->mostInk() * 100},
                        {"outlinedTexts", report->outlinedTexts()},
                        {"bytes", report->bytes},
                        {"pages", pages},
                        {"files", files},
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

Result<Outcome> exportCuts(Engine&, const ReleasePtr& release, const Piece& piece,
                           const ExportOptions& options) {
    auto pages = sheetsFrom(options.pages);
    if (!pages) return tl::unexpected(pages.error());
    PrintOptions asked;
    asked.sheets = std::move(*pages);
    const auto order = printOrder(release, piece.id, asked);
    if (!order) return tl::unexpected(order.error());
    const CutJob job = cutJobOf(*piece.flat, order->sheets);
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

Result<Outcome> exportHome(Engine& engine, const ReleasePtr& release, const Piece& piece,
                           const ExportOptions& options) {
    auto sheets = sheetsFrom(options.pages);
    if (!sheets) return tl::unexpected(sheets.error());
    HomeOptions home;
    home.paper = options.paper == "letter" ? kLetter : kA4;
    home.paper.overlap = options.overlap;
    home.paper.copies = options.copies;
    home.paper.duplex = options.duplex == "long"    ? Duplex::LongEdge
                        : options.duplex == "short" ? Duplex::ShortEdge
                                                    : Duplex::None;
    home.sheets = std::move(*sheets);
    const auto report = writeHomePrint(engine.renderer, release, piece.id, home, options.out);
    if (!report) return tl::unexpected(report.error());
    if (options.json)
        print(Json{{"pages", report->pages},
                   {"tiles", report->tiles},
                   {"bytes", report->bytes},
                   {"missing", missingJson(engine)}});
    else
        std::cout << report->pages << (report->pages == 1 ? " page" : " pages") << ", " << report->bytes
                  << " bytes\n";
    return drawn(engine, {});
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
    const bool isCut = options.as == "svg-cut" || options.as == "dxf-cut", isHome = options.as == "home";
    if (!isPrint && !options.profile.empty())
        return fail(Fault::Usage, "--profile is for print files; nothing was written.");
    if (!isPrint && !isCut && !isHome && !options.pages.empty())
        return fail(Fault::Usage, "--pages is for print files and cut paths; nothing was written.");
    if (!isHome && (options.paper != "a4" || options.duplex != "none" || options.copies != 1))
        return fail(Fault::Usage,
                    "--paper, --duplex and --copies are for the printer at home; nothing was written.");
    const bool isForPrint = options.pairs || options.filePerPage || options.report || options.sharpen > 0 ||
                            options.noBlackPoint || options.intent != "relative";
    if (!isPrint && isForPrint)
        return fail(Fault::Usage, "Intents, pairs, pages apart, reports and sharpening are for print files; "
                                  "nothing was written.");
    if (options.as != "pdf" && (options.slug || !options.spot.empty() || options.richBlack > 0))
        return fail(Fault::Usage,
                    "Slugs, further plates and rich black words are for PDF; nothing was written.");
    if (options.width > 0 && options.as != "jpeg" && options.as != "png")
        return fail(Fault::Usage, "--width is for JPEG and PNG; nothing was written.");
    if (!options.panel.empty() && (isPrint || isCut || isHome))
        return fail(Fault::Usage,
                    "Print files and cut paths are of the whole flat, not one panel; nothing was written.");
    Engine engine;
    file->giveFonts(engine);
    const auto write = isPrint               ? exportPrint
                       : isCut               ? exportCuts
                       : isHome              ? exportHome
                       : options.as == "ora" ? exportOpenRaster
                                             : exportPicture;
    const auto done = write(engine, file->release, **piece, options);
    if (!done || file->notes.empty()) return done;
    warn(file->notes);
    return Outcome::Findings;
}

} // namespace glyptos::cli
