// A bench's picture as it will be printed, made off the window's thread whenever another picture is shown.
#pragma once

#include "app/bench/proof/plate_pictures.h"
#include "app/session/proofing.h"

#include <QFutureWatcher>

namespace glyptos {

class BenchProof : public QObject {
    Q_OBJECT
  public:
    BenchProof(BenchPicture& picture, RenderService& service);
    ~BenchProof() override;
    void setProofing(Proofing* proofing);
    bool isOn() const { return proofing_ && proofing_->isOn() && proofing_->proof(); }
    /// Whether it shows what the bench shows.
    bool isSettled() const {
        if (!proofing_ || !proofing_->isOn()) return true;
        return !proofing_->isReading() && (!isOn() || (shownOf_ == wanted() && !making_.isRunning()));
    }
    /// Of the picture that is shown last.
    const ProofTally& tally() const { return tally_; }
    QColor paper() const;
    /// The inks besides the four that can be seen alone.
    std::vector<Swatch> spotInks() const { return PlatePictures::inksIn(picture_.scene()); }
    /// The one that is seen alone; empty: none is.
    std::string spotAlone() const;

    /// Over the art; in a split view on the right of the middle of `view` alone.
    void paint(QPainter& painter, Vec2 origin, double scale, const QRect& view) const;

  Q_SIGNALS:
    void shown();

  private:
    struct Made {
        QImage image;
        ProofTally tally;
    };
    /// Which picture, in which look.
    struct Wanted {
        qint64 picture = 0;
        const Proof* proof = nullptr;
        ProofLook look;
        bool operator==(const Wanted&) const = default;
    };
    Wanted wanted() const;
    void make();

    BenchPicture& picture_;
    PlatePictures plates_;
    Proofing* proofing_ = nullptr;
    Wanted makingOf_, shownOf_;
    BenchPicture::Place placeMade_, place_;
    QImage image_;
    ProofTally tally_;
    QFutureWatcher<Result<Made>> making_;
};

} // namespace glyptos
