#include "commands.h"
#include "picture_io.h"

#include "raster/warp/remap.h"

namespace glyptos::cli {
namespace {

constexpr double kFar = 1e6;        // px: no picture is larger
constexpr int kLargestSide = 65500; // px, of what is written
constexpr size_t kMostPoints = 100000;

Result<Mapping> tilt(const std::vector<double>& figures, const Picture& picture) {
    std::array<Vec2, 4> corners;
    for (size_t i = 0; i < 4; ++i) corners[i] = {figures[2 * i], figures[2 * i + 1]};
    const auto plane = Homography::toCorners(corners);
    if (!plane)
        return fail(Fault::Usage,
                    "--tilt: these four corners cross, or three of them lie on one line, so no plane is seen "
                    "like that; nothing was written. Give them clockwise from left top.");
    return Mapping(Mapping::Stage(*plane)) *
           Mapping(Affine::scaling(1.0 / picture.width, 1.0 / picture.height));
}

BendGrid readGrid(const Entry& all, const Picture& picture) {
    BendGrid out{all.whole("columns", 1, kMostBendCells), all.whole("rows", 1, kMostBendCells), {}};
    const auto points = readPoints(all.at("points"));
    if (points.size() != size_t(out.columns + 1) * size_t(out.rows + 1))
        all.wrong("has " + std::to_string(points.size()) + " points, and " +
                  std::to_string((out.columns + 1) * (out.rows + 1)) + " are needed, row by row");
    for (const Vec2& p : points) {
        if (std::abs(p.x) > kFar || std::abs(p.y) > kFar) all.wrong("has a point that lies too far away");
        out.nodes.push_back({{p.x / picture.width, p.y / picture.height}, {}, {}});
    }
    return out;
}

Result<Mapping> bend(const std::string& file, const Picture& picture) {
    const auto grid = readJsonFile(file, "grid", [&](const Entry& all) { return readGrid(all, picture); });
    if (!grid) return tl::unexpected(grid.error());
    return Mapping(BendStage{std::make_shared<const BendSurface>(*grid),
                             {0, 0, double(picture.width), double(picture.height)}});
}

/// One stroke done to a field; lengths are told in px of the picture.
void knead(KneadField& field, const Entry& entry, const Picture& picture) {
    constexpr std::array<const char*, kKneadWayNames.size()> kWays{"push",   "spin",   "spin-back", "gather",
                                                                   "spread", "smooth", "restore"};
    const double unit = 1.0 / picture.width;
    KneadTip tip;
    tip.way = entry.oneOf<KneadWay>("way", kWays);
    tip.radius = entry.between("radius", 0.5, kFar) * unit;
    tip.strength = entry.between("strength", 0, 1);
    tip.height = picture.height * unit;
    tip.holdEdges =
        entry.has("edges") && entry.oneOf("edges", std::array<const char*, 2>{"free", "held"}) == 1;
    const auto points = readPoints(entry.at("points"));
    if (points.size() > kMostPoints)
        entry.wrong("has more than " + std::to_string(kMostPoints) + " points", Fault::TooLarge);
    double length = 0;
    for (size_t i = 1; i < points.size(); ++i) length += (points[i] - points[i - 1]).length() * unit;
    if (length / tip.radius > double(kMostPoints))
        entry.wrong("is too long for so small a radius", Fault::TooLarge);
    KneadStroke stroke(field, tip);
    for (const Vec2& p : points) stroke.moveTo(p * unit);
    stroke.finish();
    field = stroke.field();
}

Result<Mapping> kneaded(const std::string& file, const Picture& picture) {
    auto field = readJsonFile(file, "strokes", [&](const Entry& all) {
        KneadField out;
        if (all.has("pulled"))
            out.pulledIn =
                all.oneOf<PulledIn>("pulled", std::array<const char*, 3>{"edge", "mirror", "nothing"});
        all.each("strokes", [&](const Entry& stroke) { knead(out, stroke, picture); });
        return out;
    });
    if (!field) return tl::unexpected(field.error());
    if (field->empty()) return Mapping{};
    return Mapping(KneadStage{std::make_shared<const KneadField>(std::move(*field)),
                              {0, 0, double(picture.width), double(picture.height)}});
}

} // namespace

Result<Outcome> warp(const WarpOptions& options) {
    auto read = readPicture(options.picture);
    if (!read) return tl::unexpected(read.error());
    const auto mapping = !options.tilt.empty()   ? tilt(options.tilt, *read)
                         : !options.grid.empty() ? bend(options.grid, *read)
                                                 : kneaded(options.knead, *read);
    if (!mapping) return tl::unexpected(mapping.error());
    const int width = options.width > 0 ? options.width : read->width,
              height = options.height > 0 ? options.height : read->height;
    if (width > kLargestSide || height > kLargestSide)
        return fail(Fault::TooLarge, "--size: a side may be " + std::to_string(kLargestSide) +
                                         " pixels long at most; nothing was written.");
    if (mapping->affine() && width == read->width && height == read->height) {
        if (auto written = writePng(options.out, *read); !written) return tl::unexpected(written.error());
        return Outcome::Fine;
    }
    const Pyramid picture(std::move(*read));
    if (auto written = writePng(options.out, remapped(picture, *mapping, width, height)); !written)
        return tl::unexpected(written.error());
    return Outcome::Fine;
}

} // namespace glyptos::cli
