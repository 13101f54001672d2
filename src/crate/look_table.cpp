#include "crate/look_table.h"

#include "base/text.h"
#include "color/oklab.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <sstream>
#include <vector>

namespace glyptos {
namespace {

constexpr int kSide = 256, kMostSide = 256, kMostLine = 65536;

struct Table {
    bool solid = false; ///< 3D
    int size = 0;
    std::vector<std::array<float, 3>> values;
    std::array<float, 3> low{0, 0, 0}, high{1, 1, 1};
};

bool readThree(std::istringstream& in, std::array<float, 3>& out) {
    return bool(in >> out[0] >> out[1] >> out[2]) && std::isfinite(out[0] + out[1] + out[2]);
}

std::optional<Table> parse(std::string_view text) {
    Table table;
    for (const std::string& line : split(text, '\n')) {
        std::istringstream in(line);
        std::string word;
        if (!(in >> word) || word[0] == '#' || word == "TITLE") continue;
        if (word == "LUT_3D_SIZE" || word == "LUT_1D_SIZE") {
            table.solid = word == "LUT_3D_SIZE";
            if (!(in >> table.size) || table.size < 2 || table.size > (table.solid ? kMostSide : kMostLine))
                return std::nullopt;
        } else if (word == "DOMAIN_MIN" || word == "DOMAIN_MAX") {
            if (!readThree(in, word == "DOMAIN_MIN" ? table.low : table.high)) return std::nullopt;
        } else if (std::isalpha(static_cast<unsigned char>(word[0])) == 0) {
            std::istringstream again(line);
            if (!readThree(again, table.values.emplace_back())) return std::nullopt;
        }
    }
    const size_t n = size_t(table.size);
    const bool whole = table.size > 0 && table.values.size() == (table.solid ? n * n * n : n);
    return whole ? std::optional(std::move(table)) : std::nullopt;
}

/// Nearest entries: a preview needs no more.
std::array<float, 3> through(const Table& table, const Rgba& c) {
    const float in[] = {c.r, c.g, c.b};
    std::array<size_t, 3> at{};
    for (size_t i = 0; i < 3; ++i) {
        const float share = (in[i] - table.low[i]) / std::max(table.high[i] - table.low[i], 1e-6f);
        at[i] = size_t(std::lround(std::clamp(share, 0.0f, 1.0f) * float(table.size - 1)));
    }
    if (!table.solid) return {table.values[at[0]][0], table.values[at[1]][1], table.values[at[2]][2]};
    const size_t n = size_t(table.size);
    return table.values[at[0] + n * (at[1] + n * at[2])];
}

std::string_view asText(std::span<const uint8_t> bytes) {
    return {reinterpret_cast<const char*>(bytes.data()), bytes.size()};
}

} // namespace

bool isLookTable(std::span<const uint8_t> bytes) {
    const std::string_view head = asText(bytes).substr(0, 4096);
    return head.find('\0') == head.npos &&
           (head.find("LUT_3D_SIZE") != head.npos || head.find("LUT_1D_SIZE") != head.npos);
}

Result<Picture> previewLookTable(std::span<const uint8_t> bytes, const std::string& name) {
    const auto table = parse(asText(bytes));
    if (!table)
        return fail(Fault::Damaged,
                    "The look table “" + name + "” is cut short or contradicts itself; it was not added.");
    Picture out = Picture::create<uint8_t>(kSide, kSide);
    out.opaque = true;
    for (int y = 0; y < kSide; ++y)
        for (int x = 0; x < kSide; ++x) {
            constexpr int kHalf = kSide / 2;
            const double across = x % kHalf;
            const Rgba plain = shownAs({0.15 + 0.8 * y / kSide, 0.12, 360.0 * across / kHalf});
            const auto c = x < kHalf ? std::array{plain.r, plain.g, plain.b} : through(*table, plain);
            uint8_t* p = out.row<uint8_t>(y) + ptrdiff_t(4) * x;
            for (size_t i = 0; i < 3; ++i) p[i] = uint8_t(std::lround(std::clamp(c[i], 0.0f, 1.0f) * 255));
            p[3] = 255;
        }
    return out;
}

} // namespace glyptos
