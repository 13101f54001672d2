#include "commands.h"

#include "base/json_entry.h"
#include "base/text.h"
#include "file/atomic_file.h"
#include "file/data_folder.h"
#include "file/pictures/picture_reader.h"
#include "file/pictures/picture_writer.h"
#include "vision/cutout/cutout.h"
#include "vision/cutout/figure_colours.h"

#include <array>
#include <iostream>

namespace glyptos::cli {
namespace {

constexpr double kLargest = 1e6; // px: no picture is larger

HintStroke readStroke(const Entry& entry) {
    constexpr std::array<const char*, 2> kKinds{"ground", "figure"};
    HintStroke out;
    out.figure = entry.oneOf("kind", kKinds) == 1;
    out.radius = entry.between("radius", 0.5, kLargest);
    entry.each("points", [&](const Entry& point) {
        std::array<double, 2> at{};
        point.numbers(at);
        out.points.push_back({at[0], at[1]});
    });
    return out;
}

Result<std::vector<HintStroke>> readStrokes(const std::string& file) {
    const auto bytes = readFile(file);
    if (!bytes) return tl::unexpected(bytes.error());
    auto strokes =
        guarded({reinterpret_cast<const char*>(bytes->data()), bytes->size()}, "hints", [](const Entry& all) {
            std::vector<HintStroke> out;
            all.each([&](const Entry& stroke) { out.push_back(readStroke(stroke)); });
            return out;
        });
    if (!strokes)
        return fail(strokes.error().fault, "The hints “" + file + "” cannot be used: " +
                                               strokes.error().message + "; nothing was written.");
    return strokes;
}

Result<Pyramid> readPyramid(const std::string& file) {
    const auto bytes = readFile(file);
    if (!bytes) return tl::unexpected(bytes.error());
    auto picture = decodePicture(*bytes, nameOf(file), pressProfileBytes());
    if (!picture) return tl::unexpected(picture.error());
    return Pyramid(std::move(*picture));
}

Result<void> writeFigure(const std::string& file, const Pyramid& picture, const AlphaMap& alpha) {
    const Picture figure = figureWithColours(picture, alpha);
    const size_t bytes = size_t(figure.width) * size_t(figure.height) * 4;
    const auto png = encodePng({figure.row<uint8_t>(0), bytes}, figure.width, figure.height, {72});
    if (!png) return tl::unexpected(png.error());
    return writeFile(file, *png);
}

} // namespace

Result<Outcome> cutOut(const CutOutOptions& options) {
    CutoutHints hints{{options.box[0], options.box[1], options.box[2], options.box[3]}, {}};
    if (!options.hints.empty()) {
        auto strokes = readStrokes(options.hints);
        if (!strokes) return tl::unexpected(strokes.error());
        hints.strokes = std::move(*strokes);
    }
    const auto picture = readPyramid(options.picture);
    if (!picture) return tl::unexpected(picture.error());
    const auto alpha = figureAlpha(*picture, hints);
    if (!alpha && alpha.error().fault == Fault::NotFound) {
        std::cerr << "glyptos-cli: " << alpha.error().message << '\n';
        return Outcome::Findings;
    }
    if (!alpha) return tl::unexpected(alpha.error());
    if (!options.out.empty()) {
        const auto png = encodeGreyPng(alpha->values, alpha->width, alpha->height);
        if (!png) return tl::unexpected(png.error());
        if (auto written = writeFile(options.out, *png); !written) return tl::unexpected(written.error());
    }
    if (!options.figure.empty())
        if (auto written = writeFigure(options.figure, *picture, *alpha); !written)
            return tl::unexpected(written.error());
    return Outcome::Fine;
}

} // namespace glyptos::cli
