#include "vision/cutout/colour_density.h"

#include <algorithm>
#include <cmath>

namespace glyptos {
namespace {

constexpr int kSide = 32, kBoxes = kSide * kSide * kSide;

int boxOf(const Rgba& c) {
    const auto along = [](float v) { return std::clamp(int(v * kSide), 0, kSide - 1); };
    return (along(c.r) * kSide + along(c.g)) * kSide + along(c.b);
}

/// One line of boxes: each becomes the mean of the 2 · reach + 1 about it; beyond an end the last box goes
/// on.
void averageLine(float* line, ptrdiff_t step, int reach) {
    float in[kSide], sum = 0;
    for (int i = 0; i < kSide; ++i) in[i] = line[i * step];
    const auto at = [&](int i) { return in[std::clamp(i, 0, kSide - 1)]; };
    for (int i = -reach; i < reach; ++i) sum += at(i);
    const float share = 1 / float(2 * reach + 1);
    for (int i = 0; i < kSide; ++i) {
        sum += at(i + reach);
        line[i * step] = std::max(sum * share, 0.0f);
        sum -= at(i - reach);
    }
}

/// The same along all three axes, so many times. Near a Gaussian whose variance is ((2 · reach + 1)² - 1) /
/// 12 of a box's side a pass.
void soften(std::vector<float>& boxes, int reach, int passes) {
    constexpr size_t n = kSide;
    for (int pass = 0; pass < passes; ++pass)
        for (size_t i = 0; i < n * n; ++i) averageLine(&boxes[i * n], 1, reach);
    for (int pass = 0; pass < passes; ++pass)
        for (size_t i = 0; i < n * n; ++i) averageLine(&boxes[i / n * n * n + i % n], kSide, reach);
    for (int pass = 0; pass < passes; ++pass)
        for (size_t i = 0; i < n * n; ++i) averageLine(&boxes[i], ptrdiff_t(kSide) * kSide, reach);
}

} // namespace

ColourDensity::ColourDensity()
    : boxes_(kBoxes) {}

ColourDensity::ColourDensity(const std::vector<Rgba>& colours)
    : boxes_(kBoxes) {
    if (colours.empty()) return;
    for (const Rgba& c : colours) ++boxes_[size_t(boxOf(c))];
    constexpr float kWideShare = 0.1f;
    soften(boxes_, 1, 2); // a deviation of 0.036 of full light
    std::vector<float> wide = boxes_;
    soften(wide, 1, 2), soften(wide, 3, 3); // 0.12
    const float even = float(colours.size()) / kBoxes;
    for (size_t i = 0; i < boxes_.size(); ++i)
        boxes_[i] = (boxes_[i] * (1 - kWideShare) + wide[i] * kWideShare) / even;
}

float ColourDensity::at(const Rgba& colour) const {
    return boxes_[size_t(boxOf(colour))];
}

ColourDensity ColourDensity::without(const ColourDensity& other) const {
    // How much of the other is in it: as much as fits into most of the other's colours.
    std::vector<std::pair<float, float>> shares; // and the weight of that colour
    float all = 0;
    for (size_t i = 0; i < boxes_.size(); ++i)
        if (other.boxes_[i] > 0)
            shares.emplace_back(boxes_[i] / other.boxes_[i], other.boxes_[i]), all += other.boxes_[i];
    std::sort(shares.begin(), shares.end());
    constexpr float kMost = 0.75f, kSure = 1.2f;
    float share = 0, below = 0;
    for (const auto& [ratio, weight] : shares) {
        share = ratio;
        if ((below += weight) >= kMost * all) break;
    }
    share = std::min(1.0f, share * kSure);
    ColourDensity out;
    float left = 0, whole = 0;
    for (size_t i = 0; i < boxes_.size(); ++i) {
        out.boxes_[i] = std::max(0.0f, boxes_[i] - share * other.boxes_[i]);
        left += out.boxes_[i], whole += boxes_[i];
    }
    for (float& v : out.boxes_) v *= left > 0 ? whole / left : 0;
    return out;
}

float leaning(const ColourDensity& figure, const ColourDensity& ground, const Rgba& colour) {
    constexpr float kFloor = 0.03f;
    return std::log((figure.at(colour) + kFloor) / (ground.at(colour) + kFloor));
}

} // namespace glyptos
