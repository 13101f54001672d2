#include "raster/brush/symmetry.h"

namespace glyptos {
namespace {

constexpr size_t kMostCopies = 4096;

Affine about(Vec2 centre, const Affine& map) {
    return Affine::translation(centre.x, centre.y) * map * Affine::translation(-centre.x, -centre.y);
}

Affine mirrorAt(Vec2 centre, double turn) {
    return about(centre, Affine::rotation(turn) * Affine::scaling(-1, 1) * Affine::rotation(-turn));
}

/// From the first tile to the one in that column and row.
Affine toTile(const Symmetry& s, int column, int row) {
    const auto along = [&](int n, double origin, double side) {
        // A tile that is mirrored starts where the one before it ended, and runs back.
        const bool back = s.mirrored && n % 2 != 0;
        return back ? std::pair{-1.0, 2 * origin + side * (n + 1)} : std::pair{1.0, side * n};
    };
    const auto [sx, tx] = along(column, s.centre.x, s.tile.x);
    const auto [sy, ty] = along(row, s.centre.y, s.tile.y);
    return {sx, 0, 0, sy, tx, ty};
}

std::vector<Affine> tiles(const Symmetry& s, const Rect& extent) {
    std::vector<Affine> out{Affine{}};
    if (!(s.tile.x > 0 && s.tile.y > 0)) return out;
    // Tiles of the extent, and from any of them to any other.
    const auto reach = [](double from, double to, double origin, double side) {
        const int first = wholePixel(std::floor((from - origin) / side)),
                  last = wholePixel(std::floor((to - origin) / side)), count = last - first + 1;
        return std::pair{std::min(2 * first, -count) - 1, std::max(2 * last, count) + 1};
    };
    const auto [left, right] = reach(extent.x, extent.right(), s.centre.x, s.tile.x);
    const auto [top, bottom] = reach(extent.y, extent.bottom(), s.centre.y, s.tile.y);
    if (double(right - left + 1) * double(bottom - top + 1) > double(kMostCopies)) return out;
    for (int row = top; row <= bottom; ++row)
        for (int column = left; column <= right; ++column)
            if (row != 0 || column != 0) out.push_back(toTile(s, column, row));
    return out;
}

} // namespace

std::vector<Affine> copiesOf(const Symmetry& s, const Rect& extent) {
    switch (s.kind) {
    case Symmetry::Kind::None:
        break;
    case Symmetry::Kind::Axis:
        return {Affine{}, mirrorAt(s.centre, s.turn)};
    case Symmetry::Kind::Centre: {
        std::vector<Affine> out;
        const int arms = std::clamp(s.arms, 1, kMostArms);
        for (int i = 0; i < arms; ++i) {
            const Affine turned = about(s.centre, Affine::rotation(360.0 * i / arms));
            out.push_back(turned);
            if (s.mirrored) out.push_back(turned * mirrorAt(s.centre, s.turn));
        }
        return out;
    }
    case Symmetry::Kind::Tile:
        return tiles(s, extent);
    }
    return {Affine{}};
}

} // namespace glyptos
