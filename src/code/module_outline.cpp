#include "code/module_outline.h"

namespace glyptos {
namespace {

struct Step {
    int dx, dy;
};
constexpr Step kWays[] = {{1, 0}, {0, 1}, {-1, 0}, {0, -1}};

/// Walks edges of the grid with dark on the right hand. Each edge between dark and light is walked once.
class OutlineWalk {
  public:
    explicit OutlineWalk(const ModuleGrid& modules)
        : modules_(modules)
        , walked_(size_t(modules.width() + 1) * size_t(modules.height() + 1) * 4) {}

    void walkFrom(int x, int y, Vec2 corner, Path& out) {
        if (!isEdge(x, y, 0) || walked(x, y, 0)) return;
        int way = 0;
        out.moveTo(corner + Vec2{double(x), double(y)});
        while (!walked(x, y, way)) {
            walked(x, y, way) = 1;
            x += kWays[way].dx, y += kWays[way].dy;
            const int next = turnAt(x, y, way);
            if (next != way && !walked(x, y, next)) out.lineTo(corner + Vec2{double(x), double(y)});
            way = next;
        }
    }

  private:
    /// Whether the edge from a grid point has dark on its right and light on its left.
    bool isEdge(int x, int y, int way) const {
        constexpr Step kRight[] = {{0, 0}, {-1, 0}, {-1, -1}, {0, -1}},
                       kLeft[] = {{0, -1}, {0, 0}, {-1, 0}, {-1, -1}};
        return modules_.at(x + kRight[way].dx, y + kRight[way].dy) &&
               !modules_.at(x + kLeft[way].dx, y + kLeft[way].dy);
    }
    /// To the right first: squares that meet at a corner alone stay apart.
    int turnAt(int x, int y, int way) const {
        for (const int turn : {1, 0, 3})
            if (isEdge(x, y, (way + turn) % 4)) return (way + turn) % 4;
        return way;
    }
    char& walked(int x, int y, int way) {
        return walked_[(size_t(y) * size_t(modules_.width() + 1) + size_t(x)) * 4 + size_t(way)];
    }

    const ModuleGrid& modules_;
    std::vector<char> walked_;
};

} // namespace

Path outlineOf(const ModuleGrid& modules, Vec2 corner) {
    Path out;
    OutlineWalk walk(modules);
    for (int y = 0; y <= modules.height(); ++y)
        for (int x = 0; x < modules.width(); ++x) walk.walkFrom(x, y, corner, out);
    return out;
}

} // namespace glyptos
