#include "color/proof.h"

#include "color/difference.h"
#include "color/lcms_profile.h"
#include "color/profile.h"

#include <algorithm>
#include <cmath>
#include <vector>

namespace glyptos {
namespace {

constexpr int kGrid = 33;      // points a side of the colours whose change is known
constexpr double kVisible = 3; // CIEDE2000
constexpr size_t kRun = 4096;  // pixels at a time

struct CloseTransform {
    void operator()(void* t) const { cmsDeleteTransform(t); }
};
using TransformPtr = std::unique_ptr<void, CloseTransform>;

TransformPtr transform(const ProfilePtr& from, cmsUInt32Number in, const ProfilePtr& to, cmsUInt32Number out,
                       cmsUInt32Number intent) {
    const cmsUInt32Number flags =
        cmsFLAGS_NOCACHE | (intent == INTENT_ABSOLUTE_COLORIMETRIC ? 0 : cmsFLAGS_BLACKPOINTCOMPENSATION);
    return TransformPtr(cmsCreateTransform(from.get(), in, to.get(), out, intent, flags));
}

Rgba colourOf(const uint8_t* rgb) {
    return {float(rgb[0]) / 255, float(rgb[1]) / 255, float(rgb[2]) / 255, 1};
}

/// All four together, 255 for one.
int inkOf(const uint8_t* ink) {
    return ink[0] + ink[1] + ink[2] + ink[3];
}

void run(const TransformPtr& transform, const uint8_t* in, uint8_t* out, size_t n) {
    cmsDoTransform(transform.get(), in, out, static_cast<cmsUInt32Number>(n));
}

} // namespace

struct Proof::Impl {
    std::shared_ptr<const ToPress> press;
    double inkLimit = 3.3;
    TransformPtr onPaper, onScreen; ///< inks to sRGB
    std::vector<float> change;      ///< CIEDE2000 of each colour of the grid, red fastest

    /// How much the press changes each colour of a grid.
    void measure() {
        std::vector<uint8_t> rgb;
        for (int b = 0; b < kGrid; ++b)
            for (int g = 0; g < kGrid; ++g)
                for (int r = 0; r < kGrid; ++r)
                    for (const int v : {r, g, b}) rgb.push_back(uint8_t(v * 255 / (kGrid - 1)));
        const size_t n = rgb.size() / 3;
        std::vector<uint8_t> ink(4 * n), back(3 * n);
        press->convertFreely(rgb.data(), ink.data(), n);
        run(onScreen, ink.data(), back.data(), n);
        for (size_t i = 0; i < n; ++i)
            change.push_back(float(ciede2000(toLab(colourOf(&rgb[3 * i])), toLab(colourOf(&back[3 * i])))));
    }

    float changeOf(const uint8_t* rgb) const {
        int at[3];
        float share[3];
        for (int c = 0; c < 3; ++c) {
            const float v = float(rgb[c]) * (kGrid - 1) / 255;
            at[c] = std::min(int(v), kGrid - 2), share[c] = v - float(at[c]);
        }
        float sum = 0;
        for (int k = 0; k < 8; ++k) {
            const int x = at[0] + (k & 1), y = at[1] + (k >> 1 & 1), z = at[2] + (k >> 2);
            const float w = ((k & 1) ? share[0] : 1 - share[0]) * ((k & 2) ? share[1] : 1 - share[1]) *
                            ((k & 4) ? share[2] : 1 - share[2]);
            sum += w * change[(size_t(z) * kGrid + size_t(y)) * kGrid + size_t(x)];
        }
        return sum;
    }

    bool isOver(const uint8_t* ink) const { return inkOf(ink) > inkLimit * 255 + 2; }
};

void ProofTally::add(const ProofTally& other) {
    shown += other.shown, outOfGamut += other.outOfGamut, overInk += other.overInk;
    mostInk = std::max(mostInk, other.mostInk);
}

Proof::~Proof() = default;

Result<std::shared_ptr<const Proof>> Proof::create(std::span<const uint8_t> profile, double inkLimit) {
    auto press = ToPress::create(profile, inkLimit);
    if (!press) return tl::unexpected(press.error());
    const ProfilePtr ink = openProfile(profile), srgb(cmsCreate_sRGBProfile());
    std::shared_ptr<Proof> made(new Proof);
    made->impl_ = std::make_unique<Impl>();
    Impl& impl = *made->impl_;
    impl.press = *press, impl.inkLimit = inkLimit;
    impl.onPaper = transform(ink, TYPE_CMYK_8, srgb, TYPE_RGB_8, INTENT_ABSOLUTE_COLORIMETRIC);
    impl.onScreen = transform(ink, TYPE_CMYK_8, srgb, TYPE_RGB_8, INTENT_RELATIVE_COLORIMETRIC);
    if (!impl.onPaper || !impl.onScreen)
        return fail(Fault::Damaged, "The press profile cannot be shown on a screen. Choose another profile.");
    impl.measure();
    const uint8_t bare[4] = {0, 0, 0, 0};
    uint8_t paper[3];
    run(impl.onPaper, bare, paper, 1);
    made->paper_ = colourOf(paper);
    made->description_ = (*press)->description();
    return made;
}

ProofTally Proof::show(const uint8_t* art, uint8_t* out, size_t pixels, const ProofLook& look) const {
    ProofTally tally;
    std::vector<uint8_t> rgb(3 * kRun), raw(4 * kRun), ink(4 * kRun), seen(3 * kRun);
    for (size_t from = 0; from < pixels; from += kRun) {
        const size_t n = std::min(kRun, pixels - from);
        const uint8_t* in = art + 4 * from;
        uint8_t* to = out + 4 * from;
        for (size_t i = 0; i < n; ++i)
            for (size_t c = 0; c < 3; ++c) rgb[3 * i + c] = uint8_t(in[4 * i + 2 - c] + 255 - in[4 * i + 3]);
        impl_->press->convertFreely(rgb.data(), raw.data(), n);
        std::copy_n(raw.begin(), 4 * n, ink.begin());
        impl_->press->limit(ink.data(), n);
        run(look.paperWhite ? impl_->onPaper : impl_->onScreen, ink.data(), seen.data(), n);
        for (size_t i = 0; i < n; ++i) {
            uint8_t* pixel = to + 4 * i;
            if (in[4 * i + 3] == 0) {
                std::fill(pixel, pixel + 4, uint8_t(0));
                continue;
            }
            const bool isChanged = impl_->changeOf(&rgb[3 * i]) > kVisible,
                       isOver = impl_->isOver(&raw[4 * i]);
            ++tally.shown, tally.outOfGamut += isChanged, tally.overInk += isOver;
            tally.mostInk = std::max(tally.mostInk, inkOf(&raw[4 * i]) / 255.0);
            const uint8_t* colour = &seen[3 * i];
            uint8_t grey[3];
            if (look.plate != ProofPlate::All) {
                std::fill(grey, grey + 3, uint8_t(255 - ink[4 * i + size_t(look.plate) - 1]));
                colour = grey;
            }
            if (look.mark == ProofMark::Gamut && isChanged) colour = kGamutMark;
            if (look.mark == ProofMark::Ink && isOver) colour = kInkMark;
            pixel[0] = colour[2], pixel[1] = colour[1], pixel[2] = colour[0], pixel[3] = 255;
        }
    }
    return tally;
}

void layInk(const uint8_t* cover, uint8_t* shown, size_t pixels, const Rgba& ink) {
    const float takes[3] = {1 - ink.b, 1 - ink.g, 1 - ink.r}; // of the light that falls on it
    for (size_t i = 0; i < pixels; ++i, cover += 4, shown += 4)
        for (size_t c = 0; c < 3; ++c)
            shown[c] = uint8_t(std::lround(float(shown[c]) * (1 - takes[c] * float(cover[1]) / 255)));
}

void showInkAlone(const uint8_t* art, const uint8_t* cover, uint8_t* out, size_t pixels) {
    for (size_t i = 0; i < pixels; ++i, art += 4, cover += 4, out += 4) {
        const bool shows = art[3] > 0;
        std::fill(out, out + 3, uint8_t(shows ? 255 - cover[1] : 0));
        out[3] = shows ? 255 : 0;
    }
}

} // namespace glyptos
