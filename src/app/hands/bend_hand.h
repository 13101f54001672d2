// Bend: corners dragged in perspective, and a grid of points whose smooth surface the layer in hand lies on.
#pragma once

#include "app/hands/warped_layer.h"

#include <set>

namespace glyptos {

class BendHand : public BenchHand {
  public:
    using BenchHand::BenchHand;
    void press(const QMouseEvent& event, Vec2 at) override;
    void drag(const QMouseEvent& event, Vec2 at) override;
    void release() override;
    void paint(QPainter& painter) override;
    bool cancel() override;
    QString sentence() const override;

    /// Lays a grid of so many cells over the layer in hand; one that is there keeps its bend.
    void setCells(int columns, int rows);
    /// Bends the layer in hand in a ready way, by the amount that is set.
    void bendReady(ReadyBend kind, double amount, bool settled);
    /// Tilts it by the angles that are set, seen from the distance that is set.
    void tiltByAngles(bool settled);
    /// Tilt and grid of the layer in hand taken off.
    void straighten();
    /// Those of the layer in hand, or of a grid that would be laid.
    int columns() const;
    int rows() const;

  private:
    /// What can be dragged at a node: itself, or one end of its slope across or down.
    enum class Part : unsigned char { Point, Right, Left, Below, Above };
    struct Grip {
        int node = -1; ///< or corner
        Part part = Part::Point;
    };
    /// A layer whose corners are dragged along with others.
    struct Begun {
        WarpedLayer meant;
        std::array<Vec2, 4> corners; ///< on the panel, unwarped
    };
    const BendGrid& gridOf(const WarpedLayer& meant) const;
    /// Where a node's slope is taken hold of, in shares.
    static Vec2 slopeEnd(const BendNode& slopes, Part part);
    std::optional<Grip> gripAt(const WarpedLayer& meant, Vec2 at) const;
    void dragCorner(Vec2 at);
    void dragNode(Vec2 at);
    void apply(const QString& name, const QString& merge, const WarpedLayer& meant, Warp next, bool settled);
    std::vector<WarpedLayer> inHand() const;

    std::vector<Begun> begun_; ///< while something is dragged; the first is taken hold of
    std::array<Vec2, 4> quad_; ///< where its corners were seen on the panel
    Grip grip_;
    Vec2 from_, to_;
    std::set<int> chosen_; ///< nodes that go together
    std::string chosenOf_; ///< layer
    bool boxing_ = false;  ///< nodes are being chosen by a box
    bool did_ = false;
    BendGrid even_; ///< that would be laid
};

} // namespace glyptos
