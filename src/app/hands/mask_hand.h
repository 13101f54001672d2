// Mask: paints where the layer in hand shows.
#pragma once

#include "app/bench/bench_hand.h"
#include "raster/brush.h"
#include "vision/cutout/alpha_map.h"

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

    /// Works out all of the edge of the mask in hand, hair by hair.
    void refineEdge();
    /// Makes that edge firmer, and moves it outwards or inwards, as is set.
    void firmEdge();

  private:
    /// Alpha of the mask in hand solved anew: where `brushed`, in pixels of the mask, says, or along all its
    /// edge.
    void refine(std::optional<PixelTiles> brushed);
    /// The mask in hand with other values in an area of its pixels, as it shows.
    void setShown(const std::string& id, const PanelRef& panel, const IntRect& area, const AlphaMap& shown,
                  const QString& name);
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
    std::vector<Vec2> refining_; ///< way of a brush that works out the edge
    Vec2 pointer_{-1e6, -1e6};   ///< not on the panel before it moves there
    std::optional<Vec2> last_;   ///< end of the last stroke, for straight lines
    std::string lastOf_;         ///< layer that it was on
};

} // namespace glyptos
