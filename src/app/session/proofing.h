// Whether and how the benches show what is on them as it will be printed.
#pragma once

#include "color/proof.h"

#include <QFutureWatcher>
#include <QObject>

namespace glyptos {

class Proofing : public QObject {
    Q_OBJECT
  public:
    explicit Proofing(QObject* parent = nullptr);
    ~Proofing() override;

    bool isOn() const { return on_; }
    void setOn(bool on);
    const ProofLook& look() const { return look_; }
    void setLook(const ProofLook& look);
    /// Only the right half shows it, and the left the art as it is.
    bool isSplit() const { return split_; }
    void setSplit(bool split);
    /// By the shipped profile until another is chosen; nothing until that has been read.
    const std::shared_ptr<const Proof>& proof() const { return proof_; }
    /// Whether a profile is being read.
    bool isReading() const { return reading_.isRunning(); }
    /// A profile from a file, read off the window's thread; says why when it is none, and keeps the one
    /// before.
    void useProfile(const QString& file);
    void useShippedProfile();

  Q_SIGNALS:
    void changed();
    void refused(const QString& sentence);

  private:
    using ProofPtr = std::shared_ptr<const Proof>;
    void read(const QString& file);
    bool on_ = false, split_ = false;
    ProofLook look_;
    ProofPtr proof_;
    QFutureWatcher<Result<ProofPtr>> reading_;
};

} // namespace glyptos
