#include "release/wall.h"

#include <algorithm>
#include <cmath>

namespace glyptos {
namespace {

constexpr double kGap = 24, kScrap = 180, kCaption = 20;
const Rgba kCaptionInk{0.13f, 0.13f, 0.12f, 1};

std::shared_ptr<const Form> wallForm() {
    Form form;
    form.id = kWallId;
    form.name = "Wall";
    form.unit = Unit::Px;
    form.panels.push_back(wholePanel(kWallId, kWallId, int(kWallSide), int(kWallSide)));
    return std::make_shared<const Form>(std::move(form));
}

TextContent caption(const std::string& words, double size) {
    TextContent out;
    out.spec.text = words;
    out.spec.letters.family = "Inter";
    out.spec.letters.style = "Regular";
    out.spec.letters.size = size;
    out.colour = kCaptionInk;
    return out;
}

Layer layerOf(std::string name, Content content, Vec2 at) {
    Layer out;
    out.name = std::move(name);
    out.content = std::move(content);
    out.placement.position = at;
    return out;
}

Layer grouped(std::string name, std::vector<Layer> layers) {
    GroupContent group;
    for (Layer& layer : layers) group.layers.push_back(std::make_shared<const Layer>(std::move(layer)));
    return layerOf(std::move(name), std::move(group), {});
}

bool isFree(const Rect& place, const std::vector<Rect>& taken) {
    return std::none_of(taken.begin(), taken.end(),
                        [&](const Rect& r) { return !place.grown(kGap / 2).intersected(r).empty(); });
}

} // namespace

PanelRef wallPanel() {
    return {kWallId, kWallId};
}

bool isWall(const PanelRef& panel) {
    return panel.piece == kWallId;
}

PiecePtr emptyWall() {
    static const PiecePtr empty = [] {
        auto piece = std::make_shared<Piece>();
        piece->id = kWallId;
        piece->name = "Wall";
        piece->form = wallForm();
        piece->flat = std::make_shared<const Flat>(workOut(*piece->form).value());
        auto take = std::make_shared<Take>();
        take->id = "A";
        piece->takes.push_back(std::move(take));
        return piece;
    }();
    return empty;
}

Layer pinnedPicture(const Source& source, double side, Vec2 at) {
    Layer out = layerOf(source.facts.title.empty() ? source.name : source.facts.title,
                        PictureContent{source.id, {0, 0, 1, 1}}, at);
    out.placement.scaleX = out.placement.scaleY = side / std::max(source.width, source.height);
    return out;
}

Layer pinnedColour(const Ink& colour, const std::string& name, Vec2 at) {
    ShapeContent scrap;
    scrap.width = scrap.height = kScrap;
    scrap.fill = colour;
    return grouped(name, {layerOf(name, caption(name, kCaption),
                                  {at.x - kScrap / 2, at.y + kScrap / 2 + kCaption * 1.4}),
                          layerOf(name, scrap, at)});
}

Layer pinnedPiece(const Piece& piece, double side, Vec2 at) {
    Layer out = layerOf(piece.name, EchoContent{piece.id, {}, {}, false}, at);
    const Rect trim = piece.flat->trim();
    out.placement.scaleX = out.placement.scaleY = side / std::max(trim.w, trim.h);
    return out;
}

Layer pinnedWords(const std::string& words, Vec2 at) {
    TextContent text = caption(words, 44);
    text.spec.frame = InArea{520, 0};
    return layerOf(words.substr(0, words.find('\n')), std::move(text), at);
}

Layer pinnedType(const std::string& family, const std::string& style, Vec2 at) {
    TextContent specimen = caption("{title}\nAaBbCc ÆÐÞ 0123", 56);
    specimen.spec.letters.family = family;
    specimen.spec.letters.style = style;
    return grouped(family, {layerOf(family, caption(family + " " + style, kCaption), {at.x, at.y + 112}),
                            layerOf(family, std::move(specimen), at)});
}

Vec2 freePlace(const std::vector<Rect>& taken, double width, double height) {
    const Vec2 middle{kWallSide / 2, kWallSide / 2};
    const auto at = [&](Vec2 p) { return Rect{p.x - width / 2, p.y - height / 2, width, height}; };
    if (isFree(at(middle), taken)) return middle;
    // Round and round, twice as far across as up, as windows are.
    const double step = std::max(20.0, std::min(width, height) / 4);
    for (int round = 1; round * step < kWallSide / 2; ++round)
        for (int i = 0; i < 48; ++i) {
            const double far = round * step;
            const double angle = 2 * std::numbers::pi * i / 48;
            const Vec2 p = middle + Vec2{2 * far * std::cos(angle), far * std::sin(angle)};
            if (isFree(at(p), taken)) return p;
        }
    return middle;
}

std::vector<Vec2> inRows(const std::vector<Rect>& areas, double gap) {
    Rect all;
    double sum = 0;
    for (const Rect& r : areas) {
        all = all.united(r);
        sum += (r.w + gap) * (r.h + gap);
    }
    double widest = std::sqrt(sum * 1.6);
    for (const Rect& r : areas) widest = std::max(widest, r.w);
    std::vector<Vec2> out;
    double x = 0, y = 0, high = 0;
    for (const Rect& r : areas) {
        if (x > 0 && x + r.w > widest) x = 0, y += high + gap, high = 0;
        out.push_back(Vec2{all.x + x, all.y + y} - Vec2{r.x, r.y});
        x += r.w + gap;
        high = std::max(high, r.h);
    }
    return out;
}

} // namespace glyptos
