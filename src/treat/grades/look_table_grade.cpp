// A look table (look_table.h). The colours of skin, hues of 30…80° of Oklch at middle chroma, may be kept as
// far as is asked for.

#include "treat/grades/hue_weight.h"
#include "treat/kind.h"

namespace glyptos {
namespace {

enum { Table, Skin };
constexpr Figure kFigures[]{table("file", "Table"), share("skin", "Keeps skin", 0)};

/// Red, green and blue of an entry side by side, so that one load fetches all; the fourth is not used.
using Entry = float __attribute__((vector_size(16)));

struct Cube {
    int size;
    float scale[3], offset[3]; // from a value to its place between entries
    std::vector<Entry> entries;
};

Cube cubeOf(const LookTable& t) {
    Cube out{t.size, {}, {}, {}};
    for (size_t c = 0; c < 3; ++c) {
        out.scale[c] = float(t.size - 1) / (t.most[c] - t.least[c]);
        out.offset[c] = -t.least[c] * out.scale[c];
    }
    out.entries.reserve(t.entries.size());
    for (const auto& entry : t.entries) out.entries.push_back(Entry{entry[0], entry[1], entry[2], 0});
    return out;
}

/// Of each pixel, the four corners of its tetrahedron and their weights.
struct Corners {
    static constexpr size_t kRoom = 256;
    int32_t at[4][kRoom];
    float weight[4][kRoom];
};

/// In each of the six tetrahedra of a cell the colour runs from its black corner along the axis of the
/// largest share, then that of the middle one, then that of the least: entries are weighted by the
/// differences of the shares.
GLYPTOS_ROWS void findCorners(const float* __restrict r, const float* __restrict g, const float* __restrict b,
                              size_t n, const Cube& cube, Corners& __restrict out) {
    const int side = cube.size, plane = side * side, last = side - 2;
    const auto most = float(side - 1);
    const float kr = cube.scale[0], kg = cube.scale[1], kb = cube.scale[2];
    const float or_ = cube.offset[0], og = cube.offset[1], ob = cube.offset[2];
    for (size_t i = 0; i < n; ++i) {
        const float x = rows::upTo(most, r[i] * kr + or_), y = rows::upTo(most, g[i] * kg + og),
                    z = rows::upTo(most, b[i] * kb + ob);
        const int wx = int(x), wy = int(y), wz = int(z);
        const int ix = wx < last ? wx : last, iy = wy < last ? wy : last, iz = wz < last ? wz : last;
        const float fx = x - float(ix), fy = y - float(iy), fz = z - float(iz);
        const int base = ix + iy * side + iz * plane;
        const float xy = fx > fy ? fx : fy, XY = fx > fy ? fy : fx;
        const float largest = xy > fz ? xy : fz, least = XY < fz ? XY : fz,
                    middle = fx + fy + fz - largest - least;
        const int first = fx >= fy ? (fx >= fz ? 1 : plane) : (fy >= fz ? side : plane);
        const int third = fx < fy ? (fx < fz ? 1 : plane) : (fy < fz ? side : plane);
        const int all = 1 + side + plane;
        out.at[0][i] = base, out.at[1][i] = base + first, out.at[2][i] = base + all - third,
        out.at[3][i] = base + all;
        out.weight[0][i] = 1 - largest, out.weight[1][i] = largest - middle,
        out.weight[2][i] = middle - least;
        out.weight[3][i] = least;
    }
}

GLYPTOS_ROWS void addCorners(const Entry* __restrict entries, const Corners& __restrict c,
                             Entry* __restrict out, size_t n) {
    for (size_t i = 0; i < n; ++i)
        out[i] = entries[c.at[0][i]] * c.weight[0][i] + entries[c.at[1][i]] * c.weight[1][i] +
                 entries[c.at[2][i]] * c.weight[2][i] + entries[c.at[3][i]] * c.weight[3][i];
}

GLYPTOS_ROWS void toChannels(const Entry* __restrict colours, float* __restrict r, float* __restrict g,
                             float* __restrict b, size_t n) {
    const float* values = reinterpret_cast<const float*>(colours);
    for (size_t i = 0; i < n; ++i) r[i] = values[4 * i], g[i] = values[4 * i + 1], b[i] = values[4 * i + 2];
}

void lookUpCube(const ColourRow& row, const Cube& cube) {
    Corners corners;
    Entry colours[Corners::kRoom];
    for (size_t x = 0; x < row.n; x += Corners::kRoom) {
        const size_t n = std::min(Corners::kRoom, row.n - x);
        findCorners(row.r + x, row.g + x, row.b + x, n, cube, corners);
        addCorners(cube.entries.data(), corners, colours, n);
        toChannels(colours, row.r + x, row.g + x, row.b + x, n);
    }
}

GLYPTOS_ROWS void lookUpLine(float* __restrict values, const float* __restrict table, size_t n, float scale,
                             float offset, int last) {
    for (size_t i = 0; i < n; ++i) {
        const float at = rows::upTo(float(last), values[i] * scale + offset);
        const auto whole = int(at);
        const int below = whole < last - 1 ? whole : last - 1;
        values[i] = table[below] + (table[below + 1] - table[below]) * (at - float(below));
    }
}

ColourOp oneDimension(const LookTable& t) {
    std::array<std::vector<float>, 3> lines;
    std::array<float, 3> scale{}, offset{};
    for (size_t c = 0; c < 3; ++c) {
        scale[c] = float(t.size - 1) / (t.most[c] - t.least[c]);
        offset[c] = -t.least[c] * scale[c];
        for (const auto& e : t.entries) lines[c].push_back(e[c]);
    }
    return [lines = std::move(lines), scale, offset, last = t.size - 1](const ColourRow& row) {
        float* values[3] = {row.r, row.g, row.b};
        for (size_t c = 0; c < 3; ++c)
            lookUpLine(values[c], lines[c].data(), row.n, scale[c], offset[c], last);
    };
}

ColourOp looking(const LookTable& t) {
    if (t.dimensions == 1) return oneDimension(t);
    return [cube = cubeOf(t)](const ColourRow& row) { lookUpCube(row, cube); };
}

/// As much of the colours before as they are those of skin.
GLYPTOS_ROWS void keepSkin(const float* __restrict r0, const float* __restrict g0, const float* __restrict b0,
                           float share, float* __restrict r, float* __restrict g, float* __restrict b,
                           size_t n) {
    for (size_t i = 0; i < n; ++i) {
        const rows::Lab lab = rows::labOf(r0[i], g0[i], b0[i]);
        const float chroma = __builtin_sqrtf(lab.a * lab.a + lab.b * lab.b);
        const float skin =
            rows::hueWeight(rows::turnOf(lab.b, lab.a), chroma, 55 / 360.0f, 15 / 360.0f, 25 / 360.0f) *
            (1 - rows::smooth(0.12f, 0.22f, chroma)) * share;
        r[i] += (r0[i] - r[i]) * skin, g[i] += (g0[i] - g[i]) * skin, b[i] += (b0[i] - b[i]) * skin;
    }
}

ColourOp lookTableGrade(const Figures& f, const Place&) {
    const LookTablePtr& t = f.table(Table);
    if (!t || t->size < 2) return {};
    ColourOp look = looking(*t);
    const auto skin = float(f.number(Skin));
    if (skin == 0) return look;
    return [look, skin](const ColourRow& row) {
        constexpr size_t kMost = 1024;
        float r[kMost], g[kMost], b[kMost];
        std::copy_n(row.r, row.n, r), std::copy_n(row.g, row.n, g), std::copy_n(row.b, row.n, b);
        look.act(row);
        keepSkin(r, g, b, skin, row.r, row.g, row.b, row.n);
    };
}

} // namespace

extern const TreatmentKind kLookTable{"look-table", "Look table", TreatmentFamily::Grade, kFigures,
                                      false,        false,        lookTableGrade};

} // namespace glyptos
