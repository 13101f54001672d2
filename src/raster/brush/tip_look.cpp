#include "raster/brush/tip_look.h"

#include "raster/noise.h"

#include <algorithm>
#include <cmath>

namespace glyptos {
namespace {

constexpr int kSide = TipTexture::kSide;

float smooth(float from, float to, float v) {
    const float t = std::clamp((v - from) / (to - from), 0.0f, 1.0f);
    return t * t * (3 - 2 * t);
}

// Each of a place in the tip's frame, -1…1.

float grain(float u, float v) {
    // Paper: fine over coarse, so that the tip leaves its hollows free.
    return smooth(0.42f, 0.6f, fractalNoise(u * 18 + 50, v * 18 + 50, 3, 11));
}

float ink(float u, float v) {
    const float away = std::hypot(u, v), wobble = fractalNoise(u * 3.5f + 9, v * 3.5f + 9, 4, 23);
    return smooth(0.02f, -0.02f, away - (0.72f + 0.34f * (wobble - 0.25f)));
}

float dry(float u, float v) {
    // Bristles along the way, each with its own load, that lift here and there.
    const float load = fractalNoise(3, v * 22 + 40, 3, 31),
                lift = fractalNoise(u * 4 + 7, v * 18 + 70, 3, 37);
    return smooth(0.4f, 0.62f, 0.6f * load + 0.4f * lift);
}

/// Drops of many sizes, each drawn where it lies.
void addSpatter(std::vector<float>& cover) {
    constexpr int kDrops = 90;
    for (int i = 0; i < kDrops; ++i) {
        const auto chance = [i](int which) { return hashNoise(i, which, 41); };
        const float round = 6.2831853f * chance(0), out = 0.9f * std::pow(chance(1), 0.7f);
        const float size = 0.014f + 0.09f * std::pow(chance(2), 5.0f), reach = size + 0.008f;
        const float x = out * std::cos(round), y = out * std::sin(round);
        const auto pixel = [](float v) { return std::clamp(int((v + 1) * kSide / 2), 0, kSide - 1); };
        for (int row = pixel(y - reach); row <= pixel(y + reach); ++row)
            for (int column = pixel(x - reach); column <= pixel(x + reach); ++column) {
                const float away = std::hypot((float(column) + 0.5f) * 2 / kSide - 1 - x,
                                              (float(row) + 0.5f) * 2 / kSide - 1 - y);
                float& there = cover[size_t(row) * kSide + size_t(column)];
                there = std::max(there, smooth(reach, size - 0.008f, away));
            }
    }
}

std::vector<float> sampled(float (*cover)(float, float)) {
    std::vector<float> out(size_t(kSide) * kSide);
    for (int y = 0; y < kSide; ++y)
        for (int x = 0; x < kSide; ++x)
            out[size_t(y) * kSide + size_t(x)] =
                cover((float(x) + 0.5f) * 2 / kSide - 1, (float(y) + 0.5f) * 2 / kSide - 1);
    return out;
}

std::shared_ptr<const TipTexture> made(std::vector<float> first) {
    TipTexture out;
    out.levels.push_back(std::move(first));
    for (int side = kSide / 2; side >= 1; side /= 2) {
        const std::vector<float>& from = out.levels.back();
        std::vector<float> half(size_t(side) * size_t(side));
        for (size_t y = 0; y < size_t(side); ++y)
            for (size_t x = 0; x < size_t(side); ++x) {
                const size_t row = 2 * size_t(side), at = 2 * y * row + 2 * x;
                half[y * size_t(side) + x] =
                    (from[at] + from[at + 1] + from[at + row] + from[at + row + 1]) / 4;
            }
        out.levels.push_back(std::move(half));
    }
    return std::make_shared<const TipTexture>(std::move(out));
}

} // namespace

float TipTexture::at(float u, float v, size_t level) const {
    const int side = kSide >> level;
    const auto place = [&](float t) {
        return std::clamp((t + 1) * 0.5f * float(side) - 0.5f, 0.0f, float(side - 1));
    };
    const float x = place(u), y = place(v);
    const int left = int(x), top = int(y), right = std::min(left + 1, side - 1),
              bottom = std::min(top + 1, side - 1);
    const float fx = x - float(left), fy = y - float(top);
    const float* values = levels[level].data();
    const auto row = [&](int j) {
        const float *first = values + ptrdiff_t(j) * side, a = first[left], b = first[right];
        return a + (b - a) * fx;
    };
    const float upper = row(top);
    return upper + (row(bottom) - upper) * fy;
}

size_t TipTexture::levelFor(double radius) const {
    const double fits = std::log2(kSide / std::max(2 * radius, 1.0));
    return size_t(std::clamp(std::floor(fits), 0.0, double(levels.size() - 1)));
}

std::shared_ptr<const TipTexture> textureOf(TipKind kind) {
    // Made when first asked for; the same for all.
    switch (kind) {
    case TipKind::Grain: {
        static const auto kGrain = made(sampled(grain));
        return kGrain;
    }
    case TipKind::Spatter: {
        static const auto kSpatter = [] {
            std::vector<float> cover(size_t(kSide) * kSide);
            addSpatter(cover);
            return made(std::move(cover));
        }();
        return kSpatter;
    }
    case TipKind::Dry: {
        static const auto kDry = made(sampled(dry));
        return kDry;
    }
    case TipKind::Ink: {
        static const auto kInk = made(sampled(ink));
        return kInk;
    }
    default:
        return nullptr;
    }
}

StampLook stampOf(const Path& outline) {
    constexpr int kPixels = 512, kMargin = 2;
    const Rect box = outline.bounds();
    const double longer = std::max({box.w, box.h, 1e-9}), scale = (kPixels - 2 * kMargin) / longer;
    const int width = std::max(1, wholePixel(std::ceil(box.w * scale))) + 2 * kMargin,
              height = std::max(1, wholePixel(std::ceil(box.h * scale))) + 2 * kMargin;
    const Affine map = Affine::translation(kMargin, kMargin) * Affine::scaling(scale, scale) *
                       Affine::translation(-box.x, -box.y);
    const Buffer<float> cover = coverage(outline, map, width, height);
    Picture picture = Picture::create<uint8_t>(width, height);
    for (int y = 0; y < height; ++y) {
        uint8_t* row = picture.row<uint8_t>(y);
        for (int x = 0; x < width; ++x, row += 4) {
            row[0] = row[1] = row[2] = 255;
            row[3] = uint8_t(std::lround(cover[size_t(y) * size_t(width) + size_t(x)] * 255));
        }
    }
    return {std::make_shared<const Pyramid>(std::move(picture)), true};
}

TipLook tipLook(const Brush& brush, const std::array<float, 3>& colour, std::vector<StampLook> stamps) {
    TipLook out;
    out.tip = brush.tip;
    out.hardness = float(brush.hardness), out.flow = float(brush.flow);
    out.closed = brush.spacing < 0.5;
    out.texture = textureOf(brush.tip);
    out.stamps = std::move(stamps);
    if (brush.tinted)
        for (StampLook& stamp : out.stamps) stamp.tinted = true;
    if (brush.tip == TipKind::Grain) out.grain = Affine::scaling(2 / brush.diameter, 2 / brush.diameter);
    out.layered = brush.tip == TipKind::Spatter;
    out.colour = colour;
    out.coloured = isColoured(brush);
    return out;
}

TipLook mapped(TipLook look, const Affine& map) {
    const auto back = map.inverse();
    if (look.grain && back) look.grain = *look.grain * *back;
    return look;
}

} // namespace glyptos
