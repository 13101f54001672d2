// The renderer against a plain per-pixel twin, and against itself: tiles, caches and sizes must not show.
#include "render/renderer.h"

#include "file/data_folder.h"
#include "raster/noise.h"
#include "release/placing.h"
#include "render/fit/art_cover.h"
#include "support/noting.h"
#include "support/pictures.h"
#include "support/register.h"

#include <QRandomGenerator>

using namespace glyptos;
using namespace glyptos::test;

namespace {

constexpr int kOneStep = 1; // of 255: rounding to bytes

/// Premultiplied colour of one pixel by the general formula, in double.
struct Dot {
    double c[4] = {};
};

double mixed(BlendMode mode, double cb, double cs) {
    if (mode == BlendMode::Multiply) return cb * cs;
    if (mode == BlendMode::Screen) return cb + cs - cb * cs;
    if (mode == BlendMode::Overlay) return cb <= 0.5 ? 2 * cb * cs : 1 - 2 * (1 - cb) * (1 - cs);
    return cs;
}

void over(Dot& b, Dot s, BlendMode mode, double opacity) {
    for (double& v : s.c) v *= opacity;
    const double as = s.c[3], ab = b.c[3];
    for (int i = 0; i < 3; ++i) {
        const double cs = as > 0 ? s.c[i] / as : 0, cb = ab > 0 ? b.c[i] / ab : 0;
        b.c[i] = as * (1 - ab) * cs + as * ab * mixed(mode, cb, cs) + (1 - as) * ab * cb;
    }
    b.c[3] = as + ab * (1 - as);
}

void lay(const HeldPictures& pictures, const Stack& stack, int x, int y, Dot& out) {
    for (auto it = stack.rbegin(); it != stack.rend(); ++it) {
        const Layer& l = **it;
        if (!l.on) continue;
        Dot s;
        if (const auto* picture = l.as<PictureContent>()) {
            const auto p = pixel(pictures.held.at(picture->source)->level(0), x, y);
            for (size_t i = 0; i < 4; ++i) s.c[i] = p[i] / 255.0 * (i < 3 ? p[3] / 255.0 : 1);
        } else if (const auto* fill = l.as<FillContent>()) {
            const auto& c = std::get<Ink>(fill->paint);
            s = {{c.r * c.a, c.g * c.a, c.b * c.a, c.a}};
        } else if (l.as<GroupContent>()->passing) {
            Dot changed = out;
            lay(pictures, l.as<GroupContent>()->layers, x, y, changed);
            for (size_t i = 0; i < 4; ++i) out.c[i] += (changed.c[i] - out.c[i]) * l.opacity;
            continue;
        } else {
            lay(pictures, l.as<GroupContent>()->layers, x, y, s);
        }
        over(out, s, l.blend, l.opacity);
    }
}

Dot twin(const HeldPictures& pictures, const Stack& stack, int x, int y) {
    Dot out;
    lay(pictures, stack, x, y, out);
    return out;
}

Picture speckled(int side, uint32_t seed, bool opaque) {
    return pictureOf(side, side, [=](int x, int y) {
        const int a = opaque ? 255 : int(255 * hashNoise(x / 5, y / 5, seed));
        const auto v = [&](uint32_t c) { return uint8_t(hashNoise(x, y, seed + c) * 255); };
        return std::array<uint8_t, 4>{v(1), v(2), v(3), uint8_t(a)};
    });
}

Layer pictureLayer(const std::string& source, int side, BlendMode blend, double opacity) {
    Layer l;
    l.name = source;
    l.content = PictureContent{source, {0, 0, 1, 1}};
    l.placement.position = {side / 2.0, side / 2.0};
    l.blend = blend;
    l.opacity = opacity;
    return l;
}

} // namespace

class RendererTest : public QObject {
    Q_OBJECT
    FontLibrary fonts{dataFolder() / "fonts", true};
    static constexpr int kSide = 300; // more than one tile, not a multiple of anything

    ReleasePtr composition(HeldPictures& pictures) const {
        ReleasePtr r = screenRelease(kSide, kSide);
        const PanelRef front = frontOf(r);
        for (int i = 0; i < 5; ++i)
            r = pictures.add(r, "p" + std::to_string(i), speckled(kSide, uint32_t(i) * 10, i == 0));
        for (int i = 0; i < 3; ++i)
            r = withLayer(r, front,
                          pictureLayer("p" + std::to_string(i), kSide, BlendMode(i), i == 1 ? 0.7 : 1));
        Layer fill;
        fill.name = "tint";
        fill.content = FillContent{Rgba{0.2f, 0.5f, 0.7f, 0.5f}};
        fill.blend = BlendMode::Overlay;
        r = withLayer(r, front, fill);
        std::string group;
        Layer inner = pictureLayer("p3", kSide, BlendMode::Normal, 0.9);
        inner.id = "inner";
        r = noting(group, *withGrouped(withLayer(r, front, inner), front, {"inner"}));
        r = withLayer(r, front, pictureLayer("p4", kSide, BlendMode::Multiply, 1), "inner");
        return withChangedLayer(r, front, group,
                                [](Layer& l) { l.opacity = 0.6, l.blend = BlendMode::Screen; });
    }

  private Q_SLOTS:
    void againstThePlainTwin() {
        HeldPictures pictures;
        const ReleasePtr r = composition(pictures);
        Renderer renderer(pictures, fonts);
        const auto out = renderer.renderBgra8(panelScene(r, frontOf(r), {1, false}), {0, 0, kSide, kSide});
        for (int y = 0; y < kSide; y += 3)
            for (int x = 0; x < kSide; ++x) {
                const Dot want = twin(pictures, stackOf(*r, frontOf(r)), x, y);
                const uint8_t* p = out.data() + (y * kSide + x) * 4;
                const int got[4] = {p[2], p[1], p[0], p[3]};
                for (int c = 0; c < 4; ++c) QVERIFY(std::abs(got[c] - want.c[c] * 255) <= kOneStep);
            }
    }

    void groupsMayPassThrough() {
        HeldPictures pictures;
        const ReleasePtr isolated = composition(pictures);
        std::string group;
        for (const LayerPtr& l : stackOf(*isolated, frontOf(isolated)))
            if (l->as<GroupContent>()) group = l->id;
        Renderer renderer(pictures, fonts);
        for (const double opacity : {1.0, 0.6}) {
            const ReleasePtr r = withChangedLayer(isolated, frontOf(isolated), group, [&](Layer& l) {
                l.blend = BlendMode::Normal, l.opacity = opacity;
                std::get<GroupContent>(l.content).passing = true;
            });
            const auto out =
                renderer.renderBgra8(panelScene(r, frontOf(r), {1, false}), {0, 0, kSide, kSide});
            for (int y = 0; y < kSide; y += 7)
                for (int x = 0; x < kSide; ++x) {
                    const Dot want = twin(pictures, stackOf(*r, frontOf(r)), x, y);
                    for (int c = 0; c < 3; ++c)
                        QVERIFY(std::abs(out[size_t((y * kSide + x) * 4 + 2 - c)] - want.c[c] * 255) <=
                                kOneStep);
                }
        }
    }

    void tilesAndCachesDoNotShow() {
        HeldPictures pictures;
        ReleasePtr r = composition(pictures);
        Renderer cached(pictures, fonts);
        QRandomGenerator random(5);
        for (int i = 0; i < 40; ++i) {
            const Stack& stack = stackOf(*r, frontOf(r));
            r = withChangedLayer(
                r, frontOf(r), stack[random.bounded(quint32(stack.size()))]->id, [&](Layer& l) {
                    if (random.bounded(2))
                        l.opacity = random.generateDouble();
                    else
                        l = turned(moved(l, {random.bounded(9.0) - 4, 2}), {150, 150}, random.bounded(30.0));
                });
            const Scene scene = panelScene(r, frontOf(r), {0.9, false});
            const IntRect part{int(random.bounded(60)), int(random.bounded(60)), 180, 150};
            Renderer fresh(pictures, fonts);
            const auto a = cached.renderBgra8(scene, part), b = fresh.renderBgra8(scene, part);
            QVERIFY(std::equal(a.data(), a.data() + a.size(), b.data()));
        }
        // A region rendered alone is the same as that part of a larger one.
        const Scene scene = panelScene(r, frontOf(r), {0.9, false});
        const auto whole = cached.renderBgra8(scene, {0, 0, 270, 270}),
                   part = cached.renderBgra8(scene, {31, 77, 100, 90});
        for (int y = 0; y < 90; ++y)
            for (int x = 0; x < 400; ++x)
                QVERIFY(std::abs(int(part[size_t(y * 400 + x)]) -
                                 int(whole[size_t(((y + 77) * 270 + 31) * 4 + x)])) <= kOneStep);
    }

    void smallAgreesWithLarge() {
        // Rendering at a third equals rendering at full size and averaging, within 6/255 at worst and 1.5/255
        // on average, for pictures, words and gradients that are smooth at that size.
        HeldPictures pictures;
        ReleasePtr r =
            pictures.add(screenRelease(600, 600), "cloud", pictureOf(800, 800, [](int x, int y) {
                             const auto v = [&](uint32_t c) {
                                 return uint8_t(60 + 150 * fractalNoise(float(x) / 90, float(y) / 90, 4, c));
                             };
                             return std::array<uint8_t, 4>{v(1), v(2), v(3), 255};
                         }));
        Layer cloud = pictureLayer("cloud", 600, BlendMode::Normal, 1);
        cloud.placement.scaleX = cloud.placement.scaleY = 0.75;
        r = withLayer(r, frontOf(r), cloud);
        Layer fade;
        fade.content = FillContent{evenRun({0, 0, 600, 600}, 30, {0, 0, 0, 0}, {0.1f, 0, 0.3f, 1})};
        fade.blend = BlendMode::Multiply;
        r = withLayer(r, frontOf(r), fade);
        Layer words;
        TextContent text;
        text.spec.text = "SLACK";
        text.spec.letters.size = 160;
        words.content = text;
        words.placement = {{40, 200}, 1, 1, 8, false, false};
        r = withLayer(r, frontOf(r), words);
        Renderer renderer(pictures, fonts);
        const auto large = renderer.renderBgra8(panelScene(r, frontOf(r), {1, false}), {0, 0, 600, 600});
        const auto small =
            renderer.renderBgra8(panelScene(r, frontOf(r), {1.0 / 3, false}), {0, 0, 200, 200});
        double worst = 0, sum = 0;
        for (int y = 0; y < 200; ++y)
            for (int x = 0; x < 200; ++x) {
                double mean = 0;
                for (int j = 0; j < 3; ++j)
                    for (int i = 0; i < 3; ++i)
                        mean += large[size_t(((3 * y + j) * 600 + 3 * x + i) * 4 + 1)] / 9.0;
                const double off = std::abs(mean - small[size_t((y * 200 + x) * 4 + 1)]);
                worst = std::max(worst, off), sum += off;
            }
        QVERIFY2(worst < 6, qPrintable(QString::number(worst)));
        QVERIFY2(sum / 40000 < 1.5, qPrintable(QString::number(sum / 40000)));
    }

    void operatorsActWhereTheirLayerIsEmpty() {
        // A small picture as a mask over a full fill: outside it, and with no strength at all, nothing is
        // left.
        HeldPictures pictures;
        ReleasePtr r = screenRelease(kSide, kSide);
        const PanelRef front = frontOf(r);
        Layer fill;
        fill.content = FillContent{Rgba{0.2f, 0.4f, 0.6f, 1}};
        r = withLayer(r, front, fill);
        r = pictures.add(r, "spot", pictureOf(20, 20, [](int, int) {
                             return std::array<uint8_t, 4>{255, 255, 255, 255};
                         }));
        Layer spot = pictureLayer("spot", 20, BlendMode::DestinationIn, 1);
        spot.id = "spot";
        r = withLayer(r, front, spot);
        Renderer renderer(pictures, fonts);
        const auto alphaAt = [&](int x, int y) {
            return renderer.renderBgra8(panelScene(r, front, {1, false}),
                                        {0, 0, kSide, kSide})[size_t((y * kSide + x) * 4 + 3)];
        };
        QCOMPARE(int(alphaAt(10, 10)), 255);
        QCOMPARE(int(alphaAt(30, 10)), 0);
        QCOMPARE(int(alphaAt(280, 280)), 0); // a tile that the picture does not touch
        r = withChangedLayer(r, front, "spot", [](Layer& l) { l.opacity = 0; });
        QCOMPARE(int(alphaAt(10, 10)), 0);
        r = withChangedLayer(r, front, "spot",
                             [](Layer& l) { l.opacity = 1, l.blend = BlendMode::DestinationOut; });
        QCOMPARE(int(alphaAt(10, 10)), 0);
        QCOMPARE(int(alphaAt(280, 280)), 255);
    }

    void edgesOfPicturesAreExact() {
        // A red picture from 10.25 to 20.75: its border pixels hold its share to a step of a byte, at any
        // enlargement.
        HeldPictures pictures;
        ReleasePtr r = pictures.add(screenRelease(40, 40), "red", pictureOf(3, 3, [](int, int) {
                                        return std::array<uint8_t, 4>{255, 0, 0, 255};
                                    }));
        Layer l = pictureLayer("red", 31, BlendMode::Normal, 1);
        l.placement.scaleX = l.placement.scaleY = 3.5;
        r = withLayer(r, frontOf(r), l);
        Renderer renderer(pictures, fonts);
        const auto out = renderer.renderBgra8(panelScene(r, frontOf(r), {1, false}), {0, 0, 40, 40});
        const auto alpha = [&](int x) { return int(out[size_t((15 * 40 + x) * 4 + 3)]); };
        QCOMPARE(alpha(9), 0);
        QVERIFY(std::abs(alpha(10) - 191) <= 1 && std::abs(alpha(20) - 191) <= 1);
        QCOMPARE(alpha(15), 255);
        QCOMPARE(alpha(21), 0);
    }

    void cropsShowOnlyTheirPart() {
        HeldPictures pictures;
        ReleasePtr r =
            pictures.add(screenRelease(100, 100), "q",
                         pictureOf(100, 100, [](int x, int y) { return quarters(x, y, 100, 100); }));
        Layer l = pictureLayer("q", 100, BlendMode::Normal, 1);
        std::get<PictureContent>(l.content).crop = {0.5, 0, 0.5, 0.5};
        r = withLayer(r, frontOf(r), l);
        Renderer renderer(pictures, fonts);
        const auto out = renderer.renderBgra8(panelScene(r, frontOf(r), {1, false}), {0, 0, 100, 100});
        QCOMPARE(int(out[(20 * 100 + 30) * 4 + 3]), 0);
        QCOMPARE(int(out[(20 * 100 + 70) * 4 + 1]), 255); // the green quarter, where it was
        QCOMPARE(int(out[(70 * 100 + 70) * 4 + 3]), 0);
    }

    void panelsMeetWithoutASeam() {
        // Two panels of a flat that share a fold at a fractional pixel.
        auto form = std::make_shared<Form>();
        form->id = form->name = "two";
        form->panels = {wholePanel("l", "L", 10, 10), wholePanel("r", "R", 9, 10)};
        form->panels[0].outline.w = form->panels[1].outline.x = "10.37";
        ReleasePtr r = withPiece(std::make_shared<const Release>(), form).value();
        for (const char* panel : {"l", "r"}) {
            Layer fill;
            fill.content = FillContent{Rgba{1, 0, 0, 1}};
            r = withLayer(r, {r->pieces[0]->id, panel}, fill);
        }
        HeldPictures none;
        Renderer renderer(none, fonts);
        const Scene scene = flatScene(r, r->pieces[0]->id, {7.3, true});
        const IntRect area = scene.bounds();
        const auto out = renderer.renderBgra8(scene, area);
        for (size_t i = 0; i < out.size(); i += 4) QVERIFY(out[i + 2] == 255 && out[i + 3] == 255);
    }

    void artIsJudged() {
        auto form = std::make_shared<Form>(
            loadForm(std::string(SOURCE_FOLDER) + "/data/forms/sleeve-12.json").value());
        ReleasePtr r = withPiece(std::make_shared<const Release>(), form).value();
        const PanelRef back{r->pieces[0]->id, "back"};
        const Panel& panel = *r->pieces[0]->flat->panel("back");
        HeldPictures pictures;
        r = pictures.add(r, "art", pictureOf(400, 400, [](int, int) {
                             return std::array<uint8_t, 4>{9, 90, 90, 255};
                         }));
        Renderer renderer(pictures, fonts);
        QCOMPARE(judgeArt(renderer, r, back).sentence(panel, Unit::Mm), "no art yet");
        Layer art = pictureLayer("art", 0, BlendMode::Normal, 1);
        art.placement = covering(panel.withBleed(), *r->source("art"));
        r = withLayer(r, back, art);
        QCOMPARE(judgeArt(renderer, r, back).sentence(panel, Unit::Mm), "art covers the bleed");
        const std::string id = stackOf(*r, back)[0]->id;
        // 321 mm square on an area of 318 × 321: 1.5 mm to spare at each side, so 2.7 mm to the right
        // leaves 1.2 mm of paper.
        const ReleasePtr off = withChangedLayer(r, back, id, [](Layer& l) { l = moved(l, {2.7, 0}); });
        QCOMPARE(judgeArt(renderer, off, back).sentence(panel, Unit::Mm), "art short by 1.2 mm at left");
        const ReleasePtr both = withChangedLayer(off, back, id, [](Layer& l) { l = moved(l, {0, -2}); });
        QCOMPARE(judgeArt(renderer, both, back).sentence(panel, Unit::Mm),
                 "art short by 1.2 mm at left, 2 mm at bottom");
    }
};

GLYPTOS_TEST(RendererTest)
#include "renderer_test.moc"
