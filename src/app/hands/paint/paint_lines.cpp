// What the Paint hand draws as lines that are kept, and what it prints them with.
#include "app/bench/compose_bench.h"
#include "app/hands/paint/paint_hand.h"
#include "release/edits/brush_edits.h"
#include "release/paths/fit_contour.h"
#include "release/placing.h"
#include "render/layer_way.h"

#include <cmath>

namespace glyptos {

QString PaintHand::brushWord() const {
    const std::string& name = bench_.settings().paint.brush.name;
    return name.empty() ? ComposeBench::tr("the brush") : QString::fromStdString(name);
}

void PaintHand::keepAsLine(const Stroke& stroke) {
    document().preview(nullptr);
    const PaintSettings& settings = bench_.settings().paint;
    constexpr double kTolerancePx = 0.7; // of the screen
    constexpr size_t kPressures = 64;
    std::vector<Vec2> way = stroke.way;
    if (last_) way.push_back(*last_);
    const Contour fitted = fittedContour(way, kTolerancePx / bench_.zoom());
    if (fitted.nodes.size() < 2)
        return void(Q_EMIT document().refused(ComposeBench::tr("A line that is kept needs some length.")));
    std::vector<Contour> contours;
    const Rect area = bench_.panel()->withBleed();
    for (const Affine& copy : copiesOf(symmetryIn({}), area)) {
        Contour one = fitted;
        Rect box;
        for (PathNode& node : one.nodes) {
            node = {copy.map(node.at), copy.mapVector(node.before), copy.mapVector(node.after)};
            box = box.united(Rect{node.at.x, node.at.y, 1e-9, 1e-9});
        }
        if (!box.intersected(area).empty()) contours.push_back(std::move(one));
    }
    BrushedLine line{settings.brush.brush, settings.brush.stamps, {}};
    const auto isPressed = [](float p) { return p != 1; };
    if (std::any_of(stroke.pressures.begin(), stroke.pressures.end(), isPressed))
        for (size_t i = 0; i < kPressures; ++i)
            line.pressures.push_back(stroke.pressures[i * (stroke.pressures.size() - 1) / (kPressures - 1)]);
    const double width = bench_.paintBrush(1).diameter;
    line.brush.diameter = width;
    ReleasePtr release = document().release();
    for (const SourcePtr& source : settings.sources) release = withSource(release, source);
    document().editMaking(ComposeBench::tr("Line of %1").arg(brushWord()),
                          withBrushedLine(release, document().panel(), document().layer(),
                                          brushWord().toStdString(), wayOf(std::move(contours)), width,
                                          settings.colour, line));
}

void PaintHand::drawAlong() {
    const LayerPtr one =
        bench_.panel() && document().layers().size() == 1 ? document().selectedLayer() : nullptr;
    if (!one)
        return void(
            Q_EMIT document().refused(ComposeBench::tr("Take one layer in hand for the line to go along.")));
    const QString name = QString::fromStdString(one->name);
    const auto way = wayAlong(*one, *document().release(), bench_.panel()->withBleed(), bench_.paragraphs());
    if (!way)
        return void(Q_EMIT document().refused(
            ComposeBench::tr("%1 has no outline and no turns that a line could go along.").arg(name)));
    const PaintSettings& settings = bench_.settings().paint;
    BrushedLine line{settings.brush.brush, settings.brush.stamps, {}};
    double width = bench_.paintBrush(1).diameter;
    // In the frame of the way, which may be larger or smaller than the panel's.
    width /= std::sqrt(std::abs(placementMap(way->placement).determinant()));
    line.brush.diameter = width;
    ReleasePtr release = document().release();
    for (const SourcePtr& source : settings.sources) release = withSource(release, source);
    const QString made =
        spiralOf(*one) ? ComposeBench::tr("%1 along the turns of %2") : ComposeBench::tr("%1 along %2");
    const QString title = made.arg(brushWord(), name);
    document().editMaking(title, withBrushedLine(release, document().panel(), one->id, title.toStdString(),
                                                 *way, width, settings.colour, line));
}

void PaintHand::takeStamps() {
    HandSettings next = bench_.settings();
    std::vector<Stamp> stamps;
    for (const std::string& id : document().layers()) {
        const LayerPtr layer = findLayer(stackOf(*document().shown(), document().panel()), id);
        if (const auto* picture = layer ? layer->as<PictureContent>() : nullptr)
            stamps.push_back({picture->source, {}});
        if (const auto* shape = layer ? layer->as<ShapeContent>() : nullptr)
            stamps.push_back({{}, asFree(*shape).contours});
    }
    if (stamps.empty())
        return void(Q_EMIT document().refused(
            ComposeBench::tr("Take pictures or shapes in hand that the brush should print.")));
    const Brush& was = next.paint.brush.brush;
    Brush brush = was;
    if (was.tip != TipKind::Stamp) {
        brush = Brush{};
        brush.tip = TipKind::Stamp, brush.diameter = std::max(was.diameter, 40.0), brush.spacing = 1.2;
    }
    next.paint.sources.clear();
    for (const Stamp& stamp : stamps)
        if (const SourcePtr source = document().release()->source(stamp.source))
            next.paint.sources.push_back(source);
    next.paint.brush = {
        ComposeBench::tr("Own stamps").toStdString(), {}, brush, std::move(stamps), {}, false};
    bench_.setSettings(next);
}

} // namespace glyptos
