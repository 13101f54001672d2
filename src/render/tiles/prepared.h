// Internal to render: a stack made ready for one tile.
#pragma once

#include "raster/picture.h"
#include "raster/tile.h"
#include "release/release.h"
#include "render/tiles/grade_cache.h"

#include <variant>

namespace glyptos {

struct SolidRows {
    float colour[4]; ///< premultiplied, sRGB-encoded
};

struct PictureRows {
    PyramidPtr picture;
    int dx = 0, dy = 0; ///< picture pixel = output pixel + (dx, dy)
    IntRect shown;      ///< output pixels it covers
};

struct TileRows {
    TilePtr tile;
    bool blended = false; ///< pixels are in the blend space already
};

enum class GroupKind : unsigned char {
    Isolated, ///< layers composited among themselves
    Passing,  ///< each meets the backdrop by itself
    Clip      ///< the first layer is the base; the others show only inside it
};

/// One of a run of grades.
struct GradeStep {
    std::shared_ptr<const ReadyGrade> grade;
    float opacity = 1;
    BlendMode blend = BlendMode::Normal;
    TilePtr mask; ///< one channel; nothing: everywhere
};

/// What is below, recoloured; it stays as covering as it is.
struct GradeRows {
    std::vector<GradeStep> steps;
};

struct PreparedLayer;
struct GroupRows {
    std::vector<PreparedLayer> layers; ///< back to front
    GroupKind kind = GroupKind::Isolated;
};

struct PreparedLayer {
    BlendMode blend = BlendMode::Normal;
    float opacity = 1;
    bool opaque = false; ///< hides all beneath it in this tile
    TilePtr mask;        ///< one channel; nothing: shows everywhere
    std::variant<SolidRows, PictureRows, TileRows, GroupRows, GradeRows> rows;
};

} // namespace glyptos
