#include "work.h"

#include "vision/select/alpha_edges.h"

#include <chrono>
#include <thread>

namespace glyptos::demo {

Work::Work(ReleasePtr release)
    : release_(std::move(release))
    , panel_{release_->pieces.front()->id, "front"} {}

Result<void> Work::inNewTake(const std::string& from, const std::function<Result<void>()>& make) {
    const std::string current = release_->piece(panel_.piece)->take().id;
    auto start = withTake(release_, panel_.piece, from);
    if (!start) return tl::unexpected(start.error());
    release_ = withNewTake(*start, panel_.piece);
    if (auto done = make(); !done) return done;
    auto back = withTake(release_, panel_.piece, current);
    if (!back) return tl::unexpected(back.error());
    release_ = *back;
    return {};
}

std::string Work::named(const std::string& name) const {
    for (const LayerPtr& layer : stack())
        if (layer->name == name) return layer->id;
    return {};
}

SourcePtr Work::source(const std::string& name) const {
    for (const SourcePtr& s : release_->sources)
        if (s->name == name) return s;
    return nullptr;
}

Layer Work::pictureLayer(const std::string& name, const std::string& file, Vec2 at, double scale) const {
    Layer out;
    out.name = name;
    out.content = PictureContent{source(file)->id};
    out.placement.position = at;
    out.placement.scaleX = out.placement.scaleY = scale;
    return out;
}

std::string Work::put(Layer layer, const std::string& above) {
    const Made made = withLayer(release_, panel_, std::move(layer), above);
    release_ = made.release;
    return made.id;
}

void Work::keepOnly(const std::vector<std::string>& names) {
    for (const LayerPtr& layer : Stack(stack()))
        if (std::find(names.begin(), names.end(), layer->name) == names.end())
            release_ = withoutLayer(release_, panel_, layer->id);
}

void Work::wait() const {
    while (pictures_.busy()) std::this_thread::sleep_for(std::chrono::milliseconds(2));
}

PyramidPtr Work::decoded(const Source& source) {
    for (;;) {
        PyramidPtr out = pictures_.picture(source, 1);
        if (out && !pictures_.busy()) return out;
        wait();
    }
}

Picture Work::rendered(const Scene& scene, const IntRect& area) {
    Renderer renderer(pictures_, fonts_);
    renderer.renderStraightRgba8(scene, area);
    wait();
    const Buffer<uint8_t> bytes = renderer.renderStraightRgba8(scene, area);
    Picture out = Picture::create<uint8_t>(area.w, area.h);
    std::copy_n(bytes.data(), out.bytes(), out.row<uint8_t>(0));
    return out;
}

Rect Work::boundsOf(const std::string& id) {
    ParagraphCache paragraphs(fonts_);
    return frameOf(*findLayer(stack(), id), *release_, kPanel, paragraphs).bounds();
}

Selection Work::along(const std::vector<Vec2>& corners, double soft) {
    Path path;
    for (const Vec2& p : corners) path.empty() ? path.moveTo(p) : path.lineTo(p);
    const Selection hard = *selectionOf(path, 1, kPanel);
    return *reshaped(hard, 3 * soft, [&](const AlphaMap& map) { return feathered(map, soft); });
}

} // namespace glyptos::demo
