#include "app/session/settled_pictures.h"

#include "file/pictures/picture_reader.h"

#include <algorithm>
#include <chrono>
#include <thread>

namespace glyptos {

bool waitForPictures(const Engine& engine, const WorkControl& control) {
    using namespace std::chrono_literals;
    while (engine.pictures.busy()) {
        if (control.cancel) return false;
        std::this_thread::sleep_for(4ms);
    }
    return !control.cancel;
}

std::optional<Picture> settledRendering(Engine& engine, const Scene& scene, const IntRect& region,
                                        const WorkControl& control) {
    for (;;) {
        const Buffer<uint8_t> bytes = engine.renderer.renderStraightRgba8(scene, region, &control.cancel);
        if (control.cancel) return std::nullopt;
        if (!engine.pictures.busy()) {
            Picture out = Picture::create<uint8_t>(region.w, region.h);
            std::copy_n(bytes.data(), out.bytes(), out.row<uint8_t>(0));
            return out;
        }
        if (!waitForPictures(engine, control)) return std::nullopt;
    }
}

Result<PyramidPtr> settledPicture(Engine& engine, const Source& source, const WorkControl& control) {
    for (bool again = false;; again = true) {
        PyramidPtr picture = engine.pictures.picture(source, 1);
        const bool whole = picture && picture->firstLevel() == 0 &&
                           (isDrawing(source.format) || picture->width() == source.width);
        if (whole) return picture;
        if (again && !engine.pictures.busy())
            return fail(Fault::Unreadable,
                        "The picture “" + source.name +
                            "” cannot be decoded, so nothing was changed. Replace it, and try again.");
        if (!waitForPictures(engine, control)) return cancelled();
    }
}

Result<CutFigure> settledCutOut(Engine& engine, const Source& source, const CutoutHints& hints,
                                const WorkControl& control) {
    const auto picture = settledPicture(engine, source, control);
    if (!picture) return tl::unexpected(picture.error());
    CutoutOptions options;
    options.cancel = &control.cancel;
    options.progress = control.progress;
    return cutFigure(**picture, hints, options);
}

} // namespace glyptos
