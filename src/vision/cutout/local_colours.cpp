#include "vision/cutout/local_colours.h"

#include <algorithm>
#include <cmath>
#include <tbb/parallel_for.h>
#include <tuple>

namespace glyptos {
namespace {

/// Colours of what is labelled in an area; nothing when there is too little of either.
std::optional<Colours> coloursIn(const Reduced& picture, const AlphaMap& labels, const IntRect& area,
                                 size_t fewest) {
    std::vector<Rgba> figures, grounds;
    for (int y = area.y; y < area.bottom(); ++y)
        for (int x = area.x; x < area.right(); ++x) {
            if (labels.at(x, y) == 255) figures.push_back(picture.at(x, y));
            if (labels.at(x, y) == 0) grounds.push_back(picture.at(x, y));
        }
    if (figures.size() < fewest || grounds.size() < fewest) return std::nullopt;
    const ColourDensity ground(grounds);
    return Colours{ColourDensity(figures).without(ground), ground};
}

} // namespace

std::optional<LocalColours> LocalColours::learn(const Reduced& picture, const AlphaMap& labels, Place place) {
    auto whole = coloursIn(picture, labels, {0, 0, picture.width, picture.height}, 1);
    if (!whole) return std::nullopt;
    LocalColours out(picture, std::move(*whole));
    if (place == Place::Whole) return out;
    constexpr double kSquares = 3; // along the longer side
    constexpr size_t kFewest = 60; // px of each
    const double side = out.side_ = std::max(picture.width, picture.height) / kSquares;
    out.columns_ = int(std::ceil(picture.width / side)) + 1;
    out.rows_ = int(std::ceil(picture.height / side)) + 1;
    out.cells_.resize(size_t(out.columns_) * size_t(out.rows_));
    tbb::parallel_for(size_t(0), out.cells_.size(), [&](size_t i) {
        const size_t row = i / size_t(out.columns_), column = i % size_t(out.columns_);
        const double x = double(column) * side, y = double(row) * side;
        const IntRect area = pixelsAround({x - side, y - side, 2 * side, 2 * side})
                                 .intersected({0, 0, picture.width, picture.height});
        if (!area.empty()) out.cells_[i] = coloursIn(picture, labels, area, kFewest);
    });
    return out;
}

float LocalColours::at(int x, int y) const {
    const Rgba& c = picture_->at(x, y);
    const float all = whole_.speaks(c);
    if (side_ <= 0) return all;
    const double u = x / side_, v = y / side_;
    const int left = int(u), top = int(v);
    const float fx = float(u - left), fy = float(v - top);
    float sum = 0;
    for (const auto& [dx, dy, w] : {std::tuple{0, 0, (1 - fx) * (1 - fy)},
                                    {1, 0, fx * (1 - fy)},
                                    {0, 1, (1 - fx) * fy},
                                    {1, 1, fx * fy}}) {
        const int column = std::min(left + dx, columns_ - 1), row = std::min(top + dy, rows_ - 1);
        const auto& cell = cells_[size_t(row) * size_t(columns_) + size_t(column)];
        sum += w * (cell ? cell->speaks(c) : all);
    }
    return (sum + all) / 2;
}

std::vector<float> LocalColours::speaks() const {
    std::vector<float> out(picture_->pixels.size());
    tbb::parallel_for(0, picture_->height, [&](int y) {
        for (int x = 0; x < picture_->width; ++x)
            out[size_t(y) * size_t(picture_->width) + size_t(x)] = at(x, y);
    });
    return out;
}

} // namespace glyptos
