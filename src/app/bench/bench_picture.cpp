#include "app/bench/bench_picture.h"

#include "app/widgets/colours.h"

#include <cmath>

namespace glyptos {
namespace {

constexpr qint64 kLate = 120;     // ms after which a rendering is felt to be late
constexpr double kCoarser = 0.25; // of the full scale

} // namespace

void BenchPicture::request(const SceneAt& sceneAt, double pxPerUnit, const QRect& window) {
    ++asked_;
    whole_ = false;
    since_.start();
    if (late_) {
        const QRectF coarse(QPointF(window.topLeft()) * kCoarser, QSizeF(window.size()) * kCoarser);
        ask(&coarse_, -1, sceneAt, pxPerUnit * kCoarser, coarse.toAlignedRect(), false);
    }
    ask(this, 0, sceneAt, pxPerUnit, window, true);
}

void BenchPicture::ask(QObject* requester, int urgency, const SceneAt& sceneAt, double pxPerUnit,
                       const QRect& window, bool whole) {
    Scene scene = sceneAt(pxPerUnit);
    const IntRect seen =
        scene.bounds().intersected({window.x(), window.y(), window.width(), window.height()});
    if (seen.empty()) {
        if (whole) clear();
        return;
    }
    service_.request(requester, urgency, std::move(scene), seen, [=, this, number = asked_](QImage image) {
        if (number < shown_ || (number == shown_ && !whole)) return;
        shown_ = number;
        image_ = std::move(image);
        pxPerUnit_ = pxPerUnit;
        corner_ = {double(seen.x), double(seen.y)};
        if (whole) late_ = since_.elapsed() > kLate;
        whole_ = whole && number == asked_;
        Q_EMIT arrived();
    });
}

void BenchPicture::clear() {
    image_ = {};
    whole_ = true;
    shown_ = asked_;
}

QRectF BenchPicture::placeAt(Vec2 origin, double scale) const {
    const double k = scale / pxPerUnit_; // widget px a pixel
    return {origin.x + corner_.x * k, origin.y + corner_.y * k, image_.width() * k, image_.height() * k};
}

void BenchPicture::paint(QPainter& painter, Vec2 origin, double scale) const {
    if (image_.isNull()) return;
    const double ratio = painter.device()->devicePixelRatioF();
    painter.setRenderHint(QPainter::SmoothPixmapTransform, std::abs(scale / pxPerUnit_ * ratio - 1) > 1e-6);
    painter.drawImage(placeAt(origin, scale), image_);
}

QColor BenchPicture::colourAt(QPointF p, Vec2 origin, double scale, int side) const {
    const double k = scale / pxPerUnit_;
    const QPoint px(int(std::floor((p.x() - origin.x) / k - corner_.x)),
                    int(std::floor((p.y() - origin.y) / k - corner_.y)));
    if (!image_.rect().contains(px)) return {};
    return side > 1 ? meanColour(image_, QRect(px - QPoint(side / 2, side / 2), QSize(side, side)))
                    : image_.pixelColor(px);
}

} // namespace glyptos
