#include "type/lines/leader.h"

#include <cmath>

namespace glyptos {

const LaidLine& Leaders::of(const std::string& leader, Layout& layout) {
    const auto known = laid_.find(leader);
    if (known != laid_.end()) return known->second;
    TextSpec spec;
    spec.text = leader, spec.letters = letters_;
    Layout laid = layLines(spec, fonts_);
    takeFaces(layout, laid);
    return laid_[leader] = laid.lines.empty() ? LaidLine() : laid.lines.front();
}

void addLeader(LaidLine& line, const LaidLine& leader, double from, double to, size_t byte) {
    constexpr double kGapOfHeight = 0.3, kMost = 10000;
    double step = 0;
    for (const LineGlyph& g : leader.glyphs) step += g.glyph.advance;
    const double gap = kGapOfHeight * (leader.above + leader.below);
    if (step <= 0 || (to - from) / step > kMost) return;
    for (double x = std::ceil((from + gap) / step) * step; x + step <= to - gap + 1e-9; x += step)
        for (const LineGlyph& g : leader.glyphs) line.glyphs.push_back({g.glyph, x + g.x, byte, byte});
}

} // namespace glyptos
