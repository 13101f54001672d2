#include "color/profile.h"

#include "color/ink_table.h"
#include "color/lcms_profile.h"

#include <cmath>
#include <cstring>

namespace glyptos {
namespace {

cmsUInt32Number format(SampleSpace space, bool sixteen) {
    switch (space) {
    case SampleSpace::Gray:
        return sixteen ? TYPE_GRAY_16 : TYPE_GRAY_8;
    case SampleSpace::Rgb:
        return sixteen ? TYPE_RGB_16 : TYPE_RGB_8;
    default:
        return sixteen ? TYPE_CMYK_16 : TYPE_CMYK_8;
    }
}

cmsColorSpaceSignature signature(SampleSpace space) {
    return space == SampleSpace::Gray  ? cmsSigGrayData
           : space == SampleSpace::Rgb ? cmsSigRgbData
                                       : cmsSigCmykData;
}

ProfilePtr grayOfSrgb() {
    // The curve of IEC 61966-2-1 in ICC parametric form, type 4.
    const double parameters[] = {2.4, 1 / 1.055, 0.055 / 1.055, 1 / 12.92, 0.04045};
    cmsToneCurve* curve = cmsBuildParametricToneCurve(nullptr, 4, parameters);
    ProfilePtr profile(cmsCreateGrayProfile(cmsD50_xyY(), curve));
    cmsFreeToneCurve(curve);
    return profile;
}

/// Inks as filters over white light, for when there is no profile to go by: R = (1 - C)·(1 - K).
template <class T>
void mixInks(const T* cmyk, T* rgb, size_t pixels) {
    constexpr uint64_t full = T(~T(0));
    for (size_t i = 0; i < pixels; ++i)
        for (size_t c = 0; c < 3; ++c)
            rgb[3 * i + c] = static_cast<T>((full - cmyk[4 * i + c]) * (full - cmyk[4 * i + 3]) / full);
}

} // namespace

const Bytes& srgbProfileBytes() {
    static const Bytes bytes = [] {
        const ProfilePtr profile(cmsCreate_sRGBProfile());
        cmsUInt32Number size = 0;
        cmsSaveProfileToMem(profile.get(), nullptr, &size);
        Bytes out(size);
        cmsSaveProfileToMem(profile.get(), out.data(), &size);
        // The header's creation date and time (ICC.1:2022, 7.2.8), fixed so that exports repeat to the byte.
        const uint8_t date[12] = {0x07, 0xd0, 0, 1, 0, 1, 0, 0, 0, 0, 0, 0};
        if (out.size() > 36) std::memcpy(out.data() + 24, date, sizeof date);
        return out;
    }();
    return bytes;
}

ToWorkingSpace::ToWorkingSpace(SampleSpace space, bool sixteenBit, std::span<const uint8_t> profile,
                               std::span<const uint8_t> pressProfile)
    : space_(space)
    , sixteen_(sixteenBit) {
    ProfilePtr from = openProfile(profile);
    if (from && cmsGetColorSpace(from.get()) != signature(space)) from = nullptr;
    ignored_ = !profile.empty() && !from;
    if (!from && space == SampleSpace::Rgb) return;
    if (!from && space == SampleSpace::Gray) from = grayOfSrgb();
    if (!from) from = openProfile(pressProfile);
    if (!from) return;
    const ProfilePtr to(cmsCreate_sRGBProfile());
    const cmsUInt32Number out = sixteenBit ? TYPE_RGB_16 : TYPE_RGB_8;
    transform_ =
        cmsCreateTransform(from.get(), format(space, sixteenBit), to.get(), out, INTENT_RELATIVE_COLORIMETRIC,
                           cmsFLAGS_BLACKPOINTCOMPENSATION | cmsFLAGS_NOCACHE);
    ignored_ = ignored_ || !transform_;
}

ToWorkingSpace::~ToWorkingSpace() {
    if (transform_) cmsDeleteTransform(transform_);
}

void ToWorkingSpace::convert(const void* in, void* out, size_t pixels) const {
    if (transform_)
        cmsDoTransform(transform_, in, out, static_cast<cmsUInt32Number>(pixels));
    else if (space_ == SampleSpace::Rgb)
        std::memcpy(out, in, pixels * 3 * (sixteen_ ? 2 : 1));
    else if (sixteen_)
        mixInks(static_cast<const uint16_t*>(in), static_cast<uint16_t*>(out), pixels);
    else
        mixInks(static_cast<const uint8_t*>(in), static_cast<uint8_t*>(out), pixels);
}

static_assert(int(RenderingIntent::Perceptual) == INTENT_PERCEPTUAL &&
              int(RenderingIntent::Absolute) == INTENT_ABSOLUTE_COLORIMETRIC);

Result<std::shared_ptr<const ToPress>> ToPress::create(std::span<const uint8_t> profile, double inkLimit,
                                                       const PressLook& look) {
    const ProfilePtr press = openProfile(profile);
    if (!press || cmsGetColorSpace(press.get()) != cmsSigCmykData)
        return fail(Fault::Damaged,
                    "The press profile is not a CMYK profile; nothing was written. Choose another profile.");
    std::shared_ptr<ToPress> made(new ToPress);
    const ProfilePtr srgb(cmsCreate_sRGBProfile());
    const std::unique_ptr<void, void (*)(void*)> transform(
        cmsCreateTransform(srgb.get(), TYPE_RGB_16, press.get(), TYPE_CMYK_16, cmsUInt32Number(look.intent),
                           (look.blackPoint ? cmsFLAGS_BLACKPOINTCOMPENSATION : 0) | cmsFLAGS_NOCACHE |
                               cmsFLAGS_NOOPTIMIZE),
        [](void* t) {
            if (t) cmsDeleteTransform(t);
        });
    if (!transform)
        return fail(
            Fault::Damaged,
            "The press profile cannot be used for output; nothing was written. Choose another profile.");
    char text[256] = "CMYK";
    cmsGetProfileInfoASCII(press.get(), cmsInfoDescription, "en", "US", text, sizeof text);
    made->table_ = std::make_unique<const InkTable>([&](const uint16_t* rgb, uint16_t* cmyk, size_t count) {
        cmsDoTransform(transform.get(), rgb, cmyk, cmsUInt32Number(count));
    });
    made->inkLimit_ = inkLimit;
    made->description_ = text;
    return made;
}

ToPress::~ToPress() = default;

void ToPress::convert(const uint8_t* rgb, uint8_t* cmyk, size_t pixels) const {
    convertFreely(rgb, cmyk, pixels);
    limit(cmyk, pixels);
}

void ToPress::convertFreely(const uint8_t* rgb, uint8_t* cmyk, size_t pixels) const {
    table_->convert(rgb, cmyk, pixels);
}

void ToPress::limit(uint8_t* cmyk, size_t pixels) const {
    const int limit = static_cast<int>(std::floor(inkLimit_ * 255));
    for (size_t i = 0; i < pixels; ++i) {
        uint8_t* p = cmyk + 4 * i;
        const int colours = p[0] + p[1] + p[2];
        if (colours + p[3] <= limit) continue;
        const int room = std::max(0, limit - p[3]);
        for (int c = 0; c < 3; ++c) p[c] = static_cast<uint8_t>(p[c] * room / colours);
    }
}

Cmyk ToPress::convertSolid(const Rgba& colour) const {
    if (colour.r == 0 && colour.g == 0 && colour.b == 0) return {0, 0, 0, 1};
    const auto byte = [](float v) { return static_cast<uint8_t>(std::lround(v * 255)); };
    const uint8_t rgb[3] = {byte(colour.r), byte(colour.g), byte(colour.b)};
    uint8_t ink[4];
    convert(rgb, ink, 1);
    return {ink[0] / 255.0, ink[1] / 255.0, ink[2] / 255.0, ink[3] / 255.0};
}

} // namespace glyptos
