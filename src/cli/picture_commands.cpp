#include "cli/saying.h"
#include "commands.h"
#include "picture_io.h"

#include "file/disk/atomic_file.h"
#include "file/pictures/picture_writer.h"
#include "vision/cutout/cutout.h"
#include "vision/cutout/figure_colours.h"
#include "vision/mend/mend.h"
#include "vision/select/picture_values.h"

#include <array>

namespace glyptos::cli {
namespace {

constexpr double kLargest = 1e6; // px: no picture is larger

HintStroke readStroke(const Entry& entry) {
    constexpr std::array<const char*, 2> kKinds{"ground", "figure"};
    HintStroke out;
    out.figure = entry.oneOf("kind", kKinds) == 1;
    out.radius = entry.between("radius", 0.5, kLargest);
    out.points = readPoints(entry.at("points"));
    return out;
}

Result<std::vector<HintStroke>> readStrokes(const std::string& file) {
    return readJsonFile(file, "hints", [](const Entry& all) {
        std::vector<HintStroke> out;
        all.each([&](const Entry& stroke) { out.push_back(readStroke(stroke)); });
        return out;
    });
}

/// Work that found nothing to do is told, and is no failure.
Outcome toldWhy(const Error& error) {
    warn(error.message);
    return Outcome::Findings;
}

Result<void> writeFigure(const std::string& file, const Pyramid& picture, const AlphaMap& alpha) {
    return writePng(file, figureWithColours(picture, alpha));
}

} // namespace

Result<Outcome> cutOut(const CutOutOptions& options) {
    CutoutHints hints{{options.box[0], options.box[1], options.box[2], options.box[3]}, {}};
    if (!options.hints.empty()) {
        auto strokes = readStrokes(options.hints);
        if (!strokes) return tl::unexpected(strokes.error());
        hints.strokes = std::move(*strokes);
    }
    auto read = readPicture(options.picture);
    if (!read) return tl::unexpected(read.error());
    const Pyramid picture(std::move(*read));
    const auto alpha = figureAlpha(picture, hints);
    if (!alpha && alpha.error().fault == Fault::NotFound) return toldWhy(alpha.error());
    if (!alpha) return tl::unexpected(alpha.error());
    if (!options.out.empty()) {
        const auto png = encodeGreyPng(alpha->values, alpha->width, alpha->height);
        if (!png) return tl::unexpected(png.error());
        if (auto written = writeFile(options.out, *png); !written) return tl::unexpected(written.error());
    }
    if (!options.figure.empty())
        if (auto written = writeFigure(options.figure, picture, *alpha); !written)
            return tl::unexpected(written.error());
    return Outcome::Fine;
}

Result<Outcome> mend(const MendCommand& options) {
    const auto picture = readPicture(options.picture);
    if (!picture) return tl::unexpected(picture.error());
    const auto mask = readPicture(options.mask);
    if (!mask) return tl::unexpected(mask.error());
    const auto out = mended(*picture, lightOf(*mask));
    if (!out && out.error().fault == Fault::NotFound) return toldWhy(out.error());
    if (!out) return tl::unexpected(out.error());
    if (auto written = writePng(options.out, *out); !written) return tl::unexpected(written.error());
    return Outcome::Fine;
}

} // namespace glyptos::cli
