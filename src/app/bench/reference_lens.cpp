#include "app/bench/reference_lens.h"

#include "app/bench/compose_bench.h"
#include "app/widgets/theme.h"
#include "release/edits/edits.h"

#include <cmath>

namespace glyptos {
namespace {

constexpr double kSplitReach = 6; // px

bool isOverTheWork(Reference::Way way) {
    return way == Reference::Way::Over || way == Reference::Way::Split || way == Reference::Way::Difference;
}

} // namespace

ReferenceLens::ReferenceLens(ComposeBench& bench, RenderService& service)
    : bench_(bench)
    , picture_(service, nullptr) {
    connect(&picture_, &BenchPicture::arrived, this, [this] { bench_.update(); });
}

std::optional<Reference> ReferenceLens::shown() const {
    auto reference = referenceOf(*bench_.document()->shown(), bench_.document()->panel());
    if (!reference || reference->way == Reference::Way::Off) return std::nullopt;
    return reference;
}

void ReferenceLens::request() {
    const auto reference = shown();
    if (!reference || !isOverTheWork(reference->way)) return picture_.clear();
    bench_.requestOf(picture_, [this](double scale) {
        return referenceScene(bench_.document()->shown(), bench_.document()->panel(), scale);
    });
}

std::optional<double> ReferenceLens::splitX() const {
    const auto reference = shown();
    const Panel* panel = bench_.panel();
    if (!reference || !panel || reference->way != Reference::Way::Split) return std::nullopt;
    const Rect area = panel->withBleed();
    return bench_.toView().map({area.x + area.w * reference->split, 0}).x;
}

void ReferenceLens::paint(QPainter& painter) const {
    const auto reference = shown();
    if (!reference || picture_.isEmpty()) return;
    const Affine view = bench_.toView();
    painter.save();
    if (reference->way == Reference::Way::Over) painter.setOpacity(reference->opacity);
    if (reference->way == Reference::Way::Difference)
        painter.setCompositionMode(QPainter::CompositionMode_Difference);
    const auto split = splitX();
    if (split) painter.setClipRect(QRectF(*split, 0, bench_.width(), bench_.height()));
    picture_.paint(painter, {view.e, view.f}, bench_.zoom());
    painter.restore();
    if (!split) return;
    painter.setPen(QPen(QColor(255, 255, 255, 190), 4));
    painter.drawLine(QPointF(*split, 0), QPointF(*split, bench_.height()));
    painter.setPen(QPen(theme().accent, 2));
    painter.drawLine(QPointF(*split, 0), QPointF(*split, bench_.height()));
    const Vec2 middle{*split, bench_.height() / 2.0};
    paintRoundGrip(painter, middle);
}

QColor ReferenceLens::colourAt(QPointF p) const {
    const auto reference = shown();
    const auto split = splitX();
    if (!reference || (split && p.x() < *split)) return {};
    const Affine view = bench_.toView();
    const QColor colour = picture_.colourAt(p, {view.e, view.f}, bench_.zoom(), bench_.sampleSide());
    return colour.alpha() > 0 ? colour : QColor();
}

bool ReferenceLens::press(QPointF p) {
    const auto split = splitX();
    return dragging_ = split && std::abs(p.x() - *split) <= kSplitReach;
}

ReleasePtr ReferenceLens::withSplitAt(double x) const {
    auto reference = *shown();
    const Rect area = bench_.panel()->withBleed();
    reference.split = std::clamp((bench_.fromView({x, 0}).x - area.x) / area.w, 0.0, 1.0);
    return withReference(bench_.document()->release(), bench_.document()->panel(), reference);
}

void ReferenceLens::drag(QPointF p) {
    bench_.document()->preview(withSplitAt(p.x()));
}

void ReferenceLens::release() {
    dragging_ = false;
    bench_.document()->edit(ComposeBench::tr("Move the split"), bench_.document()->shown(),
                            QStringLiteral("split"));
}

} // namespace glyptos
