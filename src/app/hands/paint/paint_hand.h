// Paint: draws with a brush on a layer of painted pixels, or as lines that are kept.
#pragma once

#include "app/bench/bench_hand.h"
#include "raster/brush/paint_mix.h"
#include "raster/brush/painted_stroke.h"
#include "raster/brush/symmetry.h"
#include "release/edits/edits.h"

#include <QBasicTimer>
#include <QObject>

namespace glyptos {

class PaintHand : public QObject, public BenchHand {
    Q_OBJECT
  public:
    explicit PaintHand(ComposeBench& bench)
        : BenchHand(bench) {}
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

    /// Draws a line along the layer in hand with the brush: round its outline, its words, or its turns.
    void drawAlong();
    /// Pictures in hand become the stamps of the brush.
    void takeStamps();

  protected:
    void timerEvent(QTimerEvent* event) override;

  private:
    struct Stroke {
        std::string inHand; ///< that layer, or in front of it
        Made on;            ///< the release as it began, and the layer that is painted on
        QString name;
        PixelTilesPtr before, now;
        Affine toLayer; ///< from the panel to its pixels
        PaintedStroke brush;
        LayerPaint paint;
        std::optional<Selection> keep;
        std::vector<Vec2> way; ///< of the tip, on the panel
        std::vector<float> pressures;
    };
    /// Why a stroke would do nothing; empty when it would.
    QString whyNot() const;
    /// The first layer on the way to the one in hand, and itself, that cannot be painted on, said in a
    /// sentence.
    QString whyNotOn(const LayerPtr& one) const;
    bool begin();
    void moveTo(const PenSample& sample);
    void show(const IntRect& area);
    void keepAsLine(const Stroke& stroke);
    Vec2 lineEnd(Vec2 to, Qt::KeyboardModifiers keys) const;
    Symmetry symmetryIn(const Affine& toLayer) const;
    void pickColour();
    QString brushWord() const;

    PenSample felt_;
    std::optional<Stroke> stroke_;
    std::vector<Vec2> line_;   ///< from where to where a straight line will go
    Vec2 pointer_{-1e6, -1e6}; ///< not on the panel before it moves there
    std::optional<Vec2> last_; ///< end of the last stroke, for straight lines
    PanelRef lastOf_;          ///< panel that it was on
    QBasicTimer building_;
};

} // namespace glyptos
