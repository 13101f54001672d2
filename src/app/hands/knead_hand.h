// Knead: pushes, spins, gathers and spreads the layer in hand under a round tip.
#pragma once

#include "app/hands/warped_layer.h"

#include <QBasicTimer>
#include <QObject>

namespace glyptos {

class KneadHand : public QObject, public BenchHand {
    Q_OBJECT
  public:
    explicit KneadHand(ComposeBench& bench)
        : BenchHand(bench) {}
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

    /// How much of all kneading of the layer in hand shows, 0…1.5; a step of its own.
    void setStrength(double strength, bool settled);
    /// What is seen where an edge that was let go has been pulled in.
    void setPulledIn(PulledIn how);
    /// The layer in hand as it was before any kneading.
    void unknead();
    /// The field of the layer in hand; nothing when it was never kneaded.
    std::shared_ptr<const KneadField> field() const;

  protected:
    void timerEvent(QTimerEvent* event) override;

  private:
    void moveTo(Vec2 at);
    void show();
    KneadTip tip(const WarpedLayer& meant, bool turnedRound) const;
    /// Where strokes may move something: what is selected, softly round its border.
    std::function<float(Vec2)> freedom(const WarpedLayer& meant, double radius) const;
    void changeField(const QString& name, const QString& merge,
                     const std::function<void(KneadField&)>& change);

    struct Stroke {
        WarpedLayer meant; ///< as it began
        KneadStroke stroke;
        KneadWay way; ///< which Alt may have turned round
    };
    std::optional<Stroke> stroke_;
    Vec2 pointer_{-1e6, -1e6}; ///< not on the panel before it moves there
    QBasicTimer dwelling_;
};

} // namespace glyptos
