#include "form/flat_layout.h"

#include <algorithm>
#include <cmath>

namespace glyptos {
namespace {

constexpr double kTouching = 1e-6; // units: nearer than this is no gap and no overlap

/// x' = left + right - x of the area.
Affine mirrorOf(const Rect& area) {
    return Affine::translation(area.x + area.right(), 0) * Affine::scaling(-1, 1);
}

bool isBeside(double from, double to, double otherFrom, double otherTo) {
    return std::min(to, otherTo) - std::max(from, otherFrom) > kTouching;
}

bool isAt(double a, double b) {
    return std::abs(a - b) < kTouching;
}

Edges freeEdges(const Rect& r, const std::vector<Rect>& others) {
    Edges out{true, true, true, true};
    for (const Rect& o : others) {
        const bool sideBySide = isBeside(r.y, r.bottom(), o.y, o.bottom());
        const bool oneOverOther = isBeside(r.x, r.right(), o.x, o.right());
        if (sideBySide && isAt(o.right(), r.x)) out.left = false;
        if (sideBySide && isAt(o.x, r.right())) out.right = false;
        if (oneOverOther && isAt(o.bottom(), r.y)) out.top = false;
        if (oneOverOther && isAt(o.y, r.bottom())) out.bottom = false;
    }
    return out;
}

void mirrorPart(LaidPanel& panel, const Affine& map) {
    panel.outline = panel.outline.mapped(map);
    if (panel.bleeds) std::swap(panel.bleeds->left, panel.bleeds->right);
}

} // namespace

Rect FlatLayout::trimOf(size_t sheet) const {
    Rect all;
    for (const LaidPanel& p : panels)
        if (p.sheet == sheet) all = all.united(p.outline.box);
    return all;
}

Rect FlatLayout::boardOf(size_t sheet, double bleed) const {
    Rect all = trimOf(sheet).grown(bleed);
    for (const LaidBoard& flap : flaps)
        if (flap.sheet == sheet) all = all.united(flap.outline.box);
    return all;
}

template <class Act>
void FlatLayout::eachOutline(Act act) {
    for (LaidPanel& p : panels) act(p.sheet, p.outline);
    for (LaidBoard& b : flaps) act(b.sheet, b.outline);
    for (LaidBoard& b : cutouts) act(b.sheet, b.outline);
    for (LaidZone& z : zones) act(z.sheet, z.zone.outline);
}

void FlatLayout::mirror() {
    std::vector<Affine> maps;
    for (size_t i = 0; i < sheets.size(); ++i) maps.push_back(mirrorOf(trimOf(i)));
    eachOutline([&](size_t sheet, Outline& outline) { outline = outline.mapped(maps[sheet]); });
    for (LaidPanel& p : panels)
        if (p.bleeds) std::swap(p.bleeds->left, p.bleeds->right);
    for (Fold& fold : folds)
        fold.from = maps[fold.sheet].map(fold.from), fold.to = maps[fold.sheet].map(fold.to);
}

void FlatLayout::addOtherSides() {
    const size_t count = sheets.size();
    std::vector<Affine> maps;
    for (size_t i = 0; i < count; ++i) {
        maps.push_back(mirrorOf(trimOf(i)));
        const std::string id = sheets[i].id, name = sheets[i].name;
        sheets.push_back({id.empty() ? "inside" : kInsidePrefix + id,
                          name.empty() ? "Inside" : name + ", inside",
                          i,
                          {},
                          {}});
        if (name.empty()) sheets[i].name = "Outside";
    }
    const auto others = [&](auto& parts, auto change) {
        for (size_t i = 0, n = parts.size(); i < n; ++i) {
            auto part = parts[i];
            change(part, maps[part.sheet]);
            part.sheet += count;
            parts.push_back(std::move(part));
        }
    };
    others(panels, [](LaidPanel& p, const Affine& map) {
        mirrorPart(p, map);
        p.id = kInsidePrefix + p.id, p.name += ", inside";
    });
    others(folds, [](Fold& f, const Affine& map) {
        f.from = map.map(f.from), f.to = map.map(f.to);
        f.kind = f.kind == FoldKind::Mountain ? FoldKind::Valley : FoldKind::Mountain;
        f.id = kInsidePrefix + f.id;
    });
    const auto board = [](LaidBoard& b, const Affine& map) { b.outline = b.outline.mapped(map); };
    others(flaps, board);
    others(cutouts, board);
}

void FlatLayout::findBleeds() {
    for (LaidPanel& p : panels) {
        if (p.bleeds) continue;
        std::vector<Rect> beside;
        for (const LaidPanel& o : panels)
            if (&o != &p && o.sheet == p.sheet) beside.push_back(o.outline.box);
        p.bleeds = freeEdges(p.outline.box, beside);
    }
}

std::optional<BoardPart> FlatLayout::partAt(size_t sheet, Vec2 at) const {
    for (size_t i = 0; i < panels.size(); ++i)
        if (panels[i].sheet == sheet && panels[i].outline.contains(at)) return i;
    for (size_t i = 0; i < flaps.size(); ++i)
        if (flaps[i].sheet == sheet && flaps[i].outline.contains(at)) return panels.size() + i;
    return std::nullopt;
}

std::vector<double> FlatLayout::looksAlong(const Fold& fold) const {
    constexpr int kLooks = 24;
    std::vector<double> shares;
    for (int i = 0; i < kLooks; ++i) shares.push_back((i + 0.5) / kLooks);
    // Narrow parts lie between those.
    const Vec2 way = fold.to - fold.from;
    const double square = std::max(way.x * way.x + way.y * way.y, kTouching);
    const auto add = [&](const Outline& outline) {
        const Vec2 off = outline.box.centre() - fold.from;
        const double share = (off.x * way.x + off.y * way.y) / square;
        if (share > 0 && share < 1) shares.push_back(share);
    };
    for (const LaidPanel& panel : panels)
        if (panel.sheet == fold.sheet) add(panel.outline);
    for (const LaidBoard& flap : flaps)
        if (flap.sheet == fold.sheet) add(flap.outline);
    return shares;
}

const Fold* FlatLayout::findJoins() {
    constexpr double kBeside = 0.05; // units from a fold
    for (Fold& fold : folds) {
        const Vec2 way = fold.to - fold.from;
        const Vec2 side = Vec2{-way.y, way.x} * (kBeside / std::max(way.length(), kTouching));
        for (const double share : looksAlong(fold)) {
            const Vec2 at = fold.from + way * share;
            const auto a = partAt(fold.sheet, at - side), b = partAt(fold.sheet, at + side);
            if (!a || !b || *a == *b) continue;
            const std::pair join(*a, *b);
            if (std::find(fold.joins.begin(), fold.joins.end(), join) == fold.joins.end())
                fold.joins.push_back(join);
        }
        if (fold.joins.empty()) return &fold;
    }
    return nullptr;
}

void FlatLayout::spread(double bleed) {
    constexpr double kScreen = 1.6, kGap = 0.12; // width over height · of the height of a sheet
    const size_t count = sheets.size();
    if (count < 2) return;
    double w = 0, h = 0;
    for (size_t i = 0; i < count; ++i) {
        const Rect board = boardOf(i, bleed);
        w = std::max(w, board.w), h = std::max(h, board.h);
    }
    const double gap = kGap * std::max(h, w / 3);
    w += gap, h += gap;
    size_t columns = 1;
    double best = 1e9;
    for (size_t c = 1; c <= count; ++c) {
        const double rows = std::ceil(double(count) / double(c));
        const double off = std::abs(std::log(double(c) * w / (rows * h) / kScreen));
        if (off < best) best = off, columns = c;
    }
    const Rect first = boardOf(0, bleed);
    std::vector<Affine> moves;
    for (size_t i = 0; i < count; ++i) {
        const Rect board = boardOf(i, bleed);
        moves.push_back(i == 0 ? Affine{}
                               : Affine::translation(first.x + double(i % columns) * w - board.x,
                                                     first.y + double(i / columns) * h - board.y));
    }
    eachOutline([&](size_t sheet, Outline& outline) { outline = outline.mapped(moves[sheet]); });
    for (Fold& fold : folds)
        fold.from = moves[fold.sheet].map(fold.from), fold.to = moves[fold.sheet].map(fold.to);
}

std::optional<std::pair<const LaidPanel*, const LaidPanel*>> FlatLayout::overlap() const {
    for (size_t i = 0; i < panels.size(); ++i)
        for (size_t k = i + 1; k < panels.size(); ++k) {
            const LaidPanel &a = panels[i], &b = panels[k];
            if (a.sheet != b.sheet || a.outline.kind != Outline::Kind::Rectangle ||
                b.outline.kind != Outline::Kind::Rectangle)
                continue;
            const Rect both = a.outline.box.intersected(b.outline.box);
            if (both.w > kTouching && both.h > kTouching) return std::pair(&a, &b);
        }
    return std::nullopt;
}

} // namespace glyptos
