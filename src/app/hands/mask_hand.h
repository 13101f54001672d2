// Mask: paints where the layer in hand shows.
#pragma once

#include "app/bench/bench_hand.h"
#include "app/session/long_work.h"
#include "raster/brush/painted_stroke.h"
#include "vision/cutout/alpha_map.h"

namespace glyptos {

class MaskHand : public BenchHand {
  public:
    using BenchHand::BenchHand;
    void feel(const PenSample& sample) override { felt_ = sample; }
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
    /// Other tiles for a painted mask, worked out in the background from those that it has.
    struct Repaint {
        QString what, name;
        std::function<Result<PixelTiles>(const Mask& mask, WorkControl& control)> work;
    };
    /// Edge colours of a cut-out figure go with its mask.
    void repaint(const LayerPtr& one, const Mask& mask, const Repaint& repaint, bool edgesToo);
    /// The mask of a layer, or one that shows everything; nothing when it is of another form and was made one
    /// to paint on first.
    std::optional<Mask> paintedMask(const LayerPtr& one);
    void begin(const LayerPtr& one, const Mask& mask);
    void paintRun(Vec2 from, Vec2 to);
    void moveTo(const PenSample& sample);
    void makePaintable(const LayerPtr& one);
    /// Why a stroke would do nothing; empty when it would.
    QString whyNot() const;

    /// A stroke that is going on.
    struct Stroke {
        LayerPtr layer;
        Mask mask;         ///< as it began
        PixelTilesPtr now; ///< what is painted so far
        Affine toMask;     ///< from the panel to its pixels
        PaintedStroke brush;
        uint8_t value; ///< as the mask keeps it
        double opacity;
        std::optional<Selection> keep; ///< it stays within that
    };
    PenSample felt_;
    std::optional<Stroke> stroke_;
    std::vector<Vec2> run_;      ///< from where to where
    std::vector<Vec2> refining_; ///< way of a brush that works out the edge
    Vec2 pointer_{-1e6, -1e6};   ///< not on the panel before it moves there
    std::optional<Vec2> last_;   ///< end of the last stroke, for straight lines
    std::string lastOf_;         ///< layer that it was on
};

} // namespace glyptos
