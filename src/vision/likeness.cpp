#include "vision/likeness.h"

#include "vision/reduced.h"

#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <numbers>

namespace glyptos {
namespace {

constexpr int kSide = 48, kDirections = 8;
constexpr double kStranger = 0.25;      // palette distance of pictures with nothing in common
constexpr double kStrangerEdges = 0.75; // the same for edges
constexpr double kWhole = 0.3, kQuarters = 0.35, kSixteenths = 0.35;
constexpr double kNothingRuns = 0.004; // mean gradient below which a field is even

struct Field {
    std::array<double, kDirections> strength{};
    double sum = 0;
};

/// Strength spread over the two directions that it lies between.
void add(Field& field, double dx, double dy) {
    const double strength = std::hypot(dx, dy);
    double turn = std::atan2(dy, dx) / std::numbers::pi; // an edge has no sign: half a turn is all
    turn = (turn - std::floor(turn)) * kDirections;
    const int low = int(turn) % kDirections;
    const double share = turn - std::floor(turn);
    field.strength[size_t(low)] += strength * (1 - share);
    field.strength[size_t((low + 1) % kDirections)] += strength * share;
    field.sum += strength;
}

void write(const Field& field, double pixels, uint8_t* out) {
    if (field.sum < kNothingRuns * pixels) return;
    for (int i = 0; i < kDirections; ++i)
        out[i] = uint8_t(std::lround(255 * field.strength[size_t(i)] / field.sum));
}

EdgePattern edgesOf(const Reduced& small) {
    std::vector<double> luma;
    for (const Rgba& c : small.pixels) luma.push_back(double(toOklab(c).L));
    const auto at = [&](int x, int y) {
        return luma[size_t(std::clamp(y, 0, kSide - 1)) * kSide + size_t(std::clamp(x, 0, kSide - 1))];
    };
    std::array<Field, 21> fields{};
    for (int y = 0; y < kSide; ++y)
        for (int x = 0; x < kSide; ++x) {
            const double dx = at(x + 1, y) - at(x - 1, y), dy = at(x, y + 1) - at(x, y - 1);
            if (dx == 0 && dy == 0) continue;
            add(fields[0], dx, dy);
            add(fields[1 + size_t(y / (kSide / 2)) * 2 + size_t(x / (kSide / 2))], dx, dy);
            add(fields[5 + size_t(y / (kSide / 4)) * 4 + size_t(x / (kSide / 4))], dx, dy);
        }
    EdgePattern out{};
    for (size_t i = 0; i < fields.size(); ++i)
        write(fields[i], double(kSide * kSide) / (i == 0 ? 1 : i < 5 ? 4 : 16), out.data() + i * kDirections);
    return out;
}

/// Sum over fields of half the difference of their shares, 0…1 a field.
double apart(const EdgePattern& a, const EdgePattern& b, size_t first, size_t count) {
    int sum = 0;
    for (size_t i = first * kDirections; i < (first + count) * kDirections; ++i)
        sum += std::abs(int(a[i]) - int(b[i]));
    return sum / (2.0 * 255 * double(count));
}

} // namespace

Traits traitsOf(const Pyramid& picture, const std::vector<PaletteColour>& palette) {
    Traits out;
    for (const PaletteColour& c : palette) out.palette.push_back({toOklab(c.colour), float(c.share)});
    out.edges = edgesOf(reduced(picture, kSide, kSide));
    return out;
}

double colourDifference(const Traits& a, const Traits& b) {
    return distance(a.palette, b.palette) / kStranger;
}

double structureDifference(const Traits& a, const Traits& b) {
    return (kWhole * apart(a.edges, b.edges, 0, 1) + kQuarters * apart(a.edges, b.edges, 1, 4) +
            kSixteenths * apart(a.edges, b.edges, 5, 16)) /
           kStrangerEdges;
}

double difference(const Traits& a, const Traits& b, const LikenessWeights& weights) {
    const double sum = weights.colour + weights.structure;
    if (!(sum > 0)) return 0;
    double out = 0;
    if (weights.colour > 0) out += weights.colour * colourDifference(a, b);
    if (weights.structure > 0) out += weights.structure * structureDifference(a, b);
    return out / sum;
}

std::vector<Relative> relatives(const Traits& of, const std::vector<const Traits*>& all,
                                const LikenessWeights& weights, size_t most) {
    std::vector<Relative> out;
    out.reserve(all.size());
    for (size_t i = 0; i < all.size(); ++i) out.push_back({i, difference(of, *all[i], weights)});
    const size_t count = std::min(most, out.size());
    std::partial_sort(
        out.begin(), out.begin() + ptrdiff_t(count), out.end(), [](const Relative& x, const Relative& y) {
            return x.difference != y.difference ? x.difference < y.difference : x.index < y.index;
        });
    out.resize(count);
    return out;
}

} // namespace glyptos
