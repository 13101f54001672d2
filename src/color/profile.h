// ICC profiles and conversions between them (Little CMS 2).
#pragma once

#include "base/error.h"
#include "color/color.h"

#include <cstddef>
#include <cstdint>
#include <memory>
#include <span>
#include <string>
#include <vector>

namespace glyptos {

class InkTable; // ink_table.h

using Bytes = std::vector<uint8_t>;

/// What the samples of a decoded picture mean, before conversion. CMYK is 0 = no ink; files that store it the
/// other way round are turned by the decoder.
enum class SampleSpace { Gray, Rgb, Cmyk };

constexpr int channelsOf(SampleSpace space) {
    return space == SampleSpace::Gray ? 1 : space == SampleSpace::Rgb ? 3 : 4;
}

/// The bytes of a compact sRGB profile, to embed in what is exported. The same bytes on every call.
const Bytes& srgbProfileBytes();

/// Turns rows of straight samples into straight sRGB.
class ToWorkingSpace {
  public:
    /// Conversion from the embedded `profile` (empty: sRGB, grey of sRGB's curve, or plain ink mixing for
    /// CMYK), samples of 8 or 16 bits, to sRGB of as many. Relative colorimetric with black point
    /// compensation. An unreadable profile, or one for another kind of samples, is as good as none:
    /// `profileIgnored()` tells.
    ToWorkingSpace(SampleSpace space, bool sixteenBit, std::span<const uint8_t> profile,
                   std::span<const uint8_t> pressProfile);
    ~ToWorkingSpace();
    ToWorkingSpace(const ToWorkingSpace&) = delete;
    ToWorkingSpace& operator=(const ToWorkingSpace&) = delete;

    bool profileIgnored() const { return ignored_; }
    /// True when samples come out as they went in.
    bool isIdentity() const { return !transform_ && space_ == SampleSpace::Rgb; }
    /// `in`: pixels × channels samples; `out`: pixels × 3 samples. May be called from several threads.
    void convert(const void* in, void* out, size_t pixels) const;

  private:
    void* transform_ = nullptr;
    SampleSpace space_;
    bool sixteen_ = false;
    bool ignored_ = false;
};

/// How colours that the press does not have are brought into what it has (ICC.1, 6.1).
enum class RenderingIntent : unsigned char { Perceptual, Relative, Saturation, Absolute };
inline constexpr const char* kRenderingIntentIds[] = {"perceptual", "relative", "saturation", "absolute"};

struct PressLook {
    RenderingIntent intent = RenderingIntent::Relative;
    bool blackPoint = true; ///< the darkest colours become the press's darkest; has no part in Absolute
};

/// sRGB to the inks of a press profile, under a total ink limit.
class ToPress {
  public:
    /// Fails when the profile is not a CMYK output profile.
    [[nodiscard]] static Result<std::shared_ptr<const ToPress>>
    create(std::span<const uint8_t> profile, double inkLimit, const PressLook& look = {});
    ~ToPress();
    ToPress(const ToPress&) = delete;
    ToPress& operator=(const ToPress&) = delete;

    /// `rgb`: pixels × 3 bytes, sRGB; `cmyk`: pixels × 4 bytes, 255 = full ink; their sum never exceeds the
    /// limit.
    void convert(const uint8_t* rgb, uint8_t* cmyk, size_t pixels) const;
    /// The two halves of that: inks without a limit, and what of them is over it taken back.
    void convertFreely(const uint8_t* rgb, uint8_t* cmyk, size_t pixels) const;
    void limit(uint8_t* cmyk, size_t pixels) const;
    /// One colour. Pure black (0, 0, 0) becomes black ink only, as small type must.
    Cmyk convertSolid(const Rgba& colour) const;
    const std::string& description() const { return description_; }

  private:
    ToPress() = default;
    std::unique_ptr<const InkTable> table_;
    double inkLimit_ = 3.3;
    std::string description_;
};

} // namespace glyptos
