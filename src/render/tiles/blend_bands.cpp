#include "render/tiles/blend_bands.h"

#include "raster/light.h"
#include "render/tiles/grade_rows.h"

#include <algorithm>
#include <cstring>

namespace glyptos {
namespace {

/// Planes of a band start this many floats apart: a little more than 4 KiB, since a processor takes a load
/// for dependent on a store just before it when their addresses differ by a multiple of 4 KiB.
constexpr size_t kPlane = kWideTile + 96, kSourcePlane = kWideTile + 112;

void fetch(const SolidRows& s, int, const IntRect& region, const RowPlanes& out) {
    for (int c = 0; c < 4; ++c) std::fill_n(out.c[c], region.w, s.colour[c]);
}

/// Rows of a tile lie too far apart for the processor to guess the next one, so the row that the next band
/// reads is named. Wide ones are long enough to be seen coming.
void prefetch(const PictureRows& p, int y, const IntRect& part) {
    if (y >= p.shown.bottom() || part.w > kTileSize) return;
    const Picture& picture = p.picture->level(0);
    const size_t pixel = picture.is16() ? 8 : 4;
    const char* row = picture.is16() ? reinterpret_cast<const char*>(picture.row<uint16_t>(y + p.dy))
                                     : reinterpret_cast<const char*>(picture.row<uint8_t>(y + p.dy));
    row += size_t(part.x + p.dx) * pixel;
    for (size_t i = 0; i < size_t(part.w) * pixel; i += 64) __builtin_prefetch(row + i);
}

void fetch(const PictureRows& p, int y, const IntRect& region, const RowPlanes& out) {
    const IntRect part = p.shown.intersected({region.x, y, region.w, 1});
    if (part.w < region.w || part.empty())
        for (float* plane : out.c) std::fill_n(plane, region.w, 0.0f);
    if (part.empty()) return;
    prefetch(p, y + bandRows(region.w), part);
    const Picture& picture = p.picture->level(0);
    const size_t first = size_t(part.x + p.dx) * 4;
    RowPlanes to = out;
    for (float*& plane : to.c) plane += part.x - region.x;
    if (picture.is16())
        unpackRow(picture.row<uint16_t>(y + p.dy) + first, to, size_t(part.w));
    else
        unpackRow(picture.row<uint8_t>(y + p.dy) + first, to, size_t(part.w));
    for (float* plane : out.c) std::fill(plane + (part.right() - region.x), plane + region.w, 0.0f);
}

void fetch(const TileRows& t, int y, const IntRect& region, const RowPlanes& out) {
    for (int c = 0; c < 4; ++c) unpackPlane(t.tile->row(c, y - region.y), out.c[c], size_t(region.w));
}

void scaleRow(const RowPlanes& row, const float* share, size_t n) {
    for (float* plane : row.c)
        for (size_t x = 0; x < n; ++x) plane[x] *= share[x];
}

/// The mask of output row y as floats.
const float* maskRow(const Tile& mask, int y, const IntRect& region, Scratch& scratch) {
    unpackPlane(mask.row(0, y - region.y), scratch.share.data(), size_t(region.w));
    return scratch.share.data();
}

void blendLayer(const PreparedLayer& layer, const BandRows& at, Band& onto, Scratch& scratch, size_t depth);

/// The group's layers on the backdrop itself; of what they change, the share of opacity and mask is kept.
void passThrough(const PreparedLayer& group, const BandRows& at, Band& onto, Scratch& scratch, size_t depth) {
    const auto& [region, y, rows] = at;
    const auto& layers = std::get<GroupRows>(group.rows).layers;
    if (group.opacity >= 1 && !group.mask) {
        for (const PreparedLayer& layer : layers) blendLayer(layer, at, onto, scratch, depth);
        return;
    }
    Band& changed = scratch.band(depth + 1);
    changed.copy(onto);
    for (const PreparedLayer& layer : layers) blendLayer(layer, at, changed, scratch, depth + 1);
    for (int r = 0; r < rows; ++r) {
        const float* share = group.mask ? maskRow(*group.mask, y + r, region, scratch) : nullptr;
        for (int c = 0; c < 4; ++c) {
            float* to = onto.row(r).c[c];
            const float* from = changed.row(r).c[c];
            for (int x = 0; x < region.w; ++x)
                to[x] += (from[x] - to[x]) * (share ? share[x] * group.opacity : group.opacity);
        }
    }
}

/// Layers inside a base: they meet its colours as if it were opaque, and what comes of it takes on its alpha.
/// This is source-atop (Porter and Duff, 1984) with the blended colour of W3C Compositing, 5.8, where the
/// edge of the base has no share: a half covered pixel shows no rim of the unblended layer.
void blendClip(const GroupRows& group, const BandRows& at, Scratch& scratch, size_t depth) {
    const int width = at.region.w;
    Band& band = scratch.band(depth);
    band.clear();
    blendLayer(group.layers.front(), at, band, scratch, depth);
    Band& base = scratch.band(depth + 1);
    for (int r = 0; r < at.rows; ++r) {
        const RowPlanes row = band.row(r), kept = base.row(r);
        std::copy_n(row.c[3], width, kept.c[3]);
        for (int x = 0; x < width; ++x) {
            const float inverse = row.c[3][x] > 0 ? 1 / row.c[3][x] : 0;
            for (int c = 0; c < 3; ++c) row.c[c][x] *= inverse;
            row.c[3][x] = 1;
        }
    }
    // The base's alpha stays in its band's last plane, so what blends on it works one band further down.
    for (size_t i = 1; i < group.layers.size(); ++i)
        blendLayer(group.layers[i], at, band, scratch, depth + 1);
    for (int r = 0; r < at.rows; ++r) scaleRow(band.row(r), base.row(r).c[3], size_t(width));
}

void fetchRow(const PreparedLayer& layer, int y, int r, const IntRect& region, Scratch& scratch) {
    const RowPlanes out = scratch.sourceRow();
    bool blended = false;
    if (const auto* solid = std::get_if<SolidRows>(&layer.rows)) {
        fetch(*solid, y + r, region, out);
    } else if (const auto* picture = std::get_if<PictureRows>(&layer.rows)) {
        fetch(*picture, y + r, region, out);
    } else {
        const auto& tile = std::get<TileRows>(layer.rows);
        fetch(tile, y + r, region, out);
        blended = tile.blended;
    }
    if (scratch.linear && !blended) toLinearRow(out, size_t(region.w));
    if (layer.mask) scaleRow(out, maskRow(*layer.mask, y + r, region, scratch), size_t(region.w));
}

/// The pixels of a row that can be blended without being laid out in planes first: a picture's own, all of
/// the row, with nothing to be done to them. Nothing when there are none.
const uint8_t* bytesAsTheyLie(const PreparedLayer& layer, int y, const IntRect& region,
                              const Scratch& scratch) {
    const auto* rows = std::get_if<PictureRows>(&layer.rows);
    if (!rows || layer.mask || scratch.linear) return nullptr;
    const Picture& picture = rows->picture->level(0);
    const IntRect row{region.x, y, region.w, 1};
    if (picture.is16() || !(rows->shown.intersected(row) == row)) return nullptr;
    prefetch(*rows, y + bandRows(region.w), row);
    return picture.row<uint8_t>(y + rows->dy) + size_t(region.x + rows->dx) * 4;
}

void blendLayer(const PreparedLayer& layer, const BandRows& at, Band& onto, Scratch& scratch, size_t depth) {
    if (std::holds_alternative<GradeRows>(layer.rows)) return gradeBand(layer, at, onto, scratch, depth);
    const auto& [region, y, rows] = at;
    const size_t n = size_t(region.w);
    if (const auto* group = std::get_if<GroupRows>(&layer.rows)) {
        if (group->kind == GroupKind::Passing) return passThrough(layer, at, onto, scratch, depth);
        if (group->kind == GroupKind::Clip)
            blendClip(*group, at, scratch, depth + 1);
        else
            blendBand(group->layers, at, scratch, depth + 1);
        for (int r = 0; r < rows; ++r) {
            const RowPlanes row = scratch.band(depth + 1).row(r);
            if (layer.mask) scaleRow(row, maskRow(*layer.mask, y + r, region, scratch), n);
            blendRow(layer.blend, onto.row(r), row, layer.opacity, n);
        }
        return;
    }
    const bool same = std::holds_alternative<SolidRows>(layer.rows) && !layer.mask;
    for (int r = 0; r < rows; ++r) {
        if (const uint8_t* bytes = bytesAsTheyLie(layer, y + r, region, scratch)) {
            blendRow(layer.blend, onto.row(r), bytes, layer.opacity, n);
            continue;
        }
        if (r == 0 || !same) fetchRow(layer, y, r, region, scratch);
        blendRow(layer.blend, onto.row(r), scratch.sourceRow(), layer.opacity, n);
    }
}

} // namespace

Band::Band()
    : values_(4 * kPlane) {}

RowPlanes Band::row(int y) {
    RowPlanes planes;
    for (size_t c = 0; c < 4; ++c) planes.c[c] = values_.data() + c * kPlane + size_t(y) * kTileSize;
    return planes;
}

void Band::clear() {
    std::memset(values_.data(), 0, values_.size() * sizeof(float));
}

void Band::copy(const Band& other) {
    std::memcpy(values_.data(), other.values_.data(), values_.size() * sizeof(float));
}

Scratch::Scratch()
    : source(4 * kSourcePlane)
    , share(kWideTile + 16) {}

RowPlanes Scratch::sourceRow() {
    RowPlanes planes;
    for (size_t c = 0; c < 4; ++c) planes.c[c] = source.data() + c * kSourcePlane;
    return planes;
}

Band& Scratch::band(size_t depth) {
    while (bands.size() <= depth) bands.push_back(std::make_unique<Band>());
    return *bands[depth];
}

void blendBand(const std::vector<PreparedLayer>& layers, const BandRows& at, Scratch& scratch, size_t depth) {
    Band& band = scratch.band(depth);
    band.clear();
    for (const PreparedLayer& layer : layers) blendLayer(layer, at, band, scratch, depth);
}

} // namespace glyptos
