#include "file/print/inked_art.h"

#include "render/white_paper.h"

#include <algorithm>
#include <cstring>

namespace glyptos {
namespace {

int mostOf(const uint8_t* ink, size_t pixels) {
    int most = 0;
    for (size_t i = 0; i < pixels; ++i, ink += 4) most = std::max(most, ink[0] + ink[1] + ink[2] + ink[3]);
    return most;
}

void raise(std::atomic<int>& most, int to) {
    for (int was = most; was < to && !most.compare_exchange_weak(was, to);) {
    }
}

} // namespace

InkedArt inkedArt(Renderer& renderer, const Scene& scene, const ToPress& press,
                  const std::atomic<bool>* cancel) {
    InkedArt out;
    out.area = scene.bounds();
    const IntRect& area = out.area;
    out.cmyk = Buffer<uint8_t>(size_t(area.w) * size_t(area.h) * 4);
    std::memset(out.cmyk.data(), 0, out.cmyk.size());
    std::atomic<int> most = 0;
    const auto ink = [&](int y, int x, const RowPlanes& row, size_t n) {
        static thread_local std::vector<uint8_t> rgb;
        rgb.resize(3 * n);
        packRgb8OnWhite(row, rgb.data(), n);
        uint8_t* to = out.cmyk.data() + (size_t(y - area.y) * size_t(area.w) + size_t(x - area.x)) * 4;
        press.convert(rgb.data(), to, n);
        raise(most, mostOf(to, n));
    };
    renderer.render(scene, area, ink, cancel);
    out.mostInk = most / 255.0;
    return out;
}

} // namespace glyptos
