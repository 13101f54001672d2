#include "vision/mend/work_picture.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>
#include <tbb/parallel_for.h>

namespace glyptos::mending {
namespace {

template <class T>
void premultiplyRow(const T* from, int width, int16_t* to) {
    constexpr float kHalf = 0.5f, kMost = std::is_same_v<T, uint8_t> ? 255 : 65535;
    for (int x = 0; x < width; ++x, from += 4, to += 4) {
        const float alpha = float(from[3]) / kMost, scale = alpha * kFull / kMost;
        for (int c = 0; c < 3; ++c) to[c] = static_cast<int16_t>(float(from[c]) * scale + kHalf);
        to[3] = static_cast<int16_t>(alpha * kFull + kHalf);
    }
}

} // namespace

WorkPicture workPicture(const Picture& picture, const AlphaMap& hole, const IntRect& area) {
    WorkPicture out(area.w, area.h);
    tbb::parallel_for(0, area.h, [&](int y) {
        int16_t* row = out.pixel(out.place(0, y));
        if (picture.is16())
            premultiplyRow(picture.row<uint16_t>(area.y + y) + ptrdiff_t(4) * area.x, area.w, row);
        else
            premultiplyRow(picture.row<uint8_t>(area.y + y) + ptrdiff_t(4) * area.x, area.w, row);
        for (int x = 0; x < area.w; ++x)
            out.hole[out.place(x, y)] = hole.at(area.x + x, area.y + y) > 0 ? 1 : 0;
    });
    return out;
}

WorkPicture halved(const WorkPicture& from) {
    WorkPicture out((from.width + 1) / 2, (from.height + 1) / 2);
    tbb::parallel_for(0, out.height, [&](int y) {
        for (int x = 0; x < out.width; ++x) {
            const int x1 = std::min(2 * x + 1, from.width - 1), y1 = std::min(2 * y + 1, from.height - 1);
            int sum[4] = {}, known = 0;
            uint8_t any = 0;
            for (const size_t i : {from.place(2 * x, 2 * y), from.place(x1, 2 * y), from.place(2 * x, y1),
                                   from.place(x1, y1)}) {
                any |= from.hole[i];
                if (from.hole[i]) continue;
                ++known;
                for (int c = 0; c < 4; ++c) sum[c] += from.pixel(i)[c];
            }
            out.hole[out.place(x, y)] = any;
            if (known)
                for (int c = 0; c < 4; ++c)
                    out.pixel(out.place(x, y))[c] = static_cast<int16_t>((sum[c] + known / 2) / known);
        }
    });
    return out;
}

WorkPicture ownRows(const WorkPicture& picture) {
    WorkPicture out(picture.width, picture.own);
    std::copy_n(picture.samples.begin(), out.samples.size(), out.samples.begin());
    std::copy_n(picture.hole.begin(), out.hole.size(), out.hole.begin());
    return out;
}

IntRect holeArea(const WorkPicture& picture) {
    int left = picture.width, right = 0, top = picture.height, bottom = 0;
    for (int y = 0; y < picture.height; ++y)
        for (int x = 0; x < picture.width; ++x)
            if (picture.hole[picture.place(x, y)] == kToFill) {
                left = std::min(left, x), right = std::max(right, x + 1);
                top = std::min(top, y), bottom = y + 1;
            }
    return {left, top, right - left, bottom - top};
}

std::vector<uint8_t> wholePatches(const WorkPicture& picture) {
    const cv::Mat hole(picture.height, picture.width, CV_8UC1, const_cast<uint8_t*>(picture.hole.data()));
    std::vector<uint8_t> out(picture.hole.size());
    cv::Mat near(picture.height, picture.width, CV_8UC1, out.data());
    cv::dilate(hole, near, cv::Mat::ones(kSide, kSide, CV_8UC1));
    for (int y = 0; y < picture.height; ++y)
        for (int x = 0; x < picture.width; ++x) {
            const bool inside =
                x >= kReach && y >= kReach && x < picture.width - kReach && y < picture.height - kReach;
            uint8_t& v = out[picture.place(x, y)];
            v = inside && !v ? 1 : 0;
        }
    return out;
}

double depthOf(const WorkPicture& picture) {
    // What lies beyond the picture's edge is not known, so a hole at the edge is as deep as it reaches in.
    const cv::Mat hole(picture.height, picture.width, CV_8UC1, const_cast<uint8_t*>(picture.hole.data()));
    cv::Mat distance;
    cv::distanceTransform(hole, distance, cv::DIST_L2, 3);
    double most = 0;
    cv::minMaxLoc(distance, nullptr, &most);
    return most;
}

} // namespace glyptos::mending
