#include "render/layer_geometry.h"

#include "release/fields.h"
#include "release/placing.h"
#include "render/scene.h"

#include <algorithm>

namespace glyptos {

std::shared_ptr<const Paragraph> ParagraphCache::get(const TextSpec& spec) {
    constexpr size_t kMost = 256;
    {
        const std::lock_guard lock(mutex_);
        const auto found =
            std::find_if(recent_.begin(), recent_.end(), [&](const auto& e) { return e.first == spec; });
        if (found != recent_.end()) {
            std::rotate(found, found + 1, recent_.end());
            return recent_.back().second;
        }
    }
    auto made = std::make_shared<const Paragraph>(setParagraph(spec, fonts_));
    const std::lock_guard lock(mutex_);
    if (recent_.size() >= kMost) recent_.erase(recent_.begin());
    recent_.emplace_back(spec, made);
    return made;
}

Affine pictureToPanel(const Placement& p, const Source& source) {
    return placementMap(p) * Affine::translation(-source.width / 2.0, -source.height / 2.0);
}

Affine textToPanel(const Placement& p) {
    return placementMap(p);
}

std::array<Vec2, 4> Frame::corners() const {
    return {toPanel.map({box.x, box.y}), toPanel.map({box.right(), box.y}),
            toPanel.map({box.right(), box.bottom()}), toPanel.map({box.x, box.bottom()})};
}

bool Frame::contains(Vec2 onPanel) const {
    const auto back = toPanel.inverse();
    return back && box.contains(back->map(onPanel));
}

namespace {

Frame pictureFrame(const PictureContent& picture, const Placement& placement, const Release& release) {
    const SourcePtr source = release.source(picture.source);
    if (!source) return {};
    const Rect& c = picture.crop;
    return {{c.x * source->width, c.y * source->height, c.w * source->width, c.h * source->height},
            pictureToPanel(placement, *source)};
}

Frame shapeFrame(const ShapeContent& shape, const Placement& placement) {
    return {{-shape.width / 2, -shape.height / 2, shape.width, shape.height}, placementMap(placement)};
}

Rect gradientBox(const Gradient& g) {
    if (g.kind == GradientKind::Linear)
        return {std::min(g.from.x, g.to.x), std::min(g.from.y, g.to.y), std::abs(g.from.x - g.to.x),
                std::abs(g.from.y - g.to.y)};
    const double r = (g.to - g.from).length();
    return {g.from.x - r, g.from.y - r, 2 * r, 2 * r};
}

} // namespace

Frame frameOf(const Mask& mask, const Release& release) {
    if (const auto* picture = std::get_if<PictureContent>(&mask.form))
        return pictureFrame(*picture, mask.placement, release);
    if (const auto* shape = std::get_if<ShapeContent>(&mask.form)) return shapeFrame(*shape, mask.placement);
    if (const auto* painted = std::get_if<PaintedMask>(&mask.form))
        return {painted->tiles->bounds().toRect(), placementMap(mask.placement)};
    return {gradientBox(std::get<Gradient>(mask.form)), placementMap(mask.placement)};
}

Frame frameOf(const Layer& layer, const Release& release, const Rect& panelArea, ParagraphCache& paragraphs) {
    if (const auto* picture = layer.as<PictureContent>())
        return pictureFrame(*picture, layer.placement, release);
    if (const auto* text = layer.as<TextContent>())
        return {paragraphs.get(resolvedText(*text, release))->box, textToPanel(layer.placement)};
    if (const auto* group = layer.as<GroupContent>()) {
        Rect all;
        for (const LayerPtr& child : group->layers)
            all = all.united(frameOf(*child, release, panelArea, paragraphs).bounds());
        return {all, {}};
    }
    if (const auto* shape = layer.as<ShapeContent>()) return shapeFrame(*shape, layer.placement);
    if (const auto* painted = layer.as<PaintedContent>())
        return {painted->tiles->bounds().toRect(), placementMap(layer.placement)};
    if (const auto* echo = layer.as<EchoContent>()) {
        const auto frame = echoFrame(*echo, release);
        return frame ? Frame{*frame, echoToPanel(layer.placement, *frame)} : Frame{};
    }
    return {panelArea, {}};
}

} // namespace glyptos
