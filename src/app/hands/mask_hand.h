// Mask: paints where the layer in hand shows.
#pragma once

#include "app/bench/bench_hand.h"
#include "raster/brush.h"

namespace glyptos {

class MaskHand : public BenchHand {
  public:
    using BenchHand::BenchHand;
    void press(const QMouseEvent& event, Vec2 at) override;
    void drag(const QMouseEvent& event, Vec2 at) override;
    void hover(Vec2 at) override;
    void release() override;
    void paint(QPainter& painter) override;
    bool wants(const QKeyEvent& event) const override;
    bool key(const QKeyEvent& event) override;
    bool cancel() override;
    Qt::CursorShape cursor() const override { return Qt::CrossCursor; }
    QString sentence() const override;

  private:
    void begin(const LayerPtr& one, const Mask& mask);
    void moveTo(Vec2 at);
    void makePaintable(const LayerPtr& one);
    /// Why a stroke would do nothing; empty when it would.
    QString whyNot() const;

    /// A stroke that is going on.
    struct Stroke {
        LayerPtr layer;
        Mask mask;         ///< as it began
        PixelTilesPtr now; ///< what is painted so far
        Affine toMask;     ///< from the panel to its pixels
        BrushStroke brush;
        uint8_t value;                 ///< as the mask keeps it
        std::optional<Selection> keep; ///< it stays within that
    };
    std::optional<Stroke> stroke_;
    Vec2 pointer_{-1e6, -1e6}; ///< not on the panel before it moves there
    std::optional<Vec2> last_; ///< end of the last stroke, for straight lines
    std::string lastOf_;       ///< layer that it was on
};

} // namespace glyptos
