// The bench of the Compose step: one panel, on which the hand in use acts directly.
#pragma once

#include "app/bench/around/piece_around.h"
#include "app/bench/bench_hand.h"
#include "app/bench/bench_view.h"
#include "app/bench/bench_words.h"
#include "app/bench/hand_settings.h"
#include "app/bench/mask_look.h"
#include "app/bench/reference_lens.h"
#include "app/bench/selection_painter.h"
#include "app/bench/treatment_lens.h"
#include "app/session/long_work.h"
#include "raster/brush/tip_look.h"
#include "render/slices.h"
#include "render/snap.h"

#include <array>

namespace glyptos {

class ParagraphCache;

class Engine;

class ComposeBench : public BenchView {
    Q_OBJECT
  public:
    ComposeBench(Engine& engine, RenderService& service, QWidget* parent = nullptr);
    ~ComposeBench() override;

    Document* document() const { return document_; }
    /// Panel in hand; nothing when the release has no piece.
    const Panel* panel() const;
    ParagraphCache& paragraphs() const;

    /// One for each Hand, before the bench is shown.
    void setHands(Hands hands);
    void setHand(Hand hand);
    Hand hand() const { return hand_; }
    /// What the hand in use does next, as a sentence.
    QString sentence() const;
    /// What Shape draws, and what it is called.
    void setShapeToDraw(const ShapeContent& shape, const QString& name);
    const QString& shapeName() const { return shapeName_; }
    const ShapeContent& shapeToDraw() const { return shapeToDraw_; }
    void setSnap(const SnapOptions& options) { snap_ = options; }
    const SnapOptions& snapOptions() const { return snap_; }
    void setMaskLook(MaskLook look);

    BenchWords& words() { return words_; }
    void addField(const FieldInfo& field) { words_.addField(field); }
    void editWords() { words_.edit(); }
    bool isWriting() const { return words_.isOpen(); }
    ReferenceLens& reference() { return reference_; }
    TreatmentLens& treatments() { return treatments_; }
    PieceAround& around() { return around_; }
    const PieceAround& around() const { return around_; }
    /// The next colour that is picked, and where on the panel, goes there instead of to the layer in hand.
    using Picked = std::function<void(const QColor& colour, Vec2 at)>;
    void pickFor(Picked picked);
    /// While a layer is moved nothing is done to it, so that it follows at once; the bench says so.
    void setTreatmentsRest(bool rest) { treatmentsRest_ = rest; }
    bool treatmentsRest() const { return treatmentsRest_; }

    // What the hands that select, mask and mend share.
    const HandSettings& settings() const { return settings_; }
    void setSettings(const HandSettings& settings);
    SelectionPainter& selection() { return selection_; }
    const SelectionPainter& selection() const { return selection_; }
    LongWork& work() { return work_; }
    Engine& engine() const { return engine_; }
    /// The side of a pixel of what is painted on the panel in hand, panel units.
    double paintPixel() const;
    /// The round brush in pixels of that many panel units.
    Brush tip(double pixel) const;
    SliceStyle sliceStyle() const;
    void paintTip(QPainter& painter, Vec2 at) const;
    /// The brush of Paint in pixels of that many panel units.
    Brush paintBrush(double pixel) const;
    /// Panel units for a unit of a brush that is kept by name.
    double brushUnit() const;
    /// What its stamps look like where they are that many px long; an error says which cannot be had.
    Result<std::vector<StampLook>> stampLooks(double px) const;
    /// Comma and full stop make the brush smaller and larger, with Shift softer and harder.
    static bool wantsBrushKey(const QKeyEvent& event);
    bool brushKey(const QKeyEvent& event);
    /// Whether what presses and drags just now is the other end of a pen: then it erases.
    bool isPenErasing() const { return pen_ && penErases_; }
    /// Whether anything that was asked for by hand is still being worked out.
    bool isBusy() const;
    BenchHand& handOf(Hand hand) const { return *hands_[size_t(hand)]; }

    /// Layers under a point, front to back, groups before what is in them. Fills cover everything and are
    /// taken in hand from the stack instead; locked and hidden layers are passed through.
    std::vector<std::string> layersAt(Vec2 at) const;
    /// Layers of the panel that lie wholly inside an area.
    std::vector<std::string> layersInside(const Rect& area) const;

    QColor colourAt(QPointF p) const override;
    /// Gives a picked colour to the layer in hand, when that has a colour of its own, and copies its name.
    void giveColour(const QColor& colour, Vec2 at = {});
    /// Words that say what the bench shows, or none.
    void setCaption(const QString& words);

  Q_SIGNALS:
    void handChanged(); ///< or its sentence
    /// Pictures were dropped or pasted; `at` in panel units.
    void picturesArrived(const QStringList& files, Vec2 at);
    void lookTablesArrived(const QStringList& files);
    /// A colour was picked; taken says whether the layer in hand has it now.
    void colourPicked(const QColor& colour, bool taken);

  protected:
    Scene sceneAt(double pxPerUnit) const override;
    std::optional<Rect> changedSince(const ReleasePtr& before) const override;
    Rect extent() const override;
    void paintUnderArt(QPainter& painter) override;
    void paintOverArt(QPainter& painter) override;
    void paintLines(QPainter& painter) override;
    QPainterPath paper() const override;
    void paintHandles(QPainter& painter) override;
    void requestMore() override;
    void refresh() override;
    bool event(QEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void tabletEvent(QTabletEvent* event) override;
    void endPen();
    bool eventFilter(QObject* watched, QEvent* event) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;

    BenchHand& inUse() const { return *hands_[size_t(hand_)]; }

  private:
    Frame frame(const Layer& layer) const;
    bool isHit(const Layer& layer, Vec2 at) const;
    /// Whether a press there is meant for a layer or its grips.
    bool isOnLayers(Vec2 at) const;
    /// Takes another panel in hand, which stays where it is seen.
    void goTo(const Panel& neighbour);
    /// What is shown is not a step yet.
    bool isMoving() const;

    Hand hand_ = Hand::Move;
    Hands hands_;
    SnapOptions snap_;
    MaskLook maskLook_ = MaskLook::Art;
    bool wasMoving_ = false; ///< in the last request
    ShapeContent shapeToDraw_;
    QString caption_, shapeName_;
    BenchWords words_;
    ReferenceLens reference_;
    TreatmentLens treatments_;
    PieceAround around_;
    Picked picked_;
    Hand handBefore_ = Hand::Move; ///< when a colour is picked for something
    bool treatmentsRest_ = false;
    HandSettings settings_;
    SelectionPainter selection_;
    LongWork work_;
    std::optional<PenSample> pen_; ///< how it is held, while its event is handled as one of the mouse
    bool penIsDown_ = false, penErases_ = false;
    QPointF penAt_; ///< px of the widget
};

} // namespace glyptos
