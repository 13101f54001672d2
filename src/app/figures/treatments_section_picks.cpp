// What treatments take from the bench: what lies beneath them, its colours, and the outlines of shapes.
#include "app/figures/treatments_section.h"

#include "app/session/words.h"
#include "app/widgets/scope_drawing.h"
#include "color/oklab.h"
#include "release/placing.h"
#include "release/walks.h"

#include <algorithm>
#include <cmath>

namespace glyptos {

/// The outline of the nearest shape in front of the layer that has one.
void TreatmentsSection::takePath(size_t figure) {
    const LayerPtr layer = document_->selectedLayer();
    LayerPtr shape;
    for (const LayerPtr& other : stackOf(*document_->release(), document_->panel())) {
        if (layer && other->id == layer->id) break;
        if (other->as<ShapeContent>()) shape = other;
    }
    if (!shape)
        return Q_EMIT document_->refused(
            tr("There is no shape in front of this layer. Draw a line with Shape; it can "
               "be hidden afterwards."));
    const Affine map = placementMap(shape->placement);
    std::vector<Contour> path = asFree(*shape->as<ShapeContent>()).contours;
    for (Contour& contour : path)
        for (PathNode& node : contour.nodes)
            node = {map.map(node.at), map.mapVector(node.before), map.mapVector(node.after)};
    setFigure(figure, std::move(path), true);
}

QColor TreatmentsSection::beneathAt(Vec2 at, const QColor& shown) const {
    const Vec2 p = toBefore_.map(at);
    const QPoint there(int(std::floor(p.x)), int(std::floor(p.y)));
    return before_.image().rect().contains(there) ? before_.image().pixelColor(there) : shown;
}

void TreatmentsSection::addCurvePoint(const QColor& shownColour, Vec2 at) {
    if (!figures_->curveEditor()) return;
    const QColor colour = beneathAt(at, shownColour);
    const Treatment* shown = shownTreatment();
    if (!shown) return;
    const auto& id = shown->kind->figures[figures_->curveInHand()].id;
    const double tone = id == "red"     ? colour.redF()
                        : id == "green" ? colour.greenF()
                        : id == "blue"
                            ? colour.blueF()
                            : 0.2126 * colour.redF() + 0.7152 * colour.greenF() + 0.0722 * colour.blueF();
    figures_->curveEditor()->addPointAt(tone);
}

void TreatmentsSection::setColour(size_t figure, const QColor& colour, Vec2 at) {
    const auto inkOf = [](const QColor& c) {
        return Ink(float(c.redF()), float(c.greenF()), float(c.blueF()), 1);
    };
    const Treatment* shown = shownTreatment();
    if (!shown || !shown->kind || shown->kind->figures[figure].unit != FigureUnit::Hue)
        return setFigure(figure, inkOf(colour), true);
    const double picked = toOklch(toOklab(inkOf(beneathAt(at, colour)))).h;
    const size_t ranged = shown->kind->find("ranged");
    changeOne(tr("Hue of %2 of %1"), [&](Treatment& t) {
        t.figures.set(figure, picked);
        if (ranged < t.figures.size()) t.figures.set(ranged, 1.0);
    });
}

/// The release as it is without the treatment in hand and those after it.
void TreatmentsSection::askBefore(Miniature& picture, double side, Affine& toPx) {
    const LayerPtr layer = document_->selectedLayer();
    const Panel* here = panel();
    if (!shownTreatment() || !layer || !here) return;
    Layer before = *layer;
    before.treatments =
        std::make_shared<const Treatments>(layer->treatments->begin(), layer->treatments->begin() + current_);
    ReleasePtr release;
    if (layer->as<GradeContent>()) {
        // All that lies beneath the grade: what lies in front of it is left out.
        release = withChangedLayer(document_->shown(), document_->panel(), layer->id,
                                   [&](Layer& l) { l = before; });
        for (const LayerPtr& front : stackOf(*release, document_->panel())) {
            if (front->id == layer->id) break;
            release =
                withChangedLayer(release, document_->panel(), front->id, [](Layer& l) { l.on = false; });
        }
        auto [scene, region] = fittedScene(release, document_->panel(), here->trim(), QSizeF(side, side));
        toPx = scene.panels.empty() ? Affine{} : scene.panels.front().toOutput;
        return picture.ask(2, std::move(scene), region);
    }
    const Rect area = frameOfLayer(*layer).bounds();
    if (area.empty()) return;
    const double k = side / std::max(area.w, area.h);
    Scene scene = aloneScene(document_->shown(), before, true,
                             Affine::scaling(k, k) * Affine::translation(-area.x, -area.y), area);
    toPx = scene.panels.front().toOutput;
    const IntRect region = scene.bounds();
    picture.ask(2, std::move(scene), region);
}

void TreatmentsSection::askHistogram() {
    const Treatment* shown = shownTreatment();
    const auto isPicked = [](const Figure& f) { return f.unit == FigureUnit::Hue; };
    const bool looked = shown && shown->kind &&
                        (!byPicture_->isHidden() || !match_->isHidden() ||
                         std::any_of(shown->kind->figures.begin(), shown->kind->figures.end(), isPicked));
    constexpr int kSmall = 256; // px of what histograms are counted in
    if (looked) askBefore(before_, kSmall, toBefore_);
}

void TreatmentsSection::showHistogram() {
    figures_->setHistogram(histogramOf(before_.image()));
}

} // namespace glyptos
