// A rendering on the bench: asked for at one zoom, and shown moved and scaled at any other until a new one is
// there.
#pragma once

#include "app/session/render_service.h"

#include <QElapsedTimer>
#include <QImage>
#include <QObject>
#include <QPainter>

namespace glyptos {

class BenchPicture : public QObject {
    Q_OBJECT
  public:
    /// The scene at so many device px a unit. Where it lies in the window plays no part, so that whatever has
    /// been rendered is found again when it is moved.
    using SceneAt = std::function<Scene(double pxPerUnit)>;

    BenchPicture(RenderService& service, QObject* parent)
        : QObject(parent)
        , service_(service) {}

    /// Asks for what can be seen in `window`, in device px from the scene's origin. When the last rendering
    /// was late, a coarse one comes first. An empty scene clears at once. `changed`, in units: the part that
    /// looks otherwise than in the request before; only that is rendered where the rest is shown already.
    void request(const SceneAt& sceneAt, double pxPerUnit, const QRect& window,
                 const std::optional<Rect>& changed = std::nullopt);
    void clear();
    /// True when what was last asked for is shown in full.
    bool isWhole() const { return whole_; }
    bool isEmpty() const { return image_.isNull(); }
    const QImage& image() const { return image_; }
    /// What it is a picture of.
    const Scene& scene() const { return scene_; }

    /// Where a rendering lies.
    struct Place {
        IntRect area; ///< device px from the scene's origin
        double pxPerUnit = 1;
        /// In a widget whose frame has its origin at `origin` and `scale` widget px a unit.
        QRectF at(Vec2 origin, double scale) const {
            const double k = scale / pxPerUnit; // widget px a pixel
            return {origin.x + area.x * k, origin.y + area.y * k, area.w * k, area.h * k};
        }
    };
    Place place() const { return {area_, pxPerUnit_}; }

    /// Where it lies in a widget whose frame has its origin at `origin` and `scale` widget px a unit.
    QRectF placeAt(Vec2 origin, double scale) const;
    void paint(QPainter& painter, Vec2 origin, double scale) const;
    /// Its colour at a point of that widget, the mean light of `side` × `side` px of the rendering about it;
    /// invalid outside.
    QColor colourAt(QPointF p, Vec2 origin, double scale, int side = 1) const;

  Q_SIGNALS:
    void arrived(); ///< another picture is shown, perhaps a coarse one

  private:
    void askCoarse(const SceneAt& sceneAt, double pxPerUnit, const QRect& window);
    void show(QImage image, Scene scene, const IntRect& area, double pxPerUnit);
    void patch(const QImage& part, Scene scene, const IntRect& area);
    /// What has to be rendered of `seen`, so that with what is shown already all of it is as it should be.
    IntRect toRender(const IntRect& seen, double pxPerUnit, const std::optional<Rect>& changed);

    RenderService& service_;
    QObject coarse_;
    QImage image_;
    Scene scene_;
    double pxPerUnit_ = 1;
    IntRect area_; ///< of the image, device px from the scene's origin at pxPerUnit_
    /// Of the picture that is shown: all that has changed since it was asked for. No value: everything.
    std::optional<Rect> stale_;
    QElapsedTimer since_;
    uint64_t asked_ = 0, shown_ = 0;
    bool whole_ = false, late_ = false;
};

} // namespace glyptos
