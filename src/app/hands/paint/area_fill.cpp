#include "app/hands/paint/area_fill.h"

#include "app/bench/compose_bench.h"
#include "app/session/settled_pictures.h"
#include "app/widgets/theme.h"
#include "release/edits/area_edits.h"
#include "release/edits/brush_edits.h"
#include "release/placing.h"
#include "render/mending.h"
#include "render/painting.h"
#include "vision/lines/paper_lift.h"

#include <cmath>

namespace glyptos {
namespace {

constexpr double kGap = 250, kSpeck = 500; // of them across a panel

/// What lines are looked for in, as a value to know it again by.
struct Asked {
    LayerPtr lines;
    double tolerance, gap, speck, pixel;
    bool operator==(const Asked&) const = default;
};

} // namespace

struct AreaFill::Drawing {
    Asked asked;
    IntRect bounds; ///< of the scene, in its pixels
    Picture picture;
    GroundColour ground{};
    LineAreas areas;

    int areaAt(Vec2 at) const {
        return areas.at(wholePixel(std::floor(at.x / asked.pixel)) - bounds.x,
                        wholePixel(std::floor(at.y / asked.pixel)) - bounds.y);
    }
    GroundColour colourAt(Vec2 at) const {
        return groundAt(picture,
                        std::clamp(wholePixel(std::floor(at.x / asked.pixel)) - bounds.x, 0, bounds.w - 1),
                        std::clamp(wholePixel(std::floor(at.y / asked.pixel)) - bounds.y, 0, bounds.h - 1));
    }
    bool isOnGround(Vec2 at) const {
        const GroundColour c = colourAt(at);
        for (size_t i = 0; i < 4; ++i)
            if (double(std::abs(c[i] - ground[i])) > asked.tolerance) return false;
        return true;
    }
};

Document& AreaFill::document() const {
    return *bench_.document();
}

double AreaFill::gapPx() const {
    const double side = std::max(bench_.panel()->width, bench_.panel()->height),
                 set = bench_.settings().fill.gap;
    return (set >= 0 ? set : side / kGap) / bench_.paintPixel();
}

double AreaFill::speckPx() const {
    const double side = std::max(bench_.panel()->width, bench_.panel()->height),
                 set = bench_.settings().fill.speck;
    return (set >= 0 ? set : side / kSpeck) / bench_.paintPixel();
}

QString AreaFill::whyNot() const {
    const LayerPtr one = document().layers().size() == 1 ? document().selectedLayer() : nullptr;
    if (!one || isFrameless(*one))
        return ComposeBench::tr(
            "Take the layer in hand that has the lines: a drawing, a scan, paint or paths.");
    if (one->locked) return ComposeBench::tr("%1 is locked.").arg(QString::fromStdString(one->name));
    return {};
}

QString AreaFill::sentence() const {
    if (!bench_.work().words().isEmpty()) return bench_.work().words();
    if (asks_)
        return ComposeBench::tr(
            "The fill runs out to the edge. Click it again to keep it, Esc to leave it, or close "
            "wider gaps.");
    if (QString why = whyNot(); !why.isEmpty()) return why;
    return ComposeBench::tr("Click an area of %1, or drag through several. It is filled below the lines.")
        .arg(QString::fromStdString(document().selectedLayer()->name));
}

void AreaFill::press(Vec2 at) {
    if (const QString why = whyNot(); !why.isEmpty()) return void(Q_EMIT document().refused(why));
    if (asks_ && drawing_) {
        const int area = drawing_->areaAt(at);
        asks_ = false;
        if (std::find(lit_.begin(), lit_.end(), area) != lit_.end()) return keep(true);
        lit_.clear();
    }
    pressed_ = true;
    seeds_ = {at};
    find();
}

void AreaFill::drag(Vec2 at) {
    if (!pressed_) return;
    const size_t steps = size_t(std::clamp((at - seeds_.back()).length() * bench_.zoom() / 4, 1.0, 500.0));
    const Vec2 from = seeds_.back();
    for (size_t i = 1; i <= steps; ++i) seeds_.push_back(from + (at - from) * (double(i) / double(steps)));
    light();
}

void AreaFill::release() {
    if (!std::exchange(pressed_, false)) return;
    if (!bench_.work().isGoingOn()) keep();
}

/// The areas of the drawing, unless they are known; then what was pressed meanwhile.
void AreaFill::find() {
    const LayerPtr lines = document().selectedLayer();
    const double pixel = bench_.paintPixel();
    const Asked asked{lines, bench_.settings().fill.tolerance, gapPx(), speckPx(), pixel};
    if (drawing_ && drawing_->asked == asked && drawing_->isOnGround(seeds_.front())) return light();
    Engine& engine = bench_.engine();
    bench_.work().start(
        ComposeBench::tr("Finding the areas of %1").arg(QString::fromStdString(lines->name)),
        [=, &engine, seed = seeds_.front(),
         scene = sceneAlone(document().release(), document().panel(), *lines, pixel)](
            WorkControl& control) -> Result<std::shared_ptr<const Drawing>> {
            auto out = std::make_shared<Drawing>();
            out->asked = asked, out->bounds = scene.bounds();
            auto shown = settledRendering(engine, scene, out->bounds, control);
            if (!shown) return cancelled();
            out->picture = std::move(*shown);
            out->ground = out->colourAt(seed);
            out->areas = lineAreas(out->picture, out->ground,
                                   {asked.tolerance, asked.gap, asked.speck, &control.cancel});
            if (control.cancel) return cancelled();
            return out;
        },
        [this](const std::shared_ptr<const Drawing>& found) {
            drawing_ = found;
            light();
            if (!pressed_) keep();
        });
}

void AreaFill::light() {
    if (!drawing_ || bench_.work().isGoingOn()) return;
    lit_.clear();
    for (const Vec2& seed : seeds_) {
        const int area = drawing_->isOnGround(seed) ? drawing_->areaAt(seed) : -1;
        if (area >= 0 && !drawing_->areas.isLine(area) &&
            std::find(lit_.begin(), lit_.end(), area) == lit_.end())
            lit_.push_back(area);
    }
    bench_.update();
}

void AreaFill::keep(bool asked) {
    seeds_.clear();
    if (!drawing_ || lit_.empty()) {
        if (drawing_)
            Q_EMIT document().refused(ComposeBench::tr("There is a line here, and no area to fill."));
        return;
    }
    const auto& areas = drawing_->areas.areas;
    const bool runsOut =
        std::any_of(lit_.begin(), lit_.end(), [&](int i) { return areas[size_t(i)].runsOut; });
    if (runsOut && !asked) {
        asks_ = true;
        bench_.update();
        return void(Q_EMIT bench_.handChanged());
    }
    Rect around;
    for (const int i : lit_) around = around.united(areas[size_t(i)].bounds.toRect());
    const IntRect whole{0, 0, drawing_->areas.width, drawing_->areas.height};
    const IntRect part = pixelsAround(around.grown(1)).intersected(whole);
    const AlphaMap mask = drawing_->areas.mask(lit_, part);
    const PixelTilesPtr tiles = tilesOf(mask, part.x + drawing_->bounds.x, part.y + drawing_->bounds.y);
    const LayerPtr lines = drawing_->asked.lines;
    lit_.clear();
    document().edit(ComposeBench::tr("Fill areas of %1").arg(QString::fromStdString(lines->name)),
                    withAreaFilled(document().release(), document().panel(), lines->id, *tiles,
                                   drawing_->asked.pixel, bench_.settings().fill.paint));
    bench_.update();
    Q_EMIT bench_.handChanged();
}

bool AreaFill::cancel() {
    const bool was = pressed_ || asks_ || bench_.work().isGoingOn();
    bench_.work().cancel();
    pressed_ = asks_ = false;
    seeds_.clear(), lit_.clear();
    bench_.update();
    return was;
}

/// What is about to be filled, tinted.
void AreaFill::paint(QPainter& painter) {
    if (lit_.empty() || !drawing_) return;
    const Affine toPanel = *bench_.toView().inverse();
    const QRect view = painter.viewport();
    QImage tint(view.size(), QImage::Format_ARGB32_Premultiplied);
    QColor colour = asks_ ? theme().fault : theme().accent;
    colour.setAlpha(140);
    const QRgb on = qPremultiply(colour.rgba());
    std::vector<uint8_t> isLit(drawing_->areas.areas.size(), 0);
    for (const int i : lit_) isLit[size_t(i)] = 1;
    for (int y = 0; y < tint.height(); ++y) {
        auto* row = reinterpret_cast<QRgb*>(tint.scanLine(y));
        for (int x = 0; x < tint.width(); ++x) {
            const int area = drawing_->areaAt(toPanel.map({x + 0.5, y + 0.5}));
            row[x] = area >= 0 && isLit[size_t(area)] ? on : 0;
        }
    }
    painter.drawImage(0, 0, tint);
}

void AreaFill::liftPaper() {
    const LayerPtr one = document().layers().size() == 1 ? document().selectedLayer() : nullptr;
    const auto* content = one ? one->as<PictureContent>() : nullptr;
    const SourcePtr source = content ? document().release()->source(content->source) : nullptr;
    if (!source)
        return void(Q_EMIT document().refused(ComposeBench::tr("Take the picture of a drawing in hand.")));
    Engine& engine = bench_.engine();
    const QString name = QString::fromStdString(one->name);
    bench_.work().start(
        ComposeBench::tr("Lifting the paper off %1").arg(name),
        [=, &engine](WorkControl& control) -> Result<PixelTilesPtr> {
            const auto picture = settledPicture(engine, *source, control);
            if (!picture) return tl::unexpected(picture.error());
            const Picture lines = withoutPaper((*picture)->level(0), &control.cancel);
            if (control.cancel || lines.width == 0) return Result<PixelTilesPtr>(cancelled());
            PixelTiles tiles(kPaintPixels);
            tiles.change({0, 0, lines.width, lines.height}, [&](const PixelPart& part) {
                for (int y = part.area.y; y < part.area.bottom(); ++y)
                    std::copy_n(lines.row<uint8_t>(y) + ptrdiff_t(4) * part.area.x,
                                size_t(4) * size_t(part.area.w), part.row(y));
            });
            return std::make_shared<const PixelTiles>(std::move(tiles));
        },
        [this, one, source, name, panel = document().panel()](const PixelTilesPtr& tiles) {
            Layer lines = *one;
            lines.id.clear();
            lines.name = ComposeBench::tr("Lines of %1").arg(name).toStdString();
            // The picture's own frame begins at its left-top corner, as the placement of a picture has it.
            lines.content = PaintedContent{tiles, nullptr};
            const Affine toPanel = pictureToPanel(one->placement, *source);
            lines.placement.position = toPanel.map({0, 0});
            const ReleasePtr without =
                withChangedLayer(document().release(), panel, one->id, [](Layer& l) { l.on = false; });
            document().editMaking(ComposeBench::tr("Lift the paper off %1").arg(name),
                                  withLayer(without, panel, std::move(lines), one->id));
        });
}

} // namespace glyptos
