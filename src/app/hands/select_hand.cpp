#include "app/hands/select_hand.h"

#include "app/bench/compose_bench.h"
#include "app/session/settled_pictures.h"
#include "app/widgets/theme.h"
#include "raster/stroke_cover.h"
#include "release/edits/cutout_edits.h"
#include "release/edits/selection_edits.h"
#include "render/cut_figure.h"
#include "vision/select/colour_range.h"
#include "vision/select/edge_line.h"

namespace glyptos {
namespace {

QString nameOf(SelectBy by) {
    switch (by) {
    case SelectBy::Box:
        return ComposeBench::tr("Select a box");
    case SelectBy::Ellipse:
        return ComposeBench::tr("Select an ellipse");
    case SelectBy::Colour:
        return ComposeBench::tr("Select a colour");
    case SelectBy::Figure:
        return ComposeBench::tr("Select the figure");
    case SelectBy::Edge:
        return ComposeBench::tr("Select along edges");
    case SelectBy::Brush:
        return ComposeBench::tr("Select by brush");
    default:
        return ComposeBench::tr("Select by hand");
    }
}

Rect between(Vec2 a, Vec2 b) {
    return {std::min(a.x, b.x), std::min(a.y, b.y), std::abs(a.x - b.x), std::abs(a.y - b.y)};
}

Path ellipseIn(const Rect& box) {
    ShapeContent shape;
    shape.kind = ShapeKind::Ellipse;
    shape.width = box.w, shape.height = box.h;
    Path out;
    out.append(outlineOf(shape), Affine::translation(box.centre().x, box.centre().y));
    return out;
}

} // namespace

QString SelectHand::sentence() const {
    if (!bench_.work().words().isEmpty()) return bench_.work().words();
    switch (bench_.settings().selectBy) {
    case SelectBy::Figure:
        return figureOf_.empty() ? ComposeBench::tr("Drag a box round the figure.")
                                 : ComposeBench::tr("Stroke over what was missed; with Alt over what is not "
                                                    "of it. A new box begins anew.");
    case SelectBy::Corners:
        return ComposeBench::tr("Click corner by corner; Enter or the first corner closes.");
    case SelectBy::Edge:
        return points_.empty()
                   ? ComposeBench::tr("Click on an edge; the line follows it to the pointer.")
                   : ComposeBench::tr("Each click pins the line; Enter or the first point closes.");
    case SelectBy::Colour:
        return ComposeBench::tr("Click a colour. Shift adds, Alt takes away, both keep what is common.");
    case SelectBy::Brush:
        return ComposeBench::tr("Paint over what is meant. Alt takes away.");
    default:
        return ComposeBench::tr("Drag. Shift adds, Alt takes away, both keep what is common.");
    }
}

Path SelectHand::pathOf(const std::vector<Vec2>& points) const {
    Path out;
    for (size_t i = 0; i < points.size(); ++i) i ? out.lineTo(points[i]) : out.moveTo(points[i]);
    return out;
}

LayerPtr SelectHand::pictureAt(Vec2 at) const {
    LayerPtr held = document().selectedLayer();
    if (held && held->as<PictureContent>()) return held;
    for (const std::string& id : bench_.layersAt(at)) {
        LayerPtr one = findLayer(stackOf(*document().shown(), document().panel()), id);
        if (one && one->as<PictureContent>()) return one;
    }
    return nullptr;
}

void SelectHand::press(const QMouseEvent& event, Vec2 at) {
    keys_ = event.modifiers();
    const bool add = keys_ & Qt::ShiftModifier, away = keys_ & Qt::AltModifier;
    how_ = add && away ? Combine::Intersect
           : add       ? Combine::Add
           : away      ? Combine::TakeAway
                       : bench_.settings().combine;
    from_ = to_ = at;
    moved_ = false;
    const SelectBy by = bench_.settings().selectBy;
    if (by == SelectBy::Colour) return findColour(at);
    if (by == SelectBy::Corners || by == SelectBy::Edge) {
        const bool closes =
            points_.size() > 2 && (inView(points_.front()) - inView(at)).length() < kGripReach;
        if (closes) return closeCorners();
        if (by == SelectBy::Edge && !points_.empty() && !tracing_.empty())
            points_.insert(points_.end(), tracing_.begin(), tracing_.end());
        else
            points_.push_back(at);
        tracing_.clear();
        Q_EMIT bench_.handChanged();
        return bench_.update();
    }
    const std::optional<Selection> now = bench_.selection().selection();
    stroking_ = by == SelectBy::Brush || (by == SelectBy::Figure && !figureOf_.empty() && now && add != away);
    points_ = {at};
    dragging_ = true;
}

void SelectHand::drag(const QMouseEvent& event, Vec2 at) {
    if (!dragging_) return;
    moved_ = moved_ || (at - from_).length() * bench_.zoom() >= kDragStarts;
    to_ = at;
    const SelectBy by = bench_.settings().selectBy;
    if (by == SelectBy::Freehand || stroking_) points_.push_back(at);
    if ((event.modifiers() & Qt::ControlModifier) && (by == SelectBy::Box || by == SelectBy::Ellipse)) {
        const Vec2 way = to_ - from_;
        const double side = std::max(std::abs(way.x), std::abs(way.y));
        to_ = from_ + Vec2{std::copysign(side, way.x), std::copysign(side, way.y)};
    }
    bench_.update();
}

void SelectHand::hover(Vec2 at) {
    to_ = at;
    if (points_.empty()) return;
    if (bench_.settings().selectBy == SelectBy::Edge) trace(at);
    bench_.update();
}

void SelectHand::release() {
    if (!std::exchange(dragging_, false)) return;
    bench_.update();
    const SelectBy by = bench_.settings().selectBy;
    const std::vector<Vec2> points = std::exchange(points_, {});
    if (by == SelectBy::Brush) {
        const double pixel = bench_.paintPixel();
        const RoundTip tip = bench_.tip(pixel);
        const Rect area = bench_.panel()->withBleed();
        if (how_ == Combine::Replace) how_ = Combine::Add;
        return find(nameOf(by), nameOf(by), [=](WorkControl&) -> Result<std::optional<Selection>> {
            PixelTiles tiles = strokeCover(points, tip, Affine::scaling(1 / pixel, 1 / pixel), area);
            if (tiles.empty()) return std::nullopt;
            return Selection{std::make_shared<const PixelTiles>(std::move(tiles)), pixel};
        });
    }
    if (by == SelectBy::Figure) {
        if (stroking_) points_ = points;
        findFigure();
        points_.clear();
        return;
    }
    if (!moved_) {
        // A click on nothing lets go of what is selected.
        if (how_ == Combine::Replace && bench_.selection().selection())
            document().edit(ComposeBench::tr("Select nothing"),
                            withSelection(document().release(), document().panel(), std::nullopt));
        return;
    }
    Path path;
    if (by == SelectBy::Box)
        path.addRect(between(from_, to_));
    else if (by == SelectBy::Ellipse)
        path = ellipseIn(between(from_, to_));
    else
        path = pathOf(points);
    finish(path, nameOf(by));
}

void SelectHand::finish(const Path& path, const QString& name) {
    find(name, name, [path, pixel = bench_.paintPixel(), area = bench_.panel()->withBleed()](WorkControl&) {
        return Result<std::optional<Selection>>(selectionOf(path, pixel, area));
    });
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

void SelectHand::findFigure() {
    const Vec2 middle = (from_ + to_) * 0.5;
    const LayerPtr meant = stroking_ ? findLayer(stackOf(*document().shown(), document().panel()), figureOf_)
                                     : pictureAt(middle);
    const auto* content = meant ? meant->as<PictureContent>() : nullptr;
    const SourcePtr source = content ? document().release()->source(content->source) : nullptr;
    if (!source)
        return void(
            Q_EMIT document().refused(ComposeBench::tr("There is no picture there to find a figure in.")));
    const Affine toPanel = pictureToPanel(meant->placement, *source);
    const auto back = toPanel.inverse();
    if (!back) return;
    if (stroking_) {
        HintStroke stroke{
            !(keys_ & Qt::AltModifier), {}, std::max(bench_.tip(1).diameter / 2 / toPanel.scaleX(), 1.0)};
        for (const Vec2& p : points_) stroke.points.push_back(back->map(p));
        hints_.strokes.push_back(std::move(stroke));
        how_ = Combine::Replace;
    } else {
        if (!moved_) return;
        hints_ = {back->mapBounds(between(from_, to_)), {}};
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
    CutoutHints hints = known ? hints_ : CutoutHints{};
    if (!known) {
        // All of the picture but its rim, which is taken to be ground.
        constexpr double kRim = 0.02;
        hints.box = Rect{0, 0, double(source->width), double(source->height)}.grown(
            -kRim * std::min(source->width, source->height));
    }
    Engine& engine = bench_.engine();
    const QString name = QString::fromStdString(meant->name);
    bench_.work().start(
        ComposeBench::tr("Cutting out %1").arg(name),
        [=, &engine](WorkControl& control) -> Result<CutFigure> {
            const auto picture = settledPicture(engine, *source, control);
            if (!picture) return tl::unexpected(picture.error());
            CutoutOptions options;
            options.cancel = &control.cancel;
            options.progress = control.progress;
            return cutFigure(**picture, hints, options);
        },
        [this, name, id = meant->id, panel = document().panel()](const CutFigure& figure) {
            // What was selected is the mask now.
            const ReleasePtr free = withSelection(document().release(), panel, std::nullopt);
            document().editMaking(ComposeBench::tr("Cut out %1").arg(name),
                                  Result<Made>(withCutOut(free, panel, id, figure.alpha, figure.edges)));
        });
}

void SelectHand::findColour(Vec2 at) {
    const HandSettings settings = bench_.settings();
    const LayerPtr meant = settings.fromLayer ? pictureAt(at) : nullptr;
    const auto* content = meant ? meant->as<PictureContent>() : nullptr;
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

void SelectHand::closeCorners() {
    std::vector<Vec2> points = std::exchange(points_, {});
    tracing_.clear();
    if (points.size() > 2) finish(pathOf(points), nameOf(bench_.settings().selectBy));
    Q_EMIT bench_.handChanged();
    bench_.update();
}

/// In pixels of the panel's own resolution round both ends alone.
void SelectHand::trace(Vec2 to) {
    const double pixel = bench_.paintPixel();
    const Vec2 from = points_.back();
    Engine& engine = bench_.engine();
    const Scene scene = panelScene(document().release(), document().panel(), {1 / pixel, true});
    tracer_.start(
        {},
        [=, &engine](WorkControl& control) -> Result<std::vector<Vec2>> {
            constexpr double kSnap = 8, kRound = 0.6;
            const Vec2 a = from * (1 / pixel), b = to * (1 / pixel);
            const double round = kRound * (b - a).length() + 40;
            const IntRect area = pixelsAround(between(a, b).grown(round)).intersected(scene.bounds());
            if (area.empty()) return std::vector<Vec2>{to};
            const auto picture = settledRendering(engine, scene, area, control);
            if (!picture) return cancelled();
            const Vec2 corner{double(area.x), double(area.y)};
            std::vector<Vec2> line = edgeLine(*picture, a - corner, nearestEdge(*picture, b - corner, kSnap));
            for (Vec2& p : line) p = (p + corner) * pixel;
            return line;
        },
        [this](const std::vector<Vec2>& line) {
            tracing_ = line;
            bench_.update();
        });
}

void SelectHand::doubleClick(Vec2) {
    if (!points_.empty()) closeCorners();
}

bool SelectHand::wants(const QKeyEvent& event) const {
    return !points_.empty() && (event.key() == Qt::Key_Backspace || event.key() == Qt::Key_Delete);
}

bool SelectHand::key(const QKeyEvent& event) {
    if (points_.empty() || dragging_) return false;
    if (event.key() == Qt::Key_Return || event.key() == Qt::Key_Enter) {
        closeCorners();
        return true;
    }
    if (!wants(event)) return false;
    points_.pop_back();
    tracing_.clear();
    bench_.update();
    return true;
}

bool SelectHand::cancel() {
    const bool drawing = !points_.empty();
    points_.clear();
    tracing_.clear();
    tracer_.cancel();
    dragging_ = false;
    figureOf_.clear();
    bench_.update();
    return bench_.work().cancel() || drawing;
}

void SelectHand::paint(QPainter& painter) {
    const SelectBy by = bench_.settings().selectBy;
    const auto stroke = [&](const QPainterPath& path, double width) {
        painter.setBrush(Qt::NoBrush);
        painter.setPen(
            QPen(QColor(255, 255, 255, 170), width + 2, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
        painter.drawPath(path);
        painter.setPen(QPen(theme().accent, width, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
        painter.drawPath(path);
    };
    QPainterPath path;
    if (dragging_ && stroking_)
        return paintStroke(painter, points_, keys_ & Qt::AltModifier ? theme().fault : theme().accent);
    if (dragging_ && moved_) {
        const QRectF box = toQt(bench_.toView().mapBounds(between(from_, to_)));
        if (by == SelectBy::Ellipse)
            path.addEllipse(box);
        else if (by == SelectBy::Freehand) {
            QPolygonF line;
            for (const Vec2& p : points_) line << toQt(inView(p));
            path.addPolygon(line);
        } else
            path.addRect(box);
        return stroke(path, 1.4);
    }
    if (points_.empty() || dragging_) return;
    QPolygonF line;
    for (const Vec2& p : points_) line << toQt(inView(p));
    for (const Vec2& p : tracing_) line << toQt(inView(p));
    if (tracing_.empty()) line << toQt(inView(to_));
    path.addPolygon(line);
    stroke(path, 1.4);
    paintRoundGrip(painter, inView(points_.front()));
}

} // namespace glyptos
