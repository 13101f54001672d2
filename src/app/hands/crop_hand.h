// Crop: the sides of a picture are dragged, and the picture is slid under its frame.
#pragma once

#include "app/bench/bench_hand.h"

namespace glyptos {

class CropHand : public BenchHand {
  public:
    using BenchHand::BenchHand;
    void press(const QMouseEvent& event, Vec2 at) override;
    void drag(const QMouseEvent& event, Vec2 at) override;
    void release() override;
    void paint(QPainter& painter) override;
    bool cancel() override;
    QString sentence() const override;

  private:
    enum class Grip { None, Side, Picture };
    /// The picture in hand and where it came from.
    std::optional<std::pair<LayerPtr, SourcePtr>> picture() const;
    Layer withSideAt(Vec2 at) const;

    Grip grip_ = Grip::None;
    int side_ = 0; ///< clockwise from the top
    Vec2 from_;
    bool moving_ = false;
    LayerPtr start_;
    SourcePtr source_;
};

} // namespace glyptos
