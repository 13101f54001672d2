#include "scene/pack/bodies.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <numeric>

namespace glyptos {
namespace {

constexpr double kPi = std::numbers::pi;

/// A square or upright picture, worked out pixel by pixel: `at` gives colour and cover at a place from its
/// middle, in mm.
struct Painted {
    Rgb colour;
    double cover = 1; ///< 0…1
};
template <class At>
std::shared_ptr<const SurfacePicture> painted(double wide, double high, double pxPerMm, At at) {
    const int w = std::max(1, int(std::lround(wide * pxPerMm))),
              h = std::max(1, int(std::lround(high * pxPerMm)));
    Buffer<uint8_t> bytes(size_t(w) * size_t(h) * 4);
    for (int y = 0; y < h; ++y)
        for (int x = 0; x < w; ++x) {
            const Painted p = at(Vec2{(x + 0.5) * wide / w - wide / 2, (y + 0.5) * high / h - high / 2});
            uint8_t* to = bytes.data() + (size_t(y) * size_t(w) + size_t(x)) * 4;
            for (size_t c = 0; c < 3; ++c)
                to[c] = uint8_t(std::lround(std::clamp(p.colour[2 - c], 0.0F, 1.0F) * 255));
            to[3] = uint8_t(std::lround(std::clamp(p.cover, 0.0, 1.0) * 255));
        }
    return std::make_shared<const SurfacePicture>(std::move(bytes), w, h);
}

Rgb grey(double level) {
    const auto v = float(level);
    return {v, v, v};
}

/// 1 inside of a circle and 0 outside, over a pixel.
double within(double radius, double edge, double pxPerMm) {
    return std::clamp((edge - radius) * pxPerMm + 0.5, 0.0, 1.0);
}

constexpr Rgb kClear{0.93F, 0.96F, 0.97F}, kClearAtEdge{0.60F, 0.67F, 0.70F};
constexpr float kClearFace = 0.10F, kClearEdge = 0.42F;

/// Bands along the edges of a side of clear plastic.
void addEdges(std::vector<Facet>& body, const Facet& side) {
    constexpr double kBand = 1.1; // mm
    const double across = std::min(0.5, kBand / side.right.length()),
                 along = std::min(0.5, kBand / side.down.length());
    const auto band = [&](double s, double t, double w, double h) {
        Facet out = side;
        out.corner = side.corner + side.right * s + side.down * t;
        out.right = side.right * w, out.down = side.down * h;
        out.colour = kClearAtEdge, out.opacity = kClearEdge;
        body.push_back(out);
    };
    band(0, 0, 1, along), band(0, 1 - along, 1, along);
    band(0, along, across, 1 - 2 * along), band(1 - across, along, across, 1 - 2 * along);
}

/// How a turned or pressed surface glints: two opposite wedges of light.
double glint(Vec2 p, double degrees) {
    const double angle = std::atan2(p.y, p.x) - degrees * kPi / 180;
    return std::pow(std::abs(std::cos(angle)), 14);
}

} // namespace

void addPane(std::vector<Facet>& body, const Pane& p) {
    Facet face = pictured(p.middle, p.right, p.down, nullptr);
    face.colour = p.colour, face.opacity = p.opacity;
    Facet back = pictured(p.middle, p.right * -1, p.down, nullptr);
    back.colour = p.colour, back.opacity = p.opacity;
    body.push_back(face), body.push_back(back);
}

Facet pictured(const Vec3& middle, const Vec3& right, const Vec3& down, const SurfacePicture* picture) {
    Facet out;
    out.corner = middle - (right + down) * 0.5;
    out.right = right, out.down = down, out.picture = picture;
    return out;
}

void addBox(std::vector<Facet>& body, const Box& box) {
    const Vec3 size = box.most - box.least, middle = (box.most + box.least) * 0.5;
    const Vec3 x{size.x, 0, 0}, y{0, size.y, 0}, z{0, 0, size.z};
    // Each is seen from outside: right × down leads outwards.
    const std::array<std::array<Vec3, 3>, 6> sides{{{x * -0.5, y, z * -1},
                                                    {x * 0.5, y, z},
                                                    {y * -0.5, x * -1, z * -1},
                                                    {y * 0.5, x, z * -1},
                                                    {z * -0.5, x * -1, y},
                                                    {z * 0.5, x, y}}};
    for (size_t i = 0; i < sides.size(); ++i) {
        if (box.without[i]) continue;
        const auto& [off, right, down] = sides[i];
        Vec3 across = right;
        if (right.cross(down).dot(off) < 0) across = right * -1;
        Facet side = pictured(middle + off, across, down, nullptr);
        side.colour = box.colour, side.opacity = box.opacity;
        body.push_back(side);
    }
}

void addClearBox(std::vector<Facet>& body, const Box& box) {
    Box clear = box;
    clear.colour = kClear, clear.opacity = kClearFace;
    std::vector<Facet> sides;
    addBox(sides, clear);
    for (const Facet& side : sides) {
        body.push_back(side);
        addEdges(body, side);
        // The plastic is seen from within as well.
        Facet within = side;
        within.corner = side.corner + side.right, within.right = side.right * -1;
        body.push_back(within);
        addEdges(body, within);
    }
}

void addRim(std::vector<Facet>& body, double diameter, double top, double bottom, const Rgb& colour) {
    constexpr int kSides = 72;
    const auto at = [&](int i) {
        const double angle = 2 * kPi * i / kSides;
        return Vec3{std::cos(angle) * diameter / 2, std::sin(angle) * diameter / 2, top};
    };
    for (int i = 0; i < kSides; ++i) {
        Facet side;
        side.corner = at(i + 1), side.right = at(i) - at(i + 1), side.down = {0, 0, bottom - top};
        if (side.right.cross(side.down).dot(at(i)) < 0) side.corner = at(i), side.right = side.right * -1;
        side.colour = colour;
        body.push_back(side);
    }
}

std::vector<double> trackEnds(const std::vector<int>& seconds) {
    const double all = std::accumulate(seconds.begin(), seconds.end(), 0.0);
    std::vector<double> out;
    double played = 0;
    for (size_t i = 0; i + 1 < seconds.size() && all > 0; ++i) out.push_back((played += seconds[i]) / all);
    return out;
}

std::shared_ptr<const SurfacePicture> vinyl(double diameter, double label, double hole,
                                            const std::vector<double>& ends) {
    constexpr double kPxPerMm = 4, kRunIn = 3, kRunOut = 9, kBand = 0.9;
    const double outer = diameter / 2 - kRunIn, inner = label / 2 + kRunOut;
    return painted(diameter, diameter, kPxPerMm, [&](Vec2 p) {
        const double r = p.length();
        const double cover = within(r, diameter / 2, kPxPerMm) - within(r, hole / 2, kPxPerMm);
        const double share = (outer - r) / (outer - inner);
        double level = 0.075;
        const bool grooved = share >= 0 && share <= 1;
        const bool smooth = std::any_of(ends.begin(), ends.end(), [&](double end) {
            return std::abs(end - share) * (outer - inner) < kBand / 2;
        });
        if (grooved && !smooth) // louder and softer passages show in the pressing
            level = 0.085 + 0.012 * std::sin(r * 9.1) * std::sin(r * 1.7 + 2 * std::sin(r * 0.43));
        const double gloss = grooved && !smooth ? 0.20 : 0.13;
        return Painted{grey(level + gloss * (glint(p, 35) + 0.6 * glint(p, 118))), cover};
    });
}

std::shared_ptr<const SurfacePicture> opticalDisc(bool printed) {
    constexpr double kPxPerMm = 5, kHub = 36, kMirror = 46;
    return painted(kDisc, kDisc, kPxPerMm, [&](Vec2 p) {
        const double r = p.length();
        const double cover = within(r, kDisc / 2, kPxPerMm) - within(r, kDiscHole / 2, kPxPerMm);
        if (r < kHub / 2) return Painted{{0.80F, 0.81F, 0.82F}, cover};
        if (r < kMirror / 2 || r > kDisc / 2 - 1) return Painted{grey(0.70), cover};
        const double shine = 0.14 * glint(p, 40) + 0.10 * glint(p, 128);
        if (printed) return Painted{grey(0.76 + shine), cover};
        // The read side spreads light into its colours along two wedges.
        const double hue = std::atan2(p.y, p.x) * 6, strength = 0.16 * (glint(p, 70) + glint(p, 150)) + 0.02;
        const auto wave = [&](double at) { return float(0.70 + shine + strength * std::cos(hue - at)); };
        return Painted{{wave(0), wave(2.1), wave(4.2)}, cover};
    });
}

std::shared_ptr<const SurfacePicture> cassetteShell() {
    constexpr double kPxPerMm = 8, kHubs = 42.5, kHub = 11, kTooth = 1.4, kReel = 46;
    return painted(kShellWide, kShellHigh, kPxPerMm, [&](Vec2 p) {
        constexpr Rgb kBody{0.20F, 0.21F, 0.23F}, kTape{0.24F, 0.17F, 0.13F}, kInside{0.34F, 0.36F, 0.38F};
        // The hubs lie a little above the middle.
        constexpr double kAxis = -2.5, kWindowWide = 46, kWindowHigh = 15;
        const double dy = p.y - kAxis;
        for (const double side : {-1.0, 1.0}) {
            const Vec2 from{p.x - side * kHubs / 2, dy};
            const double r = from.length();
            const double teeth = std::cos(std::atan2(from.y, from.x) * 6) > 0.75 ? kTooth : 0;
            if (r < kHub / 2 - teeth) return Painted{grey(0.08)};
            if (r < kHub / 2 + 1.2) return Painted{grey(0.90)};
            const bool window = std::abs(p.x) < kWindowWide / 2 && std::abs(dy) < kWindowHigh / 2;
            if (window && r < kReel / 2 && side < 0) return Painted{kTape}; // wound on the left at first
        }
        if (std::abs(p.x) < kWindowWide / 2 && std::abs(dy) < kWindowHigh / 2) return Painted{kInside};
        // The thicker part round the heads, a trapezoid at the lower edge.
        const double up = kShellHigh / 2 - p.y;
        const bool thick = up < 16 && std::abs(p.x) < 36 - up * 0.25;
        return Painted{thick ? Rgb{0.25F, 0.26F, 0.28F} : kBody};
    });
}

} // namespace glyptos
