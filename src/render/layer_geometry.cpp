#include "render/layer_geometry.h"

#include "release/fields.h"
#include "release/placing.h"
#include "render/scene.h"

#include <algorithm>

namespace glyptos {

std::shared_ptr<const Paragraph> ParagraphCache::get(const TextSpec& spec) {
    constexpr size_t kMost = 256;
    const int generation = this->generation();
    KeptWordsList kept;
    {
        const std::lock_guard lock(mutex_);
        if (generationOfRecent_ != generation) recent_.clear(), generationOfRecent_ = generation;
        kept = kept_;
        const auto found =
            std::find_if(recent_.begin(), recent_.end(), [&](const auto& e) { return e.first == spec; });
        if (found != recent_.end()) {
            std::rotate(found, found + 1, recent_.end());
            return recent_.back().second;
        }
    }
    std::shared_ptr<const Paragraph> made;
    const KeptWords* words = findKept(kept, spec);
    if (words && words->faces != facesFor(spec, fonts_)) made = words->set;
    if (!made) made = std::make_shared<const Paragraph>(setParagraph(spec, fonts_));
    const std::lock_guard lock(mutex_);
    if (generationOfRecent_ != generation) return made;
    if (recent_.size() >= kMost) recent_.erase(recent_.begin());
    recent_.emplace_back(spec, made);
    return made;
}

std::shared_ptr<const DrawnCode> ParagraphCache::code(const CodeContent& content, const Release& release) {
    constexpr size_t kMost = 32;
    const std::string text = filledText(content.text, release);
    const int generation = fonts_.generation();
    {
        const std::lock_guard lock(mutex_);
        if (generationOfCodes_ != generation) codes_.clear(), generationOfCodes_ = generation;
        const auto found = std::find_if(codes_.begin(), codes_.end(), [&](const auto& code) {
            return code->kind == content.kind && code->text == text;
        });
        if (found != codes_.end()) {
            std::rotate(found, found + 1, codes_.end());
            return codes_.back();
        }
    }
    const auto made = std::make_shared<const DrawnCode>(drawCode(content.kind, text, fonts_));
    const std::lock_guard lock(mutex_);
    if (generationOfCodes_ != generation) return made;
    if (codes_.size() >= kMost) codes_.erase(codes_.begin());
    codes_.push_back(made);
    return made;
}

void ParagraphCache::fallBackOn(KeptWordsList words) {
    const std::lock_guard lock(mutex_);
    if (kept_ == words) return;
    kept_ = std::move(words);
    ++keptGeneration_;
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

Mapping Frame::mapping() const {
    return warp ? Mapping(toPanel) * mappingOf(*warp, warpBox) : Mapping(toPanel);
}

Rect Frame::bounds() const {
    if (!warp) return toPanel.mapBounds(box);
    Warp seen = *warp;
    if (keepsBorders) seen.knead = nullptr;
    const Mapping map = Mapping(toPanel) * mappingOf(seen, warpBox);
    constexpr int kSamples = 32; // a side
    Rect out;
    for (int j = 0; j <= kSamples; ++j)
        for (int i = 0; i <= kSamples; i += j % kSamples == 0 || seen.bend ? 1 : kSamples)
            if (const auto p = map.map({box.x + box.w * i / kSamples, box.y + box.h * j / kSamples}))
                out = out.united({p->x, p->y, 1e-9, 1e-9});
    return out;
}

bool Frame::contains(Vec2 onPanel) const {
    if (warp) {
        const BackMapping back(mapping(), {onPanel.x, onPanel.y, 1e-6, 1e-6});
        BackMapping::Near near;
        const auto at = back.isThere() ? back.mapBeforeKnead(onPanel, near) : std::nullopt;
        return at && box.contains(*at);
    }
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

Affine placedOnPanel(const Layer& layer, const Release& release) {
    if (isFrameless(layer)) return {};
    if (layer.as<GroupContent>()) {
        if (!layer.warp) return {};
        const Vec2 middle = layer.warp->box.centre();
        return placementMap(layer.placement) * Affine::translation(-middle.x, -middle.y);
    }
    if (const auto* picture = layer.as<PictureContent>()) {
        const SourcePtr source = release.source(picture->source);
        return source ? pictureToPanel(layer.placement, *source) : Affine{};
    }
    if (const auto* echo = layer.as<EchoContent>()) {
        const auto frame = echoFrame(*echo, release);
        return frame ? echoToPanel(layer.placement, *frame) : Affine{};
    }
    return placementMap(layer.placement);
}

namespace {

/// In the layer's own frame.
Rect boxOf(const Layer& layer, const Release& release, const Rect& panelArea, ParagraphCache& paragraphs) {
    if (const auto* picture = layer.as<PictureContent>())
        return pictureFrame(*picture, layer.placement, release).box;
    if (const auto* text = layer.as<TextContent>()) return paragraphs.get(resolvedText(*text, release))->box;
    if (const auto* group = layer.as<GroupContent>()) {
        Rect all;
        for (const LayerPtr& child : group->layers)
            if (!child->as<GradeContent>()) // it reaches no farther than what it recolours
                all = all.united(frameOf(*child, release, panelArea, paragraphs).bounds());
        return all;
    }
    if (const auto* shape = layer.as<ShapeContent>()) return shapeFrame(*shape, layer.placement).box;
    if (const auto* painted = layer.as<PaintedContent>()) return painted->tiles->bounds().toRect();
    if (const auto* echo = layer.as<EchoContent>()) return echoFrame(*echo, release).value_or(Rect{});
    if (const auto* code = layer.as<CodeContent>()) return paragraphs.code(*code, release)->box;
    return panelArea;
}

/// What a warp without a box of its own warps: all that letters and strokes reach.
Rect reachOf(const Layer& layer, const Rect& frame, const Release& release, ParagraphCache& paragraphs) {
    if (const auto* text = layer.as<TextContent>())
        return frame.united(paragraphs.get(resolvedText(*text, release))->ink);
    if (const auto* shape = layer.as<ShapeContent>()) return extentOf(*shape);
    return frame;
}

} // namespace

Rect warpedBox(const Layer& layer, const Release& release, const Rect& panelArea,
               ParagraphCache& paragraphs) {
    if (layer.warp && !layer.warp->box.empty()) return layer.warp->box;
    return reachOf(layer, boxOf(layer, release, panelArea, paragraphs), release, paragraphs);
}

Frame frameOf(const Layer& layer, const Release& release, const Rect& panelArea, ParagraphCache& paragraphs) {
    Frame out{boxOf(layer, release, panelArea, paragraphs), placedOnPanel(layer, release)};
    if (!layer.warp) return out;
    out.warp = layer.warp;
    out.keepsBorders = layer.as<PictureContent>() != nullptr;
    out.warpBox = reachOf(layer, out.box, release, paragraphs);
    return out;
}

Mapping seenOnPanel(const Layer& layer, const Release& release, ParagraphCache& paragraphs) {
    if (layer.as<GroupContent>() && !layer.warp) return {};
    return frameOf(layer, release, {}, paragraphs).mapping();
}

} // namespace glyptos
