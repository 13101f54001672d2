#include "app/bench/proof/plate_pictures.h"

#include "release/press/spot_inks.h"
#include "render/press/plates.h"

namespace glyptos {

std::vector<Swatch> PlatePictures::inksIn(const Scene& scene) {
    if (scene.panels.empty()) return {};
    const PiecePtr piece = scene.release->piece(scene.panels.front().place.piece);
    return piece ? spotInksOf(*scene.release, *piece) : std::vector<Swatch>();
}

void PlatePictures::ask(const BenchPicture& picture) {
    if (of_ == picture.image().cacheKey()) return;
    const std::vector<Swatch> inks = inksIn(picture.scene());
    if (inks.empty()) return;
    of_ = picture.image().cacheKey();
    plates_ = {};
    std::vector<Scene> scenes{inPressInks(picture.scene())};
    for (const Swatch& ink : inks) {
        plates_.spots.push_back({ink, {}});
        scenes.push_back(inSpotInk(picture.scene(), ink));
    }
    while (askers_.size() < scenes.size()) askers_.push_back(std::make_unique<QObject>());
    missing_ = scenes.size();
    const IntRect area = picture.place().area;
    for (size_t i = 0; i < scenes.size(); ++i)
        service_.request(askers_[i].get(), 1, std::move(scenes[i]), area,
                         [this, i, asked = of_](const QImage& image) {
                             if (asked != of_) return;
                             place(i) = image;
                             if (--missing_ == 0) Q_EMIT arrived();
                         });
}

const PlatePictures::Plates* PlatePictures::of(const BenchPicture& picture) const {
    return missing_ == 0 && of_ == picture.image().cacheKey() ? &plates_ : nullptr;
}

} // namespace glyptos
