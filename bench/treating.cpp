#include "treating.h"

#include "treat/filters.h"
#include "treat/whole.h"

#include <cstdio>
#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>

namespace glyptos::bench {
namespace {

constexpr int kSide = 3750;

/// Soft shapes and noise, a part of it see-through.
Planes art() {
    Planes out({0, 0, kSide, kSide});
    uint32_t seed = 1;
    for (int y = 0; y < kSide; ++y)
        for (int x = 0; x < kSide; ++x) {
            seed = seed * 1664525u + 1013904223u;
            const float alpha = (x / 300 + y / 300) % 7 == 0 ? 0.5f : 1.0f;
            out.row(0, y)[x] = alpha * float((x * 3 + y) % 900) / 900;
            out.row(1, y)[x] = alpha * float(seed >> 8) / 16777216.0f;
            out.row(2, y)[x] = alpha * float(y) / kSide;
            out.row(3, y)[x] = alpha;
        }
    return out;
}

template <class Work>
double best(Work work, int runs = 3) {
    double out = 1e300;
    for (int i = 0; i < runs; ++i) out = std::min(out, milliseconds(work));
    return out;
}

Figures figuresOf(const TreatmentKind& kind, std::initializer_list<std::pair<const char*, double>> values) {
    Figures out(kind.figures, 1);
    for (const auto& [id, value] : values) out.set(kind.find(id), value);
    return out;
}

const Place kPlace{{}, {0, 0, kSide, kSide}, 1};

ColourOp grade(const char* id, std::initializer_list<std::pair<const char*, double>> values) {
    const TreatmentKind& kind = *treatmentKind(id);
    return kind.colour(figuresOf(kind, values), kPlace);
}

double timeOf(const char* id, const Planes& in,
              std::initializer_list<std::pair<const char*, double>> values) {
    const TreatmentKind& kind = *treatmentKind(id);
    const Figures figures = figuresOf(kind, values);
    return best([&] { (void)treatedWhole(kind, figures, kPlace, in); });
}

} // namespace

std::vector<Row> blurs() {
    const Planes in = art();
    std::vector<Row> out;
    double narrow = 0, wide = 0, middling = 0;
    for (const double sigma : {5.0, 25.0, 100.0, 400.0}) {
        const double ms = best([&] { (void)smoothedWhole(in, sigma); });
        (sigma == 5 ? narrow : sigma == 25 ? middling : wide) = ms;
        out.push_back({"soft blur of 3750², σ " + std::to_string(int(sigma)) + " px", ms});
    }
    out.push_back({"soft blur σ 400 against σ 5", wide, narrow, 1.3});
    cv::Mat bytes(kSide, kSide, CV_8UC4), floats(kSide, kSide, CV_32FC4), blurred;
    cv::randu(bytes, 0, 255);
    bytes.convertTo(floats, CV_32F, 1 / 255.0);
    out.push_back({"soft blur σ 25 against OpenCV's of 8 bits", middling,
                   best([&] { cv::GaussianBlur(bytes, blurred, {}, 25); }, 2), 0.2});
    out.push_back({"soft blur σ 25 against OpenCV's of floats", middling,
                   best([&] { cv::GaussianBlur(floats, blurred, {}, 25); }, 1)});
    return out;
}

std::vector<Row> grades() {
    const Planes in = art();
    LookTable table;
    table.size = 33;
    for (int i = 0; i < 33 * 33 * 33; ++i)
        table.entries.push_back({float(i % 33) / 32, float(i / 33 % 33) / 40, float(i / 1089) / 32});
    Figures figures(treatmentKind("look-table")->figures);
    figures.set(0, kept(std::move(table)));
    Planes work = copyOf(in);
    const auto timed = [&](const std::vector<ColourOp>& ops) { return best([&] { gradeWhole(ops, work); }); };
    const double copying = best([&] {
        for (int c = 0; c < 4; ++c)
            std::memcpy(work.c[c].values.data(), in.c[c].values.data(),
                        in.c[c].values.size() * sizeof(float));
    });
    const double looking = timed({treatmentKind("look-table")->colour(figures, kPlace)});
    const std::vector<ColourOp> five{grade("light-contrast", {{"light", 0.2}, {"contrast", 0.2}}),
                                     grade("warmth", {{"warmth", 0.2}}), grade("hue-turn", {{"turn", 12}}),
                                     grade("three-way-tint", {{"shadowTint", 0.3}}),
                                     grade("chroma", {{"amount", 0.2}})};
    double dearest = 0, sum = 0;
    for (const ColourOp& op : five) {
        const double ms = timed({op});
        dearest = std::max(dearest, ms), sum += ms;
    }
    const double together = timed(five);
    return {{"look table 33³ on 3750²", looking, 0, 60},
            {"look table 33³ against a copy of the bytes", looking, copying},
            {"five grades: against one, their mean", together, sum / 5, 1.5},
            {"five grades: against one, the dearest", together, dearest}};
}

std::vector<Row> treatments() {
    const Planes in = art();
    return {{"bevel with a lamp, 40 px", timeOf("bevel", in, {{"width", 40}, {"material", 1}}), 0, 400},
            {"outline of 40 px", timeOf("outline", in, {{"width", 40}})},
            {"cast shadow of 40 px", timeOf("cast-shadow", in, {{"distance", 40}, {"softness", 40}})},
            {"blur at an angle of 200 px", timeOf("angle-blur", in, {{"length", 200}, {"angle", 20}})},
            {"sweep blur of 200 px", timeOf("sweep-blur", in, {{"length", 200}, {"reach", 1200}}), 0, 400},
            {"cut paper of 4 papers", timeOf("cut-paper", in, {{"plain", 36}, {"shadowSize", 7}}), 0, 400},
            {"halftone of 25 lines per inch", timeOf("halftone", in, {{"lines", 2.1}}), 0, 400},
            {"woodcut", timeOf("woodcut", in, {{"distance", 13}, {"form", 47}})},
            {"stipple", timeOf("stipple", in, {{"size", 4}})},
            {"leather", timeOf("leather", in, {{"scale", 236}})},
            {"lens blur of 40 px", timeOf("lens-blur", in, {{"radius", 40}})},
            {"edge-keeping blur of 20 px", timeOf("edge-keeping-blur", in, {{"radius", 20}})},
            {"sharpen", timeOf("sharpen", in, {{"radius", 2}})},
            {"grain", [&] {
                 Planes work = copyOf(in);
                 const std::vector<ColourOp> ops{grade("grain", {{"size", 3}})};
                 return best([&] { gradeWhole(ops, work); });
             }()}};
}

} // namespace glyptos::bench
