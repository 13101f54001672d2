#include "render/layer_geometry.h"

#include "release/fields.h"

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
    return Affine::translation(p.position.x, p.position.y) * Affine::rotation(p.turn) *
           Affine::scaling(p.flipX ? -p.scaleX : p.scaleX, p.flipY ? -p.scaleY : p.scaleY) *
           Affine::translation(-source.width / 2.0, -source.height / 2.0);
}

Affine textToPanel(const Placement& p) {
    return Affine::translation(p.position.x, p.position.y) * Affine::rotation(p.turn) *
           Affine::scaling(p.flipX ? -1 : 1, p.flipY ? -1 : 1);
}

std::array<Vec2, 4> Frame::corners() const {
    return {toPanel.map({box.x, box.y}), toPanel.map({box.right(), box.y}),
            toPanel.map({box.right(), box.bottom()}), toPanel.map({box.x, box.bottom()})};
}

bool Frame::contains(Vec2 onPanel) const {
    const auto back = toPanel.inverse();
    return back && box.contains(back->map(onPanel));
}

Frame frameOf(const Layer& layer, const Release& release, const Rect& panelArea, ParagraphCache& paragraphs) {
    if (const auto* picture = layer.as<PictureContent>()) {
        const SourcePtr source = release.source(picture->source);
        if (!source) return {{}, {}};
        const Rect& c = picture->crop;
        return {{c.x * source->width, c.y * source->height, c.w * source->width, c.h * source->height},
                pictureToPanel(layer.placement, *source)};
    }
    if (const auto* text = layer.as<TextContent>())
        return {paragraphs.get(resolvedText(*text, release.brief))->box, textToPanel(layer.placement)};
    if (const auto* group = layer.as<GroupContent>()) {
        Rect all;
        for (const LayerPtr& child : group->layers)
            all = all.united(frameOf(*child, release, panelArea, paragraphs).bounds());
        return {all, {}};
    }
    return {panelArea, {}};
}

} // namespace glyptos
