#include "treating.h"

#include "file/pictures/picture_store.h"
#include "file/project.h"
#include "layers.h"
#include "release/placing.h"
#include "release/treatment_variants.h"
#include "release/walks.h"
#include "render/renderer.h"

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
double best(Work work, int runs = 5) { // the first of them finds its memory
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
            {"five grades: against one of them, the dearest", together, dearest, 1.5},
            {"five grades: against their mean", together, sum / 5}};
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

namespace {

/// The panels of the demo that show treatments, each with a release whose take of them is current.
std::vector<std::pair<ReleasePtr, PanelRef>> treatedPanels(const ReleasePtr& demo) {
    std::vector<std::pair<ReleasePtr, PanelRef>> out;
    for (const PiecePtr& piece : demo->pieces)
        for (size_t take = 0; take < piece->takes.size(); ++take)
            for (const auto& [panel, stack] : piece->takes[take]->stacks)
                if (firstLayer(stack, [](const Layer& l) { return l.treatments != nullptr; }))
                    out.emplace_back(withTake(demo, piece->id, piece->takes[take]->id).value(),
                                     PanelRef{piece->id, panel});
    return out;
}

Treatments tenOf() {
    Treatments out;
    for (const char* id : {"light-contrast", "three-way-tint", "soft-blur", "sharpen", "grain", "halftone",
                           "corners", "outline", "lifted-shadow", "scene-light"})
        out.push_back(newTreatment(*treatmentKind(id), unitsPerMm(true)));
    return out;
}

} // namespace

std::vector<Row> demoSliders(const FontLibrary& fonts, const std::string& file) {
    constexpr double kCoarser = 0.25; // as the bench of the window asks for it first
    PictureStore pictures;
    std::vector<double> first, full;
    for (const auto& [release, panel] : treatedPanels(*openProject(file, *shippedForms()))) {
        Renderer renderer(pictures, fonts);
        const Panel* here = release->piece(panel.piece)->flat->panel(panel.panel);
        const double fit = 600 / std::max(here->width, here->height);
        const auto show = [&](const ReleasePtr& shown, double scale) {
            Scene scene = panelScene(shown, panel, {scale});
            return milliseconds([&] { renderer.renderBgra8(scene, scene.bounds()); });
        };
        show(release, fit), show(release, fit * kCoarser);
        eachLayer(stackOf(*release, panel), [&](const LayerPtr& layer) {
            for (size_t i = 0; layer->treatments && i < layer->treatments->size(); ++i) {
                const auto moved = [&](uint32_t by) {
                    return withChangedLayer(release, panel, layer->id, [&](Layer& l) {
                        Treatments all = *l.treatments;
                        all[i] = neighbourOf(all[i], by);
                        l.treatments = std::make_shared<const Treatments>(std::move(all));
                    });
                };
                first.push_back(show(moved(7), fit * kCoarser));
                full.push_back(show(moved(7), fit));
            }
        });
    }
    return {{"a slider of each treatment of the demo, 900×600 at fit zoom: the first picture, p95",
             percentile95(first), 0, 33},
            {"the same: the full one, p95", percentile95(full), 0, 250}};
}

std::vector<Row> tenBelow(const FontLibrary& fonts) {
    Layers layers(kSide, kSide, 4);
    const Stack& stack = stackOf(*layers.release, layers.panel);
    const ReleasePtr treated = withChangedLayer(layers.release, layers.panel, stack[2]->id, [](Layer& l) {
        l.treatments = std::make_shared<const Treatments>(tenOf());
    });
    const double scale = 600.0 / kSide;
    const auto moves = [&](const ReleasePtr& release, size_t& again) {
        Renderer renderer(layers.pictures, fonts);
        const auto show = [&](const ReleasePtr& shown, int x, const std::string& inHand) {
            Scene scene = panelScene(shown, layers.panel, {scale, false, {150, 0}});
            scene.inHand = inHand;
            return milliseconds([&] { renderer.renderBgra8(scene, {x, 0, 900, 600}); });
        };
        for (int x = -200; x <= 200; x += 100) show(release, x, {});
        const size_t before = renderer.tilesRendered();
        for (int x = 200; x >= -200; x -= 100) show(release, x, {});
        again = renderer.tilesRendered() - before;
        std::vector<double> times;
        for (int i = 0; i < 40; ++i) {
            const ReleasePtr next = withChangedLayer(release, layers.panel, stack[0]->id, [&](Layer& l) {
                l = moved(l, {7.3 * i, 3.1 * i});
            });
            const double ms = show(next, 0, stack[0]->id);
            if (i > 1) times.push_back(ms); // the first take the layer in hand
        }
        return percentile95(times);
    };
    size_t again = 0, none = 0;
    const double with = moves(treated, again), without = moves(layers.release, none);
    return {{"panning back over ten treatments: tiles rendered", double(again), 0, 0.5, "tiles"},
            {"a layer moved over ten treatments, against none", with, without, 1.2}};
}

double flattenTreated(const FontLibrary& fonts) {
    constexpr int kWidth = 7617, kHeight = 3756;
    ReleasePtr release = *withPiece(std::make_shared<const Release>(), screenForm(kWidth, kHeight));
    const PanelRef panel{release->pieces[0]->id, "front"};
    for (int i = 0; i < 20; ++i) {
        Layer layer;
        ShapeContent shape;
        shape.kind = i % 2 == 0 ? ShapeKind::Ellipse : ShapeKind::Star;
        shape.width = kWidth * 0.8, shape.height = kHeight * 0.8;
        shape.fill = Ink(float(i) / 20, 0.5f, 1 - float(i) / 20, 1);
        layer.content = shape;
        layer.placement.position = {kWidth * (0.3 + 0.02 * i), kHeight * (0.3 + 0.02 * i)};
        const Treatments ten = tenOf();
        layer.treatments = std::make_shared<const Treatments>(
            Treatments{ten[size_t(i) % 2], ten[2], ten[size_t(7 + i % 2)]});
        release = withLayer(release, panel, layer);
    }
    PictureStore pictures;
    Renderer renderer(pictures, fonts);
    const Scene scene = panelScene(release, panel, {1, false});
    return milliseconds([&] { renderer.renderBgra8(scene, scene.bounds()); });
}

} // namespace glyptos::bench
