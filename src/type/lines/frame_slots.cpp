#include "type/lines/frame_slots.h"

#include "type/outline_scan.h"

#include <algorithm>

namespace glyptos {
namespace {

/// What is inside at all of some heights.
std::vector<Run> common(const std::vector<Run>& a, const std::vector<Run>& b) {
    std::vector<Run> out;
    for (const Run& one : a)
        for (const Run& other : b)
            if (const Run both{std::max(one.from, other.from), std::min(one.to, other.to)}; both.length() > 0)
                out.push_back(both);
    return out;
}

} // namespace

std::vector<Slot> slotsOf(const InShape& shape, double firstAscent, double leading, double above,
                          double below, double narrowest) {
    constexpr int kLooks = 5;       // heights of a line
    constexpr double kInset = 1e-3; // of its height: an edge along it is inside
    constexpr size_t kMostSlots = 10000;
    std::vector<Slot> out;
    const OutlineScan scan(outlineOf(shape.outline));
    if (scan.empty() || leading <= 0) return out;
    const Rect box = scan.bounds();
    for (size_t i = 0; i < kMostSlots; ++i) {
        const double baseline = box.y + firstAscent + double(i) * leading;
        if (baseline + below > box.bottom() + 1e-9) break;
        std::vector<Run> inside{{box.x, box.right()}};
        for (int k = 0; k < kLooks; ++k)
            inside = common(
                inside, scan.across(baseline - above +
                                    (above + below) * std::clamp(k / (kLooks - 1.0), kInset, 1 - kInset)));
        const auto widest = std::max_element(
            inside.begin(), inside.end(), [](const Run& a, const Run& b) { return a.length() < b.length(); });
        if (widest != inside.end() && widest->length() >= narrowest)
            out.push_back({baseline, widest->from, widest->length()});
    }
    return out;
}

} // namespace glyptos
