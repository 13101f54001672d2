#include "type/faces/find_face.h"

#include "type/faces/face_facts.h"
#include "type/faces/sample_ink.h"
#include "type/paragraph.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <thread>

namespace glyptos {
namespace {

constexpr int kHeight = 40, kMostWidth = 480; // px of what is compared
constexpr size_t kFitted = 36;                // faces that are fitted closely
constexpr double kProportion = 0.25;          // what a proportion that differs by e costs

struct Candidate {
    FaceMatch match;
    InkMap ink;
    double aspect = 1;
};

/// The words in one face, their ink as large as the sample's.
std::optional<Candidate> drawn(const std::string& family, const std::string& style, const std::string& words,
                               const FontLibrary& fonts, int width) {
    TextSpec spec;
    spec.text = words, spec.letters.family = family, spec.letters.style = style;
    const Paragraph set = setParagraph(spec, fonts);
    if (set.ink.empty() || set.usedFamily != family) return std::nullopt;
    const Affine place =
        Affine::scaling(width / set.ink.w, kHeight / set.ink.h) * Affine::translation(-set.ink.x, -set.ink.y);
    const Buffer<float> cover = coverage(set.outline, place, width, kHeight);
    Candidate out;
    out.match.family = family, out.match.style = set.usedStyle;
    out.ink = {width, kHeight, {cover.data(), cover.data() + size_t(width) * kHeight}};
    out.aspect = set.ink.w / set.ink.h;
    return out;
}

/// Normalised cross-correlation.
double correlation(const InkMap& a, const InkMap& b) {
    double sa = 0, sb = 0, saa = 0, sbb = 0, sab = 0;
    const double n = double(a.ink.size());
    for (size_t i = 0; i < a.ink.size(); ++i) {
        const double x = double(a.ink[i]), y = double(b.ink[i]);
        sa += x, sb += y, saa += x * x, sbb += y * y, sab += x * y;
    }
    const double va = saa - sa * sa / n, vb = sbb - sb * sb / n;
    return va > 1e-9 && vb > 1e-9 ? (sab - sa * sb / n) / std::sqrt(va * vb) : 0;
}

using Homography = std::array<double, 8>; ///< row by row, the ninth is 1

Vec2 mapped(const Homography& h, double x, double y) {
    const double w = h[6] * x + h[7] * y + 1;
    return {(h[0] * x + h[1] * y + h[2]) / w, (h[3] * x + h[4] * y + h[5]) / w};
}

/// Solves the normal equations by elimination; false when they have no one answer.
bool solve(std::array<std::array<double, 9>, 8>& m, Homography& out) {
    for (size_t col = 0; col < 8; ++col) {
        size_t pivot = col;
        for (size_t r = col + 1; r < 8; ++r)
            if (std::abs(m[r][col]) > std::abs(m[pivot][col])) pivot = r;
        if (std::abs(m[pivot][col]) < 1e-12) return false;
        std::swap(m[col], m[pivot]);
        for (size_t r = 0; r < 8; ++r) {
            if (r == col) continue;
            const double factor = m[r][col] / m[col][col];
            for (size_t k = col; k < 9; ++k) m[r][k] -= factor * m[col][k];
        }
    }
    for (size_t i = 0; i < 8; ++i) out[i] = m[i][8] / m[i][i];
    return true;
}

/// One step of Gauss and Newton: how the sample is laid over the candidate a little better. Coordinates from
/// -1 to 1, so that all figures are of one size.
bool improve(const InkMap& sample, const InkMap& target, Homography& h) {
    const double hw = target.width / 2.0, hh = target.height / 2.0;
    std::array<std::array<double, 9>, 8> normal{};
    for (int y = 0; y < target.height; ++y)
        for (int x = 0; x < target.width; ++x) {
            const double u = (x + 0.5) / hw - 1, v = (y + 0.5) / hh - 1;
            const double w = h[6] * u + h[7] * v + 1;
            const Vec2 p = mapped(h, u, v);
            const double sx = (p.x + 1) * hw - 0.5, sy = (p.y + 1) * hh - 0.5;
            const double gx = double(sample.at(sx + 0.5, sy) - sample.at(sx - 0.5, sy)) * hw,
                         gy = double(sample.at(sx, sy + 0.5) - sample.at(sx, sy - 0.5)) * hh;
            if (gx == 0 && gy == 0) continue;
            const double error = double(target.at(x, y) - sample.at(sx, sy));
            const double along = -(gx * p.x + gy * p.y) / w;
            const std::array<double, 8> slope{gx * u / w, gx * v / w, gx / w,    gy * u / w,
                                              gy * v / w, gy / w,     along * u, along * v};
            for (size_t i = 0; i < 8; ++i) {
                for (size_t k = 0; k < 8; ++k) normal[i][k] += slope[i] * slope[k];
                normal[i][8] += slope[i] * error;
            }
        }
    for (size_t i = 0; i < 8; ++i) normal[i][i] *= 1 + 1e-3;
    Homography step{};
    if (!solve(normal, step)) return false;
    for (size_t i = 0; i < 8; ++i) h[i] += step[i];
    return true;
}

InkMap laidBy(const InkMap& sample, const Homography& h, int width, int height) {
    InkMap out{width, height, std::vector<float>(size_t(width) * size_t(height))};
    const double hw = width / 2.0, hh = height / 2.0;
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width; ++x) {
            const Vec2 p = mapped(h, (x + 0.5) / hw - 1, (y + 0.5) / hh - 1);
            out.ink[size_t(y) * size_t(width) + size_t(x)] =
                sample.at((p.x + 1) * hw - 0.5, (p.y + 1) * hh - 0.5);
        }
    return out;
}

/// The sample from soft to sharp.
struct SoftSample {
    InkMap map;
    double sigma;
    int steps; ///< of Gauss and Newton
};

std::vector<SoftSample> softSamples(const InkMap& sample) {
    std::vector<SoftSample> out;
    for (const auto& [sigma, steps] : {std::pair(4.6, 8), {2.0, 8}, {1.2, 6}})
        out.push_back({softened(sample, sigma), sigma, steps});
    return out;
}

double fittedScore(const std::vector<SoftSample>& samples, const InkMap& face) {
    Homography h{1, 0, 0, 0, 1, 0, 0, 0};
    const InkMap& sharp = samples.back().map;
    const InkMap sharpFace = softened(face, samples.back().sigma);
    double best = 0;
    for (const auto& [sample, sigma, steps] : samples) {
        const InkMap to = softened(face, sigma);
        Homography now = h;
        for (int i = 0; i < steps; ++i)
            if (!improve(sample, to, now)) break;
        const double laid = correlation(laidBy(sharp, now, face.width, face.height), sharpFace);
        if (laid > best) best = laid, h = now;
    }
    return best;
}

/// On as many threads as there are cores.
template <class Work>
void forEach(size_t count, Work work) {
    const size_t threads = std::clamp<size_t>(std::thread::hardware_concurrency(), 1, 16);
    std::vector<std::jthread> all;
    for (size_t t = 0; t < threads; ++t)
        all.emplace_back([=, &work] {
            for (size_t i = t; i < count; i += threads) work(i);
        });
}

std::vector<Candidate> candidates(const std::string& words, const FontLibrary& fonts, int width) {
    std::vector<std::pair<std::string, std::string>> faces;
    for (const FamilyInfo& family : fonts.families()) {
        const FacePtr regular = fonts.face(family.name, "Regular");
        if (!regular || !hasAll(*regular, words)) continue;
        for (const std::string& style : family.styles) faces.emplace_back(family.name, style);
    }
    std::vector<std::optional<Candidate>> made(faces.size());
    forEach(faces.size(),
            [&](size_t i) { made[i] = drawn(faces[i].first, faces[i].second, words, fonts, width); });
    std::vector<Candidate> out;
    for (auto& one : made)
        if (one) out.push_back(std::move(*one));
    return out;
}

bool isBetter(const Candidate& a, const Candidate& b) {
    return a.match.score > b.match.score;
}

} // namespace

std::vector<FaceMatch> findFaces(const FaceSample& sample, const std::string& utf8,
                                 const FontLibrary& fonts) {
    const InkMap ink = inkOf(sample);
    if (ink.ink.empty()) return {};
    const double aspect = double(ink.width) / ink.height;
    const int width = std::clamp(int(std::lround(kHeight * aspect)), kHeight / 2, kMostWidth);
    const InkMap seen = resized(ink, width, kHeight);
    std::vector<Candidate> all = candidates(utf8, fonts, width);
    const InkMap soft = softened(seen, 2);
    forEach(all.size(), [&](size_t i) {
        all[i].match.score = correlation(soft, softened(all[i].ink, 2)) -
                             kProportion * std::abs(std::log(all[i].aspect / aspect));
    });
    std::stable_sort(all.begin(), all.end(), isBetter);
    if (all.size() > kFitted) all.resize(kFitted);
    const std::vector<SoftSample> samples = softSamples(seen);
    forEach(all.size(), [&](size_t i) {
        all[i].match.score =
            fittedScore(samples, all[i].ink) - kProportion * std::abs(std::log(all[i].aspect / aspect));
    });
    std::stable_sort(all.begin(), all.end(), isBetter);
    std::vector<FaceMatch> out;
    for (const Candidate& one : all)
        if (std::none_of(out.begin(), out.end(),
                         [&](const FaceMatch& m) { return m.family == one.match.family; }))
            out.push_back(one.match);
    return out;
}

} // namespace glyptos
