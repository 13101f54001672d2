#include "app/hands/crop_hand.h"

#include "app/bench/compose_bench.h"
#include "app/widgets/theme.h"
#include "release/placing.h"

namespace glyptos {
namespace {

constexpr double kLeastShare = 0.01; // of the picture

} // namespace

std::optional<std::pair<LayerPtr, SourcePtr>> CropHand::picture() const {
    const LayerPtr one = layer();
    const auto* content = one ? one->as<PictureContent>() : nullptr;
    const SourcePtr source = content ? document().shown()->source(content->source) : nullptr;
    return source ? std::optional(std::pair(one, source)) : std::nullopt;
}

QString CropHand::sentence() const {
    return picture() ? ComposeBench::tr("Drag the sides of the picture, or drag the picture under its frame.")
                     : ComposeBench::tr("Click the picture to crop.");
}

void CropHand::press(const QMouseEvent& event, Vec2 at) {
    grip_ = Grip::None;
    moving_ = false;
    from_ = at;
    const Vec2 point{event.position().x(), event.position().y()};
    if (const auto now = picture()) {
        const Frame f = frame(*now->first);
        const auto c = f.corners();
        for (int i = 0; i < 4; ++i)
            if ((point - inView((c[size_t(i)] + c[size_t(i + 1) % 4]) * 0.5)).length() < kGripReach + 4)
                grip_ = Grip::Side, side_ = i;
        if (grip_ == Grip::None && f.contains(at)) grip_ = Grip::Picture;
    }
    if (grip_ == Grip::None) {
        const auto under = bench_.layersAt(at);
        document().selectLayer(under.empty() ? std::string() : under.front());
        return;
    }
    std::tie(start_, source_) = *picture();
}

Layer CropHand::withSideAt(Vec2 at) const {
    const auto back = frame(*start_).toPanel.inverse();
    if (!back) return *start_;
    const Vec2 px = back->map(at);
    Rect crop = start_->as<PictureContent>()->crop;
    const double x = std::clamp(px.x / source_->width, 0.0, 1.0),
                 y = std::clamp(px.y / source_->height, 0.0, 1.0);
    const double top = std::min(y, crop.bottom() - kLeastShare),
                 left = std::min(x, crop.right() - kLeastShare);
    switch (side_) {
    case 0:
        crop = {crop.x, top, crop.w, crop.bottom() - top};
        break;
    case 1:
        crop.w = std::max(kLeastShare, x - crop.x);
        break;
    case 2:
        crop.h = std::max(kLeastShare, y - crop.y);
        break;
    default:
        crop = {left, crop.y, crop.right() - left, crop.h};
        break;
    }
    return cropped(*start_, crop);
}

void CropHand::drag(const QMouseEvent&, Vec2 at) {
    if (grip_ == Grip::None || (!moving_ && (at - from_).length() * bench_.zoom() < kDragStarts)) return;
    moving_ = true;
    change(start_, grip_ == Grip::Side ? withSideAt(at) : slid(*start_, at - from_, *source_));
}

void CropHand::release() {
    const Grip done = std::exchange(grip_, Grip::None);
    if (!std::exchange(moving_, false)) return;
    const QString name = QString::fromStdString(start_->name);
    settle(done == Grip::Side ? ComposeBench::tr("Crop %1").arg(name)
                              : ComposeBench::tr("Slide %1 under its frame").arg(name));
}

bool CropHand::cancel() {
    if (!std::exchange(moving_, false)) return false;
    grip_ = Grip::None;
    document().preview(nullptr);
    return true;
}

void CropHand::paint(QPainter& painter) {
    const LayerPtr one = layer();
    if (!one || isFrameless(*one)) return;
    auto c = frame(*one).corners();
    for (Vec2& corner : c) corner = inView(corner);
    paintOutline(painter, c);
    if (!picture()) return;
    for (size_t i = 0; i < 4; ++i) {
        const Vec2 middle = (c[i] + c[(i + 1) % 4]) * 0.5, along = c[(i + 1) % 4] - c[i];
        const Vec2 half = along * (9 / std::max(along.length(), 1e-9));
        painter.setPen(QPen(Qt::white, 7, Qt::SolidLine, Qt::RoundCap));
        painter.drawLine(toQt(middle - half), toQt(middle + half));
        painter.setPen(QPen(theme().accent, 4, Qt::SolidLine, Qt::RoundCap));
        painter.drawLine(toQt(middle - half), toQt(middle + half));
    }
}

} // namespace glyptos
