#include "render/treated_picture.h"

#include "release/edits/edits.h"
#include "render/renderer.h"

#include <algorithm>
#include <cmath>

namespace glyptos {
namespace {

constexpr const char* kPanel = "the picture itself";

class PicturesAtHand : public PictureProvider {
  public:
    PicturesAtHand(PyramidPtr picture, const NamedPictures& read)
        : pictures_(read) {
        pictures_.insert_or_assign(kPanel, std::move(picture));
    }
    PyramidPtr picture(const Source& source, double) override { return pictures_.at(source.id); }

  private:
    NamedPictures pictures_;
};

SourcePtr sourceOf(const std::string& id, const Pyramid& picture) {
    auto out = std::make_shared<Source>();
    out->id = id, out->width = picture.width(), out->height = picture.height();
    return out;
}

ReleasePtr releaseWith(const Pyramid& picture, const Treatments& treatments, const NamedPictures& read) {
    auto form = std::make_shared<Form>();
    form->id = form->name = kPanel;
    form->unit = Unit::Px;
    form->panels.push_back(wholePanel(kPanel, kPanel, picture.width(), picture.height()));
    ReleasePtr release = withSource(std::make_shared<const Release>(), sourceOf(kPanel, picture));
    for (const auto& [id, other] : read)
        if (id != kPanel) release = withSource(release, sourceOf(id, *other));
    release = withPiece(release, form).value();
    Layer layer;
    layer.content = PictureContent{kPanel};
    layer.placement.position = {picture.width() / 2.0, picture.height() / 2.0};
    layer.treatments = std::make_shared<const Treatments>(treatments);
    return withLayer(release, {release->pieces[0]->id, kPanel}, std::move(layer));
}

/// Premultiplied floats to straight samples; where nothing shows the colour stays that of `before`.
template <class T>
void packStraight(const RowPlanes& row, size_t n, const T* before, T* out) {
    constexpr auto kFull = float(std::numeric_limits<T>::max());
    for (size_t x = 0; x < n; ++x, before += 4, out += 4) {
        const float alpha = std::clamp(row.c[3][x], 0.0f, 1.0f);
        out[3] = T(std::lrint(alpha * kFull));
        for (int c = 0; c < 3; ++c)
            out[c] =
                alpha > 0 ? T(std::lrint(std::clamp(row.c[c][x] / alpha, 0.0f, 1.0f) * kFull)) : before[c];
    }
}

template <class T>
Picture rendered(const Pyramid& picture, const Scene& scene, Renderer& renderer,
                 const std::atomic<bool>* cancel) {
    const Picture& before = picture.level(0);
    Picture out = Picture::create<T>(before.width, before.height);
    renderer.render(
        scene, {0, 0, before.width, before.height},
        [&](int y, int x, const RowPlanes& row, size_t n) {
            packStraight<T>(row, n, before.row<T>(y) + size_t(x) * 4, out.row<T>(y) + size_t(x) * 4);
        },
        cancel);
    return out;
}

} // namespace

Picture treated(const PyramidPtr& picture, const Treatments& treatments, const FontLibrary& fonts,
                const NamedPictures& read, const std::atomic<bool>* cancel) {
    const ReleasePtr release = releaseWith(*picture, treatments, read);
    const Scene scene = panelScene(release, {release->pieces[0]->id, kPanel}, {1});
    PicturesAtHand pictures(picture, read);
    Renderer renderer(pictures, fonts);
    return picture->level(0).is16() ? rendered<uint16_t>(*picture, scene, renderer, cancel)
                                    : rendered<uint8_t>(*picture, scene, renderer, cancel);
}

bool isTable(const Treatments& treatments) {
    return std::all_of(treatments.begin(), treatments.end(), [](const Treatment& t) {
        return !t.acts() || (t.kind->colour && !t.kind->placed && !t.mask);
    });
}

LookTable tableOf(const Treatments& treatments, const std::string& title, const FontLibrary& fonts,
                  int size) {
    // Every colour of the cube is a pixel: red runs along a row, green and blue downwards.
    Picture colours = Picture::create<uint16_t>(size, size * size);
    colours.opaque = true;
    const auto sample = [&](int i) { return uint16_t(std::lround(65535.0 * i / (size - 1))); };
    for (int y = 0; y < colours.height; ++y)
        for (int x = 0; x < size; ++x) {
            uint16_t* p = colours.row<uint16_t>(y) + size_t(x) * 4;
            p[0] = sample(x), p[1] = sample(y % size), p[2] = sample(y / size), p[3] = 65535;
        }
    const Picture graded = treated(std::make_shared<const Pyramid>(std::move(colours)), treatments, fonts);
    LookTable out;
    out.title = title, out.size = size;
    for (int y = 0; y < graded.height; ++y)
        for (int x = 0; x < size; ++x) {
            const uint16_t* p = graded.row<uint16_t>(y) + size_t(x) * 4;
            out.entries.push_back({float(p[0]) / 65535, float(p[1]) / 65535, float(p[2]) / 65535});
        }
    return out;
}

Treatments asOne(Treatments treatments, const std::string& title, const FontLibrary& fonts) {
    const TreatmentKind* const kind = treatmentKind("look-table");
    if (!kind || !isTable(treatments)) return treatments;
    Treatment table = newTreatment(*kind, 1);
    table.figures.set(0, kept(tableOf(treatments, title, fonts)));
    return {std::move(table)};
}

} // namespace glyptos
