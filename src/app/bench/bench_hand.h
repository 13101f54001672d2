// One verb of the hand bar: what pressing, dragging and typing on the Compose bench do.
#pragma once

#include "app/bench/bench_view.h"
#include "raster/brush/dab_walk.h"
#include "render/snap.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <array>

namespace glyptos {

class ComposeBench;

/// What the hand does on the bench.
enum class Hand : unsigned char {
    Move,
    Crop,
    Select,
    Mask,
    Mend,
    Slice,
    Paint,
    Knead,
    Bend,
    Letter,
    Shape,
    Fill,
    Pick
};

class BenchHand {
  public:
    explicit BenchHand(ComposeBench& bench)
        : bench_(bench) {}
    virtual ~BenchHand() = default;
    BenchHand(const BenchHand&) = delete;
    BenchHand& operator=(const BenchHand&) = delete;

    /// A pen is about to press or drag, held like this; a mouse says so as well, with its whole pressure.
    virtual void feel(const PenSample&) {}
    /// `at` in panel units, here and below.
    virtual void press(const QMouseEvent& event, Vec2 at) = 0;
    virtual void drag(const QMouseEvent&, Vec2) {}
    /// The pointer moves with no button held.
    virtual void hover(Vec2) {}
    virtual void release() {}
    virtual void doubleClick(Vec2) {}
    virtual void paint(QPainter&) {}
    /// Whether it wants a key that is a shortcut elsewhere.
    virtual bool wants(const QKeyEvent&) const { return false; }
    /// True when the key was for this hand.
    virtual bool key(const QKeyEvent&) { return false; }
    /// Takes back what is half done. False when nothing is.
    virtual bool cancel() { return false; }
    virtual Qt::CursorShape cursor() const { return Qt::ArrowCursor; }
    /// Whether it still works something out beside the work of the bench.
    virtual bool isBusy() const { return false; }
    /// What can be done next.
    virtual QString sentence() const = 0;

  protected:
    Document& document() const;
    /// The layer in hand, when it is the only one and not locked.
    LayerPtr layer() const;
    Vec2 inView(Vec2 onPanel) const;
    Frame frame(const Layer& layer) const;
    /// Shows the layer changed; settled: as a named step.
    void change(const LayerPtr& layer, const Layer& next);
    void settle(const QString& name);
    /// A stroke of the round brush that only says where, in a colour that lets the art through.
    void paintStroke(QPainter& painter, const std::vector<Vec2>& points, QColor colour) const;

    ComposeBench& bench_;
};

using Hands = std::array<std::unique_ptr<BenchHand>, 13>;

// Marks on the bench, in widget px.
void paintOutline(QPainter& painter, const std::array<Vec2, 4>& corners);
void paintSquareGrip(QPainter& painter, Vec2 at);
void paintRoundGrip(QPainter& painter, Vec2 at, const QColor& fill = Qt::white);
/// Of the handles of a curve.
void paintSmallGrip(QPainter& painter, Vec2 at);
void paintWay(QPainter& painter, Vec2 from, Vec2 to);

/// A line that a layer rests at, across the whole bench, and why.
void paintSnapLine(QPainter& painter, const SnapLine& line, const BenchView& bench);

inline constexpr double kGripReach = 8;  ///< px round a grip
inline constexpr double kDragStarts = 3; ///< px

} // namespace glyptos
