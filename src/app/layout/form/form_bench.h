// The form of the piece in hand, to be changed by hand: its parts on the plane of one sheet, over the
// printer's own sheet where there is one.
#pragma once

#include "app/bench/bench_view.h"
#include "form/dieline.h"
#include "form/form_edits.h"

namespace glyptos {

class FormBench : public BenchView {
    Q_OBJECT
  public:
    FormBench(Engine& engine, RenderService& service, QWidget* parent = nullptr);

    void setParts(std::vector<FormPart> parts);
    const std::vector<FormPart>& parts() const { return parts_; }
    /// Lines that boxes and measures snap to, in the form's units.
    void setLines(std::vector<DielineLine> lines);
    void setInHand(const std::optional<PartRef>& part);
    /// Drags measure instead of moving.
    void setMeasuring(bool on);
    /// The last length that was measured; less than 0: none.
    double measured() const { return measured_; }
    /// Where a point would go, with what is near it; the part itself is left out.
    Vec2 snapped(Vec2 at, const std::optional<PartRef>& part) const;

  Q_SIGNALS:
    void taken(const std::optional<PartRef>& part);
    /// Dragged; `settled` once it has been let go.
    void boxDragged(const PartRef& part, const Rect& from, const Rect& to, bool settled);
    void lineDragged(size_t fold, Vec2 from, Vec2 to, bool settled);
    void lengthMeasured(double length);

  protected:
    Scene sceneAt(double pxPerUnit) const override;
    Rect extent() const override;
    void paintLines(QPainter& painter) override;
    void paintHandles(QPainter& painter) override;
    QPainterPath paper() const override;
    void paintUnderArt(QPainter& painter) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    /// What a press takes hold of: edges of a box, ends of a line, or all of it.
    struct Hold {
        PartRef part;
        bool left = false, top = false, right = false, bottom = false; ///< none: all of it
        int end = -1;                                                  ///< of a fold: 0, 1; -1: all of it
        Rect box = {};
        Vec2 from = {}, to = {}, at = {};
        bool moved = false;
    };
    const FormPart* part(const std::optional<PartRef>& ref) const;
    std::optional<Hold> holdAt(QPointF p) const;
    std::optional<Hold> gripAt(const FormPart& part, QPointF p) const;
    void drag(Vec2 at, bool settled);
    Rect dragged(const Hold& hold, Vec2 at) const;
    void paintMeasure(QPainter& painter) const;
    Affine toWidget() const { return toView(); }

    std::vector<FormPart> parts_;
    std::vector<DielineLine> lines_;
    std::optional<PartRef> inHand_;
    std::optional<Hold> hold_;
    Rect extentHeld_; ///< the extent stays while something is held, so that nothing jumps
    bool measuring_ = false;
    std::optional<std::pair<Vec2, Vec2>> measure_;
    double measured_ = -1;
};

} // namespace glyptos
