#include "file/cut/cut_reading.h"

#include "base/text.h"

#include <algorithm>

namespace glyptos {

std::optional<CutTool> toolNamed(std::string name) {
    std::transform(name.begin(), name.end(), name.begin(),
                   [](char c) { return c >= 'A' && c <= 'Z' ? char(c - 'A' + 'a') : c; });
    for (size_t i = 0; i < std::size(kCutToolIds); ++i)
        if (name == kCutToolIds[i]) return static_cast<CutTool>(i);
    if (name == "fold" || name == "score") return CutTool::Crease;
    return std::nullopt;
}

Result<CutJob> readCutJob(std::span<const uint8_t> bytes, const std::string& name) {
    const std::string_view text(reinterpret_cast<const char*>(bytes.data()), bytes.size());
    const auto refused = [&](const std::string& why) {
        return fail(Fault::Unsupported, "“" + visible(name) + "” cannot be cut: " + why + ".");
    };
    try {
        const bool isSvg = trimmed(text.substr(0, 200)).starts_with("<");
        CutJob job = isSvg ? readCutSvg(bytes) : readCutDxf(bytes);
        if (!(job.width > 0 && job.height > 0 && job.width <= kLargestCutMm && job.height <= kLargestCutMm))
            return refused("it is empty, or larger than 5 m");
        for (const ToolLine& line : job.lines)
            for (const Vec2& p : line.line.points)
                if (!(std::abs(p.x) <= 2 * kLargestCutMm && std::abs(p.y) <= 2 * kLargestCutMm))
                    return refused("it draws farther out than 10 m");
        return job;
    } catch (const NotCut& why) {
        return refused(why.what());
    } catch (const std::bad_alloc&) {
        return fail(Fault::TooLarge, "There is not enough memory to read “" + visible(name) + "”.");
    }
}

} // namespace glyptos
