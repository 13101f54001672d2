// The bench: art on neutral grey with rulers, zoom, pan and the lines of the form. Shows one panel, or a
// whole flat.
#pragma once

#include "app/bench/bench_picture.h"
#include "app/bench/bench_proof.h"
#include "app/bench/dieline_painter.h"
#include "app/session/document.h"
#include "app/session/render_service.h"

#include <QWidget>

namespace glyptos {

class Engine;
class ProofStrip;

/// Units of the rulers.
enum class RulerUnit { Mm, Inch, Px };

class BenchView : public QWidget {
    Q_OBJECT
  public:
    BenchView(Engine& engine, RenderService& service, QWidget* parent = nullptr);
    void setDocument(Document* document);

    double zoom() const { return scale_; } ///< device-independent px a unit
    void zoomToFit();
    /// One output pixel of the piece (at its own resolution) becomes one pixel of the screen.
    void zoomToActualPixels();
    /// Zooms to the nearest of a fine ladder of scales, so that a scale that is come back to is the same.
    void zoomBy(double factor, QPointF about);
    void setKey(const LineKey& key);
    const LineKey& key() const { return key_; }
    void setRulerUnit(RulerUnit unit);
    /// Shows what is on it as it will be printed, when that is asked for.
    void setProofing(Proofing* proofing);
    /// True when the finished picture of the present view is shown.
    bool isFinished() const;

    /// Over how many px a side colours are averaged.
    void setSampleSide(int side) { sampleSide_ = side; }
    int sampleSide() const { return sampleSide_; }
    /// Colour of the art under a point of the widget; invalid where no art is shown.
    virtual QColor colourAt(QPointF p) const;
    /// Asks for a rendering of what can be seen now.
    void requestOf(BenchPicture& picture, const BenchPicture::SceneAt& sceneAt,
                   const std::optional<Rect>& changed = std::nullopt) const;
    /// Takes over zoom, place and lines of another bench, as linked benches do.
    void follow(const BenchView& other);

    /// From the shown frame (panel or flat units) to the widget.
    Affine toView() const {
        return Affine::translation(origin_.x, origin_.y) * Affine::scaling(scale_, scale_);
    }
    Vec2 fromView(QPointF p) const { return {(p.x() - origin_.x) / scale_, (p.y() - origin_.y) / scale_}; }

  Q_SIGNALS:
    void zoomChanged();
    void viewMoved();                                 ///< zoomed or moved, by hand or to fit
    void pointerMoved(Vec2 at, const QColor& colour); ///< in the shown frame
    void resized();
    void firstShown(); ///< some picture is shown, perhaps a coarse one
    void rendered();   ///< the finished picture is shown

  protected:
    virtual Scene sceneAt(double pxPerUnit) const = 0;
    /// The area that fit shows, in units.
    virtual Rect extent() const = 0;
    virtual void paintLines(QPainter& painter) = 0;
    /// Whether it shows a sheet with edges, on white and with rulers, or a free space.
    virtual bool isSheet() const { return true; }
    /// Where there is paper, in view pixels; empty: where there is art.
    virtual QPainterPath paper() const { return {}; }
    virtual void paintHandles(QPainter&) {}
    /// Paints on the bench, under the art.
    virtual void paintUnderArt(QPainter&) {}
    /// Paints over the art and under the lines.
    virtual void paintOverArt(QPainter&) {}
    /// The view or the release has changed: what is shown besides the art is asked for.
    virtual void requestMore() {}

    /// Called when the release or the panel in hand has changed.
    virtual void refresh();
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void showEvent(QShowEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void keyReleaseEvent(QKeyEvent* event) override;
    bool isPanning() const { return panning_; }
    bool isFitted() const { return fitted_; }
    void moveBy(Vec2 way); ///< px of the widget
    void requestPicture();
    /// Where the art looks otherwise than it did in `before`, in units; no value: anywhere.
    virtual std::optional<Rect> changedSince(const ReleasePtr& before) const;

    Engine& engine_;
    RenderService& service_;
    Document* document_ = nullptr;

  private:
    [[nodiscard]] bool fit();
    void showMoved();
    void zoomTo(double scale, QPointF about);
    /// Device-independent px a unit at which a pixel of the piece is one of the screen.
    double actualScale() const;
    void paintArt(QPainter& painter);
    void paintRulers(QPainter& painter);
    double unitsPerMark() const;
    double unitFactor() const;

    void requestChanged();
    BenchPicture picture_;
    BenchProof proof_;
    ProofStrip* strip_ = nullptr;
    ReleasePtr requested_; ///< that was last asked for
    PanelRef requestedPanel_;
    double scale_ = 1;
    double wanted_ = 1; ///< scale that zooming has asked for, between rungs
    Vec2 origin_;
    bool fitted_ = true, panning_ = false, spaceHeld_ = false;
    QPointF last_;
    LineKey key_;
    RulerUnit rulerUnit_ = RulerUnit::Mm;
    int sampleSide_ = 1;
};

} // namespace glyptos
