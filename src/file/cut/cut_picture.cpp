#include "file/cut/cut_job.h"

#include <algorithm>
#include <array>

namespace glyptos {
namespace {

using Colour = std::array<uint8_t, 3>;
constexpr Colour kBoard{250, 248, 242}, kCut{20, 20, 20}, kCrease{42, 79, 176}, kMark{140, 140, 140},
    kFault{200, 40, 30};

void blend(CutPicture& picture, const Path& shape, const Affine& map, const Colour& colour) {
    const Buffer<float> cover = coverage(shape, map, picture.width, picture.height);
    for (size_t i = 0; i < cover.size(); ++i) {
        const float a = std::clamp(cover[i], 0.0f, 1.0f);
        if (a <= 0) continue;
        for (size_t c = 0; c < 3; ++c) {
            uint8_t& v = picture.rgb[3 * i + c];
            v = uint8_t(std::lround(float(v) * (1 - a) + float(colour[c]) * a));
        }
    }
}

/// Pieces of a line, 3 on and 2 off.
std::vector<Polyline> dashed(const Polyline& line, double unit) {
    std::vector<Polyline> out;
    const auto& p = line.points;
    for (size_t i = 1; i < p.size(); ++i) {
        const Vec2 by = p[i] - p[i - 1];
        const double length = by.length();
        const int dashes = int(std::ceil(length / (5 * unit)));
        for (int k = 0; k < dashes; ++k) {
            const double at = 5 * unit * k;
            out.push_back(
                {{p[i - 1] + by * (at / length), p[i - 1] + by * (std::min(at + 3 * unit, length) / length)},
                 false});
        }
    }
    return out;
}

Path ring(Vec2 at, double radius, double width) {
    Polyline circle;
    circle.closed = true;
    constexpr int kSides = 40;
    for (int i = 0; i < kSides; ++i) {
        const double a = 2 * std::numbers::pi * i / kSides;
        circle.points.push_back(at + Vec2{std::cos(a), std::sin(a)} * radius);
    }
    return strokeOutline({circle}, {width}, 0.05);
}

} // namespace

CutPicture drawCutJob(const CutJob& job, const std::vector<CutFault>& faults, int longerSide) {
    const double scale = longerSide / std::max({job.width, job.height, 1e-9});
    CutPicture out{std::max(1, int(std::lround(job.width * scale))),
                   std::max(1, int(std::lround(job.height * scale))),
                   {}};
    out.rgb.resize(size_t(out.width) * size_t(out.height) * 3);
    for (size_t i = 0; i < out.rgb.size(); ++i) out.rgb[i] = kBoard[i % 3];
    const Affine map = Affine::scaling(scale, scale);
    const double px = 1 / scale; // mm
    std::array<std::vector<Polyline>, 3> lines;
    for (const ToolLine& line : job.lines) {
        auto& to = lines[size_t(line.tool)];
        if (line.tool != CutTool::Crease) {
            to.push_back(line.line);
            continue;
        }
        const auto pieces = dashed(line.line, 2 * px);
        to.insert(to.end(), pieces.begin(), pieces.end());
    }
    constexpr std::array<Colour, 3> kColours{kCut, kCrease, kMark};
    for (const CutTool tool : {CutTool::Register, CutTool::Crease, CutTool::Cut})
        blend(out, strokeOutline(lines[size_t(tool)], {1.5 * px}, px / 20), map, kColours[size_t(tool)]);
    for (const CutFault& fault : faults) blend(out, ring(fault.at, 9 * px, 2.5 * px), map, kFault);
    return out;
}

} // namespace glyptos
