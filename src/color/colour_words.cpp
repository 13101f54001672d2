#include "color/colour_words.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace glyptos {
namespace {

constexpr double kGreyChroma = 0.03, kTintChroma = 0.012;

struct HueWord {
    double upTo; ///< degrees
    const char* word;
};
constexpr std::array kHues{
    HueWord{13, "rose"},       HueWord{35, "red"},        HueWord{52, "vermilion"}, HueWord{72, "orange"},
    HueWord{90, "amber"},      HueWord{112, "yellow"},    HueWord{130, "lime"},     HueWord{155, "green"},
    HueWord{178, "sea green"}, HueWord{205, "verdigris"}, HueWord{230, "cyan"},     HueWord{272, "blue"},
    HueWord{292, "indigo"},    HueWord{318, "violet"},    HueWord{342, "plum"},     HueWord{360.001, "rose"}};

const char* hueWord(double h) {
    return std::find_if(kHues.begin(), kHues.end(), [&](const HueWord& w) { return h < w.upTo; })->word;
}

const char* lightnessWord(double L) {
    return L < 0.27 ? "very dark " : L < 0.42 ? "dark " : L > 0.93 ? "very pale " : L > 0.82 ? "pale " : "";
}

std::string greyName(const Oklch& c) {
    if (c.L < 0.2) return "black";
    if (c.L > 0.975) return "white";
    const bool warm = c.h > 20 && c.h < 120;
    return std::string(lightnessWord(c.L)) + (c.C < kTintChroma ? "" : warm ? "warm " : "cool ") + "grey";
}

bool isBrown(const Oklch& c) {
    return c.h > 25 && c.h < 105 && c.L < 0.58 && c.C < 0.14;
}

double luminance(const Rgba& c) {
    return 0.2126 * double(linearFromEncoded(c.r)) + 0.7152 * double(linearFromEncoded(c.g)) +
           0.0722 * double(linearFromEncoded(c.b));
}

} // namespace

const char* nameOf(ColourFamily family) {
    constexpr const char* kNames[] = {"Red",    "Orange", "Yellow", "Green", "Teal", "Blue",
                                      "Violet", "Pink",   "Brown",  "Black", "Grey", "White"};
    return kNames[size_t(family)];
}

ColourFamily familyOf(const Oklab& colour) {
    const Oklch c = toOklch(colour);
    if (c.L < 0.2) return ColourFamily::Black;
    if (c.C < kGreyChroma) return c.L > 0.92 ? ColourFamily::White : ColourFamily::Grey;
    if (isBrown(c)) return ColourFamily::Brown;
    if (c.h < 10 || c.h >= 340) return c.L > 0.55 ? ColourFamily::Pink : ColourFamily::Red;
    if (c.h < 42) return c.L > 0.78 ? ColourFamily::Pink : ColourFamily::Red;
    if (c.h < 80) return ColourFamily::Orange;
    if (c.h < 118) return ColourFamily::Yellow;
    if (c.h < 165) return ColourFamily::Green;
    if (c.h < 225) return ColourFamily::Teal;
    if (c.h < 280) return ColourFamily::Blue;
    return ColourFamily::Violet;
}

std::string nameOf(const Rgba& colour) {
    const Oklch c = toOklch(toOklab(colour));
    if (c.C < kGreyChroma || c.L < 0.12) return greyName(c);
    const double room = toOklch(toOklab(shownAs({c.L, 0.4, c.h}))).C; // the most chroma there is
    const double share = c.C / std::max(room, 1e-6);
    const char* strength = share > 0.85 && c.C > 0.1 ? "vivid " : share < 0.3 ? "dull " : "";
    return lightnessWord(c.L) + std::string(strength) + (isBrown(c) ? "brown" : hueWord(c.h));
}

std::vector<Harmony> harmoniesOf(const Rgba& colour) {
    const Oklch c = toOklch(toOklab(colour));
    const auto turned = [&](double degrees) { return shownAs({c.L, c.C, std::fmod(c.h + degrees, 360)}); };
    const auto set = [&](const char* name, std::initializer_list<double> turns) {
        Harmony out{name, {colour}};
        for (const double turn : turns) out.colours.push_back(turned(turn));
        return out;
    };
    std::vector<Harmony> out{set("Opposite", {180}), set("Beside the opposite", {150, 210}),
                             set("Neighbours", {330, 30}), set("Three round", {120, 240}),
                             set("Four round", {90, 180, 270})};
    Harmony steps{"Dark to light", {colour}};
    for (const double L : {0.25, 0.42, 0.6, 0.78, 0.93}) steps.colours.push_back(shownAs({L, c.C, c.h}));
    out.push_back(std::move(steps));
    return out;
}

double contrastRatio(const Rgba& a, const Rgba& b) {
    const double x = luminance(a) + 0.05, y = luminance(b) + 0.05;
    return std::max(x, y) / std::min(x, y);
}

const char* contrastGrade(double ratio) {
    return ratio >= 7 ? "AAA" : ratio >= 4.5 ? "AA" : ratio >= 3 ? "AA large" : "too low";
}

} // namespace glyptos
