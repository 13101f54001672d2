#include "file/print/inked_art.h"

#include "render/white_paper.h"

#include <algorithm>
#include <cstring>
#include <tbb/parallel_for.h>
#include <vector>

namespace glyptos {
namespace {

/// What is found of the inks of a row.
struct InkFound {
    int most = 0;
    std::array<uint8_t, 4> used = {}; // all bits that any pixel has

    InkFound(const uint8_t* ink, size_t pixels) {
        uint32_t all = 0;
        for (size_t i = 0; i < pixels; ++i, ink += 4) {
            most = std::max(most, ink[0] + ink[1] + ink[2] + ink[3]);
            uint32_t pixel = 0;
            std::memcpy(&pixel, ink, sizeof pixel);
            all |= pixel;
        }
        std::memcpy(used.data(), &all, sizeof all);
    }
};

void raise(std::atomic<int>& most, int to) {
    for (int was = most; was < to && !most.compare_exchange_weak(was, to);) {
    }
}

} // namespace

std::vector<std::string> processInks(const std::array<bool, 4>& used) {
    constexpr const char* kNames[] = {"Cyan", "Magenta", "Yellow", "Black"};
    std::vector<std::string> out;
    for (size_t c = 0; c < 4; ++c)
        if (used[c]) out.emplace_back(kNames[c]);
    return out;
}

InkedArt inkedArt(Renderer& renderer, const Scene& scene, const ToPress& press,
                  const std::atomic<bool>* cancel) {
    InkedArt out;
    out.area = scene.bounds();
    const IntRect& area = out.area;
    out.cmyk = Buffer<uint8_t>(size_t(area.w) * size_t(area.h) * 4);
    std::memset(out.cmyk.data(), 0, out.cmyk.size());
    std::atomic<int> most = 0;
    std::array<std::atomic<bool>, 4> used{};
    const auto ink = [&](int y, int x, const RowPlanes& row, size_t n) {
        static thread_local std::vector<uint8_t> rgb;
        rgb.resize(3 * n);
        packRgb8OnWhite(row, rgb.data(), n);
        uint8_t* to = out.cmyk.data() + (size_t(y - area.y) * size_t(area.w) + size_t(x - area.x)) * 4;
        press.convert(rgb.data(), to, n);
        const InkFound found(to, n);
        raise(most, found.most);
        for (size_t c = 0; c < 4; ++c)
            if (found.used[c]) used[c] = true;
    };
    renderer.render(scene, area, ink, cancel);
    out.mostInk = most / 255.0;
    for (size_t c = 0; c < 4; ++c) out.used[c] = used[c];
    return out;
}

namespace {

/// One plane of the scene as bytes.
InkedPlate planeOf(Renderer& renderer, const Scene& scene, int plane, const std::atomic<bool>* cancel) {
    InkedPlate out;
    out.area = scene.bounds();
    const IntRect& area = out.area;
    out.tint = Buffer<uint8_t>(size_t(area.w) * size_t(area.h));
    std::memset(out.tint.data(), 0, out.tint.size());
    std::atomic<bool> any = false;
    const auto take = [&](int y, int x, const RowPlanes& row, size_t n) {
        uint8_t* to = out.tint.data() + size_t(y - area.y) * size_t(area.w) + size_t(x - area.x);
        uint8_t bits = 0;
        for (size_t i = 0; i < n; ++i) bits |= to[i] = nearestByte(row.c[plane][i]);
        if (bits) any = true;
    };
    renderer.render(scene, area, take, cancel);
    out.any = any;
    return out;
}

/// Each value becomes the least of those within `reach` of it along one axis; beyond the edge there is none.
void erode(uint8_t* line, size_t count, size_t step, int reach, std::vector<uint8_t>& before) {
    before.resize(count);
    for (size_t i = 0; i < count; ++i) before[i] = line[i * step];
    for (size_t i = 0; i < count; ++i) {
        uint8_t least = before[i];
        for (int d = -reach; d <= reach; ++d) {
            const ptrdiff_t at = ptrdiff_t(i) + d;
            least = at < 0 || at >= ptrdiff_t(count) ? uint8_t(0) : std::min(least, before[size_t(at)]);
        }
        line[i * step] = least;
    }
}

} // namespace

InkedPlate inkedPlate(Renderer& renderer, const Scene& scene, const std::atomic<bool>* cancel) {
    return planeOf(renderer, scene, 0, cancel);
}

InkedPlate coverPlate(Renderer& renderer, const Scene& scene, int choke, const std::atomic<bool>* cancel) {
    InkedPlate out = planeOf(renderer, scene, 3, cancel);
    const size_t w = size_t(out.area.w), h = size_t(out.area.h);
    if (choke <= 0 || (cancel && *cancel)) return out;
    tbb::parallel_for(size_t(0), h, [&](size_t y) {
        static thread_local std::vector<uint8_t> before;
        erode(out.tint.data() + y * w, w, 1, choke, before);
    });
    tbb::parallel_for(size_t(0), w, [&](size_t x) {
        static thread_local std::vector<uint8_t> before;
        erode(out.tint.data() + x, h, w, choke, before);
    });
    return out;
}

} // namespace glyptos
