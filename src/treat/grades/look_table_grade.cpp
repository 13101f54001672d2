// A look table (look_table.h).

#include "treat/kind.h"
#include "treat/vector_math.h"

namespace glyptos {
namespace {

enum { Table };
constexpr Figure kFigures[]{table("file", "Table")};

/// A cube whose entries take four floats, so that one load gets all of an entry.
struct Cube {
    int size;
    float scale[3], offset[3]; // from a value to its place between entries
    std::vector<float> entries;
};

Cube cubeOf(const LookTable& t) {
    Cube out{t.size, {}, {}, {}};
    for (size_t c = 0; c < 3; ++c) {
        out.scale[c] = float(t.size - 1) / (t.most[c] - t.least[c]);
        out.offset[c] = -t.least[c] * out.scale[c];
    }
    out.entries.reserve(t.entries.size() * 4);
    for (const auto& e : t.entries) out.entries.insert(out.entries.end(), {e[0], e[1], e[2], 0});
    return out;
}

using Four = float __attribute__((vector_size(16)));

Four entryAt(const float* entries, int index) {
    Four out;
    std::memcpy(&out, entries + size_t(index) * 4, sizeof out);
    return out;
}

/// In each of the six tetrahedra of a cell the colour runs from its black corner along the axis of the
/// largest share, then that of the middle one, then that of the least: entries are weighted by the
/// differences of the shares.
void lookUpCube(const ColourRow& row, const Cube& cube) {
    const float* entries = cube.entries.data();
    const int side = cube.size, last = side - 2;
    const int step[3] = {1, side, side * side};
    for (size_t i = 0; i < row.n; ++i) {
        const float at[3] = {row.r[i] * cube.scale[0] + cube.offset[0],
                             row.g[i] * cube.scale[1] + cube.offset[1],
                             row.b[i] * cube.scale[2] + cube.offset[2]};
        int base = 0;
        float share[3];
        for (int c = 0; c < 3; ++c) {
            const float kept = rows::clamp(at[c], 0, float(side - 1));
            const int whole = int(kept), below = whole < last ? whole : last;
            share[c] = kept - float(below);
            base += below * step[c];
        }
        // The order of the three shares, without branches.
        const int rg = share[0] >= share[1], gb = share[1] >= share[2], rb = share[0] >= share[2];
        const int first = rg && rb ? 0 : (!rg && gb ? 1 : 2);
        const int third = !rg && !rb ? 0 : (rg && !gb ? 1 : 2);
        const int one = base + step[first], two = base + step[0] + step[1] + step[2] - step[third];
        const float most = share[first], least = share[third],
                    middle = share[0] + share[1] + share[2] - most - least;
        const Four out = entryAt(entries, base) * (1 - most) + entryAt(entries, one) * (most - middle) +
                         entryAt(entries, two) * (middle - least) +
                         entryAt(entries, base + step[0] + step[1] + step[2]) * least;
        row.r[i] = out[0], row.g[i] = out[1], row.b[i] = out[2];
    }
}

GLYPTOS_ROWS void lookUpLine(float* values, const float* table, size_t n, float scale, float offset,
                             int last) {
    for (size_t i = 0; i < n; ++i) {
        const float at = rows::clamp(values[i] * scale + offset, 0, float(last));
        const auto whole = int(at);
        const int below = whole < last - 1 ? whole : last - 1;
        values[i] = table[below] + (table[below + 1] - table[below]) * (at - float(below));
    }
}

ColourOp oneDimension(const LookTable& t) {
    const Cube scales = cubeOf(t);
    std::array<std::vector<float>, 3> lines;
    for (const auto& e : t.entries)
        for (size_t c = 0; c < 3; ++c) lines[c].push_back(e[c]);
    return [lines = std::move(lines), scales](const ColourRow& row) {
        float* values[3] = {row.r, row.g, row.b};
        for (size_t c = 0; c < 3; ++c)
            lookUpLine(values[c], lines[c].data(), row.n, scales.scale[c], scales.offset[c], scales.size - 1);
    };
}

ColourOp lookTableGrade(const Figures& f, const Place&) {
    const LookTablePtr& t = f.table(Table);
    if (!t || t->size < 2) return {};
    if (t->dimensions == 1) return oneDimension(*t);
    return [cube = cubeOf(*t)](const ColourRow& row) { lookUpCube(row, cube); };
}

} // namespace

extern const TreatmentKind kLookTable{"look-table", "Look table", TreatmentFamily::Grade, kFigures,
                                      false,        false,        lookTableGrade};

} // namespace glyptos
