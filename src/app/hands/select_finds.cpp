// What the Select hand looks for: figures, colours, edges.
#include "app/bench/compose_bench.h"
#include "app/hands/select_hand.h"
#include "app/session/settled_pictures.h"
#include "raster/cropped.h"
#include "release/edits/cutout_edits.h"
#include "release/edits/selection_edits.h"
#include "render/cut_figure.h"
#include "vision/select/colour_range.h"
#include "vision/select/edge_line.h"

namespace glyptos {

LayerPtr SelectHand::pictureAt(Vec2 at) const {
    LayerPtr held = document().selectedLayer();
    if (held && held->as<PictureContent>()) return held;
    for (const std::string& id : bench_.layersAt(at)) {
        LayerPtr one = findLayer(stackOf(*document().shown(), document().panel()), id);
        if (one && one->as<PictureContent>()) return one;
    }
    return nullptr;
}

void SelectHand::find(const QString& what, const QString& name,
                      const std::function<Result<std::optional<Selection>>(WorkControl&)>& find) {
    const auto before = selectionOf(*document().release(), document().panel());
    bench_.work().start(
        what,
        [=, how = how_](WorkControl& control) -> Result<std::optional<Selection>> {
            auto found = find(control);
            if (!found) return found;
            return combined(before, *found, how);
        },
        [this, name, panel = document().panel()](const std::optional<Selection>& next) {
            document().edit(name, withSelection(document().release(), panel, next));
        });
}

std::shared_ptr<const CutoutHints> SelectHand::hintsInHand() const {
    const LayerPtr held = document().selectedLayer();
    if (!held || held->locked || !isCutOut(*held, *document().release())) return nullptr;
    return std::get<PaintedMask>(held->mask->form).hints;
}

HintStroke SelectHand::drawnStroke(const Affine& toPicture, const Affine& toPanel) const {
    HintStroke out{
        !(keys_ & Qt::AltModifier), {}, std::max(bench_.tip(1).diameter / 2 / toPanel.scaleX(), 1.0)};
    for (const Vec2& p : points_) out.points.push_back(toPicture.map(p));
    return out;
}

/// A click says no more than: what lies there.
CutoutHints SelectHand::clickedFigure(const Affine& toPicture, const Affine& toPanel) const {
    constexpr double kRadius = 4; // px as seen
    return {{}, {{true, {toPicture.map(from_)}, kRadius / bench_.zoom() / toPanel.scaleX()}}};
}

void SelectHand::findFigure() {
    const bool again = stroking_ && !bench_.selection().selection();
    if (again) {
        // More is said of a figure that is cut out already, unless that was undone while the stroke was
        // drawn.
        const auto said = hintsInHand();
        if (!said) return;
        hints_ = *said;
        figureOf_ = document().layer();
    }
    const Vec2 middle = (from_ + to_) * 0.5;
    const LayerPtr meant = stroking_ ? findLayer(stackOf(*document().shown(), document().panel()), figureOf_)
                                     : pictureAt(middle);
    const auto* content = meant ? meant->as<PictureContent>() : nullptr;
    const SourcePtr source = content ? document().release()->source(content->source) : nullptr;
    if (!source)
        return void(
            Q_EMIT document().refused(ComposeBench::tr("There is no picture there to find a figure in.")));
    if (meant->warp)
        return void(Q_EMIT document().refused(
            ComposeBench::tr(
                "%1 is bent or kneaded, so a figure cannot be pointed at in it; cut it out first, "
                "or take the bend off for as long as that takes.")
                .arg(QString::fromStdString(meant->name))));
    const Affine toPanel = pictureToPanel(meant->placement, *source);
    const auto back = toPanel.inverse();
    if (!back) return;
    if (stroking_) {
        hints_.strokes.push_back(drawnStroke(*back, toPanel));
        if (again) return cutOut();
        how_ = Combine::Replace;
    } else {
        hints_ = moved_ ? CutoutHints{back->mapBounds(drawnBox()), {}} : clickedFigure(*back, toPanel);
        figureOf_ = meant->id;
    }
    Engine& engine = bench_.engine();
    find(ComposeBench::tr("Finding the figure"), nameOf(SelectBy::Figure),
         [=, &engine, hints = hints_, pixel = bench_.paintPixel(),
          area = bench_.panel()->withBleed()](WorkControl& control) -> Result<std::optional<Selection>> {
             const auto picture = settledPicture(engine, *source, control);
             if (!picture) return tl::unexpected(picture.error());
             CutoutOptions options;
             options.cancel = &control.cancel;
             options.progress = control.progress;
             const auto alpha = figureAlpha(**picture, hints, options);
             if (!alpha) return tl::unexpected(alpha.error());
             return selectionOf(*alpha, toPanel, pixel, area);
         });
}

void SelectHand::cutOut() {
    const bool known =
        !figureOf_.empty() && findLayer(stackOf(*document().release(), document().panel()), figureOf_);
    const LayerPtr meant = known ? findLayer(stackOf(*document().release(), document().panel()), figureOf_)
                                 : document().selectedLayer();
    const auto* content = meant ? meant->as<PictureContent>() : nullptr;
    const SourcePtr source = content ? document().release()->source(content->source) : nullptr;
    if (!source || meant->locked)
        return void(Q_EMIT document().refused(
            ComposeBench::tr("Take a picture in hand that is not locked; its figure is then cut out.")));
    const CutoutHints hints = known ? hints_ : CutoutHints{}; // else what stands out most
    Engine& engine = bench_.engine();
    const QString name = QString::fromStdString(meant->name);
    bench_.work().start(
        ComposeBench::tr("Cutting out %1").arg(name),
        [=, &engine](WorkControl& control) { return settledCutOut(engine, *source, hints, control); },
        [this, name, id = meant->id, panel = document().panel(),
         said = std::make_shared<const CutoutHints>(hints)](const CutFigure& figure) {
            // What was selected is the mask now.
            const ReleasePtr free = withSelection(document().release(), panel, std::nullopt);
            document().editMaking(
                ComposeBench::tr("Cut out %1").arg(name),
                Result<Made>(withCutOut(free, panel, id, figure.alpha, figure.edges, said)));
        });
}

void SelectHand::findColour(Vec2 at) {
    const HandSettings settings = bench_.settings();
    const LayerPtr meant = settings.fromLayer ? pictureAt(at) : nullptr;
    // Of a layer that is bent, what shows says where it is.
    const auto* content = meant && !meant->warp ? meant->as<PictureContent>() : nullptr;
    const SourcePtr source = content ? document().release()->source(content->source) : nullptr;
    const double pixel = bench_.paintPixel();
    const Rect area = bench_.panel()->withBleed();
    Engine& engine = bench_.engine();
    const Scene scene = panelScene(document().release(), document().panel(), {1 / pixel, true});
    find(nameOf(SelectBy::Colour), nameOf(SelectBy::Colour),
         [=, &engine](WorkControl& control) -> Result<std::optional<Selection>> {
             const ColourRange range{settings.tolerance, settings.connected, &control.cancel};
             const auto found = [&](const Picture& picture,
                                    const Affine& toPanel) -> std::optional<Selection> {
                 const auto back = toPanel.inverse();
                 const Vec2 p = back ? back->map(at) : Vec2{-1, -1};
                 const int x = wholePixel(std::floor(p.x)), y = wholePixel(std::floor(p.y));
                 if (x < 0 || y < 0 || x >= picture.width || y >= picture.height) return std::nullopt;
                 return selectionOf(withColourOf(picture, x, y, range), toPanel, pixel, area);
             };
             if (source) {
                 const auto picture = settledPicture(engine, *source, control);
                 if (!picture) return tl::unexpected(picture.error());
                 return found((*picture)->level(0), pictureToPanel(meant->placement, *source));
             }
             const IntRect bounds = scene.bounds();
             const auto shown = settledRendering(engine, scene, bounds, control);
             if (!shown) return cancelled();
             return found(*shown, Affine::scaling(pixel, pixel) * Affine::translation(bounds.x, bounds.y));
         });
}

void SelectHand::move(const Affine& onPanel) {
    const auto now = bench_.selection().selection();
    if (!now) return;
    // What has not arrived yet goes along.
    const bool goesOn = moving_.isGoingOn() && movingFrom_ == now;
    movingBy_ = goesOn ? onPanel * movingBy_ : onPanel;
    movingFrom_ = now;
    bench_.selection().showMapped(movingBy_);
    moving_.start(
        {},
        [from = *now, by = movingBy_, area = bench_.panel()->withBleed()](WorkControl&) {
            return Result<std::optional<Selection>>(transformed(from, by, area));
        },
        [this, from = now, panel = document().panel()](const std::optional<Selection>& next) {
            bench_.selection().showMapped({});
            if (selectionOf(*document().release(), panel) == from)
                document().edit(ComposeBench::tr("Move the selection"),
                                withSelection(document().release(), panel, next));
        });
}

/// In pixels of the panel's own resolution round both ends alone; what was rendered for the last line serves
/// the next ones that lie in it.
void SelectHand::trace(Vec2 to) {
    const double pixel = bench_.paintPixel();
    const Vec2 from = points_.back();
    Engine& engine = bench_.engine();
    const ReleasePtr release = document().release();
    const Scene scene = panelScene(release, document().panel(), {1 / pixel, true});
    using Found = std::pair<std::vector<Vec2>, std::shared_ptr<const Traced>>;
    tracer_.start(
        {},
        [=, &engine, last = traced_](WorkControl& control) -> Result<Found> {
            constexpr double kSnap = 8, kRound = 0.6, kAhead = 200; // px
            const Vec2 a = from * (1 / pixel), b = to * (1 / pixel);
            const Rect ends{std::min(a.x, b.x), std::min(a.y, b.y), std::abs(a.x - b.x), std::abs(a.y - b.y)};
            const double round = kRound * (b - a).length() + 40;
            const IntRect area = pixelsAround(ends.grown(round)).intersected(scene.bounds());
            if (area.empty()) return Found{{to}, last};
            auto traced = last;
            if (!traced || traced->release != release || !(area.intersected(traced->area) == area)) {
                const IntRect ahead = pixelsAround(ends.grown(round + kAhead)).intersected(scene.bounds());
                auto picture = settledRendering(engine, scene, ahead, control);
                if (!picture) return cancelled();
                traced = std::make_shared<const Traced>(Traced{release, ahead, std::move(*picture)});
            }
            const Vec2 corner{double(area.x), double(area.y)};
            const Picture picture = croppedTo(
                traced->picture, {area.x - traced->area.x, area.y - traced->area.y, area.w, area.h});
            std::vector<Vec2> line = edgeLine(picture, a - corner, nearestEdge(picture, b - corner, kSnap));
            for (Vec2& p : line) p = (p + corner) * pixel;
            return Found{line, traced};
        },
        [this](const Found& found) {
            tracing_ = found.first;
            traced_ = found.second;
            bench_.update();
        });
}

} // namespace glyptos
