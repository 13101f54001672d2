#include "type/letter_places.h"

#include "type/letter_rules.h"
#include "type/path_way.h"

#include <algorithm>
#include <cmath>
#include <functional>
#include <numbers>

namespace glyptos {
namespace {

/// Where the point at `x` of a line goes and how letters are turned there; nothing beyond the path's ends.
using Way = std::function<std::optional<Affine>(const LaidLine&, double x)>;

double startShare(Align align) {
    return align == Align::Centre ? 0.5 : align == Align::Right ? 1 : 0;
}

Way alongPath(const AlongPath& along, Align align, double firstBaseline) {
    Contour contour = along.line;
    const bool isClosed = contour.closed;
    if (along.below) contour = reversed(std::move(contour));
    const auto way = std::make_shared<const PathWay>(contour);
    const double start = along.below ? way->length() - along.start : along.start;
    return [=](const LaidLine& line, double x) -> std::optional<Affine> {
        double at = start + x - startShare(align) * line.width;
        if (isClosed && way->length() > 0)
            at = std::fmod(std::fmod(at, way->length()) + way->length(), way->length());
        if (at < 0 || at > way->length()) return std::nullopt;
        const auto [point, degrees] = way->at(at);
        return Affine::translation(point.x, point.y) * Affine::rotation(degrees) *
               Affine::translation(0, line.baseline - firstBaseline);
    };
}

Way roundCircle(const RoundCircle& circle, Align align, double firstBaseline) {
    return [=](const LaidLine& line, double x) -> std::optional<Affine> {
        const double down = line.baseline - firstBaseline;
        const double radius = circle.inside ? circle.radius + down : circle.radius - down;
        const double along = x - startShare(align) * line.width;
        if (radius <= 0 || x > 2 * std::numbers::pi * radius) return std::nullopt; // once round at most
        const double degrees = along / radius * 180 / std::numbers::pi;
        const double turn = circle.inside ? circle.start - degrees : circle.start + degrees;
        const double t = turn * std::numbers::pi / 180;
        return Affine::translation(radius * std::sin(t), -radius * std::cos(t)) *
               Affine::rotation(circle.inside ? turn + 180 : turn);
    };
}

Way straight() {
    return [](const LaidLine& line, double x) -> std::optional<Affine> {
        return Affine::translation(line.left + x, line.baseline);
    };
}

Way wayOf(const TextSpec& spec, double firstBaseline) {
    if (const auto* path = std::get_if<AlongPath>(&spec.frame))
        return alongPath(*path, spec.align, firstBaseline);
    if (const auto* circle = std::get_if<RoundCircle>(&spec.frame))
        return roundCircle(*circle, spec.align, firstBaseline);
    return straight();
}

/// Neighbours that stand for the same bytes; leaders, which stand for none, one by one.
std::vector<PlacedLetter> lettersOf(const LaidLine& line, size_t index) {
    std::vector<PlacedLetter> out;
    for (size_t i = 0; i < line.glyphs.size(); ++i) {
        const LineGlyph& g = line.glyphs[i];
        PlacedLetter* last = out.empty() ? nullptr : &out.back();
        if (last && last->from == g.from && last->to == g.to && g.from != g.to) {
            ++last->count;
            last->advance = g.x + g.glyph.advance - last->x;
        } else
            out.push_back({g.from, g.to, index, i, 1, {}, g.x, g.glyph.advance, 1, g.glyph.isSpace});
    }
    return out;
}

} // namespace

std::vector<PlacedLetter> placeLetters(const TextSpec& spec, Layout& layout) {
    std::vector<PlacedLetter> out;
    if (layout.lines.empty()) return out;
    const Way way = wayOf(spec, layout.lines.front().baseline);
    for (size_t i = 0; i < layout.lines.size(); ++i) {
        const LaidLine& line = layout.lines[i];
        for (PlacedLetter letter : lettersOf(line, i)) {
            const double middle = letter.x + letter.advance / 2;
            const auto map = way(line, middle);
            if (!map) {
                layout.shown = std::min(layout.shown, letter.from);
                continue;
            }
            letter.map = *map * Affine::translation(-middle, 0);
            out.push_back(letter);
        }
    }
    moveLetters(spec, layout, out);
    return out;
}

} // namespace glyptos
