#include "raster/level_lines.h"

#include <array>
#include <cstdint>
#include <unordered_map>

namespace glyptos {
namespace {

/// The field with one row of samples beyond its edge.
struct Field {
    const float* values;
    size_t stride;
    int w, h;
    float level;
    bool isInside(int i, int j) const { return i >= 0 && j >= 0 && i < w && j < h; }
    /// Above the level, by how much; beyond the edge as far below as the nearest sample is above, so that the
    /// line runs half way between, which is the edge.
    float at(int i, int j) const {
        const int x = std::clamp(i, 0, w - 1), y = std::clamp(j, 0, h - 1);
        const float v = values[size_t(y) * stride + size_t(x)] - level;
        return isInside(i, j) ? v : -std::abs(v) - 1e-12f;
    }
};

/// Sides of cells by the sample that they begin at: along a row, or down a column.
using Side = uint64_t;
Side sideOf(int i, int j, bool down) {
    return (uint64_t(uint32_t(j + 1)) << 33) | (uint64_t(uint32_t(i + 1)) << 1) | (down ? 1 : 0);
}

Vec2 crossing(const Field& f, Side side) {
    const int i = int((side >> 1) & 0xffffffffu) - 1, j = int(side >> 33) - 1;
    const bool down = (side & 1) != 0;
    const float a = f.at(i, j), b = down ? f.at(i, j + 1) : f.at(i + 1, j);
    const double t = a == b ? 0.5 : std::clamp(double(a) / (double(a) - double(b)), 0.0, 1.0);
    return {i + 0.5 + (down ? 0 : t), j + 0.5 + (down ? t : 0)};
}

/// From side to side of each cell, with what is above on the left of the way as seen (y downwards).
std::unordered_map<Side, Side> waysOf(const Field& f) {
    std::unordered_map<Side, Side> out;
    for (int j = -1; j < f.h; ++j)
        for (int i = -1; i < f.w; ++i) {
            const std::array<float, 4> v{f.at(i, j), f.at(i + 1, j), f.at(i + 1, j + 1), f.at(i, j + 1)};
            int above = 0;
            for (size_t k = 0; k < 4; ++k) above |= v[k] > 0 ? 1 << k : 0;
            if (above == 0 || above == 15) continue;
            const std::array<Side, 4> sides{sideOf(i, j, false), sideOf(i + 1, j, true),
                                            sideOf(i, j + 1, false),
                                            sideOf(i, j, true)}; // head, right, foot, left
            const bool joined = v[0] + v[1] + v[2] + v[3] > 0;
            // Clockwise, a side is left by the line where the corner before it is above and the one after is
            // not.
            for (size_t k = 0; k < 4; ++k) {
                const bool leaves = (above >> k & 1) != 0 && (above >> ((k + 1) % 4) & 1) == 0;
                if (!leaves) continue;
                // The line comes in at the side where, going back, what is above begins.
                size_t from = k;
                do from = (from + 3) % 4;
                while ((above >> from & 1) != 0 && from != k);
                size_t begin = from; // the side between the corner `from`, below, and the next, above
                const bool saddle = above == 5 || above == 10;
                if (saddle && joined) begin = (k + 1) % 4;
                out[sides[begin]] = sides[k];
            }
        }
    return out;
}

} // namespace

std::vector<std::vector<Vec2>> levelLines(const float* values, size_t stride, int w, int h, float level) {
    const Field field{values, stride, w, h, level};
    std::unordered_map<Side, Side> ways = waysOf(field);
    std::vector<std::vector<Vec2>> out;
    // In the order of the field, so that the same field gives the same lines.
    for (int j = -1; j < h; ++j)
        for (int i = -1; i < w; ++i)
            for (const bool down : {false, true}) {
                const Side first = sideOf(i, j, down);
                if (ways.find(first) == ways.end()) continue;
                std::vector<Vec2> line;
                Side at = first;
                for (auto next = ways.find(at); next != ways.end(); next = ways.find(at)) {
                    line.push_back(crossing(field, at));
                    at = next->second;
                    ways.erase(next);
                }
                out.push_back(std::move(line));
            }
    return out;
}

} // namespace glyptos
