// Light in stops, then contrast about a middle that stays.
//
// Light multiplies linear light by 2^stops. Contrast bends the encoded tone by Schlick's gain on either side
// of the middle m, as a power: below m · (v / m)^g, above 1 - (1 - m) · ((1 - v) / (1 - m))^g, g = 2^(2c)
// (C. Schlick, "Fast Alternatives to Perlin's Bias and Gain Functions", Graphics Gems IV, 1994, in the form
// of a power): black, white and the middle keep their place.

#include "base/srgb_curve.h"
#include "color/oklab.h"
#include "treat/grades/by_picture.h"
#include "treat/grades/channel_tables.h"
#include "treat/vector_math.h"

namespace glyptos {
namespace {

enum { Light, Contrast, Middle };
constexpr Figure kFigures[]{
    {"light", "Light", FigureKind::Number, FigureUnit::Stops, -8, 8, 0},
    share("contrast", "Contrast", 0, -1, 1),
    share("middle", "Middle", 0.46, 0.02, 0.98),
};

ColourOp lightContrast(const Figures& f, const Place&) {
    const double light = f.number(Light), contrast = f.number(Contrast), m = f.number(Middle);
    if (light == 0 && contrast == 0) return {};
    const double factor = std::exp2(light), gain = std::exp2(2 * contrast);
    const auto tone = [=](double v) {
        if (light != 0) {
            v = encodedSrgb(std::min(decodedSrgb(v) * factor, 1.0));
        }
        return v < m ? m * std::pow(v / m, gain) : 1 - (1 - m) * std::pow((1 - v) / (1 - m), gain);
    };
    return lookUp(toneTable(tone));
}

/// As many stops as bring the middle of the picture half way to that of the range, and contrast about where
/// it is then, half way to where nine tenths of it fill nine tenths of the range.
void lightByPicture(Figures& f, std::span<const Rgba> colours) {
    constexpr double kMost = 4, kEnds = 0.05;
    const std::vector<double> luma = sortedLuma(colours);
    if (luma.empty()) return;
    const double middle = std::max<double>(linearFromEncoded(float(quantile(luma, 0.5))), 1e-4);
    const double wanted = linearFromEncoded(float(kFigures[Middle].standard));
    const double light = std::clamp(0.5 * std::log2(wanted / middle), -kMost, kMost);
    f.set(Light, light);
    f.set(Middle, std::clamp<double>(rows::toEncoded(float(middle * std::exp2(light))), 0.02, 0.98));
    const double width = std::max(quantile(luma, 1 - kEnds) - quantile(luma, kEnds), 0.05);
    f.set(Contrast, std::clamp(0.25 * std::log2((1 - 2 * kEnds) / width), -0.5, 0.5));
}

} // namespace

extern const TreatmentKind kLightContrast{.id = "light-contrast",
                                          .title = "Light and contrast",
                                          .family = TreatmentFamily::Grade,
                                          .figures = kFigures,
                                          .colour = lightContrast,
                                          .byPicture = lightByPicture};

} // namespace glyptos
