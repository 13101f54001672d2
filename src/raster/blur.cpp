#include "raster/blur.h"

#include <algorithm>
#include <cmath>
#include <vector>

namespace glyptos {
namespace {

std::vector<float> halfKernel(double sigma) {
    std::vector<float> out(static_cast<size_t>(std::ceil(3 * sigma)) + 1);
    double sum = 0;
    for (size_t i = 0; i < out.size(); ++i) {
        const double x = double(i) / sigma;
        out[i] = float(std::exp(-x * x / 2));
        sum += i ? 2 * out[i] : out[i];
    }
    for (float& v : out) v = float(v / sum);
    return out;
}

} // namespace

Buffer<float> gaussianBlur(const Buffer<float>& plane, int width, int height, double sigma) {
    const size_t w = size_t(width), h = size_t(height);
    Buffer<float> across(w * h), out(w * h);
    if (!(sigma > 0.01)) {
        std::copy_n(plane.data(), w * h, out.data());
        return out;
    }
    const std::vector<float> kernel = halfKernel(sigma);
    const size_t reach = kernel.size() - 1;
    std::vector<float> padded(w + 2 * reach);
    for (size_t y = 0; y < h; ++y) {
        const float* row = plane.data() + y * w;
        std::fill_n(padded.begin(), reach, row[0]);
        std::copy_n(row, w, padded.begin() + long(reach));
        std::fill_n(padded.begin() + long(reach + w), reach, row[w - 1]);
        for (size_t x = 0; x < w; ++x) {
            const float* at = padded.data() + x + reach;
            float sum = kernel[0] * at[0];
            for (size_t k = 1; k <= reach; ++k) sum += kernel[k] * (at[-long(k)] + at[k]);
            across[y * w + x] = sum;
        }
    }
    for (size_t y = 0; y < h; ++y) {
        float* row = out.data() + y * w;
        const float* here = across.data() + y * w;
        for (size_t x = 0; x < w; ++x) row[x] = kernel[0] * here[x];
        for (size_t k = 1; k <= reach; ++k) {
            const float* up = across.data() + (y < k ? 0 : y - k) * w;
            const float* down = across.data() + std::min(y + k, h - 1) * w;
            for (size_t x = 0; x < w; ++x) row[x] += kernel[k] * (up[x] + down[x]);
        }
    }
    return out;
}

} // namespace glyptos
