// The piece in hand as an object: folded, or packed with the others that go with it; turned in the hand, seen
// from near and far, under a lamp.
#pragma once

#include "app/session/document.h"
#include "scene/fold/board_pictures.h"
#include "scene/fold/folded_facets.h"
#include "scene/fold/grab.h"
#include "scene/pack/assembled.h"

#include <QFutureWatcher>
#include <QImage>
#include <QTimer>
#include <QWidget>
#include <functional>

namespace glyptos {

class Engine;

class FoldView : public QWidget {
    Q_OBJECT
  public:
    explicit FoldView(Engine& engine, QWidget* parent = nullptr);
    ~FoldView() override;
    void setDocument(Document* document);
    /// 0 flat … 1 made up; packed: 0 all out … 1 all in.
    void setAt(double at);
    double at() const { return at_; }
    /// With the pieces that go with it in their case or sleeve, where there are such.
    void setPacked(bool packed);
    bool isPacked() const { return packed_ && package_.has_value(); }
    /// What the piece in hand is packed with; nothing when it is with nothing.
    const std::optional<Package>& package() const { return package_; }
    /// Whether there is anything to fold, or to take out.
    bool hasSteps() const;
    /// "Folded in 3 steps".
    QString sentence() const;
    /// Whether it shows the piece as it is now, at its finest.
    bool isSettled() const;
    const FoldShares& shares() const { return shares_; }
    /// What is to be seen of it now; the point is in the widget.
    std::optional<Grab> boardAt(QPointF point) const;
    /// The same of a package: the name of the part; empty where there is none.
    QString partAt(QPointF point) const;
    const PackShares& packShares() const { return packShares_; }
    const Lamp& lamp() const { return lamp_; }
    /// As it is seen when nobody has turned it.
    void lookFromTheFront();

  Q_SIGNALS:
    /// A panel was folded by hand, or another piece has other folds.
    void foldsChanged();

  protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void showEvent(QShowEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    /// The piece with what is printed on it: what a picture is drawn of.
    struct Object {
        ReleasePtr release;
        std::string piece;
        std::shared_ptr<const Flat> flat;
        std::shared_ptr<const Folding> folding;
        BoardPictures pictures;
        double pxPerUnit = 0;
        std::optional<Package> package;
        std::shared_ptr<const Assembly> assembly; ///< of the package
    };
    using ObjectPtr = std::shared_ptr<const Object>;
    struct Shown {
        Buffer<uint8_t> pixels;
        int width = 0, height = 0, finer = 1, number = 0;
    };

    void refresh();
    /// Has the printed sides drawn for how the piece is now.
    void print();
    void moved();
    void takeObject(ObjectPtr object);
    /// Of what is held by hand.
    void letGo();
    /// What is drawn of the object as it is now.
    std::function<std::vector<Facet>()> facetsNow() const;
    /// Takes hold of what is at a point; nothing when that is not to be moved.
    bool grabAt(QPointF point);
    void dragTo(QPointF point);
    void turnLamp(QPointF by);
    bool isMovable(QPointF point) const;
    /// Has a picture drawn, unless one is under way: that one asks again.
    void draw(int finer);
    Eye eyeNow() const;
    Pose turnNow() const;
    Vec2 fromMiddle(QPointF point) const;
    double pxPerUnit() const;

    Engine& engine_;
    Document* document_ = nullptr;
    std::shared_ptr<const Flat> flat_;
    std::shared_ptr<const Folding> folding_;
    ObjectPtr object_;
    FoldShares shares_;
    double at_ = 1;
    double yaw_ = 0, pitch_ = 0, nearness_ = 1; ///< degrees
    bool packed_ = false;
    std::optional<Package> package_;
    PackShares packShares_;
    Lamp lamp_;
    std::optional<Grab> grab_;
    std::optional<PartGrab> partGrab_;
    std::optional<Eye> held_; ///< while something is moved by hand the eye stays
    QPointF last_;
    QImage picture_;
    int wanted_ = 0, drawn_ = 0, drawnFiner_ = 0; ///< which state of all this
    bool stale_ = false;                          ///< what is printed may look otherwise now
    bool printAgain_ = false;
    QTimer rest_;
    QFutureWatcher<Result<ObjectPtr>> printing_;
    QFutureWatcher<Result<std::shared_ptr<const Shown>>> drawing_;
    std::shared_ptr<std::atomic<bool>> stop_ = std::make_shared<std::atomic<bool>>(false);
};

} // namespace glyptos
