#include "app/bench/bench_picture.h"

#include "app/widgets/colours.h"

#include <cmath>

namespace glyptos {
namespace {

constexpr qint64 kLate = 120;     // ms after which a rendering is felt to be late
constexpr double kCoarser = 0.25; // of the full scale

QRect coarser(const QRect& window) {
    return QRectF(QPointF(window.topLeft()) * kCoarser, QSizeF(window.size()) * kCoarser).toAlignedRect();
}

IntRect pixelsOf(const QRect& r) {
    return {r.x(), r.y(), r.width(), r.height()};
}

} // namespace

void BenchPicture::request(const SceneAt& sceneAt, double pxPerUnit, const QRect& window,
                           const std::optional<Rect>& changed) {
    ++asked_;
    whole_ = false;
    since_.start();
    const Scene scene = sceneAt(pxPerUnit);
    const IntRect seen = scene.bounds().intersected(pixelsOf(window));
    if (seen.empty()) return clear();
    const IntRect area = toRender(seen, pxPerUnit, changed);
    if (late_ && area == seen) askCoarse(sceneAt, pxPerUnit * kCoarser, coarser(window));
    service_.request(this, 0, scene, area, [=, this, number = asked_](QImage image) {
        if (number < shown_) return;
        shown_ = number;
        late_ = since_.elapsed() > kLate;
        whole_ = number == asked_;
        if (whole_) stale_ = Rect{};
        area == seen ? show(std::move(image), scene, seen, pxPerUnit) : patch(image, scene, area);
        Q_EMIT arrived();
    });
}

void BenchPicture::askCoarse(const SceneAt& sceneAt, double pxPerUnit, const QRect& window) {
    const Scene scene = sceneAt(pxPerUnit);
    const IntRect seen = scene.bounds().intersected(pixelsOf(window));
    if (seen.empty()) return;
    service_.request(&coarse_, -1, scene, seen, [=, this, number = asked_](QImage image) {
        if (number <= shown_) return;
        shown_ = number;
        show(std::move(image), scene, seen, pxPerUnit);
        Q_EMIT arrived();
    });
}

void BenchPicture::show(QImage image, Scene scene, const IntRect& area, double pxPerUnit) {
    image_ = std::move(image);
    scene_ = std::move(scene);
    area_ = area;
    pxPerUnit_ = pxPerUnit;
}

void BenchPicture::patch(const QImage& part, Scene scene, const IntRect& area) {
    scene_ = std::move(scene);
    QPainter painter(&image_);
    painter.setCompositionMode(QPainter::CompositionMode_Source);
    painter.drawImage(area.x - area_.x, area.y - area_.y, part);
}

/// A picture of the same place that is shown is added to; what is asked for before that has come adds up.
IntRect BenchPicture::toRender(const IntRect& seen, double pxPerUnit, const std::optional<Rect>& changed) {
    constexpr double kRim = 1; // px that an edge between pixels may reach into
    stale_ = stale_ && changed ? std::optional(stale_->united(*changed)) : std::nullopt;
    if (!stale_ || image_.isNull() || pxPerUnit != pxPerUnit_ || !(seen == area_)) {
        stale_ = std::nullopt;
        return seen;
    }
    const Rect px{stale_->x * pxPerUnit, stale_->y * pxPerUnit, stale_->w * pxPerUnit, stale_->h * pxPerUnit};
    const IntRect part = pixelsAround(px.grown(kRim)).intersected(seen);
    return part.empty() ? IntRect{seen.x, seen.y, 1, 1} : part; // so that it is told all the same
}

void BenchPicture::clear() {
    image_ = {}, scene_ = {};
    stale_ = std::nullopt;
    whole_ = true;
    shown_ = ++asked_; // what is on its way is of before
}

QRectF BenchPicture::placeAt(Vec2 origin, double scale) const {
    return place().at(origin, scale);
}

void BenchPicture::paint(QPainter& painter, Vec2 origin, double scale) const {
    if (image_.isNull()) return;
    const double ratio = painter.device()->devicePixelRatioF();
    painter.setRenderHint(QPainter::SmoothPixmapTransform, std::abs(scale / pxPerUnit_ * ratio - 1) > 1e-6);
    painter.drawImage(placeAt(origin, scale), image_);
}

QColor BenchPicture::colourAt(QPointF p, Vec2 origin, double scale, int side) const {
    const double k = scale / pxPerUnit_;
    const QPoint px(int(std::floor((p.x() - origin.x) / k - area_.x)),
                    int(std::floor((p.y() - origin.y) / k - area_.y)));
    if (!image_.rect().contains(px)) return {};
    return side > 1 ? meanColour(image_, QRect(px - QPoint(side / 2, side / 2), QSize(side, side)))
                    : image_.pixelColor(px);
}

} // namespace glyptos
