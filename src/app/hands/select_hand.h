// Select: finds a part of the panel, or changes what is selected.
#pragma once

#include "app/bench/bench_hand.h"
#include "app/bench/hand_settings.h"
#include "app/hands/selection_mover.h"
#include "app/session/long_work.h"
#include "raster/picture.h"
#include "vision/cutout/cutout.h"

namespace glyptos {

class SelectHand : public BenchHand {
  public:
    explicit SelectHand(ComposeBench& bench)
        : BenchHand(bench)
        , mover_(bench) {}
    void press(const QMouseEvent& event, Vec2 at) override;
    void drag(const QMouseEvent& event, Vec2 at) override;
    void hover(Vec2 at) override;
    void release() override;
    void doubleClick(Vec2 at) override;
    void paint(QPainter& painter) override;
    bool wants(const QKeyEvent& event) const override;
    bool key(const QKeyEvent& event) override;
    bool cancel() override;
    Qt::CursorShape cursor() const override { return Qt::CrossCursor; }
    QString sentence() const override;
    /// The line along an edge is still being looked for, or the selection is on its way.
    bool isBusy() const override { return tracer_.isGoingOn() || moving_.isGoingOn(); }

    /// Cuts the figure off its ground: the one that was found last, or that of the picture in hand as a
    /// whole.
    void cutOut();

  private:
    static QString nameOf(SelectBy by);
    /// From where the drag began to where it is.
    Rect drawnBox() const;
    void finish(const Path& path, const QString& name);
    /// Runs `find` in the background and lets what it found meet the selection.
    void find(const QString& what, const QString& name,
              const std::function<Result<std::optional<Selection>>(WorkControl&)>& find);
    HintStroke drawnStroke(const Affine& toPicture, const Affine& toPanel) const;
    CutoutHints clickedFigure(const Affine& toPicture, const Affine& toPanel) const;
    void findFigure();
    /// The selection itself mapped on the panel.
    void move(const Affine& onPanel);
    void findColour(Vec2 at);
    void closeCorners();
    bool nudge(const QKeyEvent& event);
    void trace(Vec2 to);
    Path pathOf(const std::vector<Vec2>& points) const;
    /// What the cut-out in hand was found by; nothing when none is in hand, or it was changed since.
    std::shared_ptr<const CutoutHints> hintsInHand() const;
    /// The picture layer that is meant at a point: the one in hand, or the foremost there.
    LayerPtr pictureAt(Vec2 at) const;

    /// What shows on a panel in some of its pixels, kept while the line along an edge is looked for.
    struct Traced {
        ReleasePtr release;
        IntRect area;
        Picture picture;
    };
    SelectionMover mover_;
    std::shared_ptr<const Traced> traced_;
    bool dragging_ = false, moved_ = false;
    Combine how_ = Combine::Replace;
    Qt::KeyboardModifiers keys_;
    Vec2 from_, to_;
    std::vector<Vec2> points_;  ///< of what is being drawn; the last pinned one ends it
    std::vector<Vec2> tracing_; ///< from there to the pointer, along the contour
    LongWork tracer_;
    LongWork moving_; ///< of the selection itself
    std::optional<Selection> movingFrom_;
    Affine movingBy_; ///< all that has been asked of it since then
    // The last figure: more strokes add to it.
    std::string figureOf_; ///< layer
    CutoutHints hints_;    ///< px of the picture
    bool stroking_ = false;
};

} // namespace glyptos
