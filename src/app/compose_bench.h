// The bench of the Compose step: one panel, whose layers are moved, scaled, turned, cropped and written on
// directly.
#pragma once

#include "app/bench_view.h"
#include "app/words_editor.h"
#include "release/fields.h"
#include "render/snap.h"

#include <array>

namespace glyptos {

/// What the hand does on the bench.
enum class Hand { Move, Crop, Letter };

class ComposeBench : public BenchView {
    Q_OBJECT
  public:
    using BenchView::BenchView;
    void setHand(Hand hand);
    Hand hand() const { return hand_; }
    void setSnap(const SnapOptions& options) { snap_ = options; }
    const SnapOptions& snapOptions() const { return snap_; }
    /// Opens the words of the text layer in hand for typing, right where they stand.
    void editWords();
    /// Adds a text layer with a field of the brief, inside the safety line.
    void addField(const FieldInfo& field);
    /// Panel in hand; nothing when the release has no piece.
    const Panel* panel() const;

  Q_SIGNALS:
    void handChanged();
    /// Pictures were dropped or pasted; `at` in panel units.
    void picturesArrived(const QStringList& files, Vec2 at);

  protected:
    Scene sceneAt(double pxPerUnit, Vec2 offset) const override;
    Rect extent() const override;
    void paintLines(QPainter& painter) override;
    void paintHandles(QPainter& painter) override;
    void refresh() override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;

  private:
    enum class Grip { None, Body, Corner, Turn, CropSide };
    struct Drag {
        Grip grip = Grip::None;
        int which = 0; ///< corner 0…3 or side 0…3
        Vec2 from;     ///< panel units
        bool moving = false;
        ReleasePtr start;
        LayerPtr layer;
        Frame frame;
        QString name; ///< of the edit
    };

    std::optional<Frame> selectedFrame() const;
    std::array<Vec2, 4> cornersInView(const Frame& frame) const;
    Vec2 turnGripInView(const Frame& frame) const;
    std::pair<Grip, int> gripAt(QPointF p) const;
    std::string layerAt(Vec2 at) const;
    void dragTo(Vec2 at, Qt::KeyboardModifiers modifiers);
    Layer draggedMove(Vec2 at, Qt::KeyboardModifiers modifiers);
    Layer draggedScale(Vec2 at);
    Layer draggedTurn(Vec2 at, Qt::KeyboardModifiers modifiers);
    Layer draggedCrop(Vec2 at);
    void finishDrag();
    void nudge(Vec2 by);
    void addWords(const QString& name, const QString& words, Vec2 at, double share);
    void placeEditor();

    Hand hand_ = Hand::Move;
    SnapOptions snap_;
    Drag drag_;
    std::vector<SnapLine> caught_;
    QPointer<WordsEditor> editor_;
};

} // namespace glyptos
