// Mend: fills from around, lays a patch, or copies along, on a layer above what is mended.
#pragma once

#include "app/bench/bench_hand.h"
#include "app/hands/mend_work.h"
#include "raster/brush/painted_stroke.h"
#include "raster/picture.h"

namespace glyptos {

class MendHand : public BenchHand {
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

    /// Mends what is selected from around.
    void mendSelection();
    /// Mends anew, from what lies below now, all that the mend of the layer in hand was filled with.
    void mendAgain();
    /// Takes what is selected of the layer in hand to a layer of its own, and mends the place behind it.
    void takePartOut();

  private:
    QString whyNot() const;
    /// The same of a stroke where the pointer is.
    QString whyNotHere() const;
    /// Mends in the background, as one step.
    void start(const QString& what, const QString& name,
               const std::function<Result<Mended>(const MendPlace&, const WorkControl&)>& work);
    void refuseChanged();
    /// Where a stroke went, as what it covers in pixels of the panel.
    void mend(const std::function<PixelTiles()>& cover, const QString& name);
    void patch(Vec2 by);
    void takeOrigin(Vec2 at);
    void beginCopy(Vec2 at);
    void copyTo(Vec2 at);
    /// From places on the panel to where is copied from.
    Affine copyMap() const;

    std::vector<Vec2> points_; ///< of a stroke, or from where to where a patch is dragged
    Vec2 pointer_{-1e6, -1e6}; ///< not on the panel before it moves there
    // Clone.
    std::shared_ptr<const Picture> below_; ///< that is copied from
    IntRect belowArea_;                    ///< pixels of the panel
    std::optional<Vec2> origin_;           ///< on the panel
    std::optional<Vec2> anchor_; ///< where the origin is copied to; none: where the next stroke begins
    std::optional<PaintedStroke> brush_;
    std::string mender_;
    ReleasePtr begun_;
    PaintedContent before_, now_;
};

} // namespace glyptos
