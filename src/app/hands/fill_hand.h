// Fill: puts a gradient where it belongs, its two ends and its stops dragged on the canvas; or fills areas
// between lines.
#pragma once

#include "app/hands/paint/area_fill.h"

namespace glyptos {

class FillHand : public BenchHand {
  public:
    explicit FillHand(ComposeBench& bench)
        : BenchHand(bench)
        , areas_(bench) {}
    void press(const QMouseEvent& event, Vec2 at) override;
    void drag(const QMouseEvent& event, Vec2 at) override;
    void release() override;
    void doubleClick(Vec2 at) override;
    void paint(QPainter& painter) override;
    bool cancel() override;
    Qt::CursorShape cursor() const override { return Qt::CrossCursor; }
    QString sentence() const override;
    void hover(Vec2 at) override;

    AreaFill& areas() { return areas_; }

  private:
    enum class Grip { None, From, To, Stop, New };
    /// The gradient in hand: of the mask when that is in hand, else of a fill or of a shape's inside.
    struct InHand {
        Gradient gradient;
        Affine toPanel;
    };
    std::optional<InHand> gradient() const;
    void set(const LayerPtr& layer, const Gradient& gradient);
    void start(Vec2 from, Vec2 to);
    std::pair<Grip, size_t> gripAt(QPointF p) const;
    void chooseColour(size_t stop);
    void chooseFreely(size_t stop);

    bool isBetween() const;

    AreaFill areas_;
    Grip grip_ = Grip::None;
    size_t stop_ = 0;
    Vec2 from_;
    bool moving_ = false;
    LayerPtr start_;
    std::optional<InHand> held_; ///< as the drag found it
    std::string made_;           ///< the fill layer that a drag makes
};

} // namespace glyptos
