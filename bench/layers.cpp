#include "layers.h"

#include "raster/noise.h"
#include "release/edits/edits.h"

namespace glyptos::bench {
namespace {

Picture texture(int width, int height, uint32_t seed, bool opaque) {
    Picture p = Picture::create<uint8_t>(width, height);
    p.opaque = opaque;
    for (int y = 0; y < height; ++y) {
        uint8_t* row = p.row<uint8_t>(y);
        for (int x = 0; x < width; ++x) {
            const uint32_t a = opaque ? 255 : uint32_t(96 + 128 * hashNoise(x / 64, y / 64, seed));
            for (uint32_t c = 0; c < 3; ++c)
                row[4 * x + int(c)] = static_cast<uint8_t>(hashNoise(x / 3, y / 3, seed + c) * 255);
            row[4 * x + 3] = static_cast<uint8_t>(a);
        }
    }
    return p;
}

std::vector<uint8_t> premultiplied(const Picture& straight) {
    const uint8_t* from = straight.row<uint8_t>(0);
    std::vector<uint8_t> out(straight.bytes() + 64); // peers may read whole vectors
    for (size_t i = 0; i < straight.bytes(); i += 4) {
        for (size_t c = 0; c < 3; ++c) out[i + c] = uint8_t((from[i + c] * from[i + 3] + 127) / 255);
        out[i + 3] = from[i + 3];
    }
    return out;
}

} // namespace

std::shared_ptr<const Form> screenForm(int width, int height) {
    Form form;
    form.id = form.name = "bench";
    form.unit = Unit::Px;
    form.panels.push_back(wholePanel("front", "Front", width, height));
    return std::make_shared<const Form>(form);
}

Layers::Layers(int w, int h, int count)
    : width(w)
    , height(h) {
    release = *withPiece(std::make_shared<const Release>(), screenForm(w, h));
    panel = {release->pieces[0]->id, "front"};
    for (int i = 0; i < count; ++i) {
        auto source = std::make_shared<Source>();
        source->id = std::to_string(i);
        source->width = w, source->height = h;
        auto pyramid = std::make_shared<const Pyramid>(texture(w, h, uint32_t(i) * 10, i == 0));
        premultiplied_.push_back(premultiplied(pyramid->level(0)));
        pixels.push_back(premultiplied_.back().data());
        pictures.held[source->id] = std::move(pyramid);
        release = withSource(release, source);
        Layer layer;
        layer.name = source->id;
        layer.blend = mode(size_t(i));
        layer.opacity = opacity(size_t(i));
        layer.content = PictureContent{source->id, {0, 0, 1, 1}};
        layer.placement.position = {w / 2.0, h / 2.0};
        release = withLayer(release, panel, layer);
    }
}

} // namespace glyptos::bench
