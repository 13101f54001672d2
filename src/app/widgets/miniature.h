// A small rendering that is asked for once and replaced by asking again.
#pragma once

#include "app/session/render_service.h"

namespace glyptos {

class Miniature : public QObject {
    Q_OBJECT
  public:
    explicit Miniature(RenderService& service, QObject* parent = nullptr)
        : QObject(parent)
        , service_(service) {}
    /// Smaller `urgency` goes first; the bench has 0.
    void ask(int urgency, Scene scene, const IntRect& region) {
        service_.request(this, urgency, std::move(scene), region, [this](QImage image) {
            image_ = std::move(image);
            Q_EMIT arrived();
        });
    }
    const QImage& image() const { return image_; }

  Q_SIGNALS:
    void arrived();

  private:
    RenderService& service_;
    QImage image_;
};

/// The scene of `area` of a panel, fitted into `size` px without changing its proportions, and the px that it
/// fills, from (0, 0).
std::pair<Scene, IntRect> fittedScene(const ReleasePtr& release, const PanelRef& panel, const Rect& area,
                                      QSizeF size);

} // namespace glyptos
