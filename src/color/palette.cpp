#include "color/palette.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <tbb/blocked_range.h>
#include <tbb/enumerable_thread_specific.h>
#include <tbb/parallel_for.h>

namespace glyptos {
namespace {

constexpr size_t kBoxes = size_t(32) * 32 * 32;
constexpr float kAlike = 0.045f; // colours closer than this are one
constexpr int kRounds = 24;

/// Sums of one thread; whole numbers are quick and exact.
struct Sums {
    struct Box {
        uint64_t weight = 0, r = 0, g = 0, b = 0;
    };
    std::vector<Box> boxes = std::vector<Box>(kBoxes);
};

constexpr size_t boxOf(uint32_t r, uint32_t g, uint32_t b) {
    return (r >> 3) << 10 | (g >> 3) << 5 | b >> 3;
}

/// Premultiplied samples of 8 or 16 bits, as straight ones of 8.
template <class T>
void countRow(const T* p, int width, Sums& sums) {
    for (int x = 0; x < width; ++x, p += 4) {
        uint32_t r = p[0], g = p[1], b = p[2];
        const uint32_t a = p[3];
        if constexpr (sizeof(T) == 2) r >>= 8, g >>= 8, b >>= 8;
        const uint32_t alpha = sizeof(T) == 1 ? a : a >> 8;
        Sums::Box& box = sums.boxes[boxOf(r, g, b)];
        box.weight += alpha;
        box.r += uint64_t(r) * alpha, box.g += uint64_t(g) * alpha, box.b += uint64_t(b) * alpha;
    }
}

/// What is clustered.
struct Spot {
    Oklab at;
    double weight = 0, root = 0; ///< and its square root
    size_t group = 0;
};

std::vector<Spot> spotsOf(const ColourCount& count) {
    std::vector<Spot> out;
    for (const ColourCount::Box& box : count.boxes())
        out.push_back({toOklab(Rgba{float(box.r / box.weight), float(box.g / box.weight),
                                    float(box.b / box.weight), 1}),
                       box.weight, std::sqrt(box.weight), 0});
    return out;
}

size_t nearest(const std::vector<Oklab>& middles, const Oklab& colour) {
    size_t best = 0;
    float least = squaredDistance(middles[0], colour);
    for (size_t i = 1; i < middles.size(); ++i)
        if (const float d = squaredDistance(middles[i], colour); d < least) best = i, least = d;
    return best;
}

std::vector<Oklab> firstMiddles(const std::vector<Spot>& spots, int most) {
    std::vector<Oklab> out;
    std::vector<float> far(spots.size(), 1); // squares of the distance to the nearest so far
    while (int(out.size()) < most) {
        size_t best = 0;
        double bestWorth = 0;
        for (size_t i = 0; i < spots.size(); ++i)
            if (const double worth = spots[i].root * double(far[i]); worth > bestWorth)
                best = i, bestWorth = worth;
        if (bestWorth <= 0) break;
        out.push_back(spots[best].at);
        for (size_t i = 0; i < spots.size(); ++i)
            far[i] = std::min(far[i], squaredDistance(spots[i].at, out.back()));
    }
    return out;
}

struct Group {
    double L = 0, a = 0, b = 0, weight = 0;
    Oklab middle() const { return {float(L / weight), float(a / weight), float(b / weight)}; }
    void add(const Oklab& c, double w) { L += c.L * w, a += c.a * w, b += c.b * w, weight += w; }
};

std::vector<Group> gathered(std::vector<Spot>& spots, std::vector<Oklab> middles) {
    std::vector<Group> groups;
    for (int round = 0; round < kRounds; ++round) {
        groups.assign(middles.size(), {});
        bool moved = round == 0;
        for (Spot& spot : spots) {
            const size_t group = nearest(middles, spot.at);
            moved |= group != std::exchange(spot.group, group);
            groups[group].add(spot.at, spot.weight);
        }
        if (!moved) break;
        std::erase_if(groups, [](const Group& g) { return g.weight <= 0; });
        middles.clear();
        for (const Group& g : groups) middles.push_back(g.middle());
    }
    std::erase_if(groups, [](const Group& g) { return g.weight <= 0; });
    return groups;
}

/// The two that look most alike become one, until no two look alike.
void joinAlike(std::vector<Group>& groups) {
    for (;;) {
        size_t first = 0, second = 0;
        float least = kAlike;
        for (size_t i = 0; i < groups.size(); ++i)
            for (size_t j = i + 1; j < groups.size(); ++j)
                if (const float d = distance(groups[i].middle(), groups[j].middle()); d < least)
                    least = d, first = i, second = j;
        if (first == second) return;
        groups[first].add(groups[second].middle(), groups[second].weight);
        groups.erase(groups.begin() + ptrdiff_t(second));
    }
}

} // namespace

ColourCount::ColourCount()
    : boxes_(kBoxes) {}

void ColourCount::add(const Picture& picture) {
    tbb::enumerable_thread_specific<Sums> sums;
    tbb::parallel_for(tbb::blocked_range<int>(0, picture.height, 64), [&](const auto& rows) {
        Sums& mine = sums.local();
        for (int y = rows.begin(); y < rows.end(); ++y)
            picture.is16() ? countRow(picture.row<uint16_t>(y), picture.width, mine)
                           : countRow(picture.row<uint8_t>(y), picture.width, mine);
    });
    for (const Sums& part : sums)
        for (size_t i = 0; i < kBoxes; ++i) {
            const Sums::Box& box = part.boxes[i];
            if (box.weight == 0) continue;
            boxes_[i].weight += double(box.weight) / 255;
            boxes_[i].r += double(box.r) / (255 * 255);
            boxes_[i].g += double(box.g) / (255 * 255);
            boxes_[i].b += double(box.b) / (255 * 255);
            total_ += double(box.weight) / 255;
        }
}

void ColourCount::add(const ColourCount& other, double weight) {
    if (other.total_ <= 0) return;
    const double k = weight > 0 ? weight / other.total_ : 1;
    for (size_t i = 0; i < kBoxes; ++i) {
        const Box& box = other.boxes_[i];
        boxes_[i].weight += box.weight * k;
        boxes_[i].r += box.r * k, boxes_[i].g += box.g * k, boxes_[i].b += box.b * k;
    }
    total_ += other.total_ * k;
}

std::vector<ColourCount::Box> ColourCount::boxes() const {
    std::vector<Box> out;
    std::copy_if(boxes_.begin(), boxes_.end(), std::back_inserter(out),
                 [](const Box& box) { return box.weight > 0; });
    return out;
}

namespace {

/// `total`: the weight of all spots.
std::vector<PaletteColour> clustered(std::vector<Spot> spots, double total, int most) {
    if (spots.empty() || most < 1) return {};
    std::vector<Group> groups = gathered(spots, firstMiddles(spots, most));
    joinAlike(groups);
    std::sort(groups.begin(), groups.end(),
              [](const Group& a, const Group& b) { return a.middle().L < b.middle().L; });
    std::vector<PaletteColour> out;
    out.reserve(groups.size());
    for (const Group& group : groups) out.push_back({shownAs(toOklch(group.middle())), group.weight / total});
    return out;
}

} // namespace

std::vector<PaletteColour> paletteOf(const ColourCount& count, int most) {
    return clustered(spotsOf(count), count.total(), most);
}

std::vector<PaletteColour> joinedPalette(const std::vector<std::vector<PaletteColour>>& palettes, int most) {
    if (palettes.size() == 1) return palettes.front();
    std::vector<Spot> spots;
    double total = 0;
    for (const auto& palette : palettes)
        for (const PaletteColour& c : palette) {
            spots.push_back({toOklab(c.colour), c.share, std::sqrt(c.share), 0});
            total += c.share;
        }
    return clustered(std::move(spots), total, most);
}

std::vector<PaletteColour> paletteOf(const Pyramid& picture, int most, size_t mostPixels) {
    int level = picture.firstLevel();
    while (level + 1 < picture.levels() &&
           size_t(picture.level(level).width) * size_t(picture.level(level).height) > mostPixels)
        ++level;
    ColourCount count;
    count.add(picture.level(level));
    return paletteOf(count, most);
}

double distance(const std::vector<PaletteSpot>& a, const std::vector<PaletteSpot>& b) {
    constexpr size_t kMost = 8;
    struct Way {
        float length;
        uint8_t from, to;
    };
    std::array<Way, kMost * kMost> ways;
    std::array<float, kMost> left{}, room{};
    const size_t m = std::min(a.size(), kMost), n = std::min(b.size(), kMost);
    if (m == 0 || n == 0) return m == n ? 0 : 1;
    size_t count = 0;
    for (size_t i = 0; i < m; ++i) {
        left[i] = a[i].share;
        for (size_t j = 0; j < n; ++j)
            ways[count++] = {distance(a[i].colour, b[j].colour), uint8_t(i), uint8_t(j)};
    }
    for (size_t j = 0; j < n; ++j) room[j] = b[j].share;
    std::sort(ways.begin(), ways.begin() + ptrdiff_t(count),
              [](const Way& x, const Way& y) { return x.length < y.length; });
    double sum = 0;
    for (size_t i = 0; i < count; ++i) {
        const float carried = std::min(left[ways[i].from], room[ways[i].to]);
        left[ways[i].from] -= carried, room[ways[i].to] -= carried;
        sum += double(carried) * double(ways[i].length);
    }
    return sum;
}

double distance(const std::vector<PaletteColour>& a, const std::vector<PaletteColour>& b) {
    const auto spots = [](const std::vector<PaletteColour>& palette) {
        std::vector<PaletteSpot> out;
        out.reserve(palette.size());
        for (const PaletteColour& c : palette) out.push_back({toOklab(c.colour), float(c.share)});
        return out;
    };
    return distance(spots(a), spots(b));
}

} // namespace glyptos
