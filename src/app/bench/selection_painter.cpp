#include "app/bench/selection_painter.h"

#include "app/bench/compose_bench.h"
#include "app/widgets/theme.h"
#include "vision/select/alpha_edges.h"

namespace glyptos {
namespace {

constexpr int kStepMs = 120, kDash = 4;

} // namespace

SelectionPainter::SelectionPainter(ComposeBench& bench)
    : bench_(bench) {}

void SelectionPainter::setLook(SelectionLook look, const QColor& tint) {
    look_ = look;
    tint_ = tint;
    bench_.update();
}

std::optional<Selection> SelectionPainter::selection() const {
    const Document* document = bench_.document();
    return document ? selectionOf(*document->shown(), document->panel()) : std::nullopt;
}

void SelectionPainter::showMapped(const Affine& onPanel) {
    mapped_ = onPanel;
    bench_.update();
}

/// What can be seen of the selection, at the pixels of the widget: a level of its tiles is near enough.
void SelectionPainter::follow() {
    const auto now = selection();
    const Affine view = bench_.toView() * mapped_;
    if (now == shown_ && view == view_ && bench_.size() == size_) return;
    shown_ = now, view_ = view, size_ = bench_.size();
    values_ = {};
    outline_ = {};
    if (!now) return timer_.stop();
    const Affine map = view * Affine::scaling(now->pixel, now->pixel);
    const Rect seen = map.mapBounds(now->tiles->bounds().toRect())
                          .intersected({0, 0, double(size_.width()), double(size_.height())});
    if (seen.empty()) return timer_.stop();
    const IntRect area = pixelsAround(seen.grown(1));
    AlphaMap values = paintedBytes(*now->tiles, map, area);
    const QImage bytes(values.values.data(), area.w, area.h, area.w, QImage::Format_Grayscale8);
    values_ = bytes.copy();
    values_.setOffset({area.x, area.y});
    for (const auto& line : outlinesOf(values)) {
        if (line.empty()) continue;
        outline_.moveTo(area.x + line[0].x, area.y + line[0].y);
        for (size_t i = 1; i < line.size(); ++i) outline_.lineTo(area.x + line[i].x, area.y + line[i].y);
        outline_.closeSubpath();
    }
    timer_.start(kStepMs, this);
}

void SelectionPainter::timerEvent(QTimerEvent* event) {
    if (event->timerId() != timer_.timerId() || !bench_.isVisible()) return;
    if (look_ != SelectionLook::Outline) return;
    step_ = (step_ + 1) % (2 * kDash);
    bench_.update(outline_.boundingRect().toAlignedRect().adjusted(-2, -2, 2, 2));
}

void SelectionPainter::paint(QPainter& painter) {
    follow();
    if (values_.isNull()) return;
    painter.save();
    if (look_ == SelectionLook::Outline) {
        painter.setRenderHint(QPainter::Antialiasing, false);
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(QColor(255, 255, 255, 230), 1));
        painter.drawPath(outline_);
        QPen dashes(theme().accent.darker(140), 1, Qt::CustomDashLine, Qt::FlatCap);
        dashes.setDashPattern({double(kDash), double(kDash)});
        dashes.setDashOffset(step_);
        painter.setPen(dashes);
        painter.drawPath(outline_);
    } else {
        QImage shown = values_;
        if (look_ == SelectionLook::Tint) {
            // The tint lies over what is not selected.
            shown = QImage(values_.size(), QImage::Format_ARGB32_Premultiplied);
            for (int y = 0; y < shown.height(); ++y) {
                auto* to = reinterpret_cast<QRgb*>(shown.scanLine(y));
                const uchar* from = values_.constScanLine(y);
                for (int x = 0; x < shown.width(); ++x)
                    to[x] = qPremultiply(qRgba(tint_.red(), tint_.green(), tint_.blue(),
                                               tint_.alpha() * (255 - from[x]) / 255));
            }
        }
        const QRect art = toQt(bench_.toView().mapBounds(bench_.panel()->withBleed())).toAlignedRect();
        const QRect inside(values_.offset(), values_.size());
        painter.setClipRect(art);
        QRegion round(art);
        round -= inside;
        const QColor ground = look_ == SelectionLook::Tint ? tint_ : QColor(Qt::black);
        for (const QRect& r : round) painter.fillRect(r, ground);
        painter.drawImage(values_.offset(), shown);
    }
    painter.restore();
}

} // namespace glyptos
