#include "cli/commands.h"
#include "cli/opened.h"
#include "cli/saying.h"

#include "base/text.h"
#include "file/cut/cut_job.h"
#include "file/disk/atomic_file.h"
#include "file/pictures/picture_reader.h"
#include "file/pictures/picture_writer.h"

#include <iostream>

namespace glyptos::cli {
namespace {

constexpr int kPictureSide = 1600; // px

Result<void> drawJob(const CutJob& job, const std::vector<CutFault>& faults, const std::string& out) {
    if (out.empty()) return {};
    const CutPicture picture = drawCutJob(job, faults, kPictureSide);
    std::vector<uint8_t> straight;
    straight.reserve(picture.rgb.size() / 3 * 4);
    for (size_t i = 0; i < picture.rgb.size(); i += 3) {
        straight.insert(straight.end(), picture.rgb.begin() + ptrdiff_t(i),
                        picture.rgb.begin() + ptrdiff_t(i) + 3);
        straight.push_back(255);
    }
    const auto png = encodePng(straight, picture.width, picture.height, {});
    return png ? writeFile(out, *png) : tl::unexpected(png.error());
}

Json faultJson(const CutFault& fault) {
    return {{"kind", kCutFaultIds[size_t(fault.kind)]},
            {"x", fault.at.x},
            {"y", fault.at.y},
            {"said", fault.sentence()}};
}

} // namespace

Result<Outcome> runCutter(const CutterOptions& options) {
    const auto bytes = readFile(options.file);
    if (!bytes) return tl::unexpected(bytes.error());
    const auto job = readCutJob(*bytes, nameOf(options.file));
    if (!job) return tl::unexpected(job.error());
    const std::vector<CutFault> faults = faultsOf(*job);
    if (const auto drawn = drawJob(*job, faults, options.out); !drawn) return tl::unexpected(drawn.error());
    if (options.json) {
        Json all = Json::list();
        for (const CutFault& fault : faults) all.push_back(faultJson(fault));
        print(Json{{"widthMm", job->width},
                   {"heightMm", job->height},
                   {"cutMm", job->length(CutTool::Cut)},
                   {"creaseMm", job->length(CutTool::Crease)},
                   {"faults", all}});
    } else {
        std::cout << "sheet " << sized(job->width, job->height, Unit::Mm) << ", cuts "
                  << shortNumber(job->length(CutTool::Cut), 0) << " mm, creases "
                  << shortNumber(job->length(CutTool::Crease), 0) << " mm\n";
        for (const CutFault& fault : faults) std::cout << fault.sentence() << '\n';
    }
    return faults.empty() ? Outcome::Fine : Outcome::Findings;
}

} // namespace glyptos::cli
