#include "vision/lines/paper_lift.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <opencv2/imgproc.hpp>

namespace glyptos {
namespace {

constexpr int kCoarse = 8;      // px of the scan for one of the paper's
constexpr float kNoise = 0.07f; // of darkening, that paper may have
constexpr float kInky = 0.3f;   // from there on it is ink, for finding how dark that is

cv::Mat rgbOf(const Picture& scan) {
    cv::Mat out(scan.height, scan.width, CV_32FC3);
    const float full = scan.is16() ? 65535 : 255;
    for (int y = 0; y < scan.height; ++y)
        for (int x = 0; x < scan.width; ++x) {
            cv::Vec3f& to = out.at<cv::Vec3f>(y, x);
            for (int c = 0; c < 3; ++c)
                to[c] =
                    float(scan.is16() ? scan.row<uint16_t>(y)[4 * x + c] : scan.row<uint8_t>(y)[4 * x + c]) /
                    full;
        }
    return out;
}

/// What is lightest round each place, evened out.
cv::Mat paperOf(const cv::Mat& scan) {
    cv::Mat coarse, paper;
    cv::resize(scan, coarse, {std::max(1, scan.cols / kCoarse), std::max(1, scan.rows / kCoarse)}, 0, 0,
               cv::INTER_AREA);
    const int reach = 2 * std::max(3, std::min(coarse.cols, coarse.rows) / 24) + 1;
    cv::dilate(coarse, coarse, cv::getStructuringElement(cv::MORPH_ELLIPSE, {reach, reach}));
    cv::GaussianBlur(coarse, coarse, {0, 0}, reach / 2.0, 0, cv::BORDER_REPLICATE);
    cv::resize(coarse, paper, scan.size(), 0, 0, cv::INTER_LINEAR);
    return paper;
}

float darkening(const cv::Vec3f& colour, const cv::Vec3f& paper) {
    float most = 0;
    for (int c = 0; c < 3; ++c) most = std::max(most, (paper[c] - colour[c]) / std::max(paper[c], 1e-3f));
    return most;
}

/// How dark whole ink is: of the pixels that are ink, what a tenth of them pass.
float wholeInk(const cv::Mat& scan, const cv::Mat& paper) {
    std::array<size_t, 256> histogram{};
    size_t all = 0;
    for (int y = 0; y < scan.rows; ++y)
        for (int x = 0; x < scan.cols; ++x)
            if (const float d = darkening(scan.at<cv::Vec3f>(y, x), paper.at<cv::Vec3f>(y, x)); d > kInky)
                ++histogram[size_t(std::min(d, 1.0f) * 255)], ++all;
    size_t passed = 0;
    for (size_t i = histogram.size(); i-- > 0;)
        if ((passed += histogram[i]) * 10 > all && all > 0) return std::max(float(i) / 255, kInky);
    return 1;
}

} // namespace

Picture withoutPaper(const Picture& scan, const std::atomic<bool>* cancel) {
    const cv::Mat colours = rgbOf(scan), paper = paperOf(colours);
    const float whole = wholeInk(colours, paper);
    if (cancel && *cancel) return {};
    Picture out = Picture::create<uint8_t>(scan.width, scan.height);
    for (int y = 0; y < scan.height; ++y)
        for (int x = 0; x < scan.width; ++x) {
            const cv::Vec3f &c = colours.at<cv::Vec3f>(y, x), &p = paper.at<cv::Vec3f>(y, x);
            const float alpha = std::clamp((darkening(c, p) - kNoise) / (whole - kNoise), 0.0f, 1.0f);
            const float there = scan.is16() ? float(scan.row<uint16_t>(y)[4 * x + 3]) / 65535
                                            : float(scan.row<uint8_t>(y)[4 * x + 3]) / 255;
            uint8_t* to = out.row<uint8_t>(y) + ptrdiff_t(4) * x;
            for (int i = 0; i < 3; ++i) {
                const float ink = alpha > 0 ? (c[i] - (1 - alpha) * p[i]) / alpha : 0;
                to[i] = uint8_t(std::lround(std::clamp(ink, 0.0f, 1.0f) * 255));
            }
            to[3] = uint8_t(std::lround(alpha * there * 255));
        }
    return out;
}

} // namespace glyptos
