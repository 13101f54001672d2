#include "app/hands/mend_hand.h"

#include "app/bench/compose_bench.h"
#include "app/session/settled_pictures.h"
#include "app/widgets/theme.h"
#include "release/edits/mend_edits.h"
#include "render/mending.h"
#include "render/selected_layers.h"
#include "vision/select/alpha_edges.h"

namespace glyptos {
namespace {
constexpr double kOffPanel = -1e5; ///< where the pointer is before it moves onto the panel
}

QString MendHand::whyNot() const {
    const LayerPtr one = document().selectedLayer();
    if (!one || document().layers().size() != 1)
        return ComposeBench::tr("Take the layer in hand that is to be mended; the mend lies in front of it.");
    const QString name = QString::fromStdString(one->name);
    if (!one->on) return ComposeBench::tr("%1 is switched off, so there is nothing to mend.").arg(name);
    const LayerPtr mender =
        menderOf(stackOf(*document().shown(), document().panel()), one->id, bench_.paintPixel());
    if (mender && mender->locked)
        return ComposeBench::tr("%1 is locked.").arg(QString::fromStdString(mender->name));
    return {};
}

QString MendHand::whyNotHere() const {
    if (QString why = whyNot(); !why.isEmpty()) return why;
    const auto selection = bench_.selection().selection();
    if (selection && bench_.settings().mendBy == MendBy::Surroundings && pointer_.x > kOffPanel &&
        !selection->tiles->bounds()
             .toRect()
             .grown(bench_.tip(selection->pixel).diameter / 2)
             .contains(pointer_ * (1 / selection->pixel)))
        return ComposeBench::tr("Here nothing is selected, so a stroke would do nothing.");
    return {};
}

QString MendHand::sentence() const {
    if (!bench_.work().words().isEmpty()) return bench_.work().words();
    if (QString why = whyNotHere(); !why.isEmpty()) return why;
    switch (bench_.settings().mendBy) {
    case MendBy::Patch:
        return bench_.selection().selection()
                   ? ComposeBench::tr("Drag from the selection to where it is to be filled from.")
                   : ComposeBench::tr(
                         "Select what is to be covered first; then drag from it to what covers it.");
    case MendBy::Clone:
        return origin_ ? ComposeBench::tr(
                             "Paint: what lies at the ring is copied. O takes another place to copy from.")
                       : ComposeBench::tr("Click the place to copy from.");
    default:
        return ComposeBench::tr("Paint over what should not be there; it is filled from around.");
    }
}

void MendHand::press(const QMouseEvent&, Vec2 at) {
    pointer_ = at;
    if (const QString why = whyNotHere(); !why.isEmpty()) return void(Q_EMIT document().refused(why));
    const MendBy by = bench_.settings().mendBy;
    if (by == MendBy::Clone) return origin_ && below_ ? beginCopy(at) : takeOrigin(at);
    if (by == MendBy::Patch && !bench_.selection().selection())
        return void(Q_EMIT document().refused(
            ComposeBench::tr("Nothing is selected, so there is nothing to cover.")));
    points_ = {at};
    bench_.update();
}

void MendHand::drag(const QMouseEvent&, Vec2 at) {
    pointer_ = at;
    if (brush_) return copyTo(at);
    if (!points_.empty()) points_.push_back(at);
    bench_.update();
}

void MendHand::hover(Vec2 at) {
    pointer_ = at;
    bench_.update();
    Q_EMIT bench_.handChanged();
}

void MendHand::release() {
    if (brush_) {
        brush_.reset();
        if (!bench_.settings().aligned) anchor_.reset();
        return settle(ComposeBench::tr("Copy along"));
    }
    const std::vector<Vec2> points = std::exchange(points_, {});
    bench_.update();
    if (points.empty()) return;
    if (bench_.settings().mendBy == MendBy::Patch) return patch(points.back() - points.front());
    const double pixel = bench_.paintPixel();
    mend(
        [points, tip = bench_.tip(pixel), toPixels = Affine::scaling(1 / pixel, 1 / pixel), pixel,
         area = bench_.panel()->withBleed(), keep = bench_.selection().selection()] {
            PixelTiles cover = strokeCover(points, tip, toPixels, area);
            if (!keep || cover.empty()) return cover;
            const Selection painted{std::make_shared<const PixelTiles>(std::move(cover)), pixel};
            const auto both = combined(painted, keep, Combine::Intersect);
            return both ? *both->tiles : PixelTiles(kMaskPixels);
        },
        ComposeBench::tr("Mend"));
}

void MendHand::mendSelection() {
    if (const QString why = whyNot(); !why.isEmpty()) return void(Q_EMIT document().refused(why));
    const auto selection = bench_.selection().selection();
    if (!selection)
        return void(
            Q_EMIT document().refused(ComposeBench::tr("Nothing is selected, so there is nothing to mend.")));
    mend([tiles = selection->tiles] { return *tiles; }, ComposeBench::tr("Mend what is selected"));
}

void MendHand::mendAgain() {
    if (const QString why = whyNot(); !why.isEmpty()) return void(Q_EMIT document().refused(why));
    const LayerPtr mender =
        menderOf(stackOf(*document().release(), document().panel()), document().layer(), bench_.paintPixel());
    const PixelTilesPtr holes = mender ? mender->as<PaintedContent>()->holes : nullptr;
    if (!holes || holes->empty())
        return void(Q_EMIT document().refused(
            ComposeBench::tr("Nothing was filled from around yet, so there is nothing to mend again.")));
    mend([holes] { return *holes; }, ComposeBench::tr("Mend again"));
}

void MendHand::start(const QString& what, const QString& name,
                     const std::function<Result<Mended>(const MendPlace&, const WorkControl&)>& work) {
    const MendPlace place =
        mendPlace(document().release(), document().panel(), document().layer(), bench_.paintPixel());
    bench_.work().start(
        what, [=](WorkControl& control) { return work(place, control); },
        [this, place, name](const Mended& mended) {
            const auto made = withMend(document().release(), place, mended);
            if (made) return void(document().edit(name, made->release));
            refuseChanged();
        });
}

void MendHand::refuseChanged() {
    Q_EMIT document().refused(
        ComposeBench::tr("What was to be mended was changed meanwhile; do it once more."));
}

void MendHand::mend(const std::function<PixelTiles()>& cover, const QString& name) {
    Engine& engine = bench_.engine();
    start(ComposeBench::tr("Mending"), name,
          [cover, &engine](const MendPlace& place, const WorkControl& control) {
              return filledFromAround(engine, place, cover(), control);
          });
}

void MendHand::patch(Vec2 by) {
    const auto selection = bench_.selection().selection();
    if (!selection || by.length() * bench_.zoom() < kDragStarts) return;
    const double pixel = selection->pixel;
    const int dx = int(std::lround(by.x / pixel)), dy = int(std::lround(by.y / pixel));
    Engine& engine = bench_.engine();
    start(ComposeBench::tr("Patching"), ComposeBench::tr("Lay a patch"),
          [=, &engine, tiles = selection->tiles](const MendPlace& place, const WorkControl& control) {
              return filledFromThere(engine, place, *tiles, dx, dy, control);
          });
}

namespace {

/// A part of a layer in front of it, and the mend of the place that it leaves.
struct PartOut {
    ReleasePtr from, release;
    std::string part;
};

/// Behind the part, so that nothing of its rim is left there.
constexpr double kBehindPart = 3; // px

} // namespace

void MendHand::takePartOut() {
    if (const QString why = whyNot(); !why.isEmpty()) return void(Q_EMIT document().refused(why));
    const auto selection = bench_.selection().selection();
    if (!selection)
        return void(Q_EMIT document().refused(
            ComposeBench::tr("Nothing is selected, so there is no part to take out.")));
    const ReleasePtr release = document().release();
    const MendPlace place = mendPlace(release, document().panel(), document().layer(), bench_.paintPixel());
    const QString name = QString::fromStdString(findLayer(stackOf(*release, place.panel), place.layer)->name);
    Engine& engine = bench_.engine();
    bench_.work().start(
        ComposeBench::tr("Taking a part of %1 out").arg(name),
        [=, &engine](WorkControl& control) -> Result<PartOut> {
            const auto hole = reshaped(*selection, 2 * kBehindPart,
                                       [](const AlphaMap& map) { return grown(map, kBehindPart); });
            if (!hole) return cancelled();
            const auto mended = filledFromAround(engine, place, *hole->tiles, control);
            if (!mended) return tl::unexpected(mended.error());
            const auto behind = withMend(release, place, *mended);
            if (!behind) return cancelled();
            const Made part =
                withPart({behind->release, place.panel, *selection, engine.pictures}, place.layer, false);
            // In front of the mend, wherever that was.
            return PartOut{release, withOrder(part.release, place.panel, {part.id}, Nearer::OneForward),
                           part.id};
        },
        [this, name](const PartOut& made) {
            if (document().release() != made.from) return refuseChanged();
            document().edit(ComposeBench::tr("Take a part of %1 out, mended behind it").arg(name),
                            made.release);
            document().selectLayer(made.part);
        });
}

void MendHand::takeOrigin(Vec2 at) {
    const double pixel = bench_.paintPixel();
    const std::string layer = document().layer();
    const Made made = withMender(document().release(), document().panel(), layer, pixel);
    // What the mender shows already is copied too.
    Scene scene = panelScene(made, document().panel(), {1 / pixel, true});
    for (PanelView& view : scene.panels) {
        const LayerPtr mender = findLayer(view.stack, made.id);
        view.stack = stackBelow(view.stack, made.id);
        view.stack.insert(view.stack.begin(), mender);
    }
    Engine& engine = bench_.engine();
    origin_.reset();
    bench_.work().start(
        ComposeBench::tr("Looking at what is copied"),
        [=, &engine](WorkControl& control) -> Result<std::shared_ptr<const Picture>> {
            auto below = settledRendering(engine, scene, scene.bounds(), control);
            if (!below) return cancelled();
            return std::make_shared<const Picture>(std::move(*below));
        },
        [this, at, area = scene.bounds()](const std::shared_ptr<const Picture>& picture) {
            below_ = picture;
            belowArea_ = area;
            origin_ = at;
            anchor_.reset();
            bench_.update();
            Q_EMIT bench_.handChanged();
        });
}

Affine MendHand::copyMap() const {
    const HandSettings& settings = bench_.settings();
    const Vec2 to = anchor_.value_or(pointer_);
    const double k = 1 / settings.cloneScale;
    return Affine::translation(origin_->x, origin_->y) * Affine::scaling(k, k) *
           Affine::rotation(-settings.cloneTurn) * Affine::translation(-to.x, -to.y);
}

void MendHand::beginCopy(Vec2 at) {
    const double pixel = bench_.paintPixel();
    if (!anchor_) anchor_ = at;
    const Made made = withMender(document().release(), document().panel(), document().layer(), pixel);
    const LayerPtr mender = findLayer(stackOf(*made.release, document().panel()), made.id);
    if (!mender) return;
    begun_ = made.release;
    mender_ = made.id;
    before_ = now_ = *mender->as<PaintedContent>();
    const Brush round = bench_.tip(pixel);
    brush_.emplace(round, tipLook(round, {}), belowArea_);
    copyTo(at);
}

void MendHand::copyTo(Vec2 at) {
    pointer_ = at;
    const double pixel = bench_.paintPixel();
    const IntRect area = brush_->lineTo(at * (1 / pixel));
    if (area.empty()) return;
    AlphaMap cover(area.w, area.h);
    std::vector<float> row(size_t(area.w));
    const auto selection = bench_.selection().selection();
    const Buffer<float> keep = selectedShares(selection, Affine::scaling(1 / pixel, 1 / pixel), area);
    for (int y = 0; y < area.h; ++y) {
        brush_->cover().readRow(area.x, area.y + y, row.size(), {row.data(), nullptr, nullptr, nullptr});
        for (int x = 0; x < area.w; ++x) {
            const double kept = selection ? double(keep[size_t(y) * size_t(area.w) + size_t(x)]) : 1;
            cover.at(x, y) = static_cast<uint8_t>(
                std::lround(double(row[size_t(x)]) * 255 * bench_.settings().brush.opacity * kept));
        }
    }
    const Affine toPicture = Affine::translation(-belowArea_.x, -belowArea_.y) *
                             Affine::scaling(1 / pixel, 1 / pixel) * copyMap() *
                             Affine::scaling(pixel, pixel);
    const Picture part = copiedAlong(*below_, toPicture, area);
    now_ = withPixels(now_, {part, cover, area.x, area.y, false}, before_.tiles.get());
    document().preview(
        withChangedLayer(begun_, document().panel(), mender_, [&](Layer& l) { l.content = now_; }));
    bench_.update();
}

bool MendHand::wants(const QKeyEvent& event) const {
    const bool origin = event.key() == Qt::Key_O && bench_.settings().mendBy == MendBy::Clone;
    return origin || bench_.wantsBrushKey(event);
}

bool MendHand::key(const QKeyEvent& event) {
    if (event.key() == Qt::Key_O && bench_.settings().mendBy == MendBy::Clone) {
        takeOrigin(pointer_);
        return true;
    }
    return bench_.brushKey(event);
}

bool MendHand::cancel() {
    const bool was = brush_ || !points_.empty();
    if (brush_) document().preview(nullptr);
    brush_.reset();
    points_.clear();
    bench_.update();
    return bench_.work().cancel() || was;
}

void MendHand::paint(QPainter& painter) {
    const MendBy by = bench_.settings().mendBy;
    if (by == MendBy::Patch) {
        if (points_.size() < 2) return;
        const auto selection = bench_.selection().selection();
        if (!selection) return;
        const Vec2 move = points_.back() - points_.front();
        const Affine map = bench_.toView() * Affine::translation(move.x, move.y) *
                           Affine::scaling(selection->pixel, selection->pixel);
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(theme().accent, 1.4, Qt::DashLine));
        painter.drawRect(toQt(map.mapBounds(selection->tiles->bounds().toRect())));
        return paintWay(painter, inView(points_.front()), inView(points_.back()));
    }
    if (by == MendBy::Surroundings && !points_.empty()) paintStroke(painter, points_, theme().accent);
    if (by == MendBy::Clone && origin_ && below_) {
        if (!brush_) {
            // What a stroke would copy, seen under the pointer.
            const double pixel = bench_.paintPixel(), radius = bench_.tip(1).diameter / 2;
            const auto back = copyMap().inverse();
            if (back) {
                const QImage image(below_->row<uint8_t>(0), below_->width, below_->height,
                                   qsizetype(4) * below_->width, QImage::Format_RGBA8888);
                painter.save();
                QPainterPath clip;
                clip.addEllipse(toQt(inView(pointer_)), radius * bench_.zoom(), radius * bench_.zoom());
                painter.setClipPath(clip);
                painter.setTransform(toQt(bench_.toView() * *back * Affine::scaling(pixel, pixel) *
                                          Affine::translation(belowArea_.x, belowArea_.y)),
                                     true);
                painter.setOpacity(0.8);
                painter.drawImage(0, 0, image);
                painter.restore();
            }
        }
        const Vec2 from = inView(copyMap().map(pointer_));
        painter.setPen(QPen(theme().accent, 1.6));
        painter.drawLine(QPointF(from.x - 7, from.y), QPointF(from.x + 7, from.y));
        painter.drawLine(QPointF(from.x, from.y - 7), QPointF(from.x, from.y + 7));
    }
    bench_.paintTip(painter, pointer_);
}

} // namespace glyptos
