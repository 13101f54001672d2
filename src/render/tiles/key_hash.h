// Internal to render: hashes of everything a tile depends on.
#pragma once

#include "raster/warp/mapping.h"
#include "release/release.h"
#include "render/tiles/tile_cache.h"

#include <memory>
#include <span>
#include <type_traits>
#include <xxhash.h>

namespace glyptos {

class KeyHash {
  public:
    /// `kind` keeps apart what may have the same figures.
    explicit KeyHash(int kind)
        : state_(XXH3_createState()) {
        XXH3_128bits_reset(state_.get());
        add(kind);
    }
    template <class T>
    requires(std::is_arithmetic_v<T> || std::is_enum_v<T>) KeyHash& add(const T& value) {
        XXH3_128bits_update(state_.get(), &value, sizeof value);
        return *this;
    }
    KeyHash& add(const std::string& text) {
        add(text.size());
        XXH3_128bits_update(state_.get(), text.data(), text.size());
        return *this;
    }
    KeyHash& addRow(std::span<const uint64_t> row) {
        add(row.size());
        XXH3_128bits_update(state_.get(), row.data(), row.size_bytes());
        return *this;
    }
    template <class T>
    KeyHash& add(const std::vector<T>& items) {
        add(items.size());
        for (const T& item : items) add(item);
        return *this;
    }
    template <class T>
    KeyHash& add(const std::optional<T>& item) {
        add(item.has_value());
        if (item) add(*item);
        return *this;
    }
    template <class... T>
    KeyHash& add(const std::variant<T...>& item) {
        add(item.index());
        std::visit([this](const auto& value) { add(value); }, item);
        return *this;
    }
    KeyHash& add(const TileKey& k) { return add(k.low).add(k.high); }
    KeyHash& add(const Vec2& v) { return add(v.x).add(v.y); }
    KeyHash& add(const Affine& m) { return add(m.a).add(m.b).add(m.c).add(m.d).add(m.e).add(m.f); }
    KeyHash& add(const Rect& r) { return add(r.x).add(r.y).add(r.w).add(r.h); }
    KeyHash& add(const IntRect& r) { return add(r.x).add(r.y).add(r.w).add(r.h); }
    KeyHash& add(const Rgba& c) { return add(c.r).add(c.g).add(c.b).add(c.a); }
    KeyHash& add(const TextSpec& t) {
        return add(t.text)
            .add(t.letters)
            .add(t.runs)
            .add(t.leading)
            .add(t.align)
            .add(t.frame.index())
            .addFrame(t.frame)
            .add(t.hyphenate)
            .add(t.hangPunctuation)
            .add(t.breakAtSpaces)
            .add(t.balance)
            .add(t.tabs)
            .add(t.leadings)
            .add(t.kerns)
            .add(t.poses)
            .add(t.rules);
    }
    KeyHash& addFrame(const TextFrame& f) {
        return std::visit([this](const auto& frame) -> KeyHash& { return add(frame); }, f);
    }
    KeyHash& add(const AtPoint&) { return *this; }
    KeyHash& add(const InArea& f) { return add(f.width).add(f.height); }
    KeyHash& add(const InShape& f) { return add(f.outline); }
    KeyHash& add(const AlongPath& f) { return add(f.line).add(f.start).add(f.below); }
    KeyHash& add(const RoundCircle& f) { return add(f.radius).add(f.start).add(f.inside); }
    KeyHash& add(const TableColumn& c) { return add(c.align).add(c.breaks); }
    KeyHash& add(const InTable& f) {
        return add(f.width)
            .add(f.height)
            .add(f.columns)
            .add(f.gap)
            .add(f.strips)
            .add(f.gutter)
            .add(f.grid)
            .add(f.leader)
            .add(f.hangs);
    }
    KeyHash& add(const AxisValue& a) { return add(a.tag).add(a.value); }
    KeyHash& add(const FontFeature& f) { return add(f.tag).add(f.value); }
    KeyHash& add(const LetterStyle& l) {
        return add(l.family)
            .add(l.style)
            .add(l.size)
            .add(l.tracking)
            .add(l.shift)
            .add(l.kerning)
            .add(l.letterCase)
            .add(l.language)
            .add(l.features)
            .add(l.axes)
            .add(l.paint);
    }
    KeyHash& add(const TextRun& r) { return add(r.from).add(r.to).add(r.letters); }
    KeyHash& add(const TabStop& s) { return add(s.at).add(s.align).add(s.leader); }
    KeyHash& add(const OwnLeading& l) { return add(l.at).add(l.em); }
    KeyHash& add(const HandKern& k) { return add(k.at).add(k.em); }
    KeyHash& add(const LetterPose& p) {
        return add(p.at).add(p.offEm).add(p.turn).add(p.scale).add(p.opacity);
    }
    KeyHash& add(const LetterRule& r) {
        return add(r.kind).add(r.rise).add(r.turn).add(r.spread).add(r.fade).add(r.period).add(r.seed);
    }
    KeyHash& add(const GradientStop& s) { return add(s.at).add(s.colour); }
    KeyHash& add(const Gradient& g) {
        return add(g.kind).add(g.spread).add(g.from).add(g.to).add(g.turns).add(g.stops);
    }
    KeyHash& add(const Clouds& c) {
        return add(c.low).add(c.high).add(c.size).add(c.octaves).add(c.contrast).add(c.seed);
    }
    KeyHash& add(const Paper& p) { return add(p.colour).add(p.grain).add(p.size).add(p.seed); }
    KeyHash& add(const Pattern& p) {
        return add(p.source).add(p.origin).add(p.scale).add(p.turn).add(p.shift).add(p.mirrored);
    }
    KeyHash& add(const PathNode& n) { return add(n.at).add(n.before).add(n.after); }
    KeyHash& add(const Contour& c) { return add(c.nodes).add(c.closed); }
    KeyHash& add(const StrokeStyle& s) {
        return add(s.width)
            .add(s.place)
            .add(s.join)
            .add(s.startCap)
            .add(s.endCap)
            .add(s.paint)
            .add(s.brushed);
    }
    KeyHash& add(const Brush& b) {
        add(b.tip).add(b.blend).add(b.way);
        for (const BrushFigure& figure : kBrushFigures) add(b.*figure.value);
        for (const BrushFlag& flag : kBrushFlags) add(b.*flag.value);
        return *this;
    }
    KeyHash& add(const Stamp& s) { return add(s.source).add(s.outline); }
    KeyHash& add(const BrushedLine& l) { return add(l.brush).add(l.stamps).add(l.pressures); }
    KeyHash& add(const ShapeContent& s) {
        return add(s.kind)
            .add(s.width)
            .add(s.height)
            .add(s.corner)
            .add(s.points)
            .add(s.inner)
            .add(s.contours)
            .add(s.fill)
            .add(s.stroke);
    }
    KeyHash& add(const PixelHash& h) { return add(h[0]).add(h[1]); }
    KeyHash& add(const PaintedMask& m) { return add(m.shows).add(m.tiles->hash()); }
    KeyHash& add(const PictureContent& p) { return add(p.source).add(p.crop); }
    KeyHash& add(const LookTablePtr& t) { return t ? add(t->hash[0]).add(t->hash[1]) : add(0); }
    /// All but its mask, which is named by itself.
    KeyHash& add(const Treatment& t) {
        add(std::string(t.kind->id)).add(t.opacity).add(t.blend);
        for (const FigureValue& value : t.figures.values()) add(value);
        return *this;
    }
    KeyHash& add(const Place& p) {
        return add(p.toOutput).add(p.panel).add(p.unitsPerMm).add(p.lines.toPiece).add(p.lines.boxes);
    }
    TileKey key() const {
        const XXH128_hash_t hash = XXH3_128bits_digest(state_.get());
        return {hash.low64, hash.high64};
    }

  private:
    struct Free {
        void operator()(XXH3_state_t* s) const { XXH3_freeState(s); }
    };
    std::unique_ptr<XXH3_state_t, Free> state_;
};

/// A mapping as far as `region` of its result sees it: a knead stroke elsewhere leaves the name as it is.
void addMapping(KeyHash& hash, const Mapping& mapping, const IntRect& region);

} // namespace glyptos
