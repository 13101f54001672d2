#include "release/treatment.h"

#include "base/units.h"
#include "release/placing.h"

#include <algorithm>

namespace glyptos {
namespace {

Contour mappedContour(Contour contour, const Affine& map) {
    for (PathNode& node : contour.nodes)
        node = {map.map(node.at), map.mapVector(node.before), map.mapVector(node.after)};
    return contour;
}

void mapValue(FigureValue& value, const Affine& map) {
    if (auto* point = std::get_if<std::optional<Vec2>>(&value); point && *point) *point = map.map(**point);
    if (auto* path = std::get_if<std::vector<Contour>>(&value))
        for (Contour& contour : *path) contour = mappedContour(std::move(contour), map);
}

} // namespace

bool Treatment::operator==(const Treatment& o) const {
    return kind == o.kind && figures == o.figures && on == o.on && opacity == o.opacity && blend == o.blend &&
           (mask == o.mask || (mask && o.mask && *mask == *o.mask)) && unknown == o.unknown;
}

double unitsPerMm(bool inPx) {
    return inPx ? pxPerMm({300}) : 1;
}

Treatment newTreatment(const TreatmentKind& kind, double unitsPerMm) {
    Treatment out;
    out.kind = &kind;
    out.figures = Figures(kind.figures, unitsPerMm);
    return out;
}

Treatments scaled(Treatments treatments, double factor) {
    for (Treatment& t : treatments)
        for (size_t i = 0; i < t.figures.size(); ++i) {
            const Figure& figure = t.kind->figures[i];
            if (figure.kind == FigureKind::Number && figure.unit == FigureUnit::Length)
                t.figures.set(i, std::clamp(t.figures.number(i) * factor, figure.least, figure.most));
        }
    return treatments;
}

Treatments mapped(Treatments treatments, const Affine& onPiece) {
    for (Treatment& t : treatments) {
        for (FigureValue& value : t.figures.values()) mapValue(value, onPiece);
        if (!t.mask || !t.mask->linked) continue;
        Mask mask = *t.mask;
        if (const auto next = placementOf(onPiece * placementMap(mask.placement), mask.placement))
            mask.placement = *next;
        t.mask = std::make_shared<const Mask>(std::move(mask));
    }
    return treatments;
}

double reachOf(const Treatments& treatments, const Rect& panel, double pxPerUnit) {
    const Place place{Affine::scaling(pxPerUnit, pxPerUnit), panel};
    double px = 0;
    for (const Treatment& t : treatments)
        if (t.acts()) px += reachOf(*t.kind, t.figures, place);
    return px / pxPerUnit;
}

bool changesColoursOnly(const Treatments& treatments) {
    return std::none_of(treatments.begin(), treatments.end(),
                        [](const Treatment& t) { return t.acts() && t.kind->looksAround(); });
}

} // namespace glyptos
